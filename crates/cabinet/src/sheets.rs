//! Layouts on sheets that a panel saw can cut: every cut runs from edge to edge of the piece at hand (guillotine).
//!
//! A piece is put into the free rectangle it fits best, which is then cut in two; this is tried in many orders and ways, and
//! the layout with the fewest sheets, then the fewest settings of the fence, then the largest piece left over is kept. The
//! area bound says how far from the least number of sheets that can be. (Jylänki, *A Thousand Ways to Pack the Bin*, 2010,
//! on guillotine heuristics.)

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A sheet to cut from, and how.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Sheet {
    /// Along the grain, mm.
    pub length: f64,
    /// Across it, mm.
    pub width: f64,
    /// What the saw takes, mm.
    pub kerf: f64,
    /// What is trimmed off each edge first, mm.
    pub trim: f64,
    /// Whether pieces keep their length along the grain.
    pub grain: bool,
}

/// A sheet or a piece at hand that is cut.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Bin {
    /// Length, mm.
    pub length_mm: f64,
    /// Width, mm.
    pub width_mm: f64,
    /// Whether it is a piece at hand.
    pub own: bool,
}

/// A piece to be cut.
#[derive(Clone, Debug, PartialEq)]
pub struct Piece {
    /// Letter on it.
    pub label: String,
    /// Along the grain, mm.
    pub length: f64,
    /// Across it, mm.
    pub width: f64,
}

/// A piece on a sheet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Placed {
    /// Letter on it.
    pub label: String,
    /// Which sheet, from 0.
    pub sheet: u32,
    /// Place along the sheet, mm.
    pub x_mm: f64,
    /// Place across the sheet, mm.
    pub y_mm: f64,
    /// Size along the sheet, mm.
    pub length_mm: f64,
    /// Size across the sheet, mm.
    pub width_mm: f64,
    /// Whether it is turned.
    pub turned: bool,
}

/// One cut, in the order of sawing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Cut {
    /// Which sheet, from 0.
    pub sheet: u32,
    /// Whether it runs along the sheet (a rip); else across it.
    pub rip: bool,
    /// Where it begins along the sheet, mm.
    pub x_mm: f64,
    /// Where it begins across the sheet, mm.
    pub y_mm: f64,
    /// How long it is, mm.
    pub length_mm: f64,
    /// The fence's setting: the size of the piece it leaves, mm.
    pub fence_mm: f64,
}

/// A piece that is left over.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "LeftOver")]
pub struct Left {
    /// On which sheet.
    pub sheet: u32,
    /// From the sheet's left edge, mm.
    pub x_mm: f64,
    /// From its lower edge, mm.
    pub y_mm: f64,
    /// Along the sheet, mm.
    pub length_mm: f64,
    /// Across it, mm.
    pub width_mm: f64,
}

/// A layout.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Layout {
    /// How many sheets it takes, pieces at hand not counted.
    pub sheets: u32,
    /// What is cut, in the order the pieces count them: pieces at hand first.
    pub bins: Vec<Bin>,
    /// The pieces.
    pub placed: Vec<Placed>,
    /// The cuts, trimming left out.
    pub cuts: Vec<Cut>,
    /// What is left over after them, the largest first; what is narrower than 60 mm or untouched is not in it.
    pub left: Vec<Left>,
    /// How many different settings of the fence.
    pub settings: u32,
    /// The part of the sheets that is not in a piece.
    pub waste: f64,
    /// The least number of sheets their areas allow.
    pub bound: u32,
    /// Letters of pieces larger than the sheet.
    pub too_large: Vec<String>,
}

#[derive(Clone, Copy)]
struct Free {
    sheet: u32,
    x: f64,
    y: f64,
    length: f64,
    width: f64,
}

#[derive(Clone, Copy)]
enum Fit {
    ShortSide,
    Area,
    LongSide,
}

#[derive(Clone, Copy)]
enum Split {
    ShorterLeft,
    LongerLeft,
    Rip,
    Cross,
}

/// Lays pieces out on as many sheets as they need.
pub fn layout(sheet: &Sheet, pieces: &[Piece]) -> Layout {
    layout_with(sheet, &[], pieces)
}

