//! Whether a port fits: the longest one the inside takes, what must stay free, what its flange stands against.

use crate::analysis::Analysis;
use crate::analysis::inside::{Shell, chamber_of};
use crate::analysis::spots::port_spot;
use oak_drum_acoustics::families::{Chamber, PortReport};
use oak_drum_acoustics::port::{Face, Port, Section};
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::FRAC_PI_2;

/// Wood that should stay between two holes, mm (common practice).
const BETWEEN: f64 = 10.0;

/// Whether a port fits.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Fit {
    /// Whether every check is passed.
    pub fits: bool,
    /// Longest port of this opening and course, along its centre line, mm; 0 where none goes in.
    pub room_mm: f64,
    /// The same with 0, 1, 2 and 3 elbows, mm.
    pub room_by_elbows_mm: [f64; 4],
    /// What was looked at.
    pub checks: Vec<Check>,
    /// Whether the inside is assumed (3 : 4 : 3.5 with 18 mm boards) since no cabinet is stated.
    pub assumed: bool,
}

/// A port's course inside the box, seen across its bends, mm: along the direction it starts in (0 at the wall's inner face)
/// and along the one it turns into (0 at the wall it lies next to).
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Course {
    /// Inside size along and across.
    pub inside_mm: [f64; 2],
    /// Thickness of the wall it goes through.
    pub through_mm: f64,
    /// Its centre line, from the outer end to the inner one, with square corners.
    pub line_mm: Vec<[f64; 2]>,
    /// Its size across, walls counted.
    pub outside_mm: f64,
    /// What stays free beyond its inner end.
    pub free_mm: f64,
    /// Whether it starts at the baffle, and turns up: the picture is then the box in section as elsewhere.
    pub from_baffle: bool,
}

/// Where the middle of a port's first opening stands on its face, mm from two of the inside walls; `None` where nothing says so
/// yet (a port in a box that is not drawn, or from chamber to chamber).
pub fn stands(analysis: &Analysis, report: &PortReport) -> Option<[f64; 2]> {
    if !report.outside {
        return None;
    }
    if let Some(cabinet) = &analysis.design.cabinet {
        let before = analysis.wired.ports.iter().take_while(|p| p.pointer != report.pointer);
        let k = before.filter(|p| p.outside).map(|p| p.port.count as usize).sum();
        let (spot, _) = port_spot(&analysis.wired, cabinet, report, 0, k);
        return (spot.face == report.port.leaves)
            .then_some([spot.across_mm - cabinet.panel_mm, spot.up_mm - cabinet.panel_mm]);
    }
    let inside = chamber_of(analysis, report)?.inside.filter(|_| report.port.leaves == Face::Baffle)?;
    Some([inside.opening_across_mm, inside.opening_up_mm])
}

/// How a port turns: the inside size in the direction it turns into, its middle's distance from the wall it turns away from, and
/// whether that direction is up from the floor.
///
/// Of the two directions it takes the one with the longer way to the wall. One whose place is not known lies along a wall.
fn turn(shell: &Shell, leaves: Face, outside: f64, stands: Option<[f64; 2]>) -> (f64, f64, bool) {
    let axis = leaves.axis();
    // a face's coordinates: across, then up (of top and floor: behind the baffle)
    let axes = match axis {
        0 => [2, 1],
        1 => [0, 2],
        _ => [0, 1],
    };
    let half = outside / 2.0;
    let ways = [0, 1].map(|j| {
        let side = shell.inside[axes[j]];
        let at = stands.map_or(half, |s| s[j]).clamp(half.min(side / 2.0), (side - half).max(side / 2.0));
        (side, at.min(side - at), axes[j] == 1 && at <= side - at)
    });
    if ways[0].0 - ways[0].1 > ways[1].0 - ways[1].1 { ways[0] } else { ways[1] }
}

/// The course of a port of this length (mm) whose middle stands at `stands` on its face.
pub fn course(shell: &Shell, port: &Port, length: f64, stands: Option<[f64; 2]>) -> Course {
    let axis = port.leaves.axis();
    let along = shell.inside[axis];
    let through = shell.wall(port.leaves);
    let outside = size_across(port.section, port.wall_mm);
    let bend = saved(port.section, outside);
    let straight = port.elbows == 0 || length <= through + along - outside / 2.0;
    let (other, start, up) = if straight {
        let other = if axis == 1 { shell.inside[2] } else { shell.inside[1] };
        (other, stands.map_or(outside / 2.0, |s| s[1]), true)
    } else {
        turn(shell, port.leaves, outside, stands)
    };
    // corners in turn, then the end where the length is used up
    let corners = [
        [along - outside / 2.0, start],
        [along - outside / 2.0, other - outside / 2.0],
        [outside / 2.0, other - outside / 2.0],
    ];
    let ways = [[1.0, 0.0], [0.0, 1.0], [-1.0, 0.0], [0.0, -1.0]];
    let mut line = vec![[-through, start]];
    let mut left = length;
    let elbows = port.elbows.min(3) as usize;
    for (leg, way) in ways.iter().enumerate().take(elbows + 1) {
        let from = line[line.len() - 1];
        let whole = corners.get(leg).map_or(f64::INFINITY, |c| (c[0] - from[0]).abs() + (c[1] - from[1]).abs());
        let last = leg == elbows || left <= whole;
        let run = if last { left.max(0.0) } else { whole };
        line.push([from[0] + way[0] * run, from[1] + way[1] * run]);
        left += bend - run;
        if last {
            break;
        }
    }
    Course {
        inside_mm: [along, other],
        through_mm: through,
        line_mm: line,
        outside_mm: outside,
        free_mm: port.section.clearance() * 1e3,
        from_baffle: port.leaves == Face::Baffle && up,
    }
}

