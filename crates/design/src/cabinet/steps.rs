//! Building it, step by step: the order for this very cabinet, with the cautions where the work is. What to do is common
//! practice; sizes and letters are the cabinet's own.

use crate::analysis::Analysis;
use crate::cabinet::assembly::Assembly;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::cutting::{Cutting, cutting, heaviest_sheet};
use crate::cabinet::labour::{self, Amounts};
use crate::cabinet::lifting;
use crate::cabinet::materials::whole_kg;
use crate::cabinet::mounted_part::Kind;
use crate::cabinet::step::{LOUD, Letters, ROUTER, SAW, Step, mm, words};
use oak_drum_cabinet::board::{BAR_HOLE, Board, Hole, LAP, Opening, Outline, Role, THROUGH, V3, reach};
use oak_drum_cabinet::carcass::{Housing, Joint};
use oak_drum_document::{Days, Shape};
use oak_drum_text::Text;

/// Where a board gives way to those that cross it.
fn laps_in_words(board: &Board) -> String {
    let words = board.edges.split("; ").filter(|w| w.starts_with(LAP) || w.starts_with("opening"));
    words.collect::<Vec<_>>().join("; ")
}

/// The steps for a design's cabinet, as nothing is stated about glue and paint; `None` without one.
pub fn steps(analysis: &Analysis) -> Option<Vec<Step>> {
    steps_with(analysis, &Days::default())
}

/// The steps with this glue and this finish, each with its working minutes.
pub fn steps_with(analysis: &Analysis, days: &Days) -> Option<Vec<Step>> {
    let (built, cutting) = (built(analysis)?, cutting(analysis)?);
    let amounts = Amounts::of(analysis, &built, &cutting);
    let mut list = in_order(analysis, days, &built, &cutting)?;
    for step in &mut list {
        let work = labour::of(&step.id, &amounts, analysis, days);
        (step.minutes, step.hands) = (work.minutes.round(), work.hands);
        step.tools = work.tools.iter().map(|t| (*t).to_owned()).collect();
    }
    Some(list)
}

