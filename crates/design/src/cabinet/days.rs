//! A plan of days: what is done when, between work, sleep and drying glue.
//!
//! The steps in their order are laid into the free times, the earliest that may begin first (list scheduling, Graham 1966: good,
//! not always the shortest there is); what waits is filled with what may be done
//! meanwhile. What is done is left out, so that a plan made anew moves with what has slipped.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::cutting::cutting;
use crate::cabinet::labour::{self, Amounts, Labour};
use crate::cabinet::products::{Product, longer};
use crate::cabinet::step::Step;
use crate::cabinet::steps::steps_with;
use chrono::{DateTime, Datelike, Duration, NaiveDate, NaiveDateTime, NaiveTime};
use oak_drum_document::{DayOfWeek, FreeTime, Tick, WorkPlan};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How many days ahead are looked at.
const AHEAD: i64 = 730;
/// Work that can be laid down is not begun for less than this, min.
const SHORTEST: f64 = 15.0;
/// What is spread and closed at one joint, min (common practice).
const JOINT_MIN: f64 = 2.5;

/// What of the work is done in one go.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Sitting {
    /// Stable name of the step.
    pub step: String,
    /// What, in a few words.
    pub title: Text,
    /// Which part of it, and of how many; one of one where it is done in one go.
    pub part: [u32; 2],
    /// When it begins, as 2026-11-28T10:00, in the builder's own time.
    pub from: String,
    /// When it ends.
    pub to: String,
    /// How many people it wants.
    pub hands: u32,
    /// What dries or sets after it; absent where nothing does.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub then: Option<Drying>,
}

/// What dries.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Drying {
    /// What it is.
    pub what: String,
    /// From when on one may go on, in the builder's own time.
    pub next_at: String,
    /// When it is hard.
    pub hard_at: String,
}

/// How long a step takes this builder.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Reckoned {
    /// Stable name of the step.
    pub step: String,
    /// Minutes as they are planned.
    pub minutes: f64,
    /// Where they come from.
    pub by: ReckonedBy,
}

/// Where minutes come from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum ReckonedBy {
    /// Common practice.
    Practice,
    /// The builder's own clocks at other builds.
    Clocks,
    /// What the builder allows.
    Builder,
}

/// What builders' clocks say about a step: what it took over what it was reckoned at.
#[derive(Clone, Debug, PartialEq)]
pub struct Pace {
    /// Stable name of the step.
    pub step: String,
    /// The ratio.
    pub ratio: f64,
}

/// A plan of days.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct DaysPlan {
    /// What is done when.
    pub sittings: Vec<Sitting>,
    /// How long each step takes.
    pub reckoned: Vec<Reckoned>,
    /// When the last of it is done, in the builder's own time; absent where it cannot be told.
    pub done_at: Option<String>,
    /// Working hours that are left.
    pub hours_left: f64,
    /// What has to be minded.
    pub remarks: Vec<Text>,
    /// What could not be judged, since it is not stated.
    pub unknown: Vec<Text>,
}

/// What has to be so before a step begins.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Ready {
    /// One may go on: clamps off.
    Next,
    /// It is hard.
    Hard,
}

/// What is done in one go or laid down in the middle.
struct Job {
    step: usize,
    part: [u32; 2],
    minutes: f64,
    splits: bool,
    hands: u32,
    then: Option<Product>,
    /// Which steps come before it, and how far they have to be.
    needs: Vec<(usize, Ready)>,
}

/// Steps one may take while others wait: after what, and nothing else of what stands before them.
const MEANWHILE: [(&str, &[&str]); 5] = [
    ("measure_parts", &[]),
    ("break_in", &["measure_parts"]),
    ("port", &["measure_parts"]),
    ("paint_port", &["port"]),
    ("drill", &["holes"]),
];
/// Steps that want everything before them hard.
const WANT_HARD: [&str; 8] = ["round_over", "fill_holes", "sand", "veneer", "gaskets", "lid", "woofers_back", "carry"];
/// Steps only what is measured or listened to waits for.
const WAITED_FOR_BY_FEW: [(&str, &[&str]); 1] = [("break_in", &["trim", "leak_test", "carry"])];

fn before(list: &[Step], i: usize, slot: bool) -> Vec<(usize, Ready)> {
    let id = list[i].id.as_str();
    let ready = if WANT_HARD.contains(&id) { Ready::Hard } else { Ready::Next };
    let free = MEANWHILE.iter().find(|m| m.0 == id && !(slot && id == "port"));
    let named = |name: &str| list.iter().position(|s| s.id == name);
    match free {
        Some((_, few)) => few.iter().filter_map(|n| Some((named(n)?, Ready::Next))).collect(),
        None => (0..i)
            .filter(|k| {
                let few = WAITED_FOR_BY_FEW.iter().find(|w| w.0 == list[*k].id);
                few.is_none_or(|(_, by)| by.contains(&id))
            })
            // what is glued up in layers is one board only when it is hard
            .map(|k| (k, if list[k].id == "layers" { Ready::Hard } else { ready }))
            .collect(),
    }
}

