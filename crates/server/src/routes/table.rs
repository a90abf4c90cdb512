//! The columns of a table and what it shows: formulas, order, views.

use acorn_data::formula::{Formula, Mistake, Notation, TableFormula, TableFunction};
use acorn_data::frame::{Kind, TextPattern};
use acorn_store::{CellEdit, Dataset, EditKind, NamedView, NewColumn, Placed, Put, StoredColumn};
use acorn_study::health::{Doubt, doubts};
use acorn_study::{OrderBy, TableView};
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use super::datasets::AtRevision;
use crate::bounds::{CELLS_FOUND, FORMULA_SHOWN, ROWS_AT_ONCE};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::service::App;
use crate::service::answers::compute;

type Answer<T> = Result<Json<T>, ApiError>;

/// A column to be added, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct ColumnToAdd {
    /// The revision of the dataset.
    revision: i64,
    /// The column.
    column: NewColumn,
}

/// A column that was added.
#[derive(Serialize, ToSchema)]
pub struct AddedColumn {
    /// The dataset by now.
    dataset: Dataset,
    /// The new column.
    column_id: i64,
}

/// The columns in their order, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct Arrangement {
    /// The revision of the dataset.
    revision: i64,
    /// Every column once.
    columns: Vec<Placed>,
}

/// Rows as a view shows them.
#[derive(Deserialize, ToSchema)]
pub struct WantedView {
    /// The view.
    view: TableView,
    /// Its first row wanted, from 0.
    #[serde(default)]
    first: usize,
    /// How many.
    count: usize,
}

/// A window of the rows of a view.
#[derive(Serialize, ToSchema)]
pub struct ViewRows {
    /// The revision they were read at.
    revision: i64,
    /// Rows of the whole view.
    count: usize,
    /// First row of the window, from 0.
    first: usize,
    /// Where each row stands in the table, from 0.
    places: Vec<u32>,
    /// Row ids.
    row_ids: Vec<i64>,
    /// The text of each cell by column and row; null when missing.
    cells: Vec<Vec<Option<String>>>,
    /// The cells beyond their specification limits, each as its column, its row in the window, and -1 below or 1 above.
    beyond: Vec<[i64; 3]>,
}

/// An order for all rows, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct RowOrder {
    /// The revision of the dataset.
    revision: i64,
    /// The columns that order the rows, the weightiest first.
    order: Vec<OrderBy>,
}

/// A view and what it is to be called.
#[derive(Deserialize, ToSchema)]
pub struct ViewToKeep {
    /// The name; one that has it already is replaced.
    name: String,
    /// The view.
    view: TableView,
}

/// A formula over the columns of a table, as it is typed.
#[derive(Deserialize, ToSchema)]
pub struct TypedTableFormula {
    /// The formula so far.
    formula: String,
    /// The column that it is the formula of, where it has one already.
    #[serde(default)]
    column_id: Option<i64>,
}

/// What a typed formula over columns is, and what it gives.
#[derive(Default, Serialize, ToSchema)]
pub struct ReadTableFormula {
    /// As a textbook writes it; absent while it cannot be read.
    #[serde(skip_serializing_if = "Option::is_none")]
    notation: Option<Notation>,
    /// Where it cannot be read, and why.
    #[serde(skip_serializing_if = "Option::is_none")]
    mistake: Option<Mistake>,
    /// The kind of column that it gives.
    #[serde(skip_serializing_if = "Option::is_none")]
    kind: Option<Kind>,
    /// Its value in the first rows; null where it has none.
    values: Vec<Option<String>>,
    /// Rows without a value.
    missing: usize,
    /// Why the first of them has none, in words.
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<String>,
}

/// A function of formulas over columns.
#[derive(Serialize, ToSchema)]
pub struct FormulaFunction {
    /// Its name.
    name: &'static str,
    /// How it is written.
    written: &'static str,
    /// What it gives, in a sentence.
    help: &'static str,
}

/// Which row.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichRow {
    /// Its position, from 0.
    row: usize,
}

/// Why a cell that is worked out has no value.
#[derive(Serialize, ToSchema)]
pub struct Why {
    /// In words; absent when it has one.
    why: Option<String>,
}

/// Adds a column: empty, a copy of another, or worked out by a formula.
#[utoipa::path(post, path = "/api/datasets/{id}/columns", tag = "datasets", operation_id = "add_column", params(("id" = i64, Path)), request_body = ColumnToAdd, responses((status = 200, body = AddedColumn), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn add_column(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(new): Json<ColumnToAdd>) -> Answer<AddedColumn> {
    let (dataset, column_id) = app.store.add_column(id, new.revision, &new.column, &change).await?;
    Ok(Json(AddedColumn { dataset, column_id }))
}

