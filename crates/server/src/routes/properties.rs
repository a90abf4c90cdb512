//! The properties of many columns at once, typed or from a specification list.

use std::collections::BTreeMap;

use acorn_data::frame::{Kind, LimitRow, LimitTable, Limits};
use acorn_formats::{FormatError, ReadOptions, Source, Specification, read, specifications};
use acorn_store::{ColumnChange, Dataset, OneColumn, StoredColumn};
use axum::body::Bytes;
use axum::extract::State;
use axum::extract::rejection::BytesRejection;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::imports::{Named, blocking};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::service::App;

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
    Ok(Json(app.store.change_columns(id, wanted.revision, wanted.columns, &change).await?))
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
    let names: Vec<String> = dataset.columns.iter().map(|column| column.name.clone()).collect();
    let list = blocking(move || {
        let source = Source::open(&named.name, bytes.into())?;
        let names: Vec<&str> = names.iter().map(String::as_str).collect();
        let reading = read(&source, &ReadOptions::default())?;
        if let Some(list) = specifications(&reading.table, &names) {
            return Ok(list);
        }
        // A workbook may keep its lists behind its table.
        let others = reading.read_as.sheets.into_iter().map(|sheet| ReadOptions { sheet: Some(sheet), ..ReadOptions::default() });
        let list: Vec<_> = others
            .filter_map(|read_options| read(&source, &read_options).ok())
            .filter_map(|reading| specifications(&reading.table, &names))
            .flatten()
            .collect();
        if list.is_empty() { Err(FormatError::NotASpecification { name: named.name }) } else { Ok(list) }
    });
    let (mut told, mut nowhere) = (BTreeMap::<usize, Vec<Specification>>::new(), Vec::new());
    for said in list.await? {
        match dataset.columns.iter().position(|column| column.name.trim().eq_ignore_ascii_case(&said.name)) {
            Some(place) => told.entry(place).or_default().push(said),
            None if nowhere.contains(&said.name) => {}
            None => nowhere.push(said.name),
        }
    }
    let mut columns = Vec::new();
    for (place, said) in told {
        let own = &dataset.columns[place];
        let before = ColumnChange::from(own);
        let (of_some, of_all): (Vec<_>, Vec<_>) = said.into_iter().partition(|said| said.of.is_some() || said.from.is_some());
        let mut wanted = of_all.into_iter().fold(before.clone(), with);
        if !of_some.is_empty() {
            wanted.info.limit_table = Some(limit_table(&dataset, own, of_some)?);
        }
        if wanted != before {
            columns.push(OneColumn { column_id: own.id, wanted });
        }
    }
    Ok(Json(ReadSpecifications { columns, nowhere }))
}

/// The limits of a column that differ between rows, as a list says them. What tells the rows apart is the column that the list names, or
/// the one that did so before; the moments are those of the only column of dates.
fn limit_table(dataset: &Dataset, own: &StoredColumn, lines: Vec<Specification>) -> Result<LimitTable, ApiError> {
    let before = own.info.limit_table.clone().unwrap_or_default();
    let named = |name: &Option<String>| {
        let name = name.as_deref()?.trim();
        dataset.columns.iter().find(|column| column.name.eq_ignore_ascii_case(name)).map(|column| column.id)
    };
    let dates = || dataset.columns.iter().find(|column| column.kind == Kind::DateTime).map(|column| column.id);
    let first = |name: fn(&Specification) -> &Option<String>| lines.iter().find_map(|line| named(name(line)));
    let by = first(|line| &line.by).or(before.by);
    let since = first(|line| &line.since).or(before.since).or_else(dates);
    let unclear = |what: &str, remedy: &str| {
        let detail = format!("the list has limits of {what} for “{}”, and no column of this data says which rows these are", own.name);
        Err(ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "limits-of-unknown-rows", &detail, remedy))
    };
    if by.is_none() && lines.iter().any(|line| line.of.is_some()) {
        return unclear("products", "Head the products in the list by the name of the column that tells them apart here.");
    }
    if since.is_none() && lines.iter().any(|line| line.from.is_some()) {
        return unclear("days", "Bring in the moment of each measurement as a column of dates first.");
    }
    let rows: Vec<LimitRow> = lines
        .into_iter()
        .map(|Specification { of, from, lsl, target, usl, .. }| LimitRow { of, from, limits: Limits { lsl, target, usl } })
        .collect();
    let since = since.filter(|_| rows.iter().any(|row| row.from.is_some()));
    Ok(LimitTable { by: by.filter(|_| rows.iter().any(|row| row.of.is_some())), since, rows })
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
    if !said.rules.causes.is_empty() {
        rules.causes = said.rules.causes;
    }
    column
}