fn minutes(value: f64) -> Duration {
    Duration::seconds((value * 60.0).round() as i64)
}

fn told(at: NaiveDateTime) -> String {
    at.format("%Y-%m-%dT%H:%M").to_string()
}

/// A time that is free.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Window {
    from: NaiveDateTime,
    to: NaiveDateTime,
    helper: bool,
}

fn day_of(day: DayOfWeek) -> u32 {
    match day {
        DayOfWeek::Monday => 0,
        DayOfWeek::Tuesday => 1,
        DayOfWeek::Wednesday => 2,
        DayOfWeek::Thursday => 3,
        DayOfWeek::Friday => 4,
        DayOfWeek::Saturday => 5,
        DayOfWeek::Sunday => 6,
    }
}

/// The free times from a moment on; what overlaps is one.
fn windows(free: &[FreeTime], begin: NaiveDateTime) -> Vec<Window> {
    let mut list: Vec<Window> = Vec::new();
    for offset in -1..AHEAD {
        let day = begin.date() + Duration::days(offset);
        for f in free.iter().filter(|f| day_of(f.day) == day.weekday().num_days_from_monday()) {
            let Ok(at) = NaiveTime::parse_from_str(&f.from, "%H:%M") else { continue };
            let from = day.and_time(at);
            let to = from + minutes(f.hours * 60.0);
            if to > begin {
                list.push(Window { from: from.max(begin), to, helper: f.helper });
            }
        }
    }
    list.sort_by_key(|w| (w.from, w.to));
    let mut joined: Vec<Window> = Vec::new();
    for w in list {
        match joined.last_mut() {
            Some(last) if w.from <= last.to && w.helper == last.helper => last.to = last.to.max(w.to),
            Some(last) if w.from < last.to => {
                // two pairs of hands within one: what overlaps is given to the later, what is left after it stays
                let tail = Window { from: w.to, ..*last };
                last.to = w.from;
                joined.push(w);
                joined.extend((tail.to > tail.from).then_some(tail));
            }
            _ => joined.push(w),
        }
    }
    joined.retain(|w| w.to > w.from);
    joined
}

/// The plan, from a moment on in the builder's own time, whose clock is so far ahead of UTC; `None` without a cabinet.
pub fn plan(
    analysis: &Analysis,
    work: &WorkPlan,
    paces: &[Pace],
    now: NaiveDateTime,
    ahead: Duration,
) -> Option<DaysPlan> {
    let days = &work.days;
    let list = steps_with(analysis, days)?;
    let amounts = Amounts::of(analysis, &built(analysis)?, &cutting(analysis)?);
    let labours: Vec<Labour> = list.iter().map(|s| labour::of(&s.id, &amounts, analysis, days)).collect();
    let tick = |s: &Step| work.steps.iter().find(|t| t.step == s.id);
    let reckoned: Vec<Reckoned> = list.iter().map(|s| reckon(s, tick(s), paces)).collect();
    let mut remarks = Vec::new();
    let slow = longer(days.warmth_c);
    let slot =
        analysis.wired.ports.iter().all(|p| !matches!(p.port.section, oak_drum_acoustics::port::Section::Round { .. }));
    let mut state = State::of(&list, &labours, work, slow, ahead);
    let mut jobs = Vec::new();
    for (i, step) in list.iter().enumerate() {
        if tick(step).is_some_and(|t| t.done) {
            continue;
        }
        let (work, minutes) = (&labours[i], reckoned[i].minutes);
        let goes = goes(work, minutes);
        if let (true, Some(product)) = (goes > 1, work.then) {
            remarks.push(too_slow(step, work, product, goes));
        }
        for go in 0..goes {
            jobs.push(Job {
                step: i,
                part: [go + 1, goes],
                minutes: minutes / f64::from(goes),
                splits: work.splits,
                hands: work.hands,
                then: work.then,
                needs: before(&list, i, slot),
            });
        }
    }
    let hours_left = jobs.iter().map(|j| j.minutes).sum::<f64>() / 60.0;
    let mut unknown = Vec::new();
    if days.free.is_empty() {
        unknown.push("When there is time is not stated: without it there is no calendar.".into());
    }
    cold(&list, &labours, work, &mut remarks, &mut unknown);
    let begin =
        NaiveDate::parse_from_str(&days.begins, "%Y-%m-%d").map_or(now, |d| d.and_time(NaiveTime::MIN).max(now));
    let windows = windows(&days.free, begin);
    let sittings = lay(&list, jobs, &mut state, &windows, &mut remarks);
    let ends = sittings.iter().map(|s| s.to.clone()).max();
    let whole = state.left == 0 && !days.free.is_empty();
    if !days.free.is_empty() && state.left > 0 {
        remarks.push(
            format!("{} steps find no place within two years: the free times are too few or too short.", state.left)
                .into(),
        );
    }
    Some(DaysPlan { done_at: if whole { ends } else { None }, sittings, reckoned, hours_left, remarks, unknown })
}

