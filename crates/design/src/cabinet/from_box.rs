//! A cabinet from the box: an outside in a wished form that holds the wanted air, with woofers and openings where nothing is in anything.
//!
//! Width and height are tried in the form's proportions, the likeliest first; the depth follows from the air that is wanted
//! ([`crate::analysis::dimensions`]), of a folded path depth and height from its length. The first outside in which nothing collides and
//! the air is there to half a per cent is taken; sides that are alike are avoided, since their standing waves fall together (common
//! practice). Proportions and margins are common practice.

use crate::analysis::Analysis;
use crate::analysis::folding::{can_fold, outside_for};
use crate::analysis::spots::woofer_sizes;
use crate::cabinet::clashing;
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::port::{Face, Section};
use oak_drum_document::{Cabinet, Change, Checked, Constraint, Spot, apply, read_current};
use oak_drum_text::{Text, litres, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

/// How a cabinet is to stand.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(rename = "CabinetForm", title = "Form")]
pub enum Form {
    /// Neither tall nor flat, no two sides alike.
    #[default]
    #[schemars(title = "Balanced")]
    Balanced,
    /// As narrow as the woofer allows, and tall.
    #[schemars(title = "Slim and tall")]
    Slim,
    /// Low and broad.
    #[schemars(title = "Low and broad")]
    Squat,
    /// As narrow as the woofer allows, no taller than it has to be.
    #[schemars(title = "As wide as the woofer")]
    AsWideAsWoofer,
    /// Into a space: under a seat, on a shelf.
    #[schemars(title = "Into a space")]
    Within {
        /// Its width.
        #[schemars(title = "Width", range(min = 100.0, max = 5000.0), extend("x-start" = 600, "x-unit" = "mm"))]
        width_mm: f64,
        /// Its height.
        #[schemars(title = "Height", range(min = 100.0, max = 5000.0), extend("x-start" = 400, "x-unit" = "mm"))]
        height_mm: f64,
        /// Its depth.
        #[schemars(title = "Depth", range(min = 100.0, max = 5000.0), extend("x-start" = 450, "x-unit" = "mm"))]
        depth_mm: f64,
    },
}

/// A cabinet that was made.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MadeCabinet {
    /// What it is called.
    pub title: Text,
    /// Its outside and what it holds, in a sentence.
    pub sentence: Text,
    /// The changes to the design.
    pub changes: Vec<Change>,
}

/// Boards as they are usual: 18 mm, of small boxes 15 mm.
const BOARDS: [f64; 2] = [18.0, 15.0];
/// Air below which the thinner boards do, L.
const SMALL: f64 = 20.0;
/// By how much the air may be off, as a share.
const OFF: f64 = 0.005;
/// Sides that differ by less are alike, as a share.
const ALIKE: f64 = 0.06;

/// What is tried: outside width and height, mm.
type Try = [f64; 2];

struct Making {
    design: Checked,
    base: Cabinet,
    /// Narrowest outside a woofer goes on, mm.
    narrow: f64,
    /// Woofers on the baffle.
    woofers: f64,
    /// Diameter of a frame, mm.
    frame: f64,
    /// Air with what stands in it, mm³.
    inside: f64,
    /// How wide each round opening of the baffle is with its flange or frame, mm.
    openings: Vec<f64>,
}

/// An outside that was tried.
struct Tried {
    cabinet: Cabinet,
    clashes: usize,
    alike: bool,
    net_l: f64,
}

/// The first outside of a box in these proportions (width, height, depth) that has so much inside, mm.
fn scaled([w, h, d]: [f64; 3], inside: f64, board: f64) -> [f64; 3] {
    let volume = |s: f64| [w, h, d].map(|p| (p * s - 2.0 * board).max(0.0)).iter().product::<f64>();
    let (mut low, mut high) = (1.0, 6000.0);
    for _ in 0..60 {
        let middle = 0.5 * (low + high);
        if volume(middle) < inside { low = middle } else { high = middle }
    }
    [w, h, d].map(|p| p * high)
}

