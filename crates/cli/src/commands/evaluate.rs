//! `oak-drum evaluate FILE|-`

use oak_drum_design::document::MOST_FREQUENCIES;
use oak_drum_design::evaluate::CurveArrays;
use std::fmt::Write;
use std::io::Read;

/// A design is a few kilobytes; a list of frequencies a few hundred.
const LARGEST_FILE: u64 = 8 << 20;

#[derive(clap::Args)]
pub struct Arguments {
    /// A design document, or - for standard input.
    file: String,
    /// Print the curves as CSV, one row a frequency, instead of the whole result as JSON.
    #[arg(long)]
    csv: bool,
    /// Frequencies in Hz, separated by commas; they take the place of the document's own.
    #[arg(long, value_delimiter = ',', value_name = "HZ,HZ,...")]
    frequencies: Option<Vec<f64>>,
}

pub fn run(arguments: &Arguments) -> crate::Outcome {
    let text = load(&arguments.file)?;
    let mut design = oak_drum_design::read(&text).map_err(|problems| {
        let first = problems.first().map_or_else(String::new, ToString::to_string);
        let more = if problems.len() > 1 { format!(" (and {} more)", problems.len() - 1) } else { String::new() };
        format!("{}: {first}{more}", arguments.file)
    })?;
    if let Some(list) = &arguments.frequencies {
        if list.is_empty() || list.len() > MOST_FREQUENCIES {
            return Err(format!("--frequencies: from 1 to {MOST_FREQUENCIES} frequencies are expected"));
        }
        if let Some(bad) = list.iter().find(|f| !(0.01..=20_000.0).contains(*f)) {
            return Err(format!("--frequencies: {bad} is not between 0.01 and 20000 Hz"));
        }
        design.frequencies_hz = Some(list.clone());
    }
    let result = oak_drum_design::evaluate(&design).ok_or("the design cannot be computed")?;
    if arguments.csv {
        return crate::print(&csv(&result.curves));
    }
    let json = serde_json::to_string_pretty(&result).map_err(|e| format!("cannot write the result: {e}"))?;
    crate::print(&format!("{json}\n"))
}

fn load(file: &str) -> Result<String, String> {
    let mut text = String::new();
    let read = |source: &mut dyn Read, text: &mut String| source.take(LARGEST_FILE + 1).read_to_string(text);
    let outcome = if file == "-" {
        read(&mut std::io::stdin(), &mut text)
    } else {
        std::fs::File::open(file).and_then(|mut f| read(&mut f, &mut text))
    };
    match outcome {
        Err(error) => Err(format!("{file}: {error}")),
        Ok(n) if n as u64 > LARGEST_FILE => Err(format!("{file}: larger than {} MB", LARGEST_FILE >> 20)),
        Ok(_) => Ok(text),
    }
}

/// The curves as CSV: a header with units in the names, then one row a frequency; empty where there is no value.
fn csv(curves: &CurveArrays) -> String {
    let mut columns: Vec<(String, &[f64])> = [
        ("frequency_hz", &curves.frequency_hz),
        ("level_db", &curves.level_db),
        ("cone_stroke_mm", &curves.cone_stroke_mm),
        ("air_speed_m_per_s", &curves.air_speed_m_per_s),
        ("group_delay_ms", &curves.group_delay_ms),
        ("impedance_ohm", &curves.impedance_ohm),
        ("impedance_phase_deg", &curves.impedance_phase_deg),
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
        let ruling = serde_json::to_value(curves.max_level_ruled_by[i]).unwrap_or_default();
        let _ = writeln!(text, ",{}", ruling.as_str().unwrap_or_default());
    }
    text
}
