//! Infinite baffle: the woofer in a wall, the air behind it as good as endless; a reference to compare with.

use super::{Context, Family, Figure, Info, Searched, Start, Wired};
use crate::network::{Network, RearSound};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The woofer in an endless wall.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Infinite baffle")]
pub struct InfiniteBaffle {}

impl Family for InfiniteBaffle {
    const INFO: Info = Info {
        id: "infinite_baffle",
        title: "Infinite baffle",
        summary: "The woofer in a wall of a room behind: what it does by itself, to compare boxes with.",
        source: "Beranek, Acoustics, 1954, ch. 7",
        searched: Searched::Never,
    };

    fn wire(&self, context: &Context) -> Wired {
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        wired.network.rear_sound = RearSound::Unheard;
        let qts = context.qts();
        wired.figures = vec![
            Figure::new("fs_hz", "fs", context.array.ts.fs, "Hz", "The woofer's own resonance."),
            Figure::new(
                "qts_in_circuit",
                "Qts in circuit",
                qts,
                "",
                "Total Q with the source and lead resistance counted.",
            ),
        ];
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let qts = context.qts();
        let fit = if qts > 0.6 { "This woofer's Qts suits it." } else { "With this Qts it falls early." };
        vec![Start {
            id: "infinite_baffle".into(),
            title: "Infinite baffle".into(),
            sentence: format!("No box at all: the rear sound stays in another room. {fit}"),
            enclosure: Some(InfiniteBaffle {}),
        }]
    }
}