/// What a bend saves against square corners, mm: the centre line of an elbow has the tube's outside size for its radius; a slot's
/// boards meet square.
fn saved(section: Section, outside: f64) -> f64 {
    if matches!(section, Section::Round { .. }) { (2.0 - FRAC_PI_2) * outside } else { 0.0 }
}

/// Size (mm) of a port across its bends, walls counted: a slot turns along the wall opposite, its board on the near side.
fn size_across(section: Section, wall: f64) -> f64 {
    match section {
        Section::Slot { height_mm, .. } => height_mm,
        Section::Triangle { .. } => section.clearance() * 1e3 + wall,
        _ => section.size().1 * 1e3 + 2.0 * wall,
    }
}

/// One thing that was looked at.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Check {
    /// Stable name.
    pub id: String,
    /// Whether it is passed.
    pub passed: bool,
    /// What there is, mm.
    pub figure_mm: f64,
    /// What it is held against, mm.
    pub limit_mm: f64,
    /// In words.
    pub sentence: Text,
}

/// Longest port along its centre line with so many elbows, mm, its middle standing at `stands` on its face.
///
/// The inner end keeps one diameter (or slot height) of clearance. A bend turns along the far wall, away from the nearer wall,
/// then back, then in again; an elbow's centre line has the tube's outside size for its radius, so each saves (2 - π/2) radii
/// against square corners.
pub fn room(shell: &Shell, port: &Port, stands: Option<[f64; 2]>, elbows: u32) -> f64 {
    let along = shell.inside[port.leaves.axis()];
    let through = shell.wall(port.leaves);
    let outside = size_across(port.section, port.wall_mm);
    let free = port.section.clearance() * 1e3;
    let bend = saved(port.section, outside);
    let (other, start, _) = turn(shell, port.leaves, outside, stands);
    // from the port's middle to the wall it turns toward
    let reach = other - start;
    let first = through + along - outside / 2.0;
    let length = match elbows {
        0 => through + along - free,
        1 => first + (reach - free) - bend,
        2 => first + (reach - outside / 2.0) + (along - outside / 2.0 - free) - 2.0 * bend,
        _ => first + (reach - outside / 2.0) + (along - outside) + (reach - 1.5 * outside - free) - 3.0 * bend,
    };
    // an elbow needs room for itself: two tubes side by side, three for the third
    let segments = f64::from(elbows.max(1));
    let possible = elbows == 0 || (reach > outside * (segments - 0.5) && along > outside * segments);
    if possible { length.max(0.0) } else { 0.0 }
}

/// Outside diameter of the woofer's frame, mm, and whether it is an estimate from the cone's area.
pub fn frame(analysis: &Analysis) -> (f64, bool) {
    let cone = 2.0 * (analysis.woofer.ts.sd / std::f64::consts::PI).sqrt() * 1e3;
    analysis.design.woofer.outside_diameter_mm.map_or((cone * 1.22, true), |d| (d, false))
}

