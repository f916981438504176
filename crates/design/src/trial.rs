//! Trying a remedy: whether the changed design may stand, what of the cabinet moves along with it, and what it breaks.
//!
//! A remedy that changes what stands in a cabinet takes the cabinet along: the outside is solved for the volume that is then
//! wanted, the places on its faces and the braces go with it. One that would still leave parts in each other, or more than
//! 0.5 % of the volume missing, is not offered; other things it breaks are said.

use crate::analysis::Analysis;
use crate::analysis::dimensions::fitted;
use crate::analysis::folding::can_fold;
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::families::inside::Inside;
use oak_drum_acoustics::port::Face;
use oak_drum_document::{Brace, Cabinet, Change, Checked, Constraint, Design, Lies, Prices, Shape, Spot, Ties};
use oak_drum_text::mm;
use serde_json::Value;
use std::sync::OnceLock;

/// By how much a volume may be off the wanted one, as a share.
const OFF: f64 = 0.005;

/// One thing that stands in a design's way.
#[derive(Clone, Debug, PartialEq)]
pub enum Trouble {
    /// Two things that are in each other.
    Clash(String),
    /// What else cannot be built, in words.
    Unbuildable(&'static str),
}

/// A station's look at what cannot be built.
pub type Probe = fn(&Analysis) -> Vec<Trouble>;

/// A design before the rules, with the probes that say what a remedy must not break.
pub struct Case<'a> {
    analysis: &'a Analysis,
    probes: &'static [Probe],
    /// What things cost where it is built.
    pub prices: Prices,
    troubles: OnceLock<Troubles>,
}

impl std::ops::Deref for Case<'_> {
    type Target = Analysis;
    fn deref(&self) -> &Analysis {
        self.analysis
    }
}

impl<'a> Case<'a> {
    /// A design worked out, and what is asked of every remedy; nothing has a price.
    pub fn new(analysis: &'a Analysis, probes: &'static [Probe]) -> Case<'a> {
        Case { analysis, probes, prices: Prices::default(), troubles: OnceLock::new() }
    }

    /// The same at these prices.
    pub fn at_prices(self, prices: Prices) -> Case<'a> {
        Case { prices, ..self }
    }

    /// What stands in the design's way as it is.
    fn troubles(&self) -> &Troubles {
        self.troubles.get_or_init(|| Troubles::of(self.analysis, self.probes))
    }

    /// What stands in the way of another design.
    fn troubles_of(&self, other: &Analysis) -> Troubles {
        Troubles::of(other, self.probes)
    }
}

/// What stands in a design's way.
#[derive(Clone, Debug, Default, PartialEq)]
struct Troubles {
    /// Pairs of things that are in each other.
    clashes: Vec<String>,
    /// What else cannot be built, in words.
    said: Vec<&'static str>,
    /// By how much the cabinet's volume is off the wanted one, as a share.
    off: f64,
    /// Whether a path is folded into it: before it is, nothing in it has a place.
    folded: bool,
}

impl Troubles {
    /// What stands in a design's way now.
    fn of(analysis: &Analysis, probes: &[Probe]) -> Troubles {
        let mut list = Troubles { folded: matches!(analysis.fold, Some(Ok(_))), ..Troubles::default() };
        if analysis.design.cabinet.is_some()
            && let Some(ledger) = analysis.ledger.as_ref().filter(|_| !can_fold(&analysis.design.enclosure))
        {
            list.off = (ledger.net_l / ledger.wanted_net_l - 1.0).abs();
        }
        for trouble in probes.iter().flat_map(|probe| probe(analysis)) {
            match trouble {
                Trouble::Clash(pair) => list.clashes.push(pair),
                Trouble::Unbuildable(what) => list.said.push(what),
            }
        }
        if matches!(analysis.fold, Some(Err(_))) {
            list.said.push("the path cannot be folded so");
        }
        list
    }

    /// Whether parts are in each other that were not before, or the volume is off as it was not before.
    fn broken_against(&self, before: &Troubles) -> bool {
        let off = self.off > OFF && self.off > before.off + OFF;
        off || (self.folded == before.folded && self.clash_against(before))
    }

    fn clash_against(&self, before: &Troubles) -> bool {
        self.clashes.iter().any(|clash| !before.clashes.contains(clash))
    }

    /// What cannot be built that could before.
    fn said_against(&self, before: &Troubles) -> Vec<&'static str> {
        let mut list: Vec<_> = self.said.iter().copied().filter(|what| !before.said.contains(what)).collect();
        if self.folded != before.folded && self.clash_against(before) {
            list.push("parts are still in each other there");
        }
        list
    }
}

