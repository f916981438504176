//! `oak-drum fit woofer|box`: parameters with ranges from measured impedances.

use super::files::{impedance, print_json};
use crate::commands::evaluate::design;
use anyhow::{Context, Result, anyhow, ensure};
use clap::Subcommand;
use oak_drum_acoustics::air::Air;
use oak_drum_curves::about::Taken;
use oak_drum_curves::fit::woofer::{Given, fit_woofer};
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::box_fit::fit_box;
use oak_drum_design::prove::evidence::Evidence;
use serde_json::json;

#[derive(clap::Args)]
pub struct Arguments {
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// A woofer from its impedance in free air, with an added mass and on a known box, as far as there are any.
    Woofer {
        /// Impedance in free air.
        free: String,
        /// Impedance with a mass on the cone.
        #[arg(long, value_name = "FILE", requires = "grams")]
        mass: Option<String>,
        /// That mass, g.
        #[arg(long)]
        grams: Option<f64>,
        /// By how much the scale may be off, per cent.
        #[arg(long, default_value_t = 1.0)]
        grams_percent: f64,
        /// Impedance on a closed box.
        #[arg(long = "box", value_name = "FILE", requires = "litres")]
        boxed: Option<String>,
        /// Its air, L.
        #[arg(long)]
        litres: Option<f64>,
        /// By how much that may be off, per cent.
        #[arg(long, default_value_t = 1.0)]
        litres_percent: f64,
        /// Cone area, cm²: half of the surround counts.
        #[arg(long)]
        sd_cm2: Option<f64>,
        /// By how much that may be off, per cent.
        #[arg(long, default_value_t = 2.0)]
        sd_percent: f64,
        /// Coil resistance from a meter, held, ohm.
        #[arg(long)]
        re: Option<f64>,
        /// Temperature of the air, °C.
        #[arg(long, default_value_t = 20.0, allow_hyphen_values = true)]
        celsius: f64,
    },
    /// A box from the impedance at its terminals: volume, tuning and losses.
    Box {
        /// The design it was built from.
        design: String,
        /// The impedance.
        impedance: String,
        /// Fit the woofer too.
        #[arg(long)]
        with_woofer: bool,
    },
}

pub fn run(arguments: &Arguments) -> Result<()> {
    match &arguments.what {
        What::Woofer {
            free,
            mass,
            grams,
            grams_percent,
            boxed,
            litres,
            litres_percent,
            sd_cm2,
            sd_percent,
            re,
            celsius,
        } => {
            ensure!((-30.0..=60.0).contains(celsius), "--celsius: between -30 and 60 is expected");
            for (name, value) in [("--grams", grams), ("--litres", litres), ("--sd-cm2", sd_cm2), ("--re", re)] {
                ensure!(value.is_none_or(|v| v.is_finite() && v > 0.0), "{name}: more than 0 is expected");
            }
            let free_curve = impedance(free)?;
            let with_mass = mass.as_deref().map(impedance).transpose()?;
            let on_box = boxed.as_deref().map(impedance).transpose()?;
            let given = Given {
                free: &free_curve,
                mass: with_mass.as_ref().zip(*grams).map(|(c, g)| (c, g * 1e-3, grams_percent / 100.0)),
                boxed: on_box.as_ref().zip(*litres).map(|(c, l)| (c, l * 1e-3, litres_percent / 100.0)),
                sd: sd_cm2.map(|s| (s * 1e-4, sd_percent / 100.0)),
                re: *re,
                air: Air::at(*celsius, 101_325.0),
                law: None,
            };
            let found = fit_woofer(&given).map_err(|no| anyhow!("{free}: {no}"))?;
            print_json(&json!({
                "figures": found.figures, "coil": found.law, "laws": found.laws, "left_percent": found.rms * 100.0,
                "magnitude_only": found.magnitude_only, "remarks": found.remarks,
            }))
        }
        What::Box { design: file, impedance: measured, with_woofer } => {
            let built = AsBuilt::of(&design(file)?).context("this design cannot be worked out")?;
            let evidence = Evidence::of(&built.analysis, measured, Taken::InBox {}, impedance(measured)?, None);
            let found = fit_box(&built, &evidence, *with_woofer).map_err(|no| anyhow!("{measured}: {no}"))?;
            let remarks: Vec<String> = found.remarks.iter().map(|r| r.metric()).collect();
            print_json(&json!({
                "figures": found.figures, "turns": found.turns, "expected_turns": found.expected_turns,
                "left_percent": found.rms * 100.0, "remarks": remarks,
            }))
        }
    }
}