/// Puts the columns in another order, hides and shows them.
#[utoipa::path(put, path = "/api/datasets/{id}/columns", tag = "datasets", operation_id = "arrange_columns", params(("id" = i64, Path)), request_body = Arrangement, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn arrange(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(wanted): Json<Arrangement>) -> Answer<Dataset> {
    Ok(Json(app.store.arrange_columns(id, wanted.revision, &wanted.columns, &change).await?))
}

/// Deletes a column that nothing rests on; studies that named it ask for another.
#[utoipa::path(delete, path = "/api/datasets/{id}/columns/{column_id}", tag = "datasets", operation_id = "delete_column", params(("id" = i64, Path), ("column_id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn delete_column(
    State(app): State<App>,
    By(change): By,
    Path((id, column_id)): Path<(i64, i64)>,
    Json(at): Json<AtRevision>,
) -> Answer<Dataset> {
    Ok(Json(app.store.delete_column(id, column_id, at.revision, &change).await?))
}

/// Why a cell of a column that is worked out has no value.
#[utoipa::path(get, path = "/api/datasets/{id}/columns/{column_id}/why", tag = "datasets", operation_id = "why_no_value", params(("id" = i64, Path), ("column_id" = i64, Path), WhichRow), responses((status = 200, body = Why), (status = 404, body = HttpProblem)))]
pub async fn why(State(app): State<App>, Path((id, column_id)): Path<(i64, i64)>, Query(which): Query<WhichRow>) -> Answer<Why> {
    let dataset = app.store.dataset(id).await?;
    let text = dataset.column(column_id)?.formula.clone();
    let kinds: Vec<(&str, Kind)> = dataset.columns.iter().map(|column| (column.name.as_str(), column.kind)).collect();
    let Some(Ok(formula)) = text.map(|text| TableFormula::read(&text, &kinds)) else { return Ok(Json(Why { why: None })) };
    let (_, frame) = app.store.frame(id, |_| true).await?;
    let why = compute(move |_| Ok(if which.row < frame.rows() { formula.why(&frame, which.row) } else { None }));
    Ok(Json(Why { why: why.await? }))
}

/// Checks a formula over columns while it is typed, lays it out, and tells what it gives.
#[utoipa::path(post, path = "/api/datasets/{id}/formula", tag = "datasets", operation_id = "read_table_formula", params(("id" = i64, Path)), request_body = TypedTableFormula, responses((status = 200, body = ReadTableFormula)))]
pub async fn read_formula(State(app): State<App>, Path(id): Path<i64>, Json(typed): Json<TypedTableFormula>) -> Answer<ReadTableFormula> {
    let dataset = app.store.dataset(id).await?;
    let own = dataset.columns.iter().find(|column| Some(column.id) == typed.column_id);
    let kinds: Vec<(&str, Kind)> = dataset.columns.iter().map(|column| (column.name.as_str(), column.kind)).collect();
    let others: Vec<(&str, &str)> = dataset
        .columns
        .iter()
        .filter(|column| own.is_none_or(|own| own.id != column.id))
        .filter_map(|column| Some((column.name.as_str(), column.formula.as_deref()?)))
        .collect();
    let read = TableFormula::read(&typed.formula, &kinds).and_then(|read| match own {
        Some(own) => read.formula().check_circle(&own.name, &others).map(|()| read),
        None => Ok(read),
    });
    let formula = match read {
        Ok(formula) => formula,
        Err(mistake) => return Ok(Json(ReadTableFormula { mistake: Some(mistake), ..ReadTableFormula::default() })),
    };
    let first = dataset.columns.first().map(|column| column.id);
    let (_, frame) = app.store.frame(id, |column| Some(column.id) == first || uses(formula.formula(), &column.name)).await?;
    let read = compute(move |_| {
        let values = formula.values(&frame);
        let mut missing = (0..values.len()).filter(|row| values.is_missing(*row));
        let first = missing.next();
        Ok(ReadTableFormula {
            notation: Some(Notation::of(formula.formula())),
            mistake: None,
            kind: Some(formula.kind()),
            values: (0..values.len().min(FORMULA_SHOWN)).map(|row| values.text(row)).collect(),
            missing: missing.count() + usize::from(first.is_some()),
            why: first.and_then(|row| Some(format!("row {}: {}", row + 1, formula.why(&frame, row)?))),
        })
    });
    Ok(Json(read.await?))
}