/// A remedy that was tried.
pub struct Tried {
    /// Its changes, with what moves along.
    pub changes: Vec<Change>,
    /// The design then, worked out.
    pub after: Analysis,
    /// What it breaks, in words.
    pub breaks: Vec<&'static str>,
    /// The outside of a cabinet that moves along, in words.
    pub moved: Option<String>,
}

/// The changed document, where it may stand.
fn changed(analysis: &Analysis, changes: &[Change]) -> Option<Checked> {
    oak_drum_document::read_current(analysis.changed(changes)).ok()
}

/// Whether changes can be built just as they are: nothing has to move along, nothing is broken.
pub fn stands_as_is(case: &Case, changes: &[Change]) -> bool {
    let Some(after) = changed(case, changes).as_ref().map(Analysis::on_trial) else { return false };
    let (before, now) = (case.troubles(), case.troubles_of(&after));
    !now.broken_against(before) && now.said_against(before).is_empty()
}

/// Tries changes; `None` where the changed design may not stand, would leave parts in each other or litres missing whatever
/// moves along, or does not do what it is tried for. `first` is the changed design where it is worked out already. Sizes and
/// places are looked at before anything is computed.
pub fn try_out(
    case: &Case,
    changes: Vec<Change>,
    first: Option<Analysis>,
    does: &dyn Fn(&Analysis) -> bool,
) -> Option<Tried> {
    let stands = changed(case, &changes);
    let Some(cabinet) = &case.design.cabinet else {
        // an inside that is stated grows with its chamber
        let (changes, design) = match stands {
            Some(design) => (changes, design),
            None => {
                let grown = grown_inside(case, changes);
                let design = changed(case, &grown)?;
                (grown, design)
            }
        };
        let after = Analysis::on_trial(&design);
        let breaks = case.troubles_of(&after).said_against(case.troubles());
        return does(&after).then_some(Tried { changes, after, breaks, moved: None });
    };
    let mut second: Option<Tried> = None;
    if let Some(after) = stands.as_ref().map(|design| first.unwrap_or_else(|| Analysis::on_trial(design))) {
        if same_geometry(case, &after) {
            return does(&after).then_some(Tried { changes, after, breaks: Vec::new(), moved: None });
        }
        let (before, now) = (case.troubles(), case.troubles_of(&after));
        if !now.broken_against(before) && does(&after) {
            let breaks = now.said_against(before);
            let tried = Tried { changes: changes.clone(), after, breaks, moved: None };
            if tried.breaks.is_empty() {
                return Some(tried);
            }
            second = Some(tried);
        }
    }
    let before = case.troubles();
    for way in ways(cabinet, &changes, case) {
        let Some(all) = along(case, &changes, way) else { continue };
        let Some(design) = changed(case, &all) else { continue };
        let after = Analysis::on_trial(&design);
        let now = case.troubles_of(&after);
        let breaks = now.said_against(before);
        let worse = now.broken_against(before) || (second.is_some() && !breaks.is_empty());
        if worse || !does(&after) {
            continue;
        }
        let moved =
            after.design.cabinet.as_ref().map(|c| format!("cabinet {:.0}", mm([c.width_mm, c.height_mm, c.depth_mm])));
        let tried = Tried { changes: all, after, breaks, moved };
        if tried.breaks.is_empty() {
            return Some(tried);
        }
        second = Some(tried);
    }
    second
}

/// The changed design with a cabinet that goes along in its ratio, without a single frequency and not looked at closely: for
/// who searches.
pub fn sketch(analysis: &Analysis, changes: &[Change]) -> Option<Analysis> {
    let follows = analysis.design.cabinet.as_ref().is_some_and(|c| c.held == Constraint::All && c.fold.is_none());
    let changes = if follows {
        along(analysis, changes, Way { held: Constraint::Ratio, usual_places: false, doubled: false })?
    } else {
        changes.to_vec()
    };
    analysis.with(&changes)
}

