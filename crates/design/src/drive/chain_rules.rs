//! Rules about the signal's way: boosts, cuts, passes, what the amplifier has and what it is too much or too little for.

use crate::analysis::Analysis;
use crate::drive::low_cut::{low_cut, slope_in_words};
use crate::drive::offers::{Lack, lack};
use crate::drive::power::{decibels, in_words, nominal};
use crate::drive::view::prices;
use crate::finding::{Finding, LimitSource, Remedy, Severity, finding, known, remedy, rounded, say, value};
use crate::trial::Case;
use oak_drum_acoustics::filters::band::Band;
use oak_drum_acoustics::filters::transform::Transform;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::flatten::{Curve, Ranges, Wish, flatten};
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_document::{ChainFilter, Change, Stage};
use oak_drum_text::travel;

fn filters(case: &Case, change: impl FnOnce(&mut Vec<ChainFilter>)) -> Vec<Change> {
    let mut list = case.design.chain.filters.clone();
    change(&mut list);
    vec![Change::set("/chain/filters", value(list))]
}

fn off(case: &Case, i: usize) -> Vec<Change> {
    filters(case, |list| list[i].off = true)
}

/// What a filter is called in a sentence.
pub(super) fn called(f: &ChainFilter) -> String {
    if f.name.is_empty() { f.filter.info().title.to_lowercase() } else { format!("“{}”", f.name) }
}

/// Level below which a boost is not worth a word, dB.
const SMALL: f64 = 0.5;

/// A boost under the tuning, where the box no longer holds the cone; of a sealed box more than 6 dB under its f3.
pub fn boost_below_tuning(case: &Case) -> Vec<Finding> {
    let list = prices(case);
    let tuned = case.wired.unloads_below;
    let edge = tuned.map(|fb| fb * 0.98).or(case.edges().edges[0]);
    let (Some(edge), limit) = (edge, if tuned.is_some() { SMALL } else { 6.0 }) else { return Vec::new() };
    let each = case.design.chain.filters.iter().zip(&list).enumerate();
    each.filter_map(|(i, (f, price))| {
        let price = price.as_ref().filter(|p| p.lift_db > limit)?;
        let hz = f.filter.place().hz.filter(|hz| *hz < edge)?;
        let why = if tuned.is_some() { "the box no longer holds the cone" } else { "the box rolls off" };
        let mut found = finding(
            if tuned.is_some() { Severity::Broken } else { Severity::Look },
            LimitSource::CommonPractice,
            &format!("/chain/filters/{i}/filter"),
            format!("Boost at {hz:.0} Hz, under {edge:.0}"),
            format!(
                "The {} lifts {:.1} dB at {hz:.0} Hz, where {why}: {} W in place of {} W, {} in place of {}.",
                called(f),
                price.lift_db,
                say(price.watts),
                say(price.watts_without),
                travel(price.excursion_mm),
                travel(price.excursion_without_mm),
            ),
            (price.lift_db, "dB"),
            Some(limit),
        );
        found.remedies.extend(remedy(case, "Switch it off", off(case, i), |a| {
            let there = a.at(hz);
            Some(format!(
                "{} at {hz:.0} Hz, {:.1} dB less there",
                travel(there.excursion[0] * 1e3),
                case.at(hz).level_db[0] - there.level_db[0]
            ))
        }));
        if let Filter::Band(band) = f.filter
            && let Some(fb) = tuned
        {
            let up = filters(case, |list| list[i].filter = Filter::Band(Band { frequency_hz: rounded(fb), ..band }));
            found.remedies.extend(remedy(case, format!("Move it up to the tuning, {fb:.0} Hz"), up, |a| {
                Some(format!("{} where it was", travel(a.at(hz).excursion[0] * 1e3)))
            }));
        }
        Some(found)
    })
    .collect()
}