fn in_order(analysis: &Analysis, days: &Days, built: &BuiltCabinet, cutting: &Cutting) -> Option<Vec<Step>> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let letters = Letters { cutting, built };
    let mut list: Vec<Step> = Vec::new();
    let mut add = |stage: &str, id: &str, title: String, text: String, caution: Option<String>| {
        // the first letter of what was put together from smaller words
        let (title, text) = (title.into(), oak_drum_text::capital(&text).into());
        list.push(Step {
            id: id.into(),
            stage: stage.into(),
            title,
            text,
            caution: caution.map(Text::from),
            minutes: 0.0,
            hands: 1,
            tools: Vec::new(),
        });
    };
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let saw = &cabinet.saw;
    let boards = &built.solids.boards;
    let is = |role: Role| boards.iter().any(|b| b.role == role);

    add(
        "Before the saw",
        "measure_parts",
        "Measure what you bought".into(),
        format!(
            "Boards with callipers: the drawing counts on {} for the walls and {} for the baffle; plywood is often a little under its name. The woofer's cut-out, depth and magnet, and everything else that was bought to sit in it. Put in what differs, and print again.",
            mm(cabinet.panel_mm),
            mm(cabinet.baffle_mm)
        ),
        None,
    );
    if let Some(shop) = cutting.stocks.first().and_then(|s| s.shop) {
        let sheets: u32 = cutting.stocks.iter().map(|s| s.sheets).sum();
        add(
            "Before the saw",
            "shop_cuts",
            "First cuts at the shop".into(),
            format!(
                "Have {sheets} {} cut into {} pieces of {} x {} each. They are cut to their sizes at home.",
                if sheets == 1 { "sheet" } else { "sheets" },
                shop.along * shop.across,
                mm(shop.length_mm),
                mm(shop.width_mm)
            ),
            lifting::whole_sheet(heaviest_sheet(&cutting.stocks)),
        );
    }
    let pieces: u32 = cutting.parts.iter().map(|p| p.part.count).sum();
    let settings: u32 = cutting.stocks.iter().map(|s| s.layout.settings).sum();
    add(
        "At the saw",
        "cut",
        format!("Cut {pieces} pieces"),
        format!(
            "After the sheet drawings, cut by cut; {} of the fence in all, so cut everything of one setting before it is moved. Write its letter on every piece as it comes off the saw.{}",
            if settings == 1 { "1 setting".into() } else { format!("{settings} settings") },
            if saw.oversize_mm > 0.0 {
                format!(" Pieces are {} larger than finished; trim them square next.", mm(saw.oversize_mm))
            } else {
                String::new()
            }
        ),
        Some(match &cutting.lifting {
            Some(lifting) => format!("{SAW} {lifting}"),
            None => SAW.into(),
        }),
    );
    let bevelled: Vec<String> = cutting
        .parts
        .iter()
        .filter(|p| p.part.edges.contains("degrees") && !p.part.edges.contains("45 degrees"))
        .map(|p| p.part.label.clone())
        .collect();
    if !bevelled.is_empty() {
        add("At the saw", "bevels", format!("Bevel the ends of {}", words(&bevelled)),
            "Tilt the blade to the angle in the cut list; the length there is along the face, of ends that lean towards each other along the longer one. Ends that lean the same way are sawn without turning the board over, out of a blank so much longer as the sheets have it. Try the angle on scrap.".into(), Some(SAW.into()));
    }
    match saw.joint {
        Joint::Rebate if !tube => add("At the saw", "rebates", "Saw the rebates".into(), format!(
            "Along both ends of the boards that run through: {} wide, {} deep. Try the first on scrap with an end of the other board.",
            mm(cabinet.panel_mm), mm(cabinet.panel_mm / 2.0)
        ), Some(ROUTER.into())),
        Joint::Mitre if !tube => add("At the saw", "mitres", "Mitre floor, top and sides".into(),
            "Both ends at 45 degrees, four pieces with one setting. Tape the outer faces edge to edge and fold the carcass up to try it.".into(), Some(SAW.into())),
        _ => {}
    }
    if saw.housing == Housing::Dado && (is(Role::Brace) || is(Role::Fold)) {
        add(
            "At the saw",
            "grooves",
            "Rout the grooves".into(),
            format!(
                "{} deep where boards stand in the walls; mark both sides together so that they face each other.",
                mm((cabinet.panel_mm / 3.0).round())
            ),
            Some(ROUTER.into()),
        );
    }
    if boards.iter().any(|b| b.role == Role::Brace && b.holes.iter().any(|h| h.name == "window")) {
        add(
            "At the saw",
            "windows",
            "Saw the windows in the braces".into(),
            "Drill the corners first, then saw from hole to hole. Break the edges: air rubs on sharp ones.".into(),
            Some(SAW.into()),
        );
    }
    let lapped: Vec<String> = boards
        .iter()
        .filter(|b| b.holes.iter().any(|h| [LAP, THROUGH].contains(&h.name.as_str())))
        .map(|b| format!("{} ({}): {}", letters.of(&b.name), b.name.to_lowercase(), laps_in_words(b)))
        .collect();
    if !lapped.is_empty() {
        add(
            "At the saw",
            "laps",
            "Saw the braces where they cross".into(),
            format!(
                "{}. As wide as the other board measures; try them in each other before any glue.",
                lapped.join("; ")
            ),
            Some(SAW.into()),
        );
    }
    if cabinet.baffle_layers > 1 || cabinet.inner_layer.is_some() {
        add("At the saw", "layers", "Glue the layers up".into(),
            "Glue over the whole face, screws from the inside or weights on top, a day to dry. Its holes are cut through all of them once they are one.".into(), None);
    }
    let holes: Vec<String> = boards
        .iter()
        .flat_map(|b| {
            let told = |h: &&Hole| (!h.is_of_board() || h.name == BAR_HOLE) && h.name != "bore";
            b.holes.iter().filter(told).map(move |h| (b, h))
        })
        .map(|(b, h)| {
            let size = match h.opening {
                Opening::Round { diameter_mm } => format!("{} across", mm(diameter_mm)),
                Opening::Rectangle { length_mm, width_mm } => format!("{} x {}", mm(width_mm), mm(length_mm)),
                Opening::Triangle { length_mm, width_mm } => {
                    format!("a triangle of {} and {} at the right angle", mm(width_mm.abs()), mm(length_mm.abs()))
                }
            };
            let centre = centre_in_words(b, h);
            let size = match h.recess {
                Some(r) => format!(
                    "first a recess {} across and {} deep, then through, {size}",
                    mm(r.diameter_mm),
                    mm(r.depth_mm)
                ),
                None => size,
            };
            format!("{} in {} ({}): {size}, centre {centre}", h.name, letters.of(&b.name), b.name.to_lowercase())
        })
        .collect();
    let slots = built.mounted_parts.iter().any(|s| s.kind == Kind::Port && !matches!(s.opening, Opening::Round { .. }));
    if !holes.is_empty() {
        add(
            "At the saw",
            "holes",
            "Cut the holes".into(),
            format!(
                "{}. Left, right, front and back are the cabinet's as it stands, seen from the front. {} Print the templates at 1:1, check their ruler, make a test cut in scrap and try the part in it: a hole a hair too small will not seal.",
                holes.join("; "),
                match (saw.fit_mm > 0.0, slots) {
                    (true, false) => format!("The holes are {} larger than what goes in.", mm(saw.fit_mm)),
                    (true, true) => {
                        format!(
                            "The holes are {} larger than what goes in; those of slots are just their size.",
                            mm(saw.fit_mm)
                        )
                    }
                    (false, _) => "The holes are just the size of what goes in.".into(),
                }
            ),
            Some(ROUTER.into()),
        );
    }
    add(
        "Dry",
        "dry_fit",
        "Put it together dry".into(),
        if tube {
            "Discs into or onto the tube, and whatever sits in a hole in its hole. Everything must go in without force."
                .into()
        } else {
            "Clamps, no glue. Both diagonals of the back equal, no gap a sheet of paper goes into, and whatever sits in a hole in its hole. Only then glue.".into()
        },
        None,
    );
    add(
        "Dry",
        "break_in",
        "Run the woofer in".into(),
        format!(
            "Lying free, a tone near {:.0} Hz at about half its stroke, a night or while the glue dries; not left alone. A suspension that is new gives way a little: measure after it, not before. Some hold it for needless; it costs nothing but the wait.",
            analysis.woofer.ts.fs
        ),
        Some(LOUD.into()),
    );
    let weight_kg = whole_kg(analysis)?;
    list.extend(Assembly { analysis, built, letters: &letters, weight_kg, days }.steps());
    Some(list)
}

/// Where a hole's centre is: from two edges of its board as that is sawn, named as the cabinet stands.
fn centre_in_words(board: &Board, hole: &Hole) -> String {
    let face = match board.cut() {
        Outline::Corners { face, .. } => reach(face),
        Outline::Disc { .. } => {
            let off = hole.at[0].hypot(hole.at[1]);
            return if off < 0.5 { "the disc's own".into() } else { format!("{} from the disc's own", mm(off)) };
        }
    };
    let from = |axis: usize, way: V3| {
        let k = (0..3).max_by(|a, b| way[*a].abs().total_cmp(&way[*b].abs())).unwrap_or(0);
        // from the left, from below, from the front
        let off = if way[k] > 0.0 { hole.at[axis] - face[0][axis] } else { face[1][axis] - hole.at[axis] };
        format!("{} from the {} edge", mm(off), ["left", "lower", "front"][k])
    };
    format!("{} and {}", from(0, board.u), from(1, board.v))
}