/// Whether two designs put the same things into the same cabinet.
fn same_geometry(a: &Analysis, b: &Analysis) -> bool {
    let ports = |x: &Analysis| -> Vec<(oak_drum_acoustics::port::Port, f64)> {
        x.wired.ports.iter().map(|p| (p.port.clone(), p.realised.length)).collect()
    };
    let chambers = |x: &Analysis| x.wired.chambers.iter().map(|c| (c.net, c.inside)).collect::<Vec<_>>();
    a.design.cabinet == b.design.cabinet
        && a.design.array == b.design.array
        && a.design.woofer == b.design.woofer
        && a.design.enclosure.info().id == b.design.enclosure.info().id
        && chambers(a) == chambers(b)
        && a.design.enclosure.radiators() == b.design.enclosure.radiators()
        && ports(a) == ports(b)
        && a.fold.as_ref().map(Result::is_ok) == b.fold.as_ref().map(Result::is_ok)
}

/// One way of taking the cabinet along: what follows from the volume, and where the parts then sit.
#[derive(Clone, Copy, Debug)]
struct Way {
    held: Constraint,
    /// Places as usual instead of moved along.
    usual_places: bool,
    /// Twice as high to begin with, for woofers above one another.
    doubled: bool,
}

/// The ways worth trying, the smallest change first; sides the remedy sets itself are left as it sets them.
fn ways(cabinet: &Cabinet, changes: &[Change], analysis: &Analysis) -> Vec<Way> {
    let sets = |field: &str| changes.iter().any(|c| c.pointer == format!("/cabinet/{field}"));
    let way = |held| Way { held, usual_places: false, doubled: false };
    if can_fold(&analysis.design.enclosure) && cabinet.fold.is_some() {
        return Vec::new();
    }
    if matches!(cabinet.shape, Shape::Tube { .. }) {
        return vec![way(Constraint::WidthAndDepth)];
    }
    if cabinet.held != Constraint::All {
        // the cabinet follows by itself; only the places may be in the way
        return vec![Way { held: cabinet.held, usual_places: true, doubled: false }];
    }
    if sets("depth_mm") || sets("height_mm") || sets("width_mm") {
        let mut list = Vec::new();
        for (held, field) in [
            (Constraint::HeightAndDepth, "width_mm"),
            (Constraint::WidthAndDepth, "height_mm"),
            (Constraint::WidthAndHeight, "depth_mm"),
        ] {
            if !sets(field) {
                list.push(way(held));
                list.push(Way { usual_places: true, ..way(held) });
            }
        }
        return list;
    }
    let more = changes.iter().any(|c| c.pointer == "/array/count");
    let mut list = vec![
        way(Constraint::WidthAndHeight),
        way(Constraint::Ratio),
        way(Constraint::WidthAndDepth),
        way(Constraint::HeightAndDepth),
    ];
    list.push(Way { usual_places: true, ..way(Constraint::Ratio) });
    if more {
        list.insert(1, Way { usual_places: true, doubled: true, held: Constraint::WidthAndHeight });
    }
    list
}

/// The changes with a cabinet that goes along, every side in whole millimetres but the last, to a tenth.
fn along(analysis: &Analysis, changes: &[Change], way: Way) -> Option<Vec<Change>> {
    let mut design: Design = serde_json::from_value(analysis.changed(changes)).ok()?;
    let stated = design.cabinet.clone()?;
    if way.doubled
        && let Some(cabinet) = &mut design.cabinet
    {
        cabinet.height_mm *= 2.0;
    }
    let checked = Checked::assembled(design.clone())?;
    let (_, context, _) = Analysis::context_of(&checked);
    let solved = if way.held == stated.held { design.clone() } else { fitted(&design, &context, way.held)? };
    let made = solved.cabinet.as_ref()?;
    let old = [stated.width_mm, stated.height_mm, stated.depth_mm];
    let new = [made.width_mm, made.height_mm, made.depth_mm];
    let grown = [0, 1, 2].map(|i| new[i] / old[i]);
    let mut all = changes.to_vec();
    for (i, field) in ["width_mm", "height_mm", "depth_mm"].into_iter().enumerate() {
        if (new[i] - old[i]).abs() > 1e-6 {
            set(&mut all, format!("/cabinet/{field}"), new[i].into());
        }
    }
    for (field, spots) in [("woofers_at", &stated.woofers_at), ("openings_at", &stated.openings_at)] {
        if spots.is_empty() {
            continue;
        }
        let there = if way.usual_places {
            Value::Null
        } else {
            value(&spots.iter().map(|spot| moved(spot, grown)).collect::<Vec<Spot>>())
        };
        set(&mut all, format!("/cabinet/{field}"), there);
    }
    for (field, spot) in
        [("amplifier/at", stated.amplifier.map(|a| a.at())), ("terminals/at", stated.terminals.map(|t| t.at))]
    {
        if let Some(spot) = spot {
            set(&mut all, format!("/cabinet/{field}"), value(&moved(&spot, grown)));
        }
    }
    if !stated.braces.is_empty() {
        let inside = [stated.inside_mm(), made.inside_mm()];
        let braces: Vec<Brace> = stated.braces.iter().map(|brace| moved_brace(brace, inside)).collect();
        set(&mut all, "/cabinet/braces".into(), value(&braces));
    }
    if let Some((at, inside)) = inside_of(&design.enclosure) {
        let [w, h, d] = made.inside_mm();
        set(&mut all, at.into(), value(&resized(inside, [w, h, d])));
    }
    Some(all)
}

