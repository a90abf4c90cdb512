//! The properties of many columns at once, typed or from a specification list.

use acorn_formats::{FormatError, Source, Specification, Wish, read, specifications};
use acorn_store::{ColumnChange, Dataset, OneColumn};
use axum::body::Bytes;
use axum::extract::State;
use axum::extract::rejection::BytesRejection;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::datasets::changed;
use super::imports::{Named, blocking};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::live::LiveEvent;
use crate::state::App;

type Answer<T> = Result<Json<T>, ApiError>;

/// Columns to be changed, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct Properties {
    /// The revision of the dataset.
    revision: i64,
    /// The columns, each with all of its properties.
    columns: Vec<OneColumn>,
}

/// Changes several columns, all or none; they are undone together.
#[utoipa::path(put, path = "/api/datasets/{id}/properties", tag = "datasets", operation_id = "change_columns", params(("id" = i64, Path)), request_body = Properties, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(wanted): Json<Properties>) -> Answer<Dataset> {
    let before = app.store.dataset(id).await?;
    let dataset = app.store.change_columns(id, wanted.revision, wanted.columns, &change).await?;
    if before.columns.iter().any(|column| dataset.columns.iter().any(|now| now.id == column.id && now.name != column.name)) {
        // Statements that name a column follow it.
        app.live.tell(LiveEvent::Everything);
    }
    Ok(changed(&app, dataset))
}

/// What a specification list says of the columns of a dataset. Nothing is stored yet.
#[derive(Serialize, ToSchema)]
pub struct ReadSpecifications {
    /// The columns that it changes, each with all of its properties.
    columns: Vec<OneColumn>,
    /// What the list names and the dataset has not.
    nowhere: Vec<String>,
}

/// Reads a specification list, a row a characteristic, and says what it would change.
#[utoipa::path(post, path = "/api/datasets/{id}/specifications", tag = "datasets", operation_id = "read_specifications", params(("id" = i64, Path), Named), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = ReadSpecifications), (status = 422, body = HttpProblem)))]
pub async fn specification_list(
    State(app): State<App>,
    Path(id): Path<i64>,
    Query(named): Query<Named>,
    bytes: Result<Bytes, BytesRejection>,
) -> Answer<ReadSpecifications> {
    let dataset = app.store.dataset(id).await?;
    let bytes = bytes?;
    let list = blocking(move || {
        let source = Source::open(&named.name, bytes.into())?;
        let reading = read(&source, &Wish::default())?;
        // A workbook may keep the list behind its table.
        let others = reading.read_as.sheets.into_iter().map(|sheet| Wish { sheet: Some(sheet), ..Wish::default() });
        let of_others = || others.filter_map(|wish| read(&source, &wish).ok()).find_map(|reading| specifications(&reading.table));
        specifications(&reading.table).or_else(of_others).ok_or(FormatError::NotASpecification { name: named.name })
    });
    let (mut columns, mut nowhere) = (Vec::new(), Vec::new());
    for said in list.await? {
        let own = dataset.columns.iter().find(|column| column.name.trim().eq_ignore_ascii_case(&said.name));
        let Some(own) = own else {
            nowhere.push(said.name);
            continue;
        };
        let before = ColumnChange::from(own);
        let wanted = with(before.clone(), said);
        if wanted != before {
            columns.push(OneColumn { column_id: own.id, wanted });
        }
    }
    Ok(Json(ReadSpecifications { columns, nowhere }))
}

/// A column as a list wants it. Limits are said together: one that the list leaves blank beside another is none.
fn with(mut column: ColumnChange, said: Specification) -> ColumnChange {
    let info = &mut column.info;
    info.unit = said.unit.or(info.unit.take());
    info.decimals = said.decimals.or(info.decimals);
    if said.lsl.is_some() || said.target.is_some() || said.usl.is_some() {
        (info.lsl, info.target, info.usl) = (said.lsl, said.target, said.usl);
    }
    let rules = &mut info.rules;
    rules.lower_bound = said.rules.lower_bound.or(rules.lower_bound);
    rules.upper_bound = said.rules.upper_bound.or(rules.upper_bound);
    rules.lowest = said.rules.lowest.or(rules.lowest);
    rules.highest = said.rules.highest.or(rules.highest);
    if !said.rules.choices.is_empty() {
        rules.choices = said.rules.choices;
    }
    column
}
