//! What has to be bought, what it costs and what it weighs.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::cutting::{BAR, cutting, layers, weight};
use crate::cabinet::fasteners::{Bites, fasteners};
use crate::cabinet::leads::leads;
use crate::cabinet::lifting::Lifting;
use crate::cabinet::mounted_part::Kind;
use oak_drum_acoustics::port::Section;
use oak_drum_cabinet::board::{self, Board, Role, dot};
use oak_drum_document::{Bought, Prices, Shape};
use oak_drum_text::{Quantity, Text, Unit, mm, wire};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One thing to buy.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Item {
    /// Stable name.
    pub id: String,
    /// What.
    pub what: Text,
    /// How much.
    pub quantity: f64,
    /// Of what unit; empty for pieces.
    pub unit: String,
    /// How much, in words.
    pub amount: Text,
    /// Price of one, where stated.
    pub each: Option<f64>,
    /// Price of all, where stated.
    pub total: Option<f64>,
    /// Which of the prices is its own (JSON pointer into them, of a part at the terminals into the design); empty where it has none.
    pub pointer: String,
    /// Whether the quantity is an estimate.
    pub estimated: bool,
}

/// What has to be bought.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Bill {
    /// The things.
    pub items: Vec<Item>,
    /// What those with a price come to.
    pub total: f64,
    /// How many have no price.
    pub unpriced: u32,
    /// What the brief allows.
    pub budget: Option<f64>,
    /// Weight of the boards, kg.
    pub boards_kg: f64,
    /// Weight with woofers and an amplifier that is built in (as far as stated), kg.
    pub weight_kg: f64,
    /// Who lifts it, in a sentence.
    pub lifting: Text,
}

/// Wood glue on a joint, g/m² of glued edge (common practice, both faces).
const GLUE: f64 = 200.0;