/// A boost where a limit rules: it costs of the loudest most of what it lifts.
pub fn boost_into_limit(case: &Case) -> Vec<Finding> {
    if case.design.chain.filters.is_empty() {
        return Vec::new();
    }
    let Some(loudest) = case.loudest() else { return Vec::new() };
    let below = case.wired.unloads_below.map_or(0.0, |fb| fb * 0.98);
    let list = prices(case);
    let each = case.design.chain.filters.iter().zip(&list).enumerate();
    each.filter_map(|(i, (f, price))| {
        let price = price.as_ref()?;
        // one under the tuning is told as that
        let hz = f.filter.place().hz.filter(|hz| *hz >= below)?;
        let (cost, limit) = (price.level_cost_db?, (0.5 * price.lift_db).max(SMALL));
        if cost < limit {
            return None;
        }
        let mut found = finding(
            Severity::Look,
            LimitSource::Physics,
            &format!("/chain/filters/{i}/filter"),
            format!("A boost that costs {cost:.1} dB of the loudest"),
            format!(
                "The {} lifts {:.1} dB at {hz:.0} Hz, where {} already ends it: everything else has to stay {cost:.1} dB lower.",
                called(f),
                price.lift_db,
                in_words(case.at(hz).limiting[0]),
            ),
            (cost, "dB"),
            Some(limit),
        );
        let gained = |a: &Analysis| Some(format!("{:+.1} dB at the loudest", decibels(a.loudest()?.volts / loudest.volts)));
        if let Filter::Band(band) = f.filter {
            let lifted = |level_db: f64| filters(case, |list| list[i].filter = Filter::Band(Band { level_db, ..band }));
            // what it lifts for nothing, and a little that is not worth a word
            let cheap = |level_db: &f64| {
                let after = case.with(&lifted(*level_db)).and_then(|a| prices(&a).swap_remove(i));
                after.is_none_or(|p| p.level_cost_db.is_none_or(|cost| cost < SMALL))
            };
            let most = ((price.lift_db - cost + 0.9 * SMALL) * 10.0).floor() / 10.0;
            let tried = (0..8).map(|k| ((most - 0.2 * f64::from(k)) * 10.0).round() / 10.0);
            if let Some(level_db) = tried.take_while(|level| *level > 0.0).find(cheap) {
                found.remedies.extend(remedy(case, format!("Lift {level_db:.1} dB only"), lifted(level_db), gained));
            }
        }
        found.remedies.extend(remedy(case, "Switch it off", off(case, i), gained));
        Some(found)
    })
    .collect()
}

/// How far a peak stands out before it is worth a word, dB.
const PEAK: f64 = 3.0;