fn uses(formula: &Formula, name: &str) -> bool {
    formula.uses().iter().any(|used| used.name == name)
}

/// The functions of formulas over columns, beside those over numbers.
#[utoipa::path(get, path = "/api/formulas/functions", tag = "methods", operation_id = "table_functions", responses((status = 200, body = Vec<FormulaFunction>)))]
pub async fn functions() -> Json<Vec<FormulaFunction>> {
    let told = |function: TableFunction| FormulaFunction { name: function.name(), written: function.written(), help: function.form().help };
    Json(TableFunction::ALL.map(told).into())
}

/// A window of the rows that a view shows, in its order.
#[utoipa::path(post, path = "/api/datasets/{id}/view", tag = "datasets", operation_id = "read_view", params(("id" = i64, Path)), request_body = WantedView, responses((status = 200, body = ViewRows), (status = 422, body = HttpProblem)))]
pub async fn view(State(app): State<App>, Path(id): Path<i64>, Json(wanted): Json<WantedView>) -> Answer<ViewRows> {
    let WantedView { view, first, count } = wanted;
    let read = app.table_views.window(id, &view, first, count.min(ROWS_AT_ONCE)).await?;
    Ok(Json(ViewRows {
        revision: read.window.dataset.revision,
        count: read.count,
        first,
        places: read.places,
        row_ids: read.window.row_ids,
        cells: read.window.cells,
        beyond: read.window.beyond,
    }))
}

/// Puts the rows of a table in an order for good; undone like any other change. Rows that are equal in it stay as they stand.
#[utoipa::path(put, path = "/api/datasets/{id}/order", tag = "datasets", operation_id = "order_rows", params(("id" = i64, Path)), request_body = RowOrder, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn order(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(wanted): Json<RowOrder>) -> Answer<Dataset> {
    let by = wanted.order.iter().map(|by| by.column.clone()).collect::<Vec<_>>();
    let view = TableView { only: Vec::new(), order: wanted.order };
    // Rows that changed meanwhile are refused with the revision.
    let (_, rows) = app.table_views.rows(id, &view).await?;
    Ok(Json(app.store.order_rows(id, &rows, &by, wanted.revision, &change).await?))
}

/// The views that are kept of a table, by name.
#[utoipa::path(get, path = "/api/datasets/{id}/views", tag = "datasets", operation_id = "list_views", params(("id" = i64, Path)), responses((status = 200, body = Vec<NamedView>)))]
pub async fn views(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<NamedView>> {
    Ok(Json(app.store.views(id).await?))
}

/// Keeps a view under a name.
#[utoipa::path(post, path = "/api/datasets/{id}/views", tag = "datasets", operation_id = "keep_view", params(("id" = i64, Path)), request_body = ViewToKeep, responses((status = 200, body = Vec<NamedView>), (status = 422, body = HttpProblem)))]
pub async fn keep_view(State(app): State<App>, Path(id): Path<i64>, Json(kept): Json<ViewToKeep>) -> Answer<Vec<NamedView>> {
    Ok(Json(app.store.keep_view(id, &kept.name, &kept.view).await?))
}

/// Gives a view up.
#[utoipa::path(delete, path = "/api/datasets/{id}/views/{view_id}", tag = "datasets", operation_id = "forget_view", params(("id" = i64, Path), ("view_id" = i64, Path)), responses((status = 200, body = Vec<NamedView>), (status = 404, body = HttpProblem)))]
pub async fn forget_view(State(app): State<App>, Path((id, view_id)): Path<(i64, i64)>) -> Answer<Vec<NamedView>> {
    Ok(Json(app.store.forget_view(id, view_id).await?))
}

/// A text that is looked for in the cells of a table.
#[derive(Deserialize, ToSchema)]
pub struct WantedText {
    /// The text.
    find: String,
    /// The columns that are looked through; all when absent.
    #[serde(default)]
    column_ids: Option<Vec<i64>>,
    /// Whether it has to be the whole of a cell.
    #[serde(default)]
    whole: bool,
    /// Whether its capitals count.
    #[serde(default)]
    match_case: bool,
}

/// Where a text stands.
#[derive(Serialize, ToSchema)]
pub struct FoundText {
    /// Cells in all.
    count: usize,
    /// The first of them, row by row.
    cells: Vec<FoundCell>,
}

/// A cell in which a text stands.
#[derive(Clone, Copy, Serialize, ToSchema)]
pub struct FoundCell {
    /// The position of its row, from 0.
    row: usize,
    /// Its column.
    column_id: i64,
}

/// A text to be replaced by another.
#[derive(Deserialize, ToSchema)]
pub struct TextToReplace {
    /// The revision of the dataset that the person saw.
    revision: i64,
    /// What is looked for.
    #[serde(flatten)]
    wanted: WantedText,
    /// What is put in its place.
    with: String,
}

/// How a table stands after a text was replaced in it.
#[derive(Serialize, ToSchema)]
pub struct ReplacedText {
    /// The dataset by now.
    dataset: Dataset,
    /// Cells that were changed.
    count: usize,
}

/// What `of` makes of the cells that are looked through, row by row; those that a formula works out only where they are asked for.
async fn through<T: Clone + Send + 'static>(
    app: &App,
    id: i64,
    wanted: &WantedText,
    worked_out: bool,
    of: impl Fn(&TextPattern, &str) -> Option<T> + Send + 'static,
) -> Result<(Dataset, Vec<(FoundCell, T)>), ApiError> {
    let asked = |column: &StoredColumn| wanted.column_ids.as_ref().is_none_or(|ids| ids.contains(&column.id));
    let (dataset, frame) = app.store.frame(id, |column| asked(column) && (worked_out || column.formula.is_none())).await?;
    let ids: Vec<i64> = frame
        .columns()
        .iter()
        .filter_map(|read| dataset.columns.iter().find(|column| column.name == read.name))
        .map(|column| column.id)
        .collect();
    let sought = TextPattern::new(&wanted.find, wanted.whole, wanted.match_case);
    let found = compute(move |_| {
        let mut cells: Vec<(FoundCell, T)> = Vec::new();
        for (column, column_id) in frame.columns().iter().zip(ids) {
            let made = TextPattern::rows(&column.values, |text| of(&sought, text));
            cells.extend(made.into_iter().map(|(row, made)| (FoundCell { row, column_id }, made)));
        }
        cells.sort_by_key(|(cell, _)| cell.row);
        Ok(cells)
    });
    Ok((dataset, found.await?))
}

