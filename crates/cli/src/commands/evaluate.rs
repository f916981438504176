//! `oak-drum evaluate FILE|-`, one design or, with `--each`, one a line.

use anyhow::{Context, Result, anyhow, bail, ensure};
use oak_drum_design::Evaluation;
use oak_drum_design::evaluation::CurveArrays;
use oak_drum_document::{Checked, MOST_FREQUENCIES, Prices, Problem, Reader, WorkPlan};
use rayon::prelude::*;
use serde::Serialize;
use std::fmt::Write;
use std::io::{BufRead, BufReader, Read};

/// A design is a few kilobytes; a list of frequencies a few hundred.
const LARGEST_FILE: u64 = 8 << 20;

#[derive(clap::Args)]
pub struct Arguments {
    /// A design document, or - for standard input.
    file: String,
    /// Read a design from each line and answer each with a line, in their order, on all cores.
    #[arg(long, conflicts_with = "csv")]
    each: bool,
    /// A work plan (see `schema work-plan`): its prices are held against the brief's budget.
    #[arg(long, value_name = "FILE", conflicts_with = "each")]
    work: Option<String>,
    /// Leave the findings out, which take most of the time.
    #[arg(long)]
    without_findings: bool,
    /// Print the curves as CSV, one row a frequency, instead of the whole result as JSON.
    #[arg(long)]
    csv: bool,
    /// Frequencies in Hz, separated by commas; they take the place of the document's own.
    #[arg(long, value_delimiter = ',', value_name = "HZ,HZ,...")]
    frequencies: Option<Vec<f64>>,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    if let Some(list) = &arguments.frequencies {
        if list.is_empty() || list.len() > MOST_FREQUENCIES {
            bail!("--frequencies: from 1 to {MOST_FREQUENCIES} frequencies are expected");
        }
        if let Some(bad) = list.iter().find(|f| !(0.01..=20_000.0).contains(*f)) {
            bail!("--frequencies: {bad} is not between 0.01 and 20000 Hz");
        }
    }
    if arguments.each {
        return each(arguments);
    }
    let prices = match &arguments.work {
        Some(file) => work_plan(file)?.prices,
        None => Prices::default(),
    };
    let design = design(&arguments.file)?;
    let result = arguments.evaluate(design, &prices);
    if arguments.csv {
        return crate::output::print(&csv(&result.curves));
    }
    let json = serde_json::to_string_pretty(&result).context("cannot write the result")?;
    crate::output::print(&format!("{json}\n"))
}

/// The design in a file, or on standard input.
pub fn design(file: &str) -> Result<Checked> {
    oak_drum_document::read(&load(file)?).map_err(|problems| {
        let first = problems.first().map_or_else(String::new, ToString::to_string);
        let more = if problems.len() > 1 { format!(" (and {} more)", problems.len() - 1) } else { String::new() };
        anyhow!("{file}: {first}{more}")
    })
}

impl Arguments {
    fn evaluate(&self, design: Checked, prices: &Prices) -> Evaluation {
        let design = match &self.frequencies {
            Some(list) => design.at(list.clone()),
            None => design,
        };
        if self.without_findings {
            oak_drum_design::outline(&design)
        } else {
            oak_drum_design::evaluation::evaluate_at(&design, prices)
        }
    }
}

/// What a line that holds no design is answered with.
#[derive(Serialize)]
struct Refused {
    /// Which line, from 1.
    line: usize,
    /// What is wrong with it.
    problems: Vec<Problem>,
}

/// Lines worked on at once: enough for every core, few enough to hold.
const AT_ONCE: usize = 256;

fn each(arguments: &Arguments) -> Result<()> {
    let named = || arguments.file.clone();
    let mut source: Box<dyn BufRead> = match arguments.file.as_str() {
        "-" => Box::new(std::io::stdin().lock()),
        file => Box::new(BufReader::new(std::fs::File::open(file).with_context(named)?)),
    };
    let (mut line, mut refused) = (0, 0);
    loop {
        let mut texts = Vec::with_capacity(AT_ONCE);
        while texts.len() < AT_ONCE {
            let mut text = String::new();
            let length = source.by_ref().take(LARGEST_FILE + 1).read_line(&mut text).with_context(named)?;
            if length == 0 {
                break;
            }
            line += 1;
            if length as u64 > LARGEST_FILE {
                bail!("{}: line {line} is longer than {} MB", arguments.file, LARGEST_FILE >> 20);
            }
            if !text.trim().is_empty() {
                texts.push((line, text));
            }
        }
        if texts.is_empty() {
            break;
        }
        let answers: Vec<Result<String, String>> =
            texts.par_iter().map(|(line, text)| answer(arguments, *line, text)).collect();
        refused += answers.iter().filter(|a| a.is_err()).count();
        let lines: String = answers.into_iter().map(|a| a.unwrap_or_else(|e| e) + "\n").collect();
        crate::output::print(&lines)?;
    }
    ensure!(refused == 0, "{refused} of {line} lines hold no design that can be computed");
    Ok(())
}

