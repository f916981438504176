//! Panels of the cabinet with their braces: lowest frequencies, and where braces do most.

use crate::analysis::Analysis;
use crate::analysis::inside::Shell;
use crate::analysis::solids::solids;
use crate::cabinet::built_cabinet::built;
use oak_drum_acoustics::panels::{BoardMaterial, Edges, Hold, Plate, laminate, lowest_frequency};
use oak_drum_cabinet::board::Role;
use oak_drum_document::{Brace, Cabinet, Change, Lies, Ties};
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The panels of a cabinet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Panels {
    /// Baffle, back, one side for both, floor for top and floor.
    pub panels: Vec<Panel>,
    /// What the lowest frequency is wanted above, Hz: the band times the factor the cabinet asks for.
    pub wanted_hz: f64,
    /// Boards, braces and baffle together, kg.
    pub weight_kg: f64,
    /// One, two and three window braces where they do most, in place of those there are.
    pub plans: Vec<BracePlan>,
    /// Where the boards' figures come from.
    pub sources: Vec<String>,
}

/// One panel (or two alike).
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Panel {
    /// Stable name.
    pub id: String,
    /// In words.
    pub title: String,
    /// Sides inside, mm: the level one first.
    pub sides_mm: [f64; 2],
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// What it is made of.
    pub board: String,
    /// Loss factor of bending.
    pub loss: f64,
    /// Lowest frequency with edges free to turn, Hz.
    pub supported_hz: f64,
    /// Lowest frequency with edges clamped, Hz.
    pub clamped_hz: f64,
    /// Between the two, where glued edges come to lie: their geometric mean (an estimate), Hz.
    pub between_hz: f64,
    /// Whether that clears the band by the factor wanted.
    pub clears: bool,
    /// Where braces hold it: lines and points as shares of the sides, level first.
    pub holds: Vec<PanelHold>,
}

/// A line or a point a brace holds a panel at, as shares of its sides.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PanelHold {
    /// Share of the level side; absent for a level line.
    pub across: Option<f64>,
    /// Share of the other side; absent for an upright line.
    pub up: Option<f64>,
}

/// Braces where they do most.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct BracePlan {
    /// In words: "a window 290 mm up".
    pub title: Text,
    /// The lowest panel then, between clamped and supported, Hz.
    pub lowest_hz: f64,
    /// Which panel that is.
    pub lowest_panel: String,
    /// Whether every panel then clears the band.
    pub clears: bool,
    /// What the braces take, L.
    pub litres: f64,
    /// What they weigh, kg.
    pub weight_kg: f64,
    /// The changes that make it so.
    pub changes: Vec<Change>,
}

/// A panel before anything is computed.
struct Sheet {
    id: &'static str,
    title: &'static str,
    /// Directions its sides lie in: 0 across, 1 up, 2 behind.
    axes: [usize; 2],
    layers: Vec<(BoardMaterial, f64)>,
}

fn sheets(cabinet: &Cabinet) -> Vec<Sheet> {
    let mut layers = vec![(cabinet.board, cabinet.panel_mm * 1e-3)];
    if let Some(inner) = &cabinet.inner_layer {
        let thick = inner.thickness_mm.min(cabinet.panel_mm) * 1e-3;
        layers = vec![(cabinet.board, cabinet.panel_mm * 1e-3 - thick), (inner.board, thick)];
    }
    let baffle = vec![(cabinet.baffle_board.unwrap_or(cabinet.board), cabinet.baffle_mm * 1e-3)];
    vec![
        Sheet { id: "baffle", title: "Baffle, as if whole", axes: [0, 1], layers: baffle },
        Sheet { id: "back", title: "Back", axes: [0, 1], layers: layers.clone() },
        Sheet { id: "sides", title: "Sides", axes: [2, 1], layers: layers.clone() },
        Sheet { id: "floor", title: "Floor and top", axes: [0, 2], layers },
    ]
}

