//! Plans of days: work lies in free times, one thing at a time, in an order that holds; never shorter than the longest chain of work
//! and drying, never longer than list scheduling may be (Graham 1966); a slip moves what follows it.

use chrono::{Duration, NaiveDateTime};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::days::{DaysPlan, Pace, ReckonedBy, plan};
use oak_drum_design::cabinet::steps::steps_with;
use oak_drum_document::{Change, Days, WorkPlan, apply, read_value};
use proptest::prelude::*;
use serde_json::{Value, json};

fn analysis(changes: &[(&str, Value)]) -> Analysis {
    let mut document = json!({
        "format": "oak-drum-design", "version": 8,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120,
                   "cutout_mm": 283, "outside_diameter_mm": 315, "magnet_diameter_mm": 150, "screws": 8},
        "enclosure": {"family": "vented", "net_volume_l": 70, "port": {"section": {"shape": "round", "diameter_mm": 105},
            "count": 1, "sizing": {"by": "tuning", "tuning_hz": 30}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18, "round_over_mm": 9,
            "braces": [{"kind": "window", "lies": "level", "at_mm": 140, "thickness_mm": 18, "open_part": 0.5}]},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn work(value: Value) -> WorkPlan {
    serde_json::from_value(value).unwrap()
}

fn at(text: &str) -> NaiveDateTime {
    NaiveDateTime::parse_from_str(text, "%Y-%m-%dT%H:%M").unwrap()
}

/// A Friday.
const NOW: &str = "2026-11-27T08:00";

fn planned(a: &Analysis, w: &WorkPlan) -> DaysPlan {
    plan(a, w, &[], at(NOW), Duration::zero()).unwrap()
}

fn always(days: Value) -> WorkPlan {
    let week = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
    let free: Vec<Value> = week
        .iter()
        .flat_map(|d| {
            [json!({"day": d, "from": "00:00", "hours": 12}), json!({"day": d, "from": "12:00", "hours": 12})]
        })
        .collect();
    let mut days = days;
    days["free"] = json!(free);
    days["warmth_c"] = days.get("warmth_c").cloned().unwrap_or(json!(20));
    work(json!({"days": days}))
}

/// Begin of the first and end of the last sitting of a step.
fn span(p: &DaysPlan, step: &str) -> (NaiveDateTime, NaiveDateTime) {
    let own: Vec<_> = p.sittings.iter().filter(|s| s.step == step).collect();
    assert!(!own.is_empty(), "{step} is not planned");
    (own.iter().map(|s| at(&s.from)).min().unwrap(), own.iter().map(|s| at(&s.to)).max().unwrap())
}

fn hours(d: Duration) -> f64 {
    d.num_minutes() as f64 / 60.0
}

#[test]
fn waiting_is_kept_and_filled() {
    let a = analysis(&[]);
    let p = planned(&a, &always(json!({})));
    assert!(p.unknown.is_empty(), "{:?}", p.unknown);
    // clamped an hour before the baffle goes on, a day before the router
    let (carcass, close, round) = (span(&p, "carcass"), span(&p, "close"), span(&p, "round_over"));
    assert!(hours(close.0 - carcass.1) >= 1.0 && hours(round.0 - close.1) >= 24.0, "{p:?}");
    // coats four hours apart, two days before anything leans on them
    let (first, second, last) = (span(&p, "coat_1"), span(&p, "coat_2"), span(&p, "finish"));
    assert!(hours(second.0 - first.1) >= 4.0 && hours(last.0 - second.1) >= 4.0);
    assert!(hours(span(&p, "gaskets").0 - last.1) >= 48.0);
    // the port is cut and the holes are drilled while glue dries
    let meanwhile = ["port", "drill", "paint_port"].iter().filter(|id| span(&p, id).0 < close.0).count();
    assert_eq!(meanwhile, 3, "{p:?}");
    // layers are one board only when their glue is hard
    let thick = analysis(&[("/cabinet/baffle_mm", json!(36)), ("/cabinet/baffle_layers", json!(2))]);
    let layered = planned(&thick, &always(json!({})));
    assert!(hours(span(&layered, "holes").0 - span(&layered, "layers").1) >= 24.0);
    // the woofer runs in before it is measured
    assert!(hours(span(&p, "trim").0 - span(&p, "break_in").1) >= 12.0);
    assert_eq!(p.done_at.as_deref(), p.sittings.iter().map(|s| s.to.as_str()).max());
}

#[test]
fn a_plan_is_neither_shorter_nor_longer_than_it_may_be() {
    let a = analysis(&[]);
    for glue in ["wood_glue", "slow_wood_glue", "polyurethane", "epoxy"] {
        for finish in ["rolled_paint", "lacquer", "oil", "stain_and_clear", "textured", "wrap"] {
            let p = planned(&a, &always(json!({"glue": glue, "finish": finish})));
            let makespan = hours(at(p.done_at.as_ref().unwrap()) - at(NOW));
            // the chain worked out by hand: glue twice, a day hard (two of epoxy), coats and what they dry
            let hard: f64 = if glue == "epoxy" { 48.0 } else { 24.0 };
            let coats: f64 = match finish {
                "rolled_paint" => 2.0 * 4.0 + 48.0,
                "lacquer" => 3.0 * 2.0 + 24.0,
                "oil" => 12.0 + 72.0,
                "stain_and_clear" => 24.0 + 2.0 * 2.0 + 24.0,
                "textured" => 4.0 + 72.0,
                _ => 24.0,
            };
            let least = hard + coats;
            assert!(makespan >= least, "{glue} {finish}: {makespan} under {least}");
            // with one pair of hands always free: at most all work after all waiting
            let waits: f64 =
                p.sittings.iter().filter_map(|s| Some(hours(at(&s.then.as_ref()?.hard_at) - at(&s.to)))).sum();
            assert!(makespan <= p.hours_left + waits + 0.1, "{glue} {finish}: {makespan}");
        }
    }
}

#[test]
fn a_slip_moves_what_follows() {
    let a = analysis(&[]);
    let free = json!([{"day": "tuesday", "from": "18:30", "hours": 2.5}, {"day": "thursday", "from": "18:30", "hours": 2.5},
        {"day": "saturday", "from": "10:00", "hours": 6, "helper": true}]);
    let mut w = work(json!({"days": {"free": free, "warmth_c": 20}}));
    let first = planned(&a, &w);
    // nothing outside the free times: two evenings and Saturday
    let later = plan(&a, &w, &[], at(NOW) + Duration::days(3), Duration::zero()).unwrap();
    assert!(later.done_at > first.done_at);
    // what is done is left out, and its glue counts from when it was
    w.steps = serde_json::from_value(json!([{"step": "measure_parts", "done": true}, {"step": "cut", "done": true},
        {"step": "windows", "done": true}, {"step": "holes", "done": true}, {"step": "dry_fit", "done": true},
        {"step": "carcass", "done": true, "done_at": "2026-11-28T14:00:00Z"}]))
    .unwrap();
    let going = plan(&a, &w, &[], at("2026-11-28T15:00"), Duration::hours(1)).unwrap();
    assert!(going.sittings.iter().all(|s| s.step != "cut") && going.hours_left < first.hours_left);
    // 14:00 UTC is 15:00 here: an hour clamped
    let braces = span(&going, "braces");
    assert!(braces.0 >= at("2026-11-28T16:00") || braces.0 >= at("2026-12-01T18:30"), "{braces:?}");
    // who lifts is there on Saturday
    let heavy = analysis(&[("/woofer/weight_kg", json!(25))]);
    let lifted = planned(&heavy, &work(json!({"days": {"free": free, "warmth_c": 20}})));
    let carry = lifted.sittings.iter().find(|s| s.step == "carry").unwrap();
    assert!(carry.hands >= 2 && at(&carry.from).format("%a").to_string() == "Sat", "{carry:?}");
}

#[test]
fn cold_and_open_times_are_said() {
    let a = analysis(&[]);
    let said =
        |w: &WorkPlan| planned(&a, w).remarks.iter().map(oak_drum_text::Text::metric).collect::<Vec<_>>().join("\n");
    assert!(said(&always(json!({"warmth_c": 6}))).contains("At 6 °C wood glue does not take: it wants at least 10 °C"));
    assert!(said(&always(json!({"warmth_c": 10}))).contains("2.0 times as long"));
    assert!(!said(&always(json!({"warmth_c": 21}))).contains("does not take"));
    // a carcass of many joints is too much for glue that stays open ten minutes; slow epoxy waits
    assert!(said(&always(json!({}))).contains("wood glue stays open about 10: glued in"));
    assert!(!said(&always(json!({"glue": "epoxy"}))).contains("stays open about"));
    // cold takes longer
    let done = |w: &WorkPlan| planned(&a, w).done_at.unwrap();
    assert!(done(&always(json!({"warmth_c": 10}))) > done(&always(json!({"warmth_c": 20}))));
    // what is not stated is not judged
    let bare = planned(&a, &WorkPlan::default());
    assert_eq!((bare.sittings.len(), bare.done_at.clone(), bare.unknown.len()), (0, None, 2));
    assert!(plan(&analysis_without_cabinet(), &WorkPlan::default(), &[], at(NOW), Duration::zero()).is_none());
}

fn analysis_without_cabinet() -> Analysis {
    analysis(&[("/cabinet", Value::Null)])
}

#[test]
fn minutes_are_practice_clocks_or_the_builders() {
    let a = analysis(&[]);
    let w = work(json!({"steps": [{"step": "sand", "allow_min": 200}]}));
    let paces = [Pace { step: "cut".into(), ratio: 1.5 }, Pace { step: "sand".into(), ratio: 9.0 }];
    let p = plan(&a, &w, &paces, at(NOW), Duration::zero()).unwrap();
    let of = |id: &str| p.reckoned.iter().find(|r| r.step == id).unwrap().clone();
    let plain = steps_with(&a, &Days::default()).unwrap();
    let usual = |id: &str| plain.iter().find(|s| s.id == id).unwrap().minutes;
    assert_eq!((of("sand").minutes, of("sand").by), (200.0, ReckonedBy::Builder));
    assert_eq!((of("cut").minutes, of("cut").by), ((usual("cut") * 1.5).round(), ReckonedBy::Clocks));
    assert_eq!((of("close").minutes, of("close").by), (usual("close"), ReckonedBy::Practice));
    // a wait the builder states is kept
    let mut patient = always(json!({}));
    patient.steps = serde_json::from_value(json!([{"step": "carcass", "wait_h": 30}])).unwrap();
    let p = planned(&a, &patient);
    assert!(hours(span(&p, "braces").0 - span(&p, "carcass").1) >= 30.0);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    /// Whatever is free: sittings lie in free times, never two at once, each step in full, nothing before what it needs.
    #[test]
    fn every_plan_holds(
        free in prop::collection::vec((0..7usize, 0..22u32, 1..12u32, any::<bool>()), 1..7),
        glue in prop::sample::select(vec!["wood_glue", "epoxy"]),
    ) {
        let week = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
        let times: Vec<Value> = free
            .iter()
            .map(|(d, h, n, helper)| json!({"day": week[*d], "from": format!("{h:02}:30"), "hours": f64::from(*n) / 2.0, "helper": helper}))
            .collect();
        let a = analysis(&[]);
        let w = work(json!({"days": {"free": times, "warmth_c": 20, "glue": glue}}));
        let p = planned(&a, &w);
        let longest = free.iter().map(|f| f64::from(f.2) / 2.0).fold(0.0, f64::max);
        let mut end = at(NOW);
        for s in &p.sittings {
            let (from, to) = (at(&s.from), at(&s.to));
            prop_assert!(from >= end && to > from, "{s:?} after {end}");
            end = to;
            let inside = (0..=1).any(|back| {
                let day = from.date() - Duration::days(back);
                let weekday = day.format("%A").to_string().to_lowercase();
                free.iter().any(|(d, h, n, _)| {
                    let begin = day.and_hms_opt(*h, 30, 0).unwrap();
                    week[*d] == weekday && from >= begin && from < begin + Duration::minutes(i64::from(*n) * 30)
                })
            });
            prop_assert!(inside, "{s:?} is in no free time");
        }
        if p.done_at.is_some() {
            for r in &p.reckoned {
                let took: f64 = p.sittings.iter().filter(|s| s.step == r.step).map(|s| (at(&s.to) - at(&s.from)).num_seconds() as f64 / 60.0).sum();
                prop_assert!((took - r.minutes).abs() < 1.0, "{r:?}: {took}");
            }
            for (first, then) in [("cut", "holes"), ("holes", "dry_fit"), ("dry_fit", "carcass"), ("carcass", "close"), ("close", "sand"), ("sand", "finish"), ("wire", "leak_test")] {
                prop_assert!(span(&p, first).1 <= span(&p, then).0, "{then} before {first}");
            }
        } else {
            prop_assert!(p.remarks.iter().any(|r| r.contains("no place within two years")), "{longest} h");
        }
    }
}
