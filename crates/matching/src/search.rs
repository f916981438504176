//! The search for the best box of one candidate.
//!
//! A coarse grid over the whole space, then COBYLA (Powell 1994: linear approximations, no derivatives, with
//! constraints) from its best places. Deterministic: no chance is involved.

use crate::Candidate;
use crate::evaluator::{Evaluator, TriedBox};
use crate::goal::Goal;
use crate::outcome::Outcome;
use crate::rules::{cost, short};
use std::cell::RefCell;

/// Points of the coarse grid along each axis, by the number of axes.
const GRID: [usize; 5] = [0, 16, 12, 7, 5];
/// How many places of the grid are refined.
const SEEDS: usize = 3;
/// Most boxes tried in one refinement.
const MOST: usize = 40;

/// A place of the search with what was found there.
#[derive(Clone, Debug)]
struct Found {
    place: Vec<f64>,
    trial: TriedBox,
    cost: f64,
    /// By how much it breaks a bound, 0 where it keeps them: share of volume over, or metres of port too long.
    broken: f64,
}

impl Found {
    /// Better: keeps the bounds, then costs less; among those that break them, breaks them less.
    fn better_than(&self, other: &Found) -> bool {
        match (self.broken > 0.0, other.broken > 0.0) {
            (false, false) => self.cost < other.cost,
            (true, true) => self.broken < other.broken,
            (mine, _) => !mine,
        }
    }
}

fn volume_over(trial: &TriedBox, goal: &Goal) -> f64 {
    trial.outside_l / goal.largest_outside_l - 1.0
}

fn port_over(trial: &TriedBox, goal: &Goal) -> f64 {
    if goal.port_fits { trial.room.map_or(-1.0, |room| -room) } else { -1.0 }
}

/// Tries a place; `None` outside of what the family can build.
fn look(evaluator: &Evaluator, goal: &Goal, family: &str, place: &[f64]) -> Option<Found> {
    let wired = evaluator.wire(goal, &evaluator.enclosure(family, place)?);
    let trial = evaluator.try_box(&wired);
    let charge = cost(&trial, goal);
    let broken = volume_over(&trial, goal).max(0.0) + port_over(&trial, goal).max(0.0);
    charge.is_finite().then(|| Found { place: place.to_vec(), trial, cost: charge, broken })
}

/// The best box of a candidate for a goal.
pub fn search(goal: &Goal, candidate: &Candidate) -> Outcome {
    let evaluator = match Evaluator::new(goal, candidate) {
        Ok(evaluator) => evaluator,
        Err(refusal) => return Outcome::refused(candidate, refusal),
    };
    let free = Goal { port_fits: false, ..goal.clone() };
    let best = best_place(&evaluator, goal, candidate.family);
    // where no port finds room, the best box without that bound says what it would take
    let wanted = match &best {
        Some(found) if found.broken == 0.0 => None,
        _ => best_place(&evaluator, &free, candidate.family),
    };
    let Some(found) = wanted.or(best) else { return Outcome::nothing(candidate) };
    Outcome::of(goal, candidate, &evaluator, &found.place)
}

fn best_place(evaluator: &Evaluator, goal: &Goal, family: &str) -> Option<Found> {
    let axes = evaluator.axes.len();
    let steps = GRID.get(axes).copied().unwrap_or(4);
    let mut seeds: Vec<Found> = (0..steps.pow(axes as u32))
        .filter_map(|mut index| {
            let place: Vec<f64> = (0..axes)
                .map(|_| {
                    let step = index % steps;
                    index /= steps;
                    (step as f64 + 0.5) / steps as f64
                })
                .collect();
            look(evaluator, goal, family, &place)
        })
        .collect();
    seeds.sort_by(|a, b| {
        let ahead = a.better_than(b);
        if ahead {
            std::cmp::Ordering::Less
        } else if b.better_than(a) {
            std::cmp::Ordering::Greater
        } else {
            std::cmp::Ordering::Equal
        }
    });
    // neighbours lead to the same place: seeds lie more than a step apart
    let mut chosen: Vec<Found> = Vec::new();
    for seed in seeds {
        let apart = |other: &Found| {
            let steps_apart = |(a, b): (&f64, &f64)| (a - b).abs() * steps as f64;
            seed.place.iter().zip(&other.place).map(steps_apart).fold(0.0, f64::max) > 1.5
        };
        if chosen.len() < SEEDS && chosen.iter().all(apart) {
            chosen.push(seed);
        }
    }
    chosen
        .into_iter()
        .map(|seed| refine(evaluator, goal, family, seed, 1.0 / steps as f64))
        .reduce(|best, next| if next.better_than(&best) { next } else { best })
}

/// Decibels along the coordinate that stands for what is missing.
const MISSING_SCALE: f64 = 10.0;

/// Rounds of COBYLA from a place, each with smaller steps from where the best was seen.
///
/// What is missing is a coordinate of its own, t >= 0, bounded below at each frequency by the level wanted less the
/// level there: so the edges of "the worst place of the band" become bounds, which the method follows well.
fn refine(evaluator: &Evaluator, goal: &Goal, family: &str, seed: Found, step: f64) -> Found {
    let axes = evaluator.axes.len();
    let best = RefCell::new(seed);
    // one trial serves the cost and the bounds at a place
    let last: RefCell<Option<Found>> = RefCell::new(None);
    let visit = |x: &[f64], read: &dyn Fn(&Found, f64) -> f64| -> f64 {
        let place = || x[..axes].iter().map(|c| c.clamp(0.0, 1.0));
        let mut last = last.borrow_mut();
        if last.as_ref().is_none_or(|f| !f.place.iter().copied().eq(place())) {
            *last = look(evaluator, goal, family, &place().collect::<Vec<_>>());
            if let Some(found) = &*last
                && found.better_than(&best.borrow())
            {
                *best.borrow_mut() = found.clone();
            }
        }
        last.as_ref().map_or(1e3, |found| read(found, x[axes] * MISSING_SCALE))
    };
    let cost = |x: &[f64], (): &mut ()| visit(x, &|f, missing| f.cost - short(&f.trial, goal) + missing);
    let room = |x: &[f64], (): &mut ()| visit(x, &|f, _| -volume_over(&f.trial, goal));
    let fits = |x: &[f64], (): &mut ()| visit(x, &|f, _| -port_over(&f.trial, goal));
    let loud: Vec<_> = (0..goal.band().len())
        .map(|i| {
            let visit = &visit;
            move |x: &[f64], (): &mut ()| visit(x, &|f, missing| f.trial.highest_db[i] + missing - goal.level_db)
        })
        .collect();
    let mut kept: Vec<&dyn cobyla::Func<()>> = vec![&room, &fits];
    kept.extend(loud.iter().map(|f| f as &dyn cobyla::Func<()>));
    let mut bounds = vec![(0.0, 1.0); axes];
    bounds.push((0.0, 100.0));
    for step in [step, step * 0.2, step * 0.04] {
        let mut start = best.borrow().place.clone();
        start.push(short(&best.borrow().trial, goal) / MISSING_SCALE);
        let stop = cobyla::StopTols { ftol_abs: 1e-4, ..cobyla::StopTols::default() };
        // its status does not matter: the best box seen is kept
        let _ = cobyla::minimize(cost, &start, &bounds, &kept, (), MOST, cobyla::RhoBeg::All(step), Some(stop));
    }
    best.into_inner()
}