/// A line's answer: the result to six digits, or what is wrong.
fn answer(arguments: &Arguments, line: usize, text: &str) -> Result<String, String> {
    match oak_drum_document::read(text) {
        Ok(design) => {
            let mut result = arguments.evaluate(design, &Prices::default());
            result.round(6);
            serde_json::to_string(&result).map_err(|e| e.to_string())
        }
        Err(problems) => Err(refusal(line, problems)),
    }
}

fn refusal(line: usize, problems: Vec<Problem>) -> String {
    serde_json::to_string(&Refused { line, problems }).unwrap_or_else(|e| format!("\"{e}\""))
}

/// A work plan from a file, by its published schema.
fn work_plan(file: &str) -> Result<WorkPlan> {
    let value = serde_json::from_str(&load(file)?).with_context(|| file.to_owned())?;
    match Reader::new(oak_drum_document::schema::of::<WorkPlan>()).problems(&value).first() {
        Some(problem) => bail!("{file}: {problem}"),
        None => serde_json::from_value(value).with_context(|| file.to_owned()),
    }
}

/// The text of a file, or of standard input.
pub fn load(file: &str) -> Result<String> {
    let mut text = String::new();
    let read = |source: &mut dyn Read, text: &mut String| source.take(LARGEST_FILE + 1).read_to_string(text);
    let outcome = if file == "-" {
        read(&mut std::io::stdin(), &mut text)
    } else {
        std::fs::File::open(file).and_then(|mut f| read(&mut f, &mut text))
    };
    match outcome {
        Err(error) => Err(error).with_context(|| file.to_owned()),
        Ok(n) if n as u64 > LARGEST_FILE => bail!("{file}: larger than {} MB", LARGEST_FILE >> 20),
        Ok(_) => Ok(text),
    }
}

/// The curves as CSV: a header with units in the names, then one row a frequency; empty where there is no value.
fn csv(curves: &CurveArrays) -> String {
    let mut columns: Vec<(String, &[f64])> = [
        ("frequency_hz", &curves.frequency_hz),
        ("level_db", &curves.level_db),
        ("cone_excursion_mm", &curves.cone_excursion_mm),
        ("air_speed_m_per_s", &curves.air_speed_m_per_s),
        ("group_delay_ms", &curves.group_delay_ms),
        ("impedance_ohm", &curves.impedance_ohm),
        ("impedance_phase_deg", &curves.impedance_phase_deg),
        ("load_ohm", &curves.load_ohm),
        ("filter_db", &curves.filter_db),
        ("emf_v", &curves.emf_v),
        ("terminal_v", &curves.terminal_v),
        ("amplifier_a", &curves.amplifier_a),
        ("real_power_w", &curves.real_power_w),
        ("apparent_power_va", &curves.apparent_power_va),
        ("coil_heat_w", &curves.coil_heat_w),
        ("loudest_level_db", &curves.loudest_level_db),
        ("near_field_cone_db", &curves.near_field_cone_db),
    ]
    .map(|(name, values)| (name.to_owned(), values.as_slice()))
    .into();
    // each opening by itself, where it has a curve
    for opening in &curves.openings {
        let name = opening.name.replace(' ', "_");
        columns.push((format!("air_speed_{name}_m_per_s"), &opening.air_speed_m_per_s));
        columns.push((format!("near_field_{name}_db"), &opening.near_field_db));
    }
    let names: Vec<&str> = columns.iter().map(|c| c.0.as_str()).collect();
    let mut text = names.join(",") + ",max_level_db,max_level_ruled_by\n";
    for i in 0..curves.frequency_hz.len() {
        for (_, values) in &columns {
            if let Some(value) = values.get(i) {
                let _ = write!(text, "{value}");
            }
            text.push(',');
        }
        if let Some(level) = curves.max_level_db[i] {
            let _ = write!(text, "{level}");
        }
        let limiting = serde_json::to_value(curves.max_level_ruled_by[i]).unwrap_or_default();
        let _ = writeln!(text, ",{}", limiting.as_str().unwrap_or_default());
    }
    text
}
