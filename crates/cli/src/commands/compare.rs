//! `oak-drum compare DESIGN CURVE...`: measured curves held against a design.

use super::files::{curve, impedance, print_json};
use crate::commands::evaluate::design;
use anyhow::{Context, Result, bail, ensure};
use clap::ValueEnum;
use oak_drum_curves::about::{About, Taken};
use oak_drum_design::prove::view::{Measured, prove};

#[derive(clap::Args)]
pub struct Arguments {
    /// A design document.
    design: String,
    /// Curves measured at it.
    #[arg(required = true)]
    curves: Vec<String>,
    /// Where each was taken, in their order; of JSON curves what stands in them.
    #[arg(long, value_enum, value_delimiter = ',')]
    taken: Vec<Place>,
    /// Distance of a microphone in front of the box, m.
    #[arg(long, default_value_t = 1.0)]
    distance: f64,
    /// Where the band begins, Hz.
    #[arg(long)]
    from: Option<f64>,
    /// Where it ends, Hz.
    #[arg(long)]
    to: Option<f64>,
}

/// Where a curve was taken.
#[derive(Clone, Copy, ValueEnum)]
pub enum Place {
    /// Terminals of the box.
    Terminals,
    /// Woofer in free air.
    FreeAir,
    /// Close to the cone.
    Cone,
    /// In the port's mouth.
    Port,
    /// Close to a passive radiator.
    Radiator,
    /// In front of the box.
    Front,
    /// At the seat.
    Seat,
}

impl Place {
    /// The place, with a distance (m) where one belongs to it.
    pub fn taken(self, distance_m: f64) -> Taken {
        match self {
            Place::Terminals => Taken::InBox {},
            Place::FreeAir => Taken::FreeAir {},
            Place::Cone => Taken::NearCone {},
            Place::Port => Taken::NearPort {},
            Place::Radiator => Taken::NearRadiator {},
            Place::Front => Taken::InFront { distance_m },
            Place::Seat => Taken::AtSeat {},
        }
    }
}

pub fn run(arguments: &Arguments) -> Result<()> {
    let Arguments { taken, distance, from, to, .. } = arguments;
    ensure!(*distance > 0.0 && distance.is_finite(), "--distance: more than 0 m is expected");
    if !taken.is_empty() && taken.len() != arguments.curves.len() {
        bail!("--taken: one place a curve is expected; there are {} for {}", taken.len(), arguments.curves.len());
    }
    let band = match (from, to) {
        (None, None) => None,
        _ => {
            let (from, to) = (from.unwrap_or(1.0), to.unwrap_or(20_000.0));
            ensure!(from > 0.0 && to > from * 1.2, "--to: a band has to end above where it begins");
            Some((from, to))
        }
    };
    let mut list = Vec::new();
    for (i, file) in arguments.curves.iter().enumerate() {
        let (mut read, own) = curve(file)?;
        let place = match taken.get(i) {
            Some(place) => place.taken(*distance),
            None => own.taken,
        };
        if place.is_impedance() && read.quantity == oak_drum_curves::curve::Measurand::Level {
            read = impedance(file)?;
        }
        let about = About { taken: place, name: file.clone(), ..own };
        list.push(Measured { id: file.clone(), about, curve: read });
    }
    print_json(&prove(&design(&arguments.design)?, &list, band, false).context("this design cannot be worked out")?)
}
