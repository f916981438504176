//! A design that may be worked out.

use crate::design::{Design, Drive};
use oak_drum_acoustics::driver::Resolved;
use serde::Serialize;

/// A design that was looked at: its woofer is determined, its wiring possible, its drive has what it refers to. What is made from
/// one cannot fail for want of these. It reads as its [`Design`] and is written as it.
#[derive(Clone, Debug)]
pub struct Checked {
    design: Design,
    woofer: Resolved,
}

impl Checked {
    /// A design put together by the program itself, its ranges not looked at; `None` where it cannot be worked out.
    pub fn assembled(design: Design) -> Option<Checked> {
        let rated = match design.drive {
            Drive::Voltage { .. } => true,
            Drive::Power { .. } => design.woofer.nominal_ohm.is_some(),
            Drive::Loudest {} => design.ends_somewhere(),
        };
        let woofer = design.woofer.resolve(&design.air.of_sheets()).ok()?;
        (rated && design.array.arrangement().possible()).then_some(Checked { design, woofer })
    }

    /// The same at other frequencies (Hz, > 0).
    pub fn at(mut self, frequencies: Vec<f64>) -> Checked {
        self.design.frequencies_hz = Some(frequencies);
        self
    }

    /// The woofer as its sheet has it, in the air sheets speak of.
    pub fn woofer(&self) -> &Resolved {
        &self.woofer
    }

    /// The design itself.
    pub fn into_design(self) -> Design {
        self.design
    }
}

impl std::ops::Deref for Checked {
    type Target = Design;
    fn deref(&self) -> &Design {
        &self.design
    }
}

impl PartialEq for Checked {
    fn eq(&self, other: &Checked) -> bool {
        self.design == other.design
    }
}

impl Serialize for Checked {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        self.design.serialize(serializer)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::read_value;
    use serde_json::json;

    /// What cannot be worked out is not passed: a woofer that is not determined, strings that do not come out even, watts without
    /// the impedance they refer to.
    #[test]
    fn what_cannot_be_worked_out_is_not_passed() {
        let design = |woofer: serde_json::Value| {
            let document = json!({"format": "oak-drum-design", "version": crate::VERSION, "woofer": woofer,
                "enclosure": {"family": "sealed", "net_volume_l": 50}});
            read_value(document).unwrap().into_design()
        };
        let sheet = json!({"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530});
        let whole = design(sheet);
        assert!(Checked::assembled(whole.clone()).is_some());
        let mut bare = whole.clone();
        bare.woofer.vas_l = None;
        assert!(Checked::assembled(bare).is_none());
        let mut uneven = whole.clone();
        (uneven.array.count, uneven.array.woofers_in_series) = (3, 2);
        assert!(Checked::assembled(uneven).is_none());
        let mut watts = whole;
        watts.drive = Drive::Power { watts: 100.0 };
        assert!(Checked::assembled(watts.clone()).is_none());
        watts.woofer.nominal_ohm = Some(8.0);
        assert!(Checked::assembled(watts).is_some());
    }
}
