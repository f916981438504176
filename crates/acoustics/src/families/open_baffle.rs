//! Open baffle: both sides of the cone are heard, the rear one around the edge of a board; a reference.

use super::{Context, Family, Fault, Figure, Info, Knob, Searched, Start, Wired};
use crate::network::{Network, RearSound};
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// The woofer on a free-standing board.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Open baffle")]
pub struct OpenBaffle {
    /// Width of the board.
    #[schemars(title = "Board width", range(min = 100.0, max = 5000.0), extend("x-rank" = "main", "x-unit" = "mm"))]
    pub width_mm: f64,
    /// Height of the board.
    #[schemars(title = "Board height", range(min = 100.0, max = 5000.0), extend("x-unit" = "mm"))]
    pub height_mm: f64,
    /// Middle of the woofer, from the left edge.
    #[schemars(title = "Woofer across", range(min = 0.0, max = 5000.0), extend("x-unit" = "mm"))]
    pub woofer_across_mm: f64,
    /// Middle of the woofer, from the lower edge.
    #[schemars(title = "Woofer up", range(min = 0.0, max = 5000.0), extend("x-unit" = "mm"))]
    pub woofer_up_mm: f64,
}

/// Directions in which the way to the edge is measured.
const DIRECTIONS: usize = 24;

impl OpenBaffle {
    /// The way from the woofer's middle to the edge in equally spaced directions, m.
    fn ways(&self) -> Vec<f64> {
        let (x, y) = (self.woofer_across_mm * 1e-3, self.woofer_up_mm * 1e-3);
        let (w, h) = (self.width_mm * 1e-3, self.height_mm * 1e-3);
        (0..DIRECTIONS)
            .map(|i| {
                let (sin, cos) = (TAU * (i as f64 + 0.5) / DIRECTIONS as f64).sin_cos();
                let across = if cos > 0.0 { (w - x) / cos } else { -x / cos };
                let up = if sin > 0.0 { (h - y) / sin } else { -y / sin };
                across.min(up).max(0.0)
            })
            .collect()
    }
}

impl Family for OpenBaffle {
    const INFO: Info = Info {
        id: "open_baffle",
        title: "Open baffle",
        summary: "A board without a box: front and rear cancel below the board's size. An estimate, to compare with.",
        source: "Olson, Elements of Acoustical Engineering, 1947, ch. 6 (from memory): the mean way around the edge",
        searched: Searched::Never,
    };

    fn wire(&self, context: &Context) -> Wired {
        let ways = self.ways();
        let mean = ways.iter().sum::<f64>() / ways.len() as f64;
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        wired.network.rear_sound = RearSound::Around(ways.iter().map(|way| way / context.air.c).collect());
        let equal = context.air.c / (6.0 * mean);
        wired.figures = vec![
            Figure::new(
                "dipole_hz",
                "Falls below",
                equal,
                "Hz",
                "Where front and rear together are as loud as the front alone; below, 6 dB an octave are lost. An estimate from the board's size.",
            ),
            Figure::new("way_mm", "Way round", mean * 1e3, "mm", "Mean way from the woofer to the edge."),
        ];
        wired.measured_by_efficiency = false;
        wired.estimate = Some("The open baffle's fall is an estimate from the mean way around the board's edge.");
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let wide = ((context.array.cone_area() * 4.0 / std::f64::consts::PI).sqrt() * 1e3 * 1.8 / 10.0).round() * 10.0;
        let made = OpenBaffle {
            width_mm: wide,
            height_mm: wide * 1.6,
            woofer_across_mm: (wide / 2.0).round(),
            woofer_up_mm: (wide * 0.7).round(),
        };
        vec![Start {
            id: "open_baffle".into(),
            title: "Open baffle".into(),
            sentence: "A bare board: no box sound, little bass; wants stroke, area and an equaliser.".into(),
            enclosure: Some(made),
        }]
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = Vec::new();
        for (pointer, value, most) in [
            ("/woofer_across_mm", self.woofer_across_mm, self.width_mm),
            ("/woofer_up_mm", self.woofer_up_mm, self.height_mm),
        ] {
            if value >= most || value <= 0.0 {
                list.push(Fault::new(
                    pointer,
                    format!("the woofer must lie on the board, between 0 and {most}", most = mm(most)),
                ));
            }
        }
        list
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/width_mm", low: 200.0, high: 3000.0 },
            Knob { pointer: "/height_mm", low: 200.0, high: 3000.0 },
        ]
    }
}