/// How long a step takes: as the builder allows, else as his clocks say, else as it is reckoned.
fn reckon(step: &Step, tick: Option<&Tick>, paces: &[Pace]) -> Reckoned {
    let own = tick.and_then(|t| t.allow_min);
    let pace = paces.iter().find(|p| p.step == step.id);
    let (minutes, by) = match (own, pace) {
        (Some(m), _) => (m, ReckonedBy::Builder),
        (None, Some(p)) => ((step.minutes * p.ratio.clamp(0.2, 5.0)).round(), ReckonedBy::Clocks),
        (None, None) => (step.minutes, ReckonedBy::Practice),
    };
    Reckoned { step: step.id.clone(), minutes: minutes.max(1.0), by }
}

/// In how many goes a step is glued, so that the glue is still open when the clamps close.
fn goes(work: &Labour, minutes: f64) -> u32 {
    let Some(open) = work.then.and_then(|p| p.open_min) else { return 1 };
    let spread = (work.joints * JOINT_MIN).min(minutes);
    (spread / open).ceil().clamp(1.0, 6.0) as u32
}

fn too_slow(step: &Step, work: &Labour, product: Product, goes: u32) -> Text {
    let mut said = step.title.clone();
    said.add(format!(
        ": {:.0} joints take about {:.0} min to spread and close, {} stays open about {:.0}: glued in {goes} goes, clamped between them, or with one that stays open longer.",
        work.joints,
        work.joints * JOINT_MIN,
        product.name,
        product.open_min.unwrap_or(0.0)
    ));
    said
}

/// What the workshop is too cold for.
fn cold(list: &[Step], labours: &[Labour], work: &WorkPlan, remarks: &mut Vec<Text>, unknown: &mut Vec<Text>) {
    let Some(warmth) = work.days.warmth_c else {
        unknown.push("How warm the workshop is is not stated: drying times are those of 20 °C, and whether glue and paint take there was not judged.".into());
        return;
    };
    let open = |s: &Step| !work.steps.iter().any(|t| t.step == s.id && t.done);
    let mut said: Vec<&str> = Vec::new();
    for (_, labour) in list.iter().zip(labours).filter(|(s, _)| open(s)) {
        if let Some(p) = labour.then.filter(|p| warmth < p.least_c && !said.contains(&p.name)) {
            said.push(p.name);
            remarks.push(format!("At {warmth:.0} °C {} does not take: it wants at least {:.0} °C (common practice; the tin comes first). Warm the parts too, not only the air.", p.name, p.least_c).into());
        }
    }
    let slow = longer(Some(warmth));
    if slow > 1.05 {
        remarks.push(format!("At {warmth:.0} °C drying is reckoned {slow:.1} times as long as at 20 °C (twice for ten degrees, an estimate).").into());
    }
}

/// What has come so far: when each step lets others go on, and when it is hard.
struct State {
    next: Vec<Option<NaiveDateTime>>,
    hard: Vec<Option<NaiveDateTime>>,
    waits: Vec<Option<f64>>,
    slow: f64,
    left: usize,
}

impl State {
    /// What is done already counts from when that was.
    fn of(list: &[Step], labours: &[Labour], work: &WorkPlan, slow: f64, ahead: Duration) -> State {
        let long_ago = NaiveDateTime::MIN;
        let mut state = State {
            next: vec![None; list.len()],
            hard: vec![None; list.len()],
            waits: vec![None; list.len()],
            slow,
            left: 0,
        };
        for (i, step) in list.iter().enumerate() {
            let Some(tick) = work.steps.iter().find(|t| t.step == step.id) else { continue };
            state.waits[i] = tick.wait_h;
            if !tick.done {
                continue;
            }
            let at = tick.done_at.as_ref().and_then(|at| DateTime::parse_from_rfc3339(at).ok());
            match at.map(|at| at.naive_utc() + ahead) {
                Some(at) => state.end(i, at, labours[i].then),
                None => (state.next[i], state.hard[i]) = (Some(long_ago), Some(long_ago)),
            }
        }
        state
    }

    fn end(&mut self, i: usize, at: NaiveDateTime, then: Option<Product>) {
        let next = self.waits[i].unwrap_or_else(|| then.map_or(0.0, |p| p.next_h * self.slow));
        let hard = then.map_or(0.0, |p| p.hard_h * self.slow).max(next);
        self.next[i] = Some(at + minutes(next * 60.0));
        self.hard[i] = Some(at + minutes(hard * 60.0));
    }