/// Looks at everything known about where the port goes.
pub fn fit(analysis: &Analysis, report: &PortReport, chamber: Option<&Chamber>, shell: &Shell) -> Fit {
    let port = &report.port;
    let length = report.realised.length * 1e3;
    let stands = stands(analysis, report);
    let by_elbows = [0, 1, 2, 3].map(|elbows| room(shell, port, stands, elbows));
    let room = by_elbows[port.elbows.min(3) as usize];
    let mut checks = Vec::new();
    let mut check = |id: &str, passed: bool, figure: f64, limit: f64, sentence: String| {
        checks.push(Check { id: id.into(), passed, figure_mm: figure, limit_mm: limit, sentence: sentence.into() });
    };
    let free = port.section.clearance() * 1e3;
    let unit = match port.section {
        Section::Slot { .. } => "one slot height",
        Section::Round { .. } => "one diameter",
        _ => "one side",
    };
    let course = match port.elbows {
        0 => "a straight one".to_owned(),
        1 => "one with an elbow".to_owned(),
        n => format!("one with {n} elbows"),
    };
    let words = format!(
        "{length:.0} long; there is room for {room:.0}, {course}, with {unit} ({free:.0}) free at its inner end",
        length = mm(length),
        room = mm(room),
        free = mm(free)
    );
    check("length", length <= room + 0.6, length, room, words);

    let (w, h) = port.section.size();
    let (w, h) = (w * 1e3, h * 1e3);
    let axis = port.leaves.axis();
    let mut wall = [shell.inside[(axis + 1) % 3], shell.inside[(axis + 2) % 3]];
    wall.sort_by(|a, b| b.total_cmp(a));
    let (long, short) = (w.max(h), w.min(h));
    let words =
        format!("the opening is {sides:.0}; the wall inside is {:.0}", mm([wall[0], wall[1]]), sides = mm([w, h]));
    check("opening", long <= wall[0] && short <= wall[1], long, wall[0], words);

    let (hole, flange) = port.fitting();
    let (hole, flange) = (hole * 1e3, flange.map(|f| f * 1e3));
    if matches!(port.section, Section::Round { .. }) {
        let wide = flange.unwrap_or(hole);
        let part = if flange.is_some() { "flange" } else { "hole" };
        let cells = |size: f64| {
            ((wall[0] + BETWEEN) / (size + BETWEEN)).floor() * ((wall[1] + BETWEEN) / (size + BETWEEN)).floor()
        };
        let words = format!(
            "{} of {wide:.0} across on a wall of {:.0}",
            counted(port.count, part),
            mm([wall[0], wall[1]]),
            wide = mm(wide)
        );
        check("flange", cells(wide) >= f64::from(port.count), wide, wall[1], words);
    }
    if port.leaves == Face::Baffle && port.count == 1 {
        let (frame, estimated) = frame(analysis);
        let frame_words =
            format!("frame {frame:.0}{}", if estimated { ", an estimate" } else { "" }, frame = mm(frame));
        let reach = flange.unwrap_or(hole) / 2.0;
        if let Some(inside) = chamber.and_then(|c| c.inside) {
            let apart =
                (inside.woofer_across_mm - inside.opening_across_mm).hypot(inside.woofer_up_mm - inside.opening_up_mm);
            let needed = if matches!(port.section, Section::Round { .. }) {
                frame / 2.0 + reach + BETWEEN
            } else {
                frame / 2.0 + h / 2.0 + BETWEEN
            };
            let words = format!(
                "middles of woofer and port are {apart:.0} apart; {frame_words}, flange or hole and {BETWEEN:.0} of wood need {needed:.0}",
                apart = mm(apart),
                BETWEEN = mm(BETWEEN),
                needed = mm(needed)
            );
            check("neighbour", apart >= needed, apart, needed, words);
            if matches!(port.section, Section::Round { .. }) {
                let edge = inside
                    .opening_across_mm
                    .min(inside.width_mm - inside.opening_across_mm)
                    .min(inside.opening_up_mm)
                    .min(inside.height_mm - inside.opening_up_mm);
                let tube = w / 2.0 + port.wall_mm;
                let words = format!(
                    "the tube's middle is {edge:.0} from the nearest wall inside; its half is {tube:.0}",
                    edge = mm(edge),
                    tube = mm(tube)
                );
                check("edge", edge >= tube, edge, tube, words);
            }
        } else if analysis.design.array.count == 1 {
            let (wide, high) = (shell.inside[0] + 2.0 * shell.panel, shell.inside[1] + 2.0 * shell.panel);
            let other =
                if matches!(port.section, Section::Round { .. }) { 2.0 * reach } else { short + 2.0 * port.wall_mm };
            let needed = frame + other + BETWEEN;
            // in a corner-to-corner arrangement the middles lie on the diagonal between the two inscribed circles
            let (a, b) = (frame / 2.0, other / 2.0);
            let apart = if matches!(port.section, Section::Round { .. }) {
                (wide - a - b).max(0.0).hypot((high - a - b).max(0.0)) + a + b
            } else {
                high.max(wide)
            };
            let words = format!(
                "{frame_words}, port {other:.0} and {BETWEEN:.0} of wood need {needed:.0}; the baffle gives {apart:.0}",
                other = mm(other),
                BETWEEN = mm(BETWEEN),
                needed = mm(needed),
                apart = mm(apart)
            );
            check("neighbour", apart >= needed && frame <= wide.min(high), needed, apart, words);
        }
    }
    Fit {
        fits: checks.iter().all(|c| c.passed),
        room_mm: room,
        room_by_elbows_mm: by_elbows,
        checks,
        assumed: shell.assumed,
    }
}

fn counted(count: u32, what: &str) -> String {
    if count == 1 { format!("a {what}") } else { format!("{count} {what}s") }
}
