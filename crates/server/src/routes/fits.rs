//! Models fitted to what was measured.

use crate::asking::{self, part};
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::proving::measured_of;
use crate::state::State;
use actix_web::post;
use actix_web::web::{Data, Json};
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_design::prove::woofer_fit::{Impedances, WooferProof, WooferWish, woofer_proof};
use oak_drum_document::{Checked, Reader};
use oak_drum_store::tables::measurement;
use serde::Deserialize;
use serde_json::Value;
use std::sync::OnceLock;
use utoipa::ToSchema;
use uuid::Uuid;

/// A woofer that is to be fitted: measurements, and the design its sheet stands in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WooferToFit {
    /// The design.
    #[schema(schema_with = crate::schemas::design)]
    pub document: Value,
    /// Its impedance in free air.
    pub free: Uuid,
    /// With a mass on the cone; how much it is stands with the measurement.
    #[serde(default)]
    pub mass: Option<Uuid>,
    /// On a known box; its volume stands with the measurement.
    #[serde(default)]
    pub boxed: Option<Uuid>,
    /// Another woofer, or this one at another time, in free air.
    #[serde(default)]
    pub other: Option<Uuid>,
    /// What is known besides.
    #[schema(schema_with = crate::schemas::woofer_wish, required = false)]
    #[serde(default)]
    pub wish: Option<Value>,
}

/// A measurement as a fit takes it: where it was taken, and its curve without smoothing.
fn ready(whole: measurement::Whole) -> Result<(Taken, Curve), Problem> {
    let made = measured_of(whole)?;
    Ok((made.about.taken, made.curve))
}

/// A woofer's parameters from its impedances, with ranges, held against a design; nothing is stored.
#[utoipa::path(operation_id = "fitWoofer", request_body = WooferToFit,
    responses((status = 200, body = ref("#/components/schemas/WooferProof")), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/fit/woofer")]
pub async fn woofer(state: Data<State>, pool: Pool, body: Body) -> Result<Json<WooferProof>, Problem> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let read = move || {
        let WooferToFit { document, free, mass, boxed, other, wish } = body.json()?;
        let wish: Option<WooferWish> = wish.map(|w| part(&READER, w, "/wish")).transpose()?;
        Ok((asking::design(document)?, free, [mass, boxed, other], wish.unwrap_or_default()))
    };
    let (design, free, others, wish) = pool.take(read).await?;
    let load = move |c: &mut oak_drum_store::Connection, _| {
        let further = others.map(|id| id.map(|id| measurement::get(c, id)).transpose());
        let [mass, boxed, other] = further;
        Ok((measurement::get(c, free)?, mass?, boxed?, other?))
    };
    let (free, mass, boxed, other) = state.with(load).await?;
    let work = move |d: &Checked| -> Result<WooferProof, Problem> {
        let (_, free) = ready(free)?;
        let mass = match mass.map(ready).transpose()? {
            None => None,
            Some((Taken::AddedMass { mass_g }, curve)) => Some((curve, mass_g)),
            Some(_) => {
                return Err(Problem::field("/mass", "say with that measurement that a mass was added, and which"));
            }
        };
        let boxed = match boxed.map(ready).transpose()? {
            None => None,
            Some((Taken::KnownBox { volume_l }, curve)) => Some((curve, volume_l)),
            Some(_) => {
                return Err(Problem::field(
                    "/boxed",
                    "say with that measurement that it was taken on a box of known volume",
                ));
            }
        };
        let other = other.map(ready).transpose()?;
        let curves = Impedances {
            free: &free,
            mass: mass.as_ref().map(|(c, g)| (c, *g)),
            boxed: boxed.as_ref().map(|(c, l)| (c, *l)),
            other: other.as_ref().map(|(_, c)| c),
        };
        woofer_proof(d, &curves, &wish).map_err(|no| Problem::field("/free", &no.to_string()))
    };
    Ok(Json(pool.work(Question::Work, design, work).await??))
}