fn value(of: &impl serde::Serialize) -> Value {
    serde_json::to_value(of).unwrap_or_default()
}

/// Sets a place, once.
fn set(changes: &mut Vec<Change>, pointer: String, value: Value) {
    // what goes into a part that another change sets belongs after it
    changes.retain(|c| c.pointer != pointer);
    changes.push(Change { pointer, value });
}

/// A spot on a face of a cabinet whose sides have grown so much.
fn moved(spot: &Spot, [w, h, d]: [f64; 3]) -> Spot {
    let (across, up) = match spot.face {
        Face::Baffle | Face::Back => (w, h),
        Face::Side => (d, h),
        Face::Top | Face::Floor => (w, d),
    };
    Spot { across_mm: (spot.across_mm * across).round(), up_mm: (spot.up_mm * up).round(), ..*spot }
}

/// A brace in an inside that was so large and is now.
fn moved_brace(brace: &Brace, [old, new]: [[f64; 3]; 2]) -> Brace {
    let at = |axis: usize, mm: f64| (mm * new[axis] / old[axis]).round().clamp(1.0, new[axis].max(1.0));
    let mut made = *brace;
    let lie = |lies: Lies| lies.axis();
    match &mut made {
        Brace::Window { lies, at_mm, .. } | Brace::Shelf { lies, at_mm, .. } | Brace::Cross { lies, at_mm, .. } => {
            *at_mm = at(lie(*lies), *at_mm);
        }
        Brace::Dowel { ties, at_mm, and_mm, .. } => {
            let (a, b) = match ties {
                Ties::Sides => (2, 1),
                Ties::FrontAndBack => (0, 1),
                Ties::FloorAndTop => (0, 2),
            };
            (*at_mm, *and_mm) = (at(a, *at_mm), at(b, *and_mm));
        }
    }
    made
}

/// The stated inside of a family with one chamber, with its place in the design.
fn inside_of(enclosure: &Enclosure) -> Option<(&'static str, Inside)> {
    let inside = *enclosure.clone().one_chamber()?.1;
    inside.map(|inside| ("/enclosure/inside", inside))
}

/// An inside with other sides (mm), the places in it moved along.
fn resized(inside: Inside, [w, h, d]: [f64; 3]) -> Inside {
    let (x, y, z) = (w / inside.width_mm, h / inside.height_mm, d / inside.depth_mm);
    let whole = |mm: f64| mm.round();
    Inside {
        width_mm: whole(w),
        height_mm: whole(h),
        depth_mm: whole(d),
        woofer_across_mm: whole(inside.woofer_across_mm * x).min(whole(w)),
        woofer_up_mm: whole(inside.woofer_up_mm * y).min(whole(h)),
        opening_across_mm: whole(inside.opening_across_mm * x).min(whole(w)),
        opening_up_mm: whole(inside.opening_up_mm * y).min(whole(h)),
        opening_behind_mm: whole(inside.opening_behind_mm * z).min(whole(d)),
        ..inside
    }
}

/// The changes with a stated inside that grows in its ratio with the chamber.
fn grown_inside(analysis: &Analysis, mut changes: Vec<Change>) -> Vec<Change> {
    let volume = changes.iter().find(|c| c.pointer == "/enclosure/net_volume_l").and_then(|c| c.value.as_f64());
    let now = analysis.wired.chambers.first().map(|c| c.net * 1e3);
    if let Some(((at, inside), (wanted, now))) = inside_of(&analysis.design.enclosure).zip(volume.zip(now)) {
        let k = (wanted / now).cbrt();
        let sides = [inside.width_mm * k, inside.height_mm * k, inside.depth_mm * k].map(f64::ceil);
        let made = resized(inside, sides);
        set(&mut changes, at.into(), value(&made));
    }
    changes
}