/// What has to be bought for a design's cabinet, at these prices; `None` without one.
pub fn bill(analysis: &Analysis, prices: &Prices) -> Option<Bill> {
    let design = &analysis.design;
    let built = built(analysis)?;
    let cutting = cutting(analysis)?;
    let mut items: Vec<Item> = Vec::new();
    let mut add =
        |id: &str, what: String, quantity: f64, unit: &str, each: Option<f64>, pointer: &str, estimated: bool| {
            let total = each.map(|e| e * quantity);
            let amount = amount(quantity, unit, estimated);
            let (id, what, unit, pointer) = (id.into(), what.into(), unit.into(), pointer.into());
            items.push(Item { id, what, quantity, unit, amount, each, total, pointer, estimated });
        };
    for stock in cutting.stocks.iter().filter(|s| s.sheets > 0) {
        let size = format!(
            "sheets of {:.1} {}, {:.0}",
            mm(stock.thickness_mm),
            stock.board,
            mm([stock.sheet_length_mm, stock.sheet_width_mm])
        );
        add(
            &format!("sheet_{}_{:.1}", stock.board, stock.thickness_mm),
            size,
            f64::from(stock.sheets),
            "",
            prices.sheet,
            "/sheet",
            false,
        );
    }
    let cabinet = design.cabinet.as_ref()?;
    if let Shape::Tube { wall_mm } = cabinet.shape {
        let what = format!("tube, {:.0} across, wall {wall_mm:.1}", mm(cabinet.width_mm), wall_mm = mm(wall_mm));
        add("tube", what, (cabinet.height_mm - cabinet.panel_mm - cabinet.baffle_mm) * 1e-3, "m", None, "", false);
    }
    let mut bars: Vec<(f64, f64)> = Vec::new();
    for part in cutting.parts.iter().filter(|p| p.board == BAR).map(|p| &p.part) {
        let length = part.length_mm * f64::from(part.count);
        match bars.iter_mut().find(|(side, _)| (side - part.thickness_mm).abs() < 0.05) {
            Some((_, whole)) => *whole += length,
            None => bars.push((part.thickness_mm, length)),
        }
    }
    for (side, length) in bars {
        add(
            &format!("bar_{side:.0}"),
            format!("square bar, {sides:.0}", sides = mm([side, side])),
            (length * 1e-2).ceil() / 10.0,
            "m",
            None,
            "",
            false,
        );
    }
    for (i, dowel) in built.solids.boards.iter().filter(|b| b.role == Role::Dowel).enumerate() {
        add(&format!("dowel_{i}"), "round bar for braces".into(), dowel.thickness_mm * 1e-3, "m", None, "", false);
    }
    let woofers = f64::from(design.array.count);
    let name =
        if design.woofer.name.is_empty() { "woofer".to_owned() } else { format!("woofer {}", design.woofer.name) };
    add("woofer", name, woofers, "", prices.woofer.or(design.woofer.price), "/woofer", false);
    if let Some(amplifier) = &design.chain.amplifier {
        let name = if amplifier.name.is_empty() { String::new() } else { format!(" {}", amplifier.name) };
        let what = format!("amplifier{name}, {:.0} W into {} ohm", amplifier.power_w, amplifier.load_ohm);
        add("amplifier", what, 1.0, "", prices.amplifier.or(amplifier.price), "/amplifier", false);
    }
    for (i, part) in design.chain.parts.iter().enumerate() {
        add(
            &format!("part_{i}"),
            crate::drive::parts::in_words(&part.part),
            1.0,
            "",
            part.price,
            &format!("/chain/parts/{i}/price"),
            false,
        );
    }
    for (i, report) in analysis.wired.ports.iter().enumerate() {
        if let Section::Round { diameter_mm } = report.port.section {
            let what = format!(
                "tube for the port, {diameter_mm:.0} inside, {:.0} long",
                mm(report.realised.length * 1e3),
                diameter_mm = mm(diameter_mm)
            );
            add(&format!("port_{i}"), what, f64::from(report.port.count), "", prices.opening, "/opening", false);
        }
    }
    let radiators = built.mounted_parts.iter().filter(|s| s.kind == Kind::Radiator).count();
    if radiators > 0 {
        add("radiators", "passive radiators".into(), radiators as f64, "", prices.opening, "/opening", false);
    }
    let grams = fill_grams(analysis);
    if grams > 0.0 {
        add("fill", "fill".into(), grams * 1e-3, "kg", prices.fill_per_kg, "/fill_per_kg", false);
    }
    let joints = built.joints_mm();
    for screws in fasteners(analysis, &built) {
        let (size, count) = (screws.size(), f64::from(screws.count));
        let washers = if screws.washer_mm.is_some() { ", with washers" } else { "" };
        let nuts = if screws.bites == Bites::DrivenNut { " and driven nuts" } else { "" };
        let what = format!("screws{nuts}, {size}{washers}, for {}", screws.what);
        add(&screws.id, what, count, "", None, "", screws.estimated);
    }
    if let Some(leads) = leads(analysis, &built) {
        let what = format!("wire, {}, half of each colour", wire(leads.area_mm2));
        add("wire", what, leads.wire_m, "m", None, "", leads.estimated);
        add("wire_ends", "crimped ends and sleeves for it".into(), f64::from(leads.ends), "", None, "", false);
    }
    // whole faces between the layers of what is glued up
    let faces: f64 =
        built.solids.boards.iter().map(|b| b.size()[0] * b.size()[1] * (layers(cabinet, b).len() - 1) as f64).sum();
    let glue = (joints * cabinet.panel_mm + faces) * 1e-6 * GLUE;
    add("glue", "wood glue".into(), (glue / 10.0).ceil() * 10.0, "g", None, "", true);
    let lids = built.solids.boards.iter().filter(|b| b.lid_screws > 0);
    let frames: f64 =
        built.mounted_parts.iter().filter_map(|s| s.frame_mm).map(|f| f * std::f64::consts::PI * 1e-3).sum();
    let gasket = frames + lids.map(|b| lid_gasket_mm(&built, b)).sum::<f64>() * 1e-3;
    if gasket > 0.0 {
        add("gasket", "gasket tape".into(), (gasket * 10.0).ceil() / 10.0, "m", None, "", true);
    }
    let area = finish_m2(analysis);
    add(
        "finish",
        "finish or veneer".into(),
        (area * 100.0).round() / 100.0,
        "m2",
        prices.finish_per_m2,
        "/finish_per_m2",
        false,
    );
    if let Some(small) = prices.small_parts {
        add("small_parts", "screws, glue, gaskets, terminals".into(), 1.0, "", Some(small), "/small_parts", false);
    }
    let boards_kg = weight(analysis)?;
    let weight_kg = whole_kg(analysis)?;
    Some(Bill {
        // the sum of nothing is a negative zero
        total: items.iter().filter_map(|i| i.total).sum::<f64>() + 0.0,
        unpriced: items.iter().filter(|i| i.each.is_none() && !i.pointer.is_empty()).count() as u32,
        budget: design.brief.budget,
        items,
        boards_kg,
        weight_kg,
        lifting: Lifting::words(weight_kg).into(),
    })
}

/// A line of the shopping list as it was really bought.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct SpentLine {
    /// Stable name of the line.
    pub item: String,
    /// What was planned for it; absent where it has no price.
    pub planned: Option<f64>,
    /// What was paid.
    pub paid: f64,
    /// What one came to.
    pub each: f64,
    /// What is left over is worth so much.
    pub left_worth: f64,
    /// What it would cost for the next one, with what is left over.
    pub next: f64,
}