/// Where a brace holds a panel, as shares of its sides.
fn holds(cabinet: &Cabinet, sheet: &Sheet) -> Vec<Hold> {
    let inside = cabinet.inside_mm();
    let share = |axis: usize, at: f64| at / inside[axis];
    let [x, y] = sheet.axes;
    let line = |axis: usize, at: f64| {
        if axis == x {
            Some(Hold::Upright(share(axis, at)))
        } else if axis == y {
            Some(Hold::Level(share(axis, at)))
        } else {
            None
        }
    };
    let mut list = Vec::new();
    for brace in &cabinet.braces {
        match *brace {
            Brace::Window { lies, at_mm, .. } => list.extend(line(lies.axis(), at_mm)),
            Brace::Shelf { lies, at_mm, reach_part, .. } => {
                // the wall it does not reach stays free; those it runs along are held at points along its reach
                let (from, free) = if lies == Lies::Frontal { (1, "top") } else { (2, "baffle") };
                let Some(whole) = line(lies.axis(), at_mm) else { continue };
                if sheet.axes.contains(&from) {
                    for k in 0..5 {
                        let along = (f64::from(k) + 0.5) / 5.0 * reach_part;
                        // it begins at the back, or at the floor
                        let along = if from == 2 { 1.0 - along } else { along };
                        list.push(match whole {
                            Hold::Upright(s) => Hold::Point(s, along),
                            Hold::Level(s) => Hold::Point(along, s),
                            point @ Hold::Point(..) => point,
                        });
                    }
                } else if sheet.id != free {
                    list.push(whole);
                }
            }
            Brace::Cross { lies, at_mm, .. } => {
                list.extend(line(lies.axis(), at_mm).map(|whole| match whole {
                    Hold::Upright(s) => Hold::Point(s, 0.5),
                    Hold::Level(s) => Hold::Point(0.5, s),
                    point @ Hold::Point(..) => point,
                }));
            }
            Brace::Dowel { ties, at_mm, and_mm, .. } => {
                let (which, axes): (&[&str], [usize; 2]) = match ties {
                    Ties::Sides => (&["sides"], [2, 1]),
                    Ties::FrontAndBack => (&["baffle", "back"], [0, 1]),
                    Ties::FloorAndTop => (&["floor"], [0, 2]),
                };
                if which.contains(&sheet.id) {
                    list.push(Hold::Point(share(axes[0], at_mm), share(axes[1], and_mm)));
                }
            }
        }
    }
    list
}

fn size(cabinet: &Cabinet, sheet: &Sheet) -> [f64; 2] {
    let inside = cabinet.inside_mm();
    sheet.axes.map(|axis| inside[axis].max(1.0) * 1e-3)
}

/// The longest stretch between lines held, as a share of the side.
fn stretch(mut lines: Vec<f64>) -> f64 {
    lines.extend([0.0, 1.0]);
    lines.sort_by(f64::total_cmp);
    lines.windows(2).map(|pair| pair[1] - pair[0]).fold(0.0, f64::max)
}

/// λ of the lowest bending wave of a beam of 1, 2, … equal spans, its ends clamped (λ = π with supported ends), and the
/// coefficient of its slopes; the tables of continuous beams (Blevins, *Formulas for Natural Frequency and Mode Shape*, table
/// 8-9; Warburton 1954; from memory).
const SPANS: [(f64, f64); 5] = [(4.730, 12.30), (3.927, 11.51), (3.557, 11.0), (3.393, 10.7), (3.310, 10.5)];

/// The frequency between clamped and supported of a panel held on lines, Hz, as if they were spread evenly at the widest
/// distance there is; points are left out.
///
/// Warburton's formula, ω² = D/m''·(λa⁴/a⁴ + λb⁴/b⁴ + 2·Ka·Kb/(a²b²)) of one field between lines: exact for supported edges,
/// within some 3 % of the fuller reckoning for clamped ones.
fn quick(plate: &Plate, [a, b]: [f64; 2], holds: &[Hold]) -> f64 {
    let uprights: Vec<f64> =
        holds.iter().filter_map(|h| if let Hold::Upright(s) = h { Some(*s) } else { None }).collect();
    let levels: Vec<f64> = holds.iter().filter_map(|h| if let Hold::Level(s) = h { Some(*s) } else { None }).collect();
    let spans = |lines: usize| SPANS[lines.min(SPANS.len() - 1)];
    let ((la, ka), (lb, kb)) = (spans(uprights.len()), spans(levels.len()));
    let (a, b) = (a * stretch(uprights), b * stretch(levels));
    let (p, q) = (1.0 / (a * a), 1.0 / (b * b));
    let supported = std::f64::consts::PI.powi(2) * (p + q);
    let clamped = (la.powi(4) * p * p + lb.powi(4) * q * q + 2.0 * ka * kb * p * q).sqrt();
    (supported * clamped).sqrt() / std::f64::consts::TAU * (plate.stiffness / plate.mass).sqrt()
}

/// (supported, clamped) of a panel as it is held, Hz.
fn bracket(plate: &Plate, [a, b]: [f64; 2], holds: &[Hold]) -> (f64, f64) {
    let of = |edges| lowest_frequency(plate, a, b, edges, holds);
    (of(Edges::Supported), of(Edges::Clamped))
}