    /// From when on a job may begin; `None` while something before it is not done.
    fn ready(&self, job: &Job) -> Option<NaiveDateTime> {
        let mut at = NaiveDateTime::MIN;
        for (k, how) in &job.needs {
            let there = match how {
                Ready::Next => self.next[*k],
                Ready::Hard => self.hard[*k],
            };
            at = at.max(there?);
        }
        Some(at)
    }
}

/// Lays jobs into free times.
fn lay(
    list: &[Step],
    mut jobs: Vec<Job>,
    state: &mut State,
    windows: &[Window],
    remarks: &mut Vec<Text>,
) -> Vec<Sitting> {
    let longest = windows.iter().take(60).map(|w| (w.to - w.from).num_minutes() as f64).fold(0.0, f64::max);
    let helpers = windows.iter().any(|w| w.helper);
    let mut sittings: Vec<Sitting> = Vec::new();
    for w in windows {
        let mut t = w.from;
        while !jobs.is_empty() && t < w.to {
            let room = (w.to - t).num_seconds() as f64 / 60.0;
            let fits = |j: &Job| {
                let whole = j.minutes <= room + 0.01;
                let begun = j.splits && room >= SHORTEST.min(j.minutes);
                // what is longer than any evening is begun with one
                let long = !j.splits && j.minutes > longest && t == w.from;
                let held = j.hands < 2 || !helpers || w.helper;
                held && (whole || begun || long)
            };
            // of one step its parts go one after the other
            let first = |k: usize, j: &Job| !jobs[..k].iter().any(|o| o.step == j.step);
            let mut soonest: Option<NaiveDateTime> = None;
            let mut chosen = None;
            for (k, j) in jobs.iter().enumerate().filter(|(k, j)| first(*k, j)) {
                let Some(ready) = state.ready(j).map(|r| r.max(state.part_ready(j))) else { continue };
                if ready <= t && fits(j) {
                    chosen = Some(k);
                    break;
                }
                if ready > t {
                    soonest = Some(soonest.map_or(ready, |s| s.min(ready)));
                }
            }
            let Some(k) = chosen else {
                match soonest {
                    Some(at) if at < w.to => t = at,
                    _ => break,
                }
                continue;
            };
            let job = &mut jobs[k];
            let takes = if job.splits { job.minutes.min(room) } else { job.minutes };
            let to = t + minutes(takes);
            if !job.splits && to > w.to {
                let mut said = list[job.step].title.clone();
                said.add(format!(" takes {:.0} min in one go, longer than any of the free times.", job.minutes));
                remarks.push(said);
            }
            let done = takes >= job.minutes - 0.01;
            let then = job.then.filter(|_| done);
            state.end(job.step, to, then);
            let drying = then.map(|p| Drying {
                what: p.name.to_owned(),
                next_at: state.next[job.step].map(told).unwrap_or_default(),
                hard_at: state.hard[job.step].map(told).unwrap_or_default(),
            });
            sittings.push(Sitting {
                step: list[job.step].id.clone(),
                title: list[job.step].title.clone(),
                part: job.part,
                from: told(t),
                to: told(to),
                hands: job.hands,
                then: drying,
            });
            if done {
                let step = job.step;
                jobs.remove(k);
                if jobs.iter().any(|j| j.step == step) {
                    state.hold(step);
                }
            } else {
                job.minutes -= takes;
                let step = job.step;
                state.hold(step);
            }
            t = to;
        }
    }
    // laid down and taken up again counts as sittings of one step
    number(&mut sittings);
    state.left = jobs.iter().map(|j| j.step).collect::<std::collections::BTreeSet<_>>().len();
    sittings
}

impl State {
    /// A step of which more is to come lets nobody go on yet; its own next part waits for its clamps.
    fn hold(&mut self, i: usize) {
        self.hard[i] = self.next[i];
        self.next[i] = None;
    }

    /// From when on the next part of a step may begin.
    fn part_ready(&self, job: &Job) -> NaiveDateTime {
        let mid = self.next[job.step].is_none().then_some(self.hard[job.step]).flatten();
        mid.unwrap_or(NaiveDateTime::MIN)
    }
}

/// Numbers the sittings of each step.
fn number(sittings: &mut [Sitting]) {
    let many: std::collections::HashMap<String, u32> = sittings.iter().fold(Default::default(), |mut m, s| {
        *m.entry(s.step.clone()).or_insert(0) += 1;
        m
    });
    let mut seen: std::collections::HashMap<String, u32> = Default::default();
    for s in sittings {
        let at = seen.entry(s.step.clone()).or_insert(0);
        *at += 1;
        s.part = [*at, many.get(&s.step).copied().unwrap_or(1)];
    }
}