impl Making {
    fn of(design: &Checked) -> Making {
        let analysis = Analysis::of(design);
        let ([cutout, frame, ..], _) = woofer_sizes(&analysis.design.woofer, analysis.woofer.ts.sd);
        let net: f64 = analysis.wired.chambers.iter().map(|c| c.net * 1e3).sum();
        let count = f64::from(design.array.count) / if design.array.isobaric.is_some() { 2.0 } else { 1.0 };
        let bodies = analysis.design.woofer.displacement().map_or(0.0, |d| d.0) * count;
        let ports: f64 = analysis.wired.ports.iter().map(|p| p.port.displacement(p.realised.length, 0.0) * 1e3).sum();
        let board = if net < SMALL { BOARDS[1] } else { BOARDS[0] };
        let base = design.cabinet.clone().unwrap_or_else(|| plain(board));
        // its own boards stay; where things sat in another outside means nothing in this one
        let base = Cabinet {
            woofers_at: Vec::new(),
            openings_at: Vec::new(),
            braces: Vec::new(),
            fold: None,
            shape: oak_drum_document::Shape::Straight {},
            ..base
        };
        let narrow = (frame + 20.0).max(cutout + 2.0 * base.panel_mm + 10.0).ceil();
        let round = analysis.wired.ports.iter().filter(|p| p.outside && p.port.leaves == Face::Baffle);
        let openings = round
            .filter(|p| matches!(p.port.section, Section::Round { .. }))
            .flat_map(|p| {
                let (hole, flange) = p.port.fitting();
                std::iter::repeat_n(flange.unwrap_or(hole) * 1e3, p.port.count as usize)
            })
            .collect();
        Making {
            openings,
            design: design.clone(),
            narrow,
            woofers: count.max(1.0),
            frame,
            inside: (net + bodies + ports) * 1e6,
            base,
        }
    }

    /// The outside (width, height) of these proportions, no narrower or lower than the woofers allow.
    fn in_proportion(&self, proportions: [f64; 3]) -> Try {
        let [w, h, _] = scaled(proportions, self.inside, self.base.panel_mm);
        let row = (self.frame + 12.0) * self.woofers;
        let stands = h >= w;
        let (w, h) = (w.max(self.narrow), h.max(self.narrow));
        if stands { [w, h.max(row / 0.75)] } else { [w.max(row), h] }
    }

    /// What is tried for a form, the likeliest first.
    fn tries(&self, form: &Form) -> Vec<Try> {
        let p = |list: &[[f64; 3]]| list.iter().map(|p| self.in_proportion(*p)).collect::<Vec<Try>>();
        let tall = |ratios: &[f64]| -> Vec<Try> {
            let t = self.base.panel_mm;
            let across = (self.narrow - 2.0 * t).max(10.0);
            let face = self.inside / across;
            let row = (self.frame + 12.0) * self.woofers / 0.75;
            ratios.iter().map(|r| [self.narrow, ((face * r).sqrt() + 2.0 * t).max(self.narrow).max(row)]).collect()
        };
        match form {
            Form::Balanced => p(&[
                [1.0, 1.6, 1.25],
                [1.0, 1.4, 1.2],
                [1.0, 1.9, 1.4],
                [1.15, 1.6, 1.0],
                [1.0, 2.2, 1.5],
                [1.6, 1.0, 1.3],
                [1.3, 1.6, 0.9],
                [1.0, 1.2, 2.0],
            ]),
            Form::Slim => tall(&[2.2, 2.6, 3.2, 1.9, 4.0, 1.6]),
            Form::AsWideAsWoofer => tall(&[1.3, 1.5, 1.15, 1.7, 2.0, 2.5]),
            Form::Squat => p(&[[1.7, 1.0, 1.35], [2.0, 1.0, 1.35], [1.5, 1.0, 1.25], [2.4, 1.0, 1.6], [1.4, 1.0, 1.8]]),
            Form::Within { width_mm, height_mm, .. } => {
                let parts = [1.0, 0.92, 0.84, 0.76, 0.68, 0.6];
                let all = parts.iter().flat_map(|w| parts.iter().map(move |h| [width_mm * w, height_mm * h]));
                all.filter(|[w, h]| *w >= self.narrow.min(*width_mm) && *h >= self.narrow.min(*height_mm)).collect()
            }
        }
    }

    fn with(&self, cabinet: &Cabinet) -> Option<Analysis> {
        let mut document = serde_json::to_value(&self.design).ok()?;
        apply(&mut document, &[Change::set("/cabinet", serde_json::to_value(cabinet).ok()?)]);
        Some(Analysis::of(&read_current(document).ok()?))
    }