/// A peak that a cut would cure: the level stands out of its surroundings within what it plays.
pub fn peak_wants_cut(case: &Case) -> Vec<Finding> {
    let low = case.lowest_note();
    let high = case.design.brief.plays_to();
    let c = case.curves();
    let at: Vec<usize> = (0..c.frequency.len()).filter(|i| (low..=high).contains(&c.frequency[*i])).collect();
    if at.len() < 8 || case.design.chain.filters.len() >= oak_drum_document::MOST_FILTERS {
        return Vec::new();
    }
    let mut sorted: Vec<f64> = at.iter().map(|i| c.level_db[*i]).collect();
    sorted.sort_by(f64::total_cmp);
    let usual = sorted[sorted.len() / 2];
    let Some(top) = at.iter().copied().max_by(|a, b| c.level_db[*a].total_cmp(&c.level_db[*b])) else {
        return Vec::new();
    };
    // a slope's end is no peak
    if top == at[0] || top == at[at.len() - 1] {
        return Vec::new();
    }
    let (over, hz) = (c.level_db[top] - usual, c.frequency[top]);
    if over < PEAK {
        return Vec::new();
    }
    let own = case.design.chain.amplifier_on().and_then(|a| a.equaliser);
    let used = case.design.chain.filters.iter();
    let used = used.filter(|f| f.stage == Stage::Amplifier && matches!(f.filter, Filter::Band(_))).count();
    let free = own.filter(|e| used < e.bands as usize && (e.from_hz..=e.to_hz).contains(&hz));
    let ranges = free.map_or(Ranges { hz: [low, high], level_db: [-15.0, 0.0], q: [0.5, 8.0] }, |e| Ranges {
        hz: [e.from_hz, e.to_hz],
        level_db: [e.lowest_db, 0.0],
        q: [e.from_q, e.to_q],
    });
    let stage = if free.is_some() { Stage::Amplifier } else { Stage::Line };
    let hz_of: Vec<f64> = at.iter().map(|i| c.frequency[*i]).collect();
    let level: Vec<f64> = at.iter().map(|i| c.level_db[*i]).collect();
    let target = vec![0.0; at.len()];
    let curve = Curve { hz: &hz_of, level_db: &level, target_db: &target, room_db: &[] };
    let wish = Wish { bands: 1, ranges, level_db: None, prefer_cuts: 0.0 };
    let Some(band) = flatten(curve, &wish).bands.first().copied().filter(|b| b.level_db < -0.5) else {
        return Vec::new();
    };
    let band = Band {
        frequency_hz: rounded(band.frequency_hz),
        level_db: (band.level_db * 10.0).round() / 10.0,
        q: rounded(band.q),
    };
    let mut f = finding(
        Severity::Note,
        LimitSource::CommonPractice,
        "/chain/filters",
        format!("A peak of {over:.1} dB at {hz:.0} Hz"),
        format!(
            "Between {low:.0} and {high:.0} Hz the level stands {over:.1} dB over its middle at {hz:.0} Hz. A cut costs no watts and no stroke."
        ),
        (over, "dB"),
        Some(PEAK),
    );
    let swing = |a: &Analysis| {
        let levels = Sweep::new(&a.wired.network, a.conditions).curves(&hz_of).level_db;
        let most = levels.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        most - levels.iter().copied().fold(f64::INFINITY, f64::min)
    };
    let before = swing(case);
    let fresh = ChainFilter { name: String::new(), stage, off: false, filter: Filter::Band(band) };
    let title = format!(
        "Cut {:.1} dB at {} Hz{}",
        -band.level_db,
        say(band.frequency_hz),
        if stage == Stage::Amplifier { " with the amplifier's own band" } else { "" }
    );
    f.remedies.extend(remedy(case, title, filters(case, |list| list.push(fresh)), |a| {
        let after = swing(a);
        (after < before - 0.2).then(|| format!("highest less lowest {after:.1} dB in place of {before:.1}"))
    }));
    vec![f]
}

