//! Back-loaded horn: the cone's front is heard as it is, its rear drives a horn (Webster 1919; Olson, *Elements of
//! Acoustical Engineering*, 1947, ch. 6, from memory).

use super::front_horn::{SCHOOLS, lowest};
use super::horn::Horn;
use super::{Axis, Context, Family, Fault, Info, Knob, Searched, Start, Wired, Wish, tidy};
use crate::network::Network;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A back-loaded horn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Back-loaded horn")]
pub struct BackHorn {
    /// Air between the cone's rear and the throat: it keeps the upper notes out of the horn.
    #[schemars(title = "Throat chamber", range(min = 0.05, max = 500.0), extend("x-rank" = "main", "x-unit" = "L", "x-start" = 8))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub throat_chamber_l: Option<f64>,
    /// The horn.
    #[schemars(title = "Horn")]
    pub horn: Horn,
}

impl Family for BackHorn {
    const INFO: Info = Info {
        id: "back_horn",
        title: "Back-loaded horn",
        summary: "The front plays as it is, the rear through a horn: bass from the mouth, ripples where both meet.",
        source: "Webster's equation (1919); Olson 1947 (from memory)",
        searched: Searched::Slowly,
    };

    fn wire(&self, context: &Context) -> Wired {
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let node = wired.network.node();
        wired.network.rear = node;
        self.horn.place(&mut wired, context, node, self.throat_chamber_l);
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let low = lowest(context);
        SCHOOLS
            .into_iter()
            .map(|(id, title, part, mouth, sentence)| {
                let mut horn = Horn::start(context, low, part, mouth, 1.4);
                // a back horn's mouth is a compromise with the room (common practice): a third of full size
                horn.mouth_cm2 = tidy((horn.mouth_cm2 / 3.0).max(horn.throat_cm2 * 2.0));
                let chamber = tidy(context.array.cone_area() * 0.15 * 1e3);
                Start {
                    id: format!("back_horn_{id}"),
                    title: format!("Back horn, {title}"),
                    sentence: sentence.into(),
                    enclosure: Some(BackHorn { throat_chamber_l: Some(chamber), horn }),
                }
            })
            .collect()
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        Horn::axes(context, wish.lowest_note).into()
    }

    fn at(context: &Context, values: &[f64]) -> Option<BackHorn> {
        let chamber = tidy(context.array.cone_area() * 0.15 * 1e3);
        Some(BackHorn { throat_chamber_l: Some(chamber), horn: Horn::of(context, values[0], values[1], 1.4) })
    }

    fn head_l(&self) -> Option<f64> {
        self.throat_chamber_l
    }

    fn problems(&self) -> Vec<Fault> {
        self.horn.faults("/horn")
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/throat_chamber_l", low: 0.5, high: 100.0 },
            Knob { pointer: "/horn/profile/length_mm", low: 300.0, high: 8000.0 },
            Knob { pointer: "/horn/mouth_cm2", low: 100.0, high: 40000.0 },
            Knob { pointer: "/horn/throat_cm2", low: 20.0, high: 2000.0 },
        ]
    }
}