/// Planned against paid.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Spent {
    /// The lines something was paid for.
    pub lines: Vec<SpentLine>,
    /// What was paid altogether, also for lines that are no longer on the list.
    pub paid: f64,
    /// What was planned for the lines something was paid for, as far as they had a price.
    pub planned: f64,
    /// What is planned for lines nothing was paid for yet.
    pub to_come: f64,
    /// What is left over is worth so much.
    pub left_worth: f64,
    /// What the next one would cost: at what was paid, less what is left over, and as planned where nothing was paid.
    pub next: f64,
}

/// Planned against paid, line by line.
pub fn spent(bill: &Bill, bought: &[Bought]) -> Spent {
    let mut told = Spent { lines: Vec::new(), paid: 0.0, planned: 0.0, to_come: 0.0, left_worth: 0.0, next: 0.0 };
    for line in bought {
        let Some(paid) = line.paid else { continue };
        told.paid += paid;
        let Some(item) = bill.items.iter().find(|i| i.id == line.item) else { continue };
        let many = line.quantity.filter(|q| *q > 0.0).unwrap_or(item.quantity);
        let each = if many > 0.0 { paid / many } else { 0.0 };
        let left = line.left.unwrap_or(0.0).min(many);
        let wanted = (item.quantity - left).max(0.0);
        // of pieces no part can be bought
        let wanted = if item.unit.is_empty() { wanted.ceil() } else { wanted };
        let (left_worth, next) = (left * each, wanted * each);
        told.planned += item.total.unwrap_or(0.0);
        told.left_worth += left_worth;
        told.next += next;
        told.lines.push(SpentLine { item: line.item.clone(), planned: item.total, paid, each, left_worth, next });
    }
    let paid_for = |id: &str| told.lines.iter().any(|l| l.item == id);
    let open: f64 = bill.items.iter().filter(|i| !paid_for(&i.id)).filter_map(|i| i.total).sum();
    told.to_come = open;
    told.next += open;
    told
}

/// How much in words: pieces as they are counted, what is measured to three digits.
fn amount(quantity: f64, unit: &str, estimated: bool) -> Text {
    let rounded = (quantity * 100.0).round() / 100.0;
    let words = match Unit::named(unit) {
        Some(unit) => Quantity { values: vec![rounded], unit }.to_string(),
        None => format!("{rounded} {unit}").trim_end().to_owned(),
    };
    if estimated { format!("about {words}").into() } else { words.into() }
}

/// Weight of boards, woofers and an amplifier that is built in (as far as stated), kg; `None` without a cabinet.
pub fn whole_kg(analysis: &Analysis) -> Option<f64> {
    let design = &analysis.design;
    let built_in = design.chain.amplifier.as_ref().filter(|_| design.built_in().is_some());
    let amplifier = built_in.and_then(|a| a.weight_kg).unwrap_or(0.0);
    Some(weight(analysis)? + design.woofer.weight_kg.unwrap_or(0.0) * f64::from(design.array.count) + amplifier)
}

/// Mass of all fill, g, as far as it is given by material.
pub fn fill_grams(analysis: &Analysis) -> f64 {
    let chambers: f64 = analysis
        .wired
        .chambers
        .iter()
        .map(|c| match c.fill {
            oak_drum_acoustics::fill::Fill::Material { density_kg_per_m3, .. } => density_kg_per_m3 * c.filled * 1e3,
            _ => 0.0,
        })
        .sum();
    let along = analysis.wired.figures.iter().find(|f| f.id == "fill_g").map_or(0.0, |f| f.value);
    chambers + along
}

/// Length of gasket under a panel that comes off, mm: around it, and along every board inside that ends at it.
pub fn lid_gasket_mm(built: &BuiltCabinet, lid: &Board) -> f64 {
    let ring = lid.ring(0.0);
    let around: f64 = ring.iter().zip(ring.iter().cycle().skip(1)).map(|(a, b)| (b[0] - a[0]).hypot(b[1] - a[1])).sum();
    let ends = built.solids.boards.iter().filter(|b| matches!(b.role, Role::Fold | Role::Brace | Role::Port));
    let along: f64 = ends
        .filter(|b| {
            let off = b.corners().into_iter().map(|p| {
                let below = dot(board::along(p, lid.at, -1.0), lid.normal());
                below.abs().min((below - lid.thickness_mm).abs())
            });
            off.fold(f64::INFINITY, f64::min) < 0.5
        })
        .map(|b| b.size()[0])
        .sum();
    around + along
}

/// Outside to be finished, m².
pub fn finish_m2(analysis: &Analysis) -> f64 {
    let Some(c) = &analysis.design.cabinet else { return 0.0 };
    let (w, h, d) = (c.width_mm * 1e-3, c.height_mm * 1e-3, c.depth_mm * 1e-3);
    match c.shape {
        Shape::Tube { .. } => std::f64::consts::PI * w * (h + w / 2.0),
        _ => 2.0 * (w * h + h * d + w * d),
    }
}