    fn judged(&self, analysis: &Analysis) -> Option<Tried> {
        let cabinet = analysis.design.cabinet.clone()?;
        let sides = cabinet.inside_mm();
        let alike = (0..3).any(|k| (sides[k] / sides[(k + 1) % 3] - 1.0).abs() < ALIKE);
        let net_l = match &analysis.ledger {
            Some(ledger) if !can_fold(&analysis.design.enclosure) => {
                if (ledger.net_l / ledger.wanted_net_l - 1.0).abs() > OFF {
                    return None;
                }
                ledger.net_l
            }
            _ => 0.0,
        };
        Some(Tried { clashes: clashing(analysis).len(), alike, net_l, cabinet })
    }

    /// A box whose depth follows; where things are in each other at their usual places, with openings beside the woofers.
    fn boxed(&self, [w, h]: Try) -> Option<Tried> {
        let usual = self.stood([w, h], false);
        if usual.as_ref().is_some_and(|t| t.clashes == 0) {
            return usual;
        }
        let beside = self.stood([w, h], true);
        match (usual, beside) {
            (Some(a), Some(b)) => Some(if b.clashes < a.clashes { b } else { a }),
            (a, b) => a.or(b),
        }
    }

    /// Woofers in a row to the left, openings on the baffle at its right edge, one above the other.
    fn beside(&self, cabinet: &Cabinet) -> Cabinet {
        let (w, h) = (cabinet.width_mm, cabinet.height_mm);
        let spot = |across: f64, up: f64| Spot { face: Face::Baffle, across_mm: across.round(), up_mm: up.round() };
        let many = self.woofers as usize;
        let row = |i: usize| 12.0 + (self.frame + 12.0) * (i as f64 + 0.5);
        let openings = self.openings.len();
        let places = self.openings.iter().enumerate().map(|(i, across)| {
            let up = h * (i as f64 + 0.5) / openings as f64;
            spot(w - cabinet.panel_mm - across / 2.0 - 12.0, up)
        });
        Cabinet {
            woofers_at: (0..many).map(|i| spot(row(i), h / 2.0)).collect(),
            openings_at: places.collect(),
            ..cabinet.clone()
        }
    }

    fn stood(&self, [w, h]: Try, beside: bool) -> Option<Tried> {
        let cabinet = Cabinet {
            width_mm: w.round(),
            height_mm: h.round(),
            depth_mm: (0.8 * w.max(h)).round(),
            held: Constraint::WidthAndHeight,
            ..self.base.clone()
        };
        if beside && self.openings.is_empty() {
            return None;
        }
        let cabinet = if beside { self.beside(&cabinet) } else { cabinet };
        self.judged(&self.with(&cabinet)?)
    }

    /// A box into which the path is folded: depth and height follow.
    fn folded(&self, w: f64, fold: &Value) -> Option<Tried> {
        let first = Cabinet {
            width_mm: w.round(),
            held: Constraint::All,
            fold: Some(serde_json::from_value(fold.clone()).ok()?),
            ..self.base.clone()
        };
        let [depth, height] = outside_for(&self.with(&first)?.design)?.ok()?;
        let analysis = self.with(&Cabinet { depth_mm: depth, height_mm: height, ..first })?;
        matches!(analysis.fold, Some(Ok(_))).then(|| self.judged(&analysis))?
    }

    /// Ways to lay the path, the plainest first. Segments that lie level have the woofer at the path's beginning: that is another box where it
    /// is wanted further along.
    fn folds(&self) -> Vec<Value> {
        let at_beginning = match &self.design.enclosure {
            Enclosure::TransmissionLine(line) => line.woofer_at_mm == 0.0,
            _ => true,
        };
        let runs: &[&str] = if at_beginning { &["upright", "level"] } else { &["upright"] };
        let patterns = ["u", "s", "four_segments"];
        runs.iter().flat_map(|runs| patterns.map(|pattern| json!({"pattern": pattern, "runs": runs}))).collect()
    }

    fn all(&self, form: &Form) -> Vec<Tried> {
        if !can_fold(&self.design.enclosure) {
            return self.tries(form).into_iter().filter_map(|t| self.boxed(t)).collect();
        }
        let wide: &[f64] =
            if matches!(form, Form::Slim | Form::AsWideAsWoofer) { &[1.0, 1.1] } else { &[1.0, 1.15, 1.35, 1.6, 2.0] };
        let folds = self.folds();
        let mut list: Vec<Tried> =
            wide.iter().flat_map(|w| folds.iter().filter_map(move |fold| self.folded(self.narrow * w, fold))).collect();
        let of = |t: &Tried| {
            let c = &t.cabinet;
            let sides = [c.width_mm, c.height_mm, c.depth_mm];
            let longest = sides.iter().copied().fold(0.0, f64::max);
            match form {
                Form::Slim => -c.height_mm,
                Form::Squat => c.height_mm / c.width_mm,
                Form::AsWideAsWoofer => c.width_mm.max(c.height_mm),
                Form::Balanced => longest / sides.iter().copied().fold(f64::INFINITY, f64::min),
                Form::Within { .. } => longest,
            }
        };
        list.sort_by(|a, b| of(a).total_cmp(&of(b)));
        list
    }
}

