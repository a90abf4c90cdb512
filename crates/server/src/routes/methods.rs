//! The questions that the core can answer.

use acorn_core::methods::cards;
use acorn_core::study::MethodCard;

use crate::extract::Json;

/// All questions, in the order of the work, as the core describes them.
#[utoipa::path(get, path = "/api/methods", tag = "methods", responses((status = 200, body = Vec<MethodCard>)))]
pub async fn list() -> Json<Vec<MethodCard>> {
    Json(cards())
}
