//! Tapped horn: both sides of the cone look into one horn, one near the throat and one near the mouth (plane waves
//! after Webster 1919; the wiring is this project's own, held to ngspice).

use super::front_horn::lowest;
use super::horn::{Horn, HornProfile};
use super::{Axis, Context, Family, Fault, Info, Knob, PathReport, Searched, Stands, Start, Wired, Wish, tidy};
use crate::network::chain::Stub;
use crate::network::{Network, Node, Opening, RadiatorKind};
use crate::path::MouthPlace;
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A tapped horn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Tapped horn")]
pub struct TappedHorn {
    /// Where the side of the cone near the throat looks in, from the closed throat.
    #[schemars(title = "Inner tap at", range(min = 0.0, max = 20000.0), extend("x-rank" = "main", "x-unit" = "mm"))]
    pub inner_tap_mm: f64,
    /// Where the side near the mouth looks in, from the closed throat.
    #[schemars(title = "Outer tap at", range(min = 0.0, max = 20000.0), extend("x-rank" = "main", "x-unit" = "mm"))]
    pub outer_tap_mm: f64,
    /// The horn, its throat closed.
    #[schemars(title = "Horn")]
    pub horn: Horn,
}

impl Family for TappedHorn {
    const INFO: Info = Info {
        id: "tapped_horn",
        title: "Tapped horn",
        summary: "Both sides of the cone in one horn: short for its note and loud, in a band; wants a strong motor.",
        source: "Webster's equation (1919), two taps on one path",
        searched: Searched::Slowly,
    };

    const STANDS: Stands = Stands::OnDivider;

    fn wire(&self, context: &Context) -> Wired {
        let air = &context.air;
        let path = self.horn.path();
        let (inner, outer) = (self.inner_tap_mm * 1e-3, self.outer_tap_mm * 1e-3);
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let network = &mut wired.network;
        let (behind, before) = (network.node(), network.node());
        network.rear = behind;
        network.front = before;
        if inner > 1e-6 {
            network.place(Stub(path.chain(air, inner, 0.0)), &[behind, Node::Outside]);
        }
        network.place(path.chain(air, inner, outer), &[behind, before]);
        let chain = path.to_mouth(air, outer, self.horn.mouth, self.horn.mouth_model);
        let mouth = Opening::one("mouth", RadiatorKind::Port, self.horn.mouth_cm2 * 1e-4);
        let element = network.place_opening(chain, [before, Node::Outside], mouth);
        network.watch(element, 0, Opening::one("outer tap", RadiatorKind::Inner, path.area(outer)));
        self.horn.describe(&mut wired, context);
        wired.path = Some(PathReport {
            path,
            taps: vec![(inner, behind), (outer, before)],
            mouth: self.horn.mouth,
            model: self.horn.mouth_model,
        });
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let low = lowest(context);
        let mut horn = Horn::start(context, low, 0.26, MouthPlace::HalfSpace, 1.6);
        horn.mouth_cm2 = tidy(context.array.cone_area() * 1e4 * 2.2);
        let length = horn.length_mm();
        horn.profile = HornProfile::Conical { length_mm: length };
        let made = TappedHorn { inner_tap_mm: (length * 0.08).round(), outer_tap_mm: (length * 0.86).round(), horn };
        vec![Start {
            id: "tapped_horn_quarter".into(),
            title: "Tapped horn, a quarter wave long".into(),
            sentence: "A quarter wavelength at its lowest note, the taps near both ends: a start to tune from.".into(),
            enclosure: Some(made),
        }]
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        Horn::axes(context, wish.lowest_note).into()
    }

    /// A conical one, tapped near both ends as the start is.
    fn at(context: &Context, values: &[f64]) -> Option<TappedHorn> {
        let length_mm = values[1];
        let place = |part: f64| (length_mm * part * 10.0).round() / 10.0;
        let horn = Horn { profile: HornProfile::Conical { length_mm }, ..Horn::of(context, values[0], length_mm, 1.6) };
        Some(TappedHorn { inner_tap_mm: place(0.08), outer_tap_mm: place(0.86), horn })
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = self.horn.faults("/horn");
        let length = self.horn.length_mm();
        if self.outer_tap_mm >= length {
            let message = format!("the tap lies outside the horn, which ends at {length:.0}", length = mm(length));
            list.push(Fault::new("/outer_tap_mm", message));
        }
        if self.inner_tap_mm >= self.outer_tap_mm {
            let message = format!("the inner tap must lie before the outer one, at {}", mm(self.outer_tap_mm));
            list.push(Fault::new("/inner_tap_mm", message));
        }
        list
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/horn/profile/length_mm", low: 300.0, high: 8000.0 },
            Knob { pointer: "/horn/mouth_cm2", low: 100.0, high: 40000.0 },
            Knob { pointer: "/horn/throat_cm2", low: 20.0, high: 2000.0 },
        ]
    }
}