fn plain(board: f64) -> Cabinet {
    let sizes = json!({"width_mm": 400, "height_mm": 600, "depth_mm": 450, "panel_mm": board, "baffle_mm": board});
    // the schema's own usual values for everything else
    serde_json::from_value(sizes).unwrap_or_else(|_| unreachable!("five sizes make a cabinet"))
}

/// Makes a cabinet for a design's box in a form; what is in the way where there is none.
///
/// # Errors
/// A sentence that says what to do instead.
pub fn from_box(design: &Checked, form: &Form) -> Result<MadeCabinet, Text> {
    let making = Making::of(design);
    if let Form::Within { width_mm, height_mm, .. } = form
        && width_mm.min(*height_mm) < making.narrow
    {
        return Err(format!(
            "The woofer wants a face of at least {:.0} both ways; this space has {:.0}.",
            mm(making.narrow),
            mm([*width_mm, *height_mm])
        )
        .into());
    }
    let most = |c: &Cabinet| match form {
        Form::Within { width_mm, height_mm, depth_mm } => {
            c.width_mm <= *width_mm && c.height_mm <= *height_mm && c.depth_mm <= *depth_mm
        }
        _ => true,
    };
    let tried = making.all(form);
    let fit: Vec<&Tried> = tried.iter().filter(|t| most(&t.cabinet)).collect();
    let Some(best) = fit.iter().min_by_key(|t| (t.clashes, t.alike)) else {
        return Err(none(&making, form, &tried));
    };
    let low = best.cabinet.height_mm <= best.cabinet.width_mm;
    if matches!(form, Form::Squat) && can_fold(&design.enclosure) && !low {
        return Err(format!(
            "Folded with the woofer clear of the path's boards it is at least {:.0} high, taller than wide. Make it balanced, and lay it on its side.",
            mm(best.cabinet.height_mm)
        )
        .into());
    }
    if best.clashes > 0 {
        return Err(format!(
            "In every outside of this form something stands in something else; the nearest is {:.0}. Another form, a shorter or bent port (Airway), or a woofer that is less deep makes room.",
            outside(&best.cabinet)
        )
        .into());
    }
    let c = &best.cabinet;
    let holds = if best.net_l > 0.0 {
        format!("; leaves {:.1} of air", litres(best.net_l))
    } else {
        "; the path is folded into it".into()
    };
    let value = serde_json::to_value(c).map_err(|e| Text::from(e.to_string()))?;
    Ok(MadeCabinet {
        title: format!("Cabinet {:.0}", outside(c)).into(),
        sentence: format!(
            "{:.0} outside (width, height, depth), {:.0}, boards of {:.0}{holds}. Nothing stands in anything.",
            outside(c),
            litres(c.outside_l()),
            mm(c.panel_mm)
        )
        .into(),
        changes: vec![Change::set("/cabinet", value)],
    })
}

fn outside(c: &Cabinet) -> oak_drum_text::Quantity {
    mm([c.width_mm, c.height_mm, c.depth_mm])
}

fn none(making: &Making, form: &Form, tried: &[Tried]) -> Text {
    match form {
        Form::Within { width_mm, height_mm, depth_mm } => {
            let t = making.base.panel_mm;
            let inside: f64 =
                [width_mm, height_mm, depth_mm].iter().map(|s| (*s - 2.0 * t).max(0.0)).product::<f64>() * 1e-6;
            let least = tried.iter().map(|t| t.cabinet.depth_mm).fold(f64::INFINITY, f64::min);
            let deep = if least.is_finite() {
                format!(" The shallowest that holds it is {:.0} deep.", mm(least))
            } else {
                String::new()
            };
            format!(
                "All of that space is {:.0} within boards of {t:.0}; woofer, ports and air want {:.0}.{deep} A smaller box (Seek) goes in.",
                litres(inside),
                litres(making.inside * 1e-6),
                t = mm(t)
            )
            .into()
        }
        _ => "No outside of this form holds the air that is wanted; try another form, or state the outside yourself."
            .into(),
    }
}