/// The same with pieces at hand (length, width in mm; no edge of theirs is trimmed), which are used before a sheet is begun.
pub fn layout_with(sheet: &Sheet, own: &[[f64; 2]], pieces: &[Piece]) -> Layout {
    let (length, width) = (sheet.length - 2.0 * sheet.trim, sheet.width - 2.0 * sheet.trim);
    let goes = |p: &Piece| {
        std::iter::once([length, width]).chain(own.iter().copied()).any(|[l, w]| {
            (p.length <= l + 1e-9 && p.width <= w + 1e-9)
                || (!sheet.grain && p.width <= l + 1e-9 && p.length <= w + 1e-9)
        })
    };
    let (fitting, too_large): (Vec<&Piece>, Vec<&Piece>) = pieces.iter().partition(|p| goes(p));
    let area: f64 = fitting.iter().map(|p| (p.length + sheet.kerf) * (p.width + sheet.kerf)).sum();
    let one = (length + sheet.kerf) * (width + sheet.kerf);
    let at_hand: f64 = own.iter().map(|[l, w]| (l + sheet.kerf) * (w + sheet.kerf)).sum();
    let bound = ((area - at_hand) / one - 1e-9).ceil().max(0.0) as u32;
    let mut best: Option<(Layout, f64)> = None;
    let keys: [fn(&Piece) -> f64; 4] =
        [|p| p.length * p.width, |p| p.length.max(p.width), |p| p.width, |p| p.length + p.width];
    let mut orders: Vec<Vec<&Piece>> = keys
        .iter()
        .map(|key| {
            let mut order = fitting.clone();
            order.sort_by(|a, b| key(b).total_cmp(&key(a)).then(b.length.total_cmp(&a.length)));
            order
        })
        .collect();
    // where the areas would allow fewer sheets, orders nearby are tried too: the same ones each time
    let mut seed = 0x9e37_79b9_7f4a_7c15_u64;
    let mut tries = 0;
    while let Some(order) = orders.pop() {
        for fit in [Fit::ShortSide, Fit::Area, Fit::LongSide] {
            for split in [Split::ShorterLeft, Split::LongerLeft, Split::Rip, Split::Cross] {
                let (made, left) = pack(sheet, own, &order, fit, split);
                let better = best.as_ref().is_none_or(|(b, b_left)| {
                    (made.too_large.len(), made.sheets, made.settings, -left)
                        < (b.too_large.len(), b.sheets, b.settings, -*b_left)
                });
                if better {
                    best = Some((made, left));
                }
            }
        }
        let sheets = best.as_ref().map_or(0, |b| b.0.sheets);
        if orders.is_empty() && sheets > bound && tries < TRIES {
            tries += 1;
            let mut next = fitting.clone();
            next.sort_by(|a, b| (b.length * b.width).total_cmp(&(a.length * a.width)));
            for i in 0..next.len() {
                // xorshift (Marsaglia 2003)
                seed ^= seed << 13;
                seed ^= seed >> 7;
                seed ^= seed << 17;
                let far = (seed % 5) as usize;
                let j = (i + far).min(next.len() - 1);
                next.swap(i, j);
            }
            orders.push(next);
        }
    }
    let mut found = best.map_or_else(Layout::default, |b| b.0);
    let used: f64 = found.placed.iter().map(|p| p.length_mm * p.width_mm).sum();
    let whole: f64 = found.bins.iter().map(|b| b.length_mm * b.width_mm).sum();
    found.waste = if whole > 0.0 { 1.0 - used / whole } else { 0.0 };
    found.bound = bound;
    found.too_large.extend(too_large.iter().map(|p| p.label.clone()));
    found
}

/// What is narrower is no piece to keep, mm (common practice).
const LEAST_LEFT: f64 = 60.0;

/// How many further orders are tried where the areas would allow fewer sheets.
const TRIES: usize = 60;