/// The panel with the lowest frequency: (id, title, Hz), quickly where only lines hold it.
pub fn lowest_panel(cabinet: &Cabinet) -> Option<(&'static str, &'static str, f64)> {
    sheets(cabinet)
        .iter()
        .map(|sheet| {
            let held = holds(cabinet, sheet);
            let plate = laminate(&sheet.layers);
            let sides = size(cabinet, sheet);
            let points = held.iter().any(|h| matches!(h, Hold::Point(..)));
            let hz = if points {
                let (supported, clamped) = bracket(&plate, sides, &held);
                (supported * clamped).sqrt()
            } else {
                quick(&plate, sides, &held)
            };
            (sheet.id, sheet.title, hz)
        })
        .min_by(|a, b| a.2.total_cmp(&b.2))
}

/// The frequency (Hz) the panels should stay above.
pub fn wanted(analysis: &Analysis, cabinet: &Cabinet) -> f64 {
    analysis.design.brief.plays_to() * cabinet.clear_by
}

/// The opening (m²) a brace should leave: the area of all ports twice over, and half of the cones' (common practice).
pub fn opening_wanted(analysis: &Analysis) -> f64 {
    let ports: f64 = analysis.wired.ports.iter().map(|p| p.realised.area).sum();
    (2.0 * ports).max(0.5 * analysis.context.array.cone_area())
}

/// The open part of a window across the inside that leaves the air enough, rounded up to a twentieth; at most three quarters.
fn open_part(analysis: &Analysis, cabinet: &Cabinet, lies: Lies) -> f64 {
    let inside = cabinet.inside_mm().map(|side| side * 1e-3);
    let axis = lies.axis();
    let area = inside[(axis + 1) % 3] * inside[(axis + 2) % 3];
    ((opening_wanted(analysis) / area * 20.0).ceil() / 20.0).clamp(0.4, 0.75)
}

/// Braces one after the other, each where it lifts the lowest panel most: (braces, plan).
pub fn plans(analysis: &Analysis, most: usize) -> Vec<BracePlan> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    let shell = Shell::of(analysis);
    let wanted = wanted(analysis, cabinet);
    let inside = Taken::inside(analysis, cabinet);
    let mut list = Vec::new();
    // how many windows lie which way; those of one way are spread evenly
    let mut ways: Vec<[usize; 3]> = vec![[0; 3]];
    for count in 1..=most {
        ways = ways
            .iter()
            .flat_map(|way| {
                (0..3).map(move |axis| {
                    let mut next = *way;
                    next[axis] += 1;
                    next
                })
            })
            .collect();
        ways.sort_unstable();
        ways.dedup();
        let plan = ways
            .iter()
            .filter_map(|way| {
                let mut trial = cabinet.clone();
                trial.braces = windows(analysis, cabinet, &shell, &inside, way)?;
                let (_, title, hz) = lowest_panel(&trial)?;
                Some((trial, title, hz))
            })
            // of equals the first: a level window is the easiest to make
            .fold(None::<(Cabinet, &str, f64)>, |best, next| match best {
                Some(best) if best.2 >= next.2 * 0.999 => Some(best),
                _ => Some(next),
            });
        let Some((trial, title, hz)) = plan else { continue };
        let Ok(braces) = serde_json::to_value(&trial.braces) else { continue };
        let made = solids(&analysis.design, &trial, None, &analysis.wired);
        let litres = (made.of(Role::Brace) + made.of(Role::Dowel)) * 1e-6;
        list.push(BracePlan {
            title: in_words(&trial.braces).into(),
            lowest_hz: hz,
            lowest_panel: title.into(),
            clears: hz >= wanted,
            litres,
            weight_kg: litres * trial.board.info().density * 1e-3,
            changes: vec![Change::set("/cabinet/braces", braces)],
        });
        debug_assert_eq!(trial.braces.len(), count);
    }
    list
}

/// What already stands inside: boxes around it, mm from the inside corner.
struct Taken(Vec<[[f64; 3]; 2]>);

impl Taken {
    fn inside(analysis: &Analysis, cabinet: &Cabinet) -> Taken {
        let corner = [cabinet.panel_mm, cabinet.panel_mm, cabinet.baffle_mm];
        let mounted_parts = built(analysis).map_or_else(Vec::new, |b| b.mounted_parts);
        let bodies = mounted_parts.iter().flat_map(|mounted_part| mounted_part.bodies());
        Taken(bodies.map(|body| body.extent().map(|p| [0, 1, 2].map(|i| p[i] - corner[i]))).collect())
    }