/// A filter in an amplifier that has it not, or not so.
pub fn beyond_amplifier(case: &Case) -> Vec<Finding> {
    let chain = &case.design.chain;
    let Some(amplifier) = chain.amplifier.as_ref() else { return Vec::new() };
    let name = if amplifier.name.is_empty() { "The amplifier" } else { &amplifier.name };
    let mut bands = 0;
    let most = amplifier.equaliser.map_or(0, |e| e.bands);
    let inside = chain.filters.iter().enumerate().filter(|(_, f)| f.stage == Stage::Amplifier && !f.off);
    inside
        .filter_map(|(i, f)| {
            bands += u32::from(matches!(f.filter, Filter::Band(_)));
            let many = matches!(f.filter, Filter::Band(_)) && bands > most && most > 0;
            let missing = lack(amplifier, &f.filter).or(many.then_some(Lack::Kind))?;
            let at = format!("/chain/filters/{i}");
            let kind = called(f);
            let (pointer, title, sentence, figure, limit) = match &missing {
                Lack::Kind if many => (
                    at.clone(),
                    "More bands than it has".to_owned(),
                    format!("{name} has {most} band{}; this is number {bands}.", if most == 1 { "" } else { "s" }),
                    (f64::from(bands), "bands"),
                    Some(f64::from(most)),
                ),
                Lack::Kind => (
                    at.clone(),
                    format!("No {kind} in it"),
                    format!("{name} has no {kind}; before it, at line level, it can be had."),
                    (1.0, ""),
                    None,
                ),
                Lack::Slope => (
                    format!("{at}/filter/slope"),
                    "A shape it has not".to_owned(),
                    format!("{name} has a {kind}, but none of this shape."),
                    (1.0, ""),
                    None,
                ),
                Lack::Beyond(range, value) => {
                    let nearest = value.clamp(range.from, range.to);
                    (
                        format!("{at}/filter{}", range.field),
                        format!("Beyond what its {kind} can do"),
                        format!(
                            "{name} can set {} to {} {}; {} is beyond.",
                            say_signed(range.from),
                            say_signed(range.to),
                            if range.unit.is_empty() { "in Q" } else { range.unit.as_str() },
                            say_signed(*value)
                        ),
                        (*value, range.unit.as_str()),
                        Some(nearest),
                    )
                }
            };
            let mut found = finding(Severity::Broken, LimitSource::DataSheet, &pointer, title, sentence, figure, limit);
            if let Lack::Beyond(range, value) = &missing {
                let nearest = value.clamp(range.from, range.to);
                let change = Change::set(format!("{at}/filter{}", range.field), nearest);
                let before = case.at(f.filter.place().hz.unwrap_or(50.0)).level_db[0];
                let title = format!("Set it to {} {}", say_signed(nearest), range.unit);
                found.remedies.extend(remedy(case, title.trim_end().to_owned(), vec![change], |a| {
                    let after = a.at(f.filter.place().hz.unwrap_or(50.0)).level_db[0];
                    Some(format!("{:+.1} dB there", after - before))
                }));
            }
            if missing == Lack::Slope {
                let has = match &f.filter {
                    Filter::HighPass(_) => amplifier.low_cut.as_ref(),
                    _ => amplifier.low_pass.as_ref(),
                };
                for slope in has.iter().flat_map(|p| &p.slopes).take(3) {
                    let change = Change::set(format!("{at}/filter/slope"), value(slope));
                    found.remedies.extend(remedy(case, slope_in_words(slope), vec![change], |a| {
                        Some(crate::finding::low_end(a))
                    }));
                }
            }
            let out = filters(case, |list| list[i].stage = Stage::Line);
            found
                .remedies
                .extend(known(case, said("Have it before the amplifier, at line level", out, "the same curves")));
            Some(found)
        })
        .collect()
}

fn said(title: &str, changes: Vec<Change>, predicted: &str) -> Remedy {
    Remedy { title: title.into(), changes, predicted: predicted.into() }
}

/// A number with its sign kept, as short as it may be.
fn say_signed(value: f64) -> String {
    if value == 0.0 { "0".into() } else { format!("{}{}", if value < 0.0 { "-" } else { "" }, rounded(value.abs())) }
}

/// How far an amplifier may lie above a woofer's rating and below it, as powers (common practice).
pub(super) const FAR: [f64; 2] = [0.4, 2.0];

/// An amplifier far above or below what the coils are rated for.
pub fn amplifier_far_from_rating(case: &Case) -> Vec<Finding> {
    let chain = &case.design.chain;
    let (Some(amplifier), Some(heat), Some(load)) = (chain.amplifier_on(), case.conditions.limits.heat, nominal(case))
    else {
        return Vec::new();
    };
    let power = amplifier.power_into(load);
    let share = power / heat;
    if (FAR[0]..=FAR[1]).contains(&share) {
        return Vec::new();
    }
    let much = share > FAR[1];
    let limit = heat * if much { FAR[1] } else { FAR[0] };
    let (title, rest) = if much {
        ("Far more amplifier than coil", "turned up, it burns them; what it does not burn is crest alone")
    } else {
        ("Far less amplifier than coil", "it clips long before the woofer is at its end")
    };
    vec![finding(
        Severity::Note,
        LimitSource::CommonPractice,
        "/chain/amplifier",
        title,
        format!(
            "The amplifier gives about {} W into {} ohm, the coils are rated for {} W: {rest}. Near the rating is usual.",
            say(power),
            say(load),
            say(heat)
        ),
        (power, "W"),
        Some(limit),
    )]
}

