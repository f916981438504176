//! `oak-drum schema build|workshop|workshop-has|design|work-plan|result|woofer|amplifier|flatten|biquads|curve|measurement|recording|woofer-wish|combining|proof|room|room-view|room-map|arrangements|listening-question|listening-answer|listening-session|listening-outcome`

use anyhow::Result;
use clap::ValueEnum;

#[derive(clap::Args)]
pub struct Arguments {
    /// Which format.
    format: Format,
}

#[derive(Clone, Copy, ValueEnum)]
enum Format {
    /// A build as one file.
    Build,
    /// A whole workshop as one file.
    Workshop,
    /// What a workshop has beside its builds: currency, tools, pieces on its rack.
    WorkshopHas,
    /// The design document.
    Design,
    /// What the workshop keeps beside a design while it is built.
    WorkPlan,
    /// The result of an evaluation.
    Result,
    /// A woofer of the shelf.
    Woofer,
    /// An amplifier of the shelf.
    Amplifier,
    /// How a level is to be flattened.
    Flatten,
    /// Biquads of a chain.
    Biquads,
    /// A curve.
    Curve,
    /// A measurement as a build keeps it.
    Measurement,
    /// How a recording is to be understood.
    Recording,
    /// What is known of a woofer that is fitted.
    WooferWish,
    /// How measurements are combined.
    Combining,
    /// Measurements held against a design.
    Proof,
    /// Where a design stands: room, cabinets, seats.
    Room,
    /// A design in its room.
    RoomView,
    /// A map of a room's floor.
    RoomMap,
    /// Ways to put cabinets.
    Arrangements,
    /// A question about a listening test.
    ListeningQuestion,
    /// Its answer.
    ListeningAnswer,
    /// A listening session.
    ListeningSession,
    /// What came of one.
    ListeningOutcome,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    let schema = match arguments.format {
        Format::Build => oak_drum_document::schema::of::<oak_drum_bundle::BuildFile>(),
        Format::Workshop => oak_drum_document::schema::of::<oak_drum_bundle::WorkshopFile>(),
        Format::WorkshopHas => oak_drum_document::schema::of::<oak_drum_document::Workshop>(),
        Format::Design => oak_drum_document::schema::design(),
        Format::WorkPlan => oak_drum_document::schema::of::<oak_drum_document::WorkPlan>(),
        Format::Result => oak_drum_design::evaluation::schema(),
        Format::Woofer => oak_drum_shelf::schema(),
        Format::Amplifier => oak_drum_shelf::amplifier::schema(),
        Format::Flatten => oak_drum_document::schema::of::<oak_drum_design::drive::flattening::FlattenWish>(),
        Format::Biquads => oak_drum_document::schema::of::<oak_drum_design::drive::biquads::Biquads>(),
        Format::Curve => oak_drum_curves::formats::json::schema(),
        Format::Measurement => oak_drum_curves::measurement::schema(),
        Format::Recording => oak_drum_document::schema::of::<oak_drum_curves::recorded::RecordingWish>(),
        Format::WooferWish => oak_drum_document::schema::of::<oak_drum_design::prove::woofer_fit::WooferWish>(),
        Format::Combining => oak_drum_document::schema::of::<oak_drum_design::prove::combined::Combining>(),
        Format::Proof => oak_drum_document::schema::of::<oak_drum_design::prove::view::Proof>(),
        Format::Room => oak_drum_document::schema::of::<oak_drum_document::InRoom>(),
        Format::RoomView => oak_drum_document::schema::of::<oak_drum_design::room::view::RoomView>(),
        Format::RoomMap => oak_drum_document::schema::of::<oak_drum_design::room::map::RoomMap>(),
        Format::Arrangements => oak_drum_document::schema::of::<oak_drum_design::room::arrangements::Arrangements>(),
        Format::ListeningQuestion => oak_drum_document::schema::of::<oak_drum_listening::question::Question>(),
        Format::ListeningAnswer => oak_drum_document::schema::of::<oak_drum_listening::question::Answer>(),
        Format::ListeningSession => oak_drum_document::schema::of::<oak_drum_listening::session::Session>(),
        Format::ListeningOutcome => oak_drum_document::schema::of::<oak_drum_listening::outcome::Outcome>(),
    };
    crate::output::print(&format!("{schema:#}\n"))
}