    /// Whether a window at a place along an axis runs into any of it: what passes through its opening does not count.
    fn meets(&self, inside: [f64; 3], axis: usize, at: f64, thickness: f64, open_part: f64) -> bool {
        const AIR: f64 = 3.0;
        let (low, high) = (at - thickness / 2.0 - AIR, at + thickness / 2.0 + AIR);
        let rim = (1.0 - open_part.sqrt()) / 2.0;
        self.0.iter().any(|[from, to]| {
            let through = [(axis + 1) % 3, (axis + 2) % 3]
                .iter()
                .all(|&i| from[i] > inside[i] * rim + AIR && to[i] < inside[i] * (1.0 - rim) - AIR);
            from[axis] < high && to[axis] > low && !through
        })
    }
}

/// So many windows each way, spread evenly, moved out of the way of what stands inside; `None` where it leaves no room for one.
fn windows(
    analysis: &Analysis,
    cabinet: &Cabinet,
    shell: &Shell,
    taken: &Taken,
    way: &[usize; 3],
) -> Option<Vec<Brace>> {
    let lies = [Lies::Upright, Lies::Level, Lies::Frontal];
    let mut list = Vec::new();
    for axis in [1, 0, 2] {
        for k in 0..way[axis] {
            let even = shell.inside[axis] * (k as f64 + 1.0) / (way[axis] as f64 + 1.0);
            let window = |at: f64| Brace::Window {
                lies: lies[axis],
                at_mm: at.round(),
                thickness_mm: cabinet.panel_mm,
                open_part: open_part(analysis, cabinet, lies[axis]),
            };
            let open = open_part(analysis, cabinet, lies[axis]);
            // the nearest place that is clear, in steps of 5 mm, within a fifth of the side; the magnet wants a little more
            let place = (0..40)
                .flat_map(|step| [f64::from(step) * 5.0, -f64::from(step) * 5.0])
                .filter(|by| by.abs() <= shell.inside[axis] * 0.2)
                .map(|by| even + by)
                .filter(|at| !taken.meets(shell.inside, axis, *at, cabinet.panel_mm, open))
                .find(|at| super::collisions::magnet(analysis, cabinet, &window(*at)).is_none())?;
            list.push(window(place));
        }
    }
    Some(list)
}

fn in_words(braces: &[Brace]) -> String {
    let each: Vec<String> = braces
        .iter()
        .filter_map(|brace| match brace {
            Brace::Window { lies, at_mm, .. } => Some(match lies {
                Lies::Level => format!("level at {at_mm:.0} up", at_mm = mm(*at_mm)),
                Lies::Upright => format!("upright at {at_mm:.0} across", at_mm = mm(*at_mm)),
                Lies::Frontal => format!("along the baffle, {at_mm:.0} behind it", at_mm = mm(*at_mm)),
            }),
            _ => None,
        })
        .collect();
    let count = if each.len() == 1 { "A window".to_owned() } else { format!("{} windows", each.len()) };
    format!("{count}: {}", each.join("; "))
}

/// The panels of a design; `None` without a cabinet.
pub fn panels(analysis: &Analysis) -> Option<Panels> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let wanted_hz = wanted(analysis, cabinet);
    let panels = sheets(cabinet)
        .iter()
        .map(|sheet| {
            let plate = laminate(&sheet.layers);
            let sides = size(cabinet, sheet);
            let held = holds(cabinet, sheet);
            let (supported_hz, clamped_hz) = bracket(&plate, sides, &held);
            let between_hz = (supported_hz * clamped_hz).sqrt();
            Panel {
                id: sheet.id.into(),
                title: sheet.title.into(),
                sides_mm: sides.map(|s| s * 1e3),
                thickness_mm: sheet.layers.iter().map(|l| l.1).sum::<f64>() * 1e3,
                board: sheet.layers.iter().map(|l| l.0.info().title).collect::<Vec<_>>().join(" on "),
                loss: plate.loss,
                supported_hz,
                clamped_hz,
                between_hz,
                clears: between_hz >= wanted_hz,
                holds: held
                    .iter()
                    .map(|h| match *h {
                        Hold::Upright(s) => PanelHold { across: Some(s), up: None },
                        Hold::Level(s) => PanelHold { across: None, up: Some(s) },
                        Hold::Point(s, t) => PanelHold { across: Some(s), up: Some(t) },
                    })
                    .collect(),
            }
        })
        .collect();
    let mut used: Vec<BoardMaterial> = sheets(cabinet).iter().flat_map(|s| s.layers.iter().map(|l| l.0)).collect();
    used.sort_by_key(|b| *b as usize);
    used.dedup();
    Some(Panels {
        panels,
        wanted_hz,
        weight_kg: crate::cabinet::cutting::weight(analysis).unwrap_or(0.0),
        plans: plans(analysis, 3),
        sources: used.iter().map(|b| format!("{}: {}", b.info().title, b.info().source)).collect(),
    })
}