/// A low pass or a delay that fights the mains where they take over.
pub fn crossover_fights(case: &Case) -> Vec<Finding> {
    let Some(crossover) = case.design.brief.plays_to_hz else { return Vec::new() };
    let chain = &case.design.chain;
    let mut list = Vec::new();
    let passes: Vec<(usize, &ChainFilter)> = chain
        .filters
        .iter()
        .enumerate()
        .filter(|(_, f)| !f.off && matches!(f.filter, Filter::LowPass(_)))
        .filter(|(_, f)| f.filter.place().hz.is_some_and(|hz| hz < 2.0 * crossover))
        .collect();
    let down = -decibels(Cascade::of(passes.iter().map(|(_, f)| &f.filter)).at(crossover).norm());
    let most = 7.0;
    if passes.len() > 1 && down > most {
        let mut found = finding(
            Severity::Look,
            LimitSource::CommonPractice,
            &format!("/chain/filters/{}/filter", passes[passes.len() - 1].0),
            "Two low passes in a row",
            format!(
                "{} low passes together take {down:.1} dB away at {crossover:.0} Hz, where the mains take over; 3 to 6 dB are meant to be.",
                passes.len()
            ),
            (down, "dB"),
            Some(most),
        );
        for (i, f) in passes.iter().rev() {
            let title = format!("Switch off the {}", called(f));
            found.remedies.extend(remedy(case, title, off(case, *i), |a| {
                let left = a.design.chain.filters.iter().filter(|f| !f.off && matches!(f.filter, Filter::LowPass(_)));
                let left: Vec<&Filter> = left.map(|f| &f.filter).collect();
                Some(format!("{:.1} dB at {crossover:.0} Hz", decibels(Cascade::of(left).at(crossover).norm())))
            }));
        }
        list.push(found);
    }
    // what is pure delay turns the phase against mains that have none
    let delay: f64 = chain.filters_on().map(|f| f.delay()).sum();
    let (turn, quarter) = (360.0 * delay * crossover, 90.0);
    if turn > quarter {
        let nearest = (delay * crossover).round() / crossover;
        let mut found = finding(
            Severity::Note,
            LimitSource::Physics,
            "/chain/filters",
            format!("Late by {turn:.0} degrees at the crossover"),
            format!(
                "{:.1} ms of delay turn the phase by {turn:.0} degrees at {crossover:.0} Hz: set the mains back by as much, or they take level from each other there.",
                delay * 1e3
            ),
            (turn, "°"),
            Some(quarter),
        );
        let only = chain.filters.iter().position(|f| !f.off && matches!(f.filter, Filter::Delay(_)));
        if let Some(i) = only {
            let shorter = filters(case, |list| {
                list[i].filter =
                    Filter::Delay(oak_drum_acoustics::filters::delay::Delay { delay_ms: rounded(nearest * 1e3) });
            });
            let title = format!("{:.1} ms: a whole turn there", nearest * 1e3);
            found.remedies.extend(remedy(case, title, shorter, |a| {
                let delay: f64 = a.design.chain.filters_on().map(|f| f.delay()).sum();
                let left = (delay * crossover - (delay * crossover).round()).abs() * 360.0;
                (left < quarter).then(|| format!("{left:.0} degrees beside a whole turn"))
            }));
        }
        list.push(found);
    }
    list
}

