//! How the workshop's boxes come out, and what of it a design may be reckoned with.

use crate::asking;
use crate::body::Body;
use crate::pool::{Pool, Question};
use crate::problem::Problem;
use crate::routes::proving::measured_of;
use crate::state::State;
use actix_web::post;
use actix_web::web::{Data, Json, Path};
use oak_drum_design::prove::habits::{Habits, came_out, habits};
use oak_drum_document::{Checked, read_value};
use oak_drum_store::tables::measurement::{self, MeasuredBox};
use uuid::Uuid;

/// Most boxes that are looked at: the newest ones.
const MOST_BOXES: usize = 24;

/// How the boxes of the workshop came out that were measured, and what of it this design may be reckoned with.
#[utoipa::path(operation_id = "habits", params(("id" = Uuid, Path)),
    request_body = ref("#/components/schemas/Design"),
    responses((status = 200, body = ref("#/components/schemas/Habits")), (status = 422, body = Problem)))]
#[post("/builds/{id}/habits")]
pub async fn boxes(state: Data<State>, pool: Pool, id: Path<Uuid>, body: Body) -> Result<Json<Habits>, Problem> {
    let design = pool.take(move || asking::design(body.json()?)).await?;
    let found = state.with(move |c, owner| measurement::of_boxes(c, owner, MOST_BOXES)).await?;
    let own = *id;
    let work = move |d: &Checked| {
        // one that no longer reads or cannot be fitted is left out, not in the way of the others
        let out = found.into_iter().filter_map(|one: MeasuredBox| {
            let design = read_value(one.revision.document).ok()?;
            let measured = measured_of(one.measured).ok()?;
            came_out(&one.build, &one.revision.letter, one.build_id == own, &design, &measured)
        });
        habits(d, out.collect())
    };
    Ok(Json(pool.work(Question::Work, design, work).await?))
}
