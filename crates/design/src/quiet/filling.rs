//! Fill: what the present one does, what there is to buy, and the schools side by side.

use crate::analysis::Analysis;
use crate::analysis::inside::inside_of;
use crate::quiet::modes::worst;
use oak_drum_acoustics::families::Chamber;
use oak_drum_acoustics::families::inside::Lining;
use oak_drum_acoustics::fill::{Fill, Material};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_document::Change;
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// What a fill does and what it weighs.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Filling {
    /// The fill (JSON pointer into the design).
    pub pointer: String,
    /// What it is of.
    pub material: String,
    /// How much space it takes, L.
    pub filled_l: f64,
    /// What there is to buy, g; absent for a plain factor or a bare flow resistivity.
    pub grams: Option<f64>,
    /// How densely it is packed, kg/m³.
    pub packed_kg_per_m3: Option<f64>,
    /// Its flow resistivity, Pa·s/m².
    pub flow_resistivity_pa_s_per_m2: Option<f64>,
    /// By how much the box acts larger.
    pub acts_larger_by: f64,
    /// The family's first figure with it.
    pub figure: f64,
    /// The same without it, everything that is built unchanged.
    pub figure_empty: f64,
    /// What that figure is, with its unit.
    pub figure_title: String,
}

/// A school of filling: none, lined, half, full.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct School {
    /// Stable name.
    pub id: String,
    /// In words.
    pub title: Text,
    /// What it takes, g.
    pub grams: f64,
    /// By how much the box acts larger.
    pub acts_larger_by: f64,
    /// The family's first figure, everything that is built unchanged.
    pub figure: f64,
    /// Highest frequency below the passband at half power, Hz.
    pub f3_hz: Option<f64>,
    /// What the worst standing wave in the band does, dB; absent where the inside is not stated.
    pub wave_db: Option<f64>,
    /// Level at the frequencies of [`Fills::frequency_hz`], dB.
    pub level_db: Vec<f64>,
    /// The changes that make it so.
    pub changes: Vec<Change>,
}

/// The present fill and the schools.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Fills {
    /// The present one.
    pub now: Filling,
    /// What the schools are filled with.
    pub schools_of: String,
    /// Frequencies of the schools' levels, Hz.
    pub frequency_hz: Vec<f64>,
    /// None, lined, half, full.
    pub schools: Vec<School>,
}

/// The port kept at the length it has, so that fill shows in the tuning.
fn as_built(analysis: &Analysis) -> Vec<Change> {
    analysis
        .wired
        .ports
        .iter()
        .map(|report| {
            let length = report.realised.length * 1e3;
            Change::set(
                format!("/enclosure{}/sizing", report.pointer),
                serde_json::json!({"by": "length", "length_mm": length.max(0.1)}),
            )
        })
        .collect()
}

/// A lining of 40 mm on every wall but the baffle.
fn lining() -> Lining {
    Lining { thickness_mm: 40.0, left: true, right: true, floor: true, top: true, baffle: false, back: true }
}

/// The fill of the chamber behind the cone; `None` where there is none whose fill can be stated.
pub fn fills(analysis: &Analysis) -> Option<Fills> {
    let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty())?;
    let fill_at = format!("/enclosure{}", chamber.part("fill"));
    let inside_at = format!("/enclosure{}", chamber.part("inside"));
    let document = serde_json::to_value(&analysis.design).ok()?;
    let stated: Fill =
        document.pointer(&fill_at).and_then(|f| serde_json::from_value(f.clone()).ok()).unwrap_or_default();
    let figure = analysis.wired.figures.first()?;
    let frequencies = log_frequencies(15.0, 500.0, 96);
    let built = as_built(analysis);
    let with = |more: Vec<Change>| {
        let changes: Vec<Change> = built.iter().cloned().chain(more).collect();
        analysis.at_frequencies(&changes, &frequencies)
    };
    let empty = with(vec![Change::set(fill_at.clone(), serde_json::json!({"kind": "none"}))])?;
    let packed = match chamber.fill {
        Fill::Material { density_kg_per_m3, .. } => Some(density_kg_per_m3),
        _ => None,
    };
    let material = match &stated {
        Fill::None => "nothing".to_owned(),
        Fill::Factor { .. } => "a plain factor".to_owned(),
        Fill::Fibrous { .. } => "fibres by their flow resistivity".to_owned(),
        Fill::Material { material, .. } => material.info().title.to_owned(),
    };
    let now = Filling {
        pointer: fill_at.clone(),
        material,
        filled_l: chamber.filled * 1e3,
        grams: packed.map(|density| density * chamber.filled * 1e3),
        packed_kg_per_m3: packed,
        flow_resistivity_pa_s_per_m2: chamber.fill.fibres().map(|f| f.1),
        acts_larger_by: chamber.fill_factor,
        figure: figure.value,
        figure_empty: empty.wired.figures.first().map_or(figure.value, |f| f.value),
        figure_title: format!("{}, {}", figure.label, figure.unit),
    };
    let (of, density) = match stated {
        Fill::Material { material, .. } => (material, packed.unwrap_or(material.info().usual)),
        _ => (Material::PolyesterWadding, Material::PolyesterWadding.info().usual),
    };
    let (inside, _) = inside_of(analysis, chamber);
    let lined = lining().part(inside.sides());
    let stuff = |part: f64| {
        serde_json::to_value(Fill::Material {
            material: of,
            density_kg_per_m3: density,
            mass_g: None,
            filled_part: part,
        })
        .unwrap_or_default()
    };
    let lies = |more: Value, place: &str| match chamber.inside {
        Some(_) => {
            vec![Change::set(format!("{inside_at}/lining"), more), Change::set(format!("{inside_at}/fill_lies"), place)]
        }
        None => Vec::new(),
    };
    let lining = serde_json::to_value(lining()).unwrap_or_default();
    let school = |id: &str, title: String, part: f64, mut changes: Vec<Change>, more: Vec<Change>| -> Option<School> {
        changes.extend(more);
        let tried = with(changes.clone())?;
        let there: &Chamber = tried.wired.chambers.iter().find(|c| c.pointer == chamber.pointer)?;
        Some(School {
            id: id.into(),
            title: title.into(),
            grams: part * chamber.net * density * 1e3,
            acts_larger_by: there.fill_factor,
            figure: tried.wired.figures.first()?.value,
            f3_hz: tried.edges().edges[0],
            wave_db: there.inside.and(Some(worst(&tried, there).map_or(0.0, |w| w.2))),
            level_db: tried.curves().level_db.clone(),
            changes,
        })
    };
    let set = |value: Value| vec![Change::set(fill_at.clone(), value)];
    let schools = [
        school("none", "None".into(), 0.0, set(serde_json::json!({"kind": "none"})), lies(Value::Null, "everywhere")),
        school("lined", format!("Lined, {}", mm(40.0)), lined, set(stuff(lined)), lies(lining, "walls")),
        school("half", "Half, in the middle".into(), 0.5, set(stuff(0.5)), lies(Value::Null, "middle")),
        school("full", "Full".into(), 1.0, set(stuff(1.0)), lies(Value::Null, "everywhere")),
    ];
    Some(Fills {
        now,
        schools_of: format!("{}, {density:.0} kg/m3", of.info().title),
        frequency_hz: frequencies,
        schools: schools.into_iter().flatten().collect(),
    })
}
