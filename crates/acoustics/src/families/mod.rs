//! Families of enclosures: one file each, one line below to register it.
//!
//! A family's file holds its part of the design document (a struct whose field names carry units), says what
//! it is, wires the network and offers starting points. Nothing else in the program asks which family it has.

pub mod chamber;
mod contract;
pub mod horn;
pub mod inside;
pub mod radiators;

pub use contract::*;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

macro_rules! families {
    ($($(#[$doc:meta])* $module:ident :: $name:ident),+ $(,)?) => {
        $(pub mod $module;)+

        /// The enclosure of a design: one variant a family.
        #[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
        #[serde(tag = "family", rename_all = "snake_case")]
        pub enum Enclosure {
            $($(#[$doc])* $name($module::$name),)+
        }

        /// Every family, in the order in which they are offered.
        pub const FAMILIES: &[Info] = &[$(<$module::$name as Family>::INFO),+];

        impl Enclosure {
            /// Wires the family's network.
            pub fn wire(&self, context: &Context) -> Wired {
                match self { $(Enclosure::$name(family) => family.wire(context),)+ }
            }
            /// What is wrong with it that only several fields together can tell.
            pub fn problems(&self) -> Vec<Fault> {
                match self { $(Enclosure::$name(family) => family.problems(),)+ }
            }
            /// What may be turned when a goal is sought.
            pub fn knobs(&self) -> &'static [Knob] {
                match self { $(Enclosure::$name(_) => <$module::$name as Family>::knobs(),)+ }
            }
            /// What its woofers stand on.
            pub fn stands(&self) -> Stands {
                match self { $(Enclosure::$name(_) => <$module::$name as Family>::STANDS,)+ }
            }
            /// Net volume (L) and stated inside, where it has one chamber.
            pub fn one_chamber(&mut self) -> Option<(&mut f64, &mut Option<inside::Inside>)> {
                match self { $(Enclosure::$name(family) => family.one_chamber(),)+ }
            }
            /// Net volume of the chamber in front of the woofers, L.
            pub fn front_volume_l(&self) -> Option<f64> {
                match self { $(Enclosure::$name(family) => family.front_volume_l(),)+ }
            }
            /// Air before a path begins, which is no part of it, L.
            pub fn head_l(&self) -> Option<f64> {
                match self { $(Enclosure::$name(family) => family.head_l(),)+ }
            }
            /// Its passive radiators.
            pub fn radiators(&self) -> Option<&radiators::Radiators> {
                match self { $(Enclosure::$name(family) => family.radiators(),)+ }
            }
            /// What the family says about itself.
            pub fn info(&self) -> Info {
                match self { $(Enclosure::$name(_) => <$module::$name as Family>::INFO,)+ }
            }
        }

        /// What a search within a family may choose; `None` for a family that is unknown or not searched.
        pub fn axes(family: &str, context: &Context, wish: &Wish) -> Option<Vec<Axis>> {
            $(if family == <$module::$name as Family>::INFO.id {
                return Some(<$module::$name as Family>::axes(context, wish)).filter(|axes| !axes.is_empty());
            })+
            None
        }

        /// The enclosure of a family at a point of the search, one value for each of [`axes`]; `None` for an unknown
        /// family.
        pub fn at(family: &str, context: &Context, values: &[f64]) -> Option<Enclosure> {
            $(if family == <$module::$name as Family>::INFO.id {
                return <$module::$name as Family>::at(context, values).map(Enclosure::$name);
            })+
            None
        }

        /// Starting points of one family for these woofers.
        pub fn suggestions_of(family: &str, context: &Context) -> Vec<Suggestion> {
            $(if family == <$module::$name as Family>::INFO.id {
                return offered(<$module::$name as Family>::suggestions(context), Enclosure::$name);
            })+
            Vec::new()
        }

        /// Starting points of all families for these woofers.
        pub fn suggestions(context: &Context) -> Vec<Suggestion> {
            let mut all = Vec::new();
            $(all.extend(offered(<$module::$name as Family>::suggestions(context), Enclosure::$name));)+
            all
        }
    };
}

fn offered<F>(list: Vec<Start<F>>, enclosure: impl Fn(F) -> Enclosure) -> Vec<Suggestion> {
    let of = |start: Start<F>| Suggestion {
        id: start.id,
        title: start.title,
        sentence: start.sentence.into(),
        enclosure: start.enclosure.map(&enclosure),
    };
    list.into_iter().map(of).collect()
}

/// A starting point a family offers for a woofer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Suggestion {
    /// Stable name.
    pub id: String,
    /// Short name, with its figure.
    pub title: String,
    /// What it is for and what it costs.
    pub sentence: Text,
    /// The enclosure it would make; absent when this woofer cannot do it.
    pub enclosure: Option<Enclosure>,
}

families! {
    /// A closed box.
    sealed::Sealed,
    /// A box with one or several ports to the outside.
    vented::Vented,
    /// A box with sprung masses in place of a port.
    passive_radiator::PassiveRadiator,
    /// Sealed behind the cone, tuned in front.
    bandpass_fourth::BandpassFourth,
    /// Tuned behind the cone and in front.
    bandpass_sixth::BandpassSixth,
    /// A quarter-wave pipe behind the cone.
    transmission_line::TransmissionLine,
    /// A horn in front of the cone.
    front_horn::FrontHorn,
    /// A horn behind the cone, its front heard.
    back_horn::BackHorn,
    /// Both sides of the cone in one horn.
    tapped_horn::TappedHorn,
    /// The woofer in an endless wall.
    infinite_baffle::InfiniteBaffle,
    /// The woofer on a free-standing board.
    open_baffle::OpenBaffle,
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The registry: unique ids, words and a source for each.
    #[test]
    fn every_family_describes_itself() {
        let mut ids: Vec<_> = FAMILIES.iter().map(|f| f.id).collect();
        ids.sort_unstable();
        ids.dedup();
        assert_eq!(ids.len(), FAMILIES.len());
        for family in FAMILIES {
            assert!(family.summary.ends_with('.') && !family.source.is_empty() && !family.title.is_empty());
        }
    }
}