/// A transform for another box than this one.
pub fn transform_misses(case: &Case) -> Vec<Finding> {
    let figure = |id: &str| case.wired.figures.iter().find(|f| f.id == id).map(|f| f.value);
    let chain = &case.design.chain;
    let transforms = chain.filters.iter().enumerate().filter(|(_, f)| !f.off);
    transforms
        .filter_map(|(i, f)| {
            let Filter::Transform(t) = f.filter else { return None };
            let at = format!("/chain/filters/{i}/filter");
            let Some((fc, qtc)) = figure("fc_hz").zip(figure("qtc")) else {
                let mut found = finding(
                    Severity::Broken,
                    LimitSource::Physics,
                    &at,
                    "A transform for a sealed box",
                    "The transform undoes a sealed box's own resonance; this box has none of that kind.",
                    (1.0, ""),
                    None,
                );
                found
                    .remedies
                    .extend(remedy(case, "Switch it off", off(case, i), |a| Some(crate::finding::low_end(a))));
                return Some(found);
            };
            let miss = (t.from_hz / fc - 1.0).abs().max((t.from_q / qtc - 1.0).abs());
            if miss < 0.03 {
                return None;
            }
            let mut found = finding(
                Severity::Look,
                LimitSource::Physics,
                &format!("{at}/from_hz"),
                "The transform is for another box",
                format!(
                    "It undoes {} Hz and Q {}; this box has {} Hz and {}.",
                    say(t.from_hz),
                    say(t.from_q),
                    say(fc),
                    say(qtc)
                ),
                (miss * 100.0, "%"),
                Some(3.0),
            );
            let right = Transform { from_hz: rounded(fc), from_q: rounded(qtc), ..t };
            let set = filters(case, |list| list[i].filter = Filter::Transform(right));
            found
                .remedies
                .extend(remedy(case, "Take this box's own figures", set, |a| Some(crate::finding::low_end(a))));
            Some(found)
        })
        .collect()
}

/// The remedy "low cut" of the cone that runs free, with the nearest where none suffices.
pub(super) fn low_cuts(case: &Case) -> Vec<Remedy> {
    let Some(found) = low_cut(case).filter(|c| c.wanted) else { return Vec::new() };
    let over = |a: &Analysis| {
        let limit = a.conditions.limits.excursion.unwrap_or(f64::INFINITY);
        a.largest(&a.curves().excursion, 5.0, found.to_hz * 0.98).is_some_and(|(x, _)| x > limit * 1.001)
    };
    let best = found.choices.iter().filter(|c| c.does).take(2);
    let list: Vec<Remedy> = best
        .filter_map(|choice| {
            let title = format!("Low cut at {:.1} Hz, {}", choice.frequency_hz, slope_in_words(&choice.slope));
            remedy(case, title, choice.changes.clone(), |a| {
                (!over(a)).then(|| {
                    format!(
                        "holds the cone down to 5 Hz at {} V; costs {:.1} dB at {:.0} Hz and {:.0} ms there",
                        say(found.volts),
                        choice.loss_db,
                        found.note_hz,
                        choice.later_ms
                    )
                })
            })
        })
        .collect();
    if !list.is_empty() {
        return list;
    }
    // none does at full power: the one that holds longest
    let nearest = found.choices.iter().max_by(|a, b| a.holds_v.total_cmp(&b.holds_v));
    nearest
        .and_then(|choice| {
            let title = format!(
                "The highest low cut there is: {:.1} Hz, {}",
                choice.frequency_hz,
                slope_in_words(&choice.slope)
            );
            remedy(case, title, choice.changes.clone(), |_| {
                Some(format!(
                    "holds the cone up to {} V, not to the amplifier's {} V; costs {:.1} dB at {:.0} Hz",
                    say(choice.holds_v),
                    say(found.volts),
                    choice.loss_db,
                    found.note_hz
                ))
            })
        })
        .into_iter()
        .collect()
}