/// Finds a text in the cells of a table.
#[utoipa::path(post, path = "/api/datasets/{id}/find", tag = "datasets", operation_id = "find_text", params(("id" = i64, Path)), request_body = WantedText, responses((status = 200, body = FoundText)))]
pub async fn find(State(app): State<App>, Path(id): Path<i64>, Json(wanted): Json<WantedText>) -> Answer<FoundText> {
    let (_, found) = through(&app, id, &wanted, true, |sought, text| sought.is_in(text).then_some(())).await?;
    Ok(Json(FoundText { count: found.len(), cells: found.iter().take(CELLS_FOUND).map(|(cell, ())| *cell).collect() }))
}

/// Replaces a text by another wherever it stands, all or nothing; undone in one step. Cells that a formula works out are left alone.
#[utoipa::path(post, path = "/api/datasets/{id}/replace", tag = "datasets", operation_id = "replace_text", params(("id" = i64, Path)), request_body = TextToReplace, responses((status = 200, body = ReplacedText), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn replace(
    State(app): State<App>,
    By(change): By,
    Path(id): Path<i64>,
    Json(asked): Json<TextToReplace>,
) -> Answer<ReplacedText> {
    let TextToReplace { revision, wanted, with } = asked;
    let (_, found) = through(&app, id, &wanted, false, move |sought, text| sought.replaced(text, &with)).await?;
    let edits: Vec<CellEdit> = found.into_iter().map(|(cell, text)| CellEdit { column_id: cell.column_id, row: cell.row, text }).collect();
    if edits.is_empty() {
        return Ok(Json(ReplacedText { dataset: app.store.dataset(id).await?, count: 0 }));
    }
    let put = Put { edits: &edits, how: EditKind::Replaced, grow: false };
    let dataset = app.store.put_cells(id, revision, &put, &change).await?;
    Ok(Json(ReplacedText { dataset, count: edits.len() }))
}

/// What makes one doubt the columns of a table, with the rows that each doubt is about.
#[utoipa::path(get, path = "/api/datasets/{id}/health", tag = "datasets", operation_id = "dataset_health", params(("id" = i64, Path)), responses((status = 200, body = Vec<Doubt>), (status = 404, body = HttpProblem)))]
pub async fn health(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<Doubt>> {
    let (_, frame) = app.store.frame(id, |_| true).await?;
    Ok(Json(compute(move |cancel| Ok(doubts(&frame, cancel)?)).await?))
}