/// One way of packing; with the area of the largest piece left over, mm².
fn pack(sheet: &Sheet, own: &[[f64; 2]], order: &[&Piece], fit: Fit, split: Split) -> (Layout, f64) {
    let k = sheet.kerf;
    let (length, width) = (sheet.length - 2.0 * sheet.trim, sheet.width - 2.0 * sheet.trim);
    let mut out = Layout::default();
    let mut free: Vec<Free> = Vec::new();
    for (i, [l, w]) in own.iter().enumerate() {
        out.bins.push(Bin { length_mm: *l, width_mm: *w, own: true });
        free.push(Free { sheet: i as u32, x: 0.0, y: 0.0, length: *l, width: *w });
    }
    for piece in order {
        let mut ways = vec![(piece.length, piece.width, false)];
        if !sheet.grain && (piece.length - piece.width).abs() > 1e-9 {
            ways.push((piece.width, piece.length, true));
        }
        let choose = |free: &[Free]| {
            let mut best: Option<(f64, usize, (f64, f64, bool))> = None;
            for (i, f) in free.iter().enumerate() {
                for way in &ways {
                    let (dl, dw) = (f.length - way.0, f.width - way.1);
                    if dl < -1e-9 || dw < -1e-9 {
                        continue;
                    }
                    let score = match fit {
                        Fit::ShortSide => dl.min(dw),
                        Fit::LongSide => dl.max(dw),
                        Fit::Area => f.length * f.width,
                    };
                    // of equals the earlier sheet
                    if best.as_ref().is_none_or(|b| score < b.0 - 1e-9) {
                        best = Some((score, i, *way));
                    }
                }
            }
            best
        };
        let found = choose(&free).or_else(|| {
            let fresh = Free { sheet: out.bins.len() as u32, x: sheet.trim, y: sheet.trim, length, width };
            let fits = ways.iter().any(|w| w.0 <= length + 1e-9 && w.1 <= width + 1e-9);
            if !fits {
                return None;
            }
            free.push(fresh);
            out.bins.push(Bin { length_mm: sheet.length, width_mm: sheet.width, own: false });
            out.sheets += 1;
            choose(&free)
        });
        let Some((_, i, (pl, pw, turned))) = found else {
            // it would go only on a piece at hand that is used up
            out.too_large.push(piece.label.clone());
            continue;
        };
        let f = free.swap_remove(i);
        out.placed.push(Placed {
            label: piece.label.clone(),
            sheet: f.sheet,
            x_mm: f.x,
            y_mm: f.y,
            length_mm: pl,
            width_mm: pw,
            turned,
        });
        let (dl, dw) = (f.length - pl, f.width - pw);
        let rip_first = match split {
            Split::ShorterLeft => dl < dw,
            Split::LongerLeft => dl >= dw,
            Split::Rip => true,
            Split::Cross => false,
        };
        // a rip first leaves the whole length above; a cross cut first the whole width beside
        let mut cut = |rip: bool, long: f64, fence: f64, left: f64| {
            if left > 1e-9 {
                let (x, y) = if rip { (f.x, f.y + pw) } else { (f.x + pl, f.y) };
                out.cuts.push(Cut { sheet: f.sheet, rip, x_mm: x, y_mm: y, length_mm: long, fence_mm: fence });
            }
        };
        let (above, beside) = if rip_first {
            cut(true, f.length, pw, dw);
            cut(false, pw, pl, dl);
            ((f.length, dw - k), (dl - k, pw))
        } else {
            cut(false, f.width, pl, dl);
            cut(true, pl, pw, dw);
            ((pl, dw - k), (dl - k, f.width))
        };
        if above.1 > 1e-9 {
            free.push(Free { sheet: f.sheet, x: f.x, y: f.y + pw + k, length: above.0, width: above.1 });
        }
        if beside.0 > 1e-9 {
            free.push(Free { sheet: f.sheet, x: f.x + pl + k, y: f.y, length: beside.0, width: beside.1 });
        }
    }
    let mut fences: Vec<i64> = out.cuts.iter().map(|c| (c.fence_mm * 10.0).round() as i64).collect();
    fences.sort_unstable();
    fences.dedup();
    out.settings = fences.len() as u32;
    // pieces at hand that were not touched stay on the rack
    let used: Vec<u32> = (0..out.bins.len() as u32).filter(|b| out.placed.iter().any(|p| p.sheet == *b)).collect();
    let new = |b: u32| used.iter().position(|u| *u == b).unwrap_or(0) as u32;
    free.retain(|f| used.contains(&f.sheet));
    free.sort_by(|a, b| (b.length * b.width).total_cmp(&(a.length * a.width)));
    out.left = free
        .iter()
        .filter(|f| f.length.min(f.width) >= LEAST_LEFT)
        .map(|f| Left { sheet: new(f.sheet), x_mm: f.x, y_mm: f.y, length_mm: f.length, width_mm: f.width })
        .collect();
    out.placed.iter_mut().for_each(|p| p.sheet = new(p.sheet));
    out.cuts.iter_mut().for_each(|c| c.sheet = new(c.sheet));
    out.bins = used.iter().map(|b| out.bins[*b as usize]).collect();
    let left = free.iter().map(|f| f.length * f.width).fold(0.0, f64::max);
    (out, left)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn sheet(length: f64, width: f64, kerf: f64, grain: bool) -> Sheet {
        Sheet { length, width, kerf, trim: 0.0, grain }
    }

    fn piece(label: &str, length: f64, width: f64) -> Piece {
        Piece { label: label.into(), length, width }
    }

    /// Whether the pieces of one sheet can be had by cuts from edge to edge, worked out afresh from where they lie.
    fn guillotine(pieces: &[&Placed], kerf: f64) -> bool {
        if pieces.len() < 2 {
            return true;
        }
        for along in [true, false] {
            let low = |p: &Placed| if along { p.x_mm } else { p.y_mm };
            let high = |p: &Placed| if along { p.x_mm + p.length_mm } else { p.y_mm + p.width_mm };
            for at in pieces.iter().map(|p| high(p)) {
                let (before, after): (Vec<&Placed>, Vec<&Placed>) = pieces.iter().partition(|p| high(p) <= at + 1e-6);
                let clear = after.iter().all(|p| low(p) >= at + kerf - 1e-6);
                if !after.is_empty() && clear && guillotine(&before, kerf) && guillotine(&after, kerf) {
                    return true;
                }
            }
        }
        false
    }

    fn sound(sheet: &Sheet, pieces: &[Piece], found: &Layout) {
        assert_eq!(found.placed.len() + found.too_large.len(), pieces.len());
        for (i, a) in found.placed.iter().enumerate() {
            assert!(a.x_mm >= sheet.trim - 1e-9 && a.x_mm + a.length_mm <= sheet.length - sheet.trim + 1e-6);
            assert!(a.y_mm >= sheet.trim - 1e-9 && a.y_mm + a.width_mm <= sheet.width - sheet.trim + 1e-6);
            assert!(!(sheet.grain && a.turned));
            for b in &found.placed[i + 1..] {
                let apart = a.sheet != b.sheet
                    || a.x_mm + a.length_mm + sheet.kerf <= b.x_mm + 1e-6
                    || b.x_mm + b.length_mm + sheet.kerf <= a.x_mm + 1e-6
                    || a.y_mm + a.width_mm + sheet.kerf <= b.y_mm + 1e-6
                    || b.y_mm + b.width_mm + sheet.kerf <= a.y_mm + 1e-6;
                assert!(apart, "{a:?} {b:?}");
            }
        }
        // what is left over overlaps nothing, and lies on the sheet
        for (i, a) in found.left.iter().enumerate() {
            assert!(a.length_mm.min(a.width_mm) >= LEAST_LEFT);
            let placed = found.placed.iter().map(|p| (p.sheet, p.x_mm, p.y_mm, p.length_mm, p.width_mm));
            let others = found.left[i + 1..].iter().map(|p| (p.sheet, p.x_mm, p.y_mm, p.length_mm, p.width_mm));
            for (on, x, y, l, w) in placed.chain(others) {
                let over = |a: f64, al: f64, b: f64, bl: f64| a + al > b + 1e-6 && b + bl > a + 1e-6;
                assert!(on != a.sheet || !over(a.x_mm, a.length_mm, x, l) || !over(a.y_mm, a.width_mm, y, w), "{a:?}");
            }
            assert!(a.x_mm + a.length_mm <= sheet.length - sheet.trim + 1e-6);
            assert!(a.y_mm + a.width_mm <= sheet.width - sheet.trim + 1e-6);
        }
        for k in 0..found.sheets {
            let on: Vec<&Placed> = found.placed.iter().filter(|p| p.sheet == k).collect();
            assert!(guillotine(&on, sheet.kerf), "sheet {k}");
        }
        assert!(found.sheets >= found.bound);
    }

    /// Quarters of a sheet fill it exactly; with a kerf they no longer do.
    #[test]
    fn quarters() {
        let quarters: Vec<Piece> = (0..4).map(|_| piece("A", 1220.0, 610.0)).collect();
        let exact = layout(&sheet(2440.0, 1220.0, 0.0, false), &quarters);
        assert!(exact.sheets == 1 && exact.bound == 1 && exact.waste.abs() < 1e-9);
        sound(&sheet(2440.0, 1220.0, 0.0, false), &quarters, &exact);
        let sawn = layout(&sheet(2440.0, 1220.0, 3.0, false), &quarters);
        assert_eq!(sawn.sheets, 2);
    }

    /// A known instance of two-dimensional guillotine cutting with a perfect fit: a square of 1000 cut into 600 x 1000 and
    /// 400 x 1000, those into 600 x 350, 600 x 650, 400 x 200 and two of 400 x 400 (made up from its cuts).
    #[test]
    fn a_perfect_fit_is_found() {
        let pieces = [
            piece("A", 600.0, 350.0),
            piece("B", 600.0, 650.0),
            piece("C", 400.0, 200.0),
            piece("D", 400.0, 400.0),
            piece("E", 400.0, 400.0),
        ];
        let s = sheet(1000.0, 1000.0, 0.0, true);
        let found = layout(&s, &pieces);
        sound(&s, &pieces, &found);
        assert!(found.sheets == 1 && found.waste < 1e-9, "{found:?}");
    }

    /// Pieces at hand are used before a sheet is begun, and stay on the rack where nothing goes on them.
    #[test]
    fn own_pieces_first() {
        let s = sheet(2440.0, 1220.0, 3.0, false);
        let pieces = [piece("A", 500.0, 280.0), piece("B", 900.0, 600.0), piece("C", 290.0, 200.0)];
        let found = layout_with(&s, &[[600.0, 300.0], [100.0, 100.0], [300.0, 210.0]], &pieces);
        assert_eq!((found.sheets, found.bins.len()), (1, 3), "{found:?}");
        assert!(found.placed.iter().filter(|p| found.bins[p.sheet as usize].own).count() == 2);
        // a piece too long for a sheet goes on a longer piece at hand, once
        let long = [piece("L", 3000.0, 100.0), piece("M", 3000.0, 100.0)];
        let found = layout_with(&s, &[[3100.0, 120.0]], &long);
        assert_eq!((found.placed.len(), found.too_large.as_slice()), (1, ["M".to_owned()].as_slice()));
    }

    /// Pieces larger than the sheet are named; with the grain a long one may not be turned.
    #[test]
    fn too_large() {
        let s = sheet(1220.0, 610.0, 3.0, true);
        let found = layout(&s, &[piece("A", 1300.0, 300.0), piece("B", 600.0, 700.0), piece("C", 600.0, 300.0)]);
        assert_eq!(found.too_large, ["A", "B"]);
        let free = layout(&Sheet { grain: false, ..s }, &[piece("B", 600.0, 700.0)]);
        assert!(free.too_large.is_empty() && free.placed[0].turned);
    }

    proptest! {
        /// Nothing overlaps, nothing leaves the sheet, every sheet comes apart by cuts from edge to edge, and no layout
        /// takes more than twice the sheets that the areas allow, plus one.
        #[test]
        fn any_layout_is_sound(sizes in prop::collection::vec((60.0..1200.0f64, 60.0..600.0f64), 1..40),
                               kerf in 0.0..5.0f64, grain in any::<bool>(), trim in 0.0..10.0f64) {
            let s = Sheet { length: 2440.0, width: 1220.0, kerf, trim, grain };
            let pieces: Vec<Piece> =
                sizes.iter().enumerate().map(|(i, (l, w))| piece(&i.to_string(), *l, *w)).collect();
            let found = layout(&s, &pieces);
            sound(&s, &pieces, &found);
            prop_assert!(found.sheets <= 2 * found.bound + 1, "{} of {}", found.sheets, found.bound);
        }
    }
}
