//! The history in sentences.

use acorn_data::frame::{LimitTable, Rules};
use acorn_maths::words::{counted, grouped, typed};
use acorn_store::{CellsChanged, ColumnChange, EditKind, Finding, HistoryEvent, HistoryLine, Stage, UndoDirection};
use acorn_study::Spec;
use serde::Serialize;
use utoipa::ToSchema;

use crate::service::App;
use crate::service::ServiceError;
use crate::service::stated;

/// A line of the history.
#[derive(Serialize, ToSchema)]
pub struct ToldChange {
    /// Its number.
    pub id: i64,
    /// What happened, in a sentence.
    pub sentence: String,
    /// Who.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
    /// What can still be done about it.
    pub stage: Stage,
    /// The column that it is about, by its properties or its cells; absent when it is about no single one.
    pub column_id: Option<i64>,
    /// Whether properties of that column were changed.
    pub of_properties: bool,
    /// Of changed cells: what became of the first of them.
    pub correction: Option<Correction>,
    /// The statement as it was asked then, of a study.
    pub spec: Option<Spec>,
}

/// A value that was corrected.
#[derive(Serialize, ToSchema)]
pub struct Correction {
    /// Its row; absent when that was new.
    pub row_id: Option<i64>,
    /// What became of it: "lens thickness 2.74 to 2.47".
    pub words: String,
}

/// The newest changes of a dataset.
pub async fn of_dataset(app: &App, id: i64, count: i64) -> Result<Vec<ToldChange>, ServiceError> {
    let gauges = gauge_names(app).await?;
    let lines = app.store.history(id, count).await?;
    Ok(lines.into_iter().map(|line| told(line, None, String::new(), &gauges)).collect())
}

/// The newest changes of a study.
pub async fn of_study(app: &App, id: i64, count: i64) -> Result<Vec<ToldChange>, ServiceError> {
    let study = app.store.study(id).await?;
    let dataset = stated::dataset_of(app, &study.spec).await?;
    let gauges = gauge_names(app).await?;
    let lines = app.store.study_history(id, count).await?;
    let told = |(line, spec): (HistoryLine, Option<Spec>)| {
        let statement = spec.as_ref().map(|spec| stated::statement(spec, dataset.as_ref()).words()).unwrap_or_default();
        told(line, spec, statement, &gauges)
    };
    Ok(lines.into_iter().map(told).collect())
}

/// Gauges by number.
type GaugeNames = Vec<(i64, String)>;

async fn gauge_names(app: &App) -> Result<GaugeNames, ServiceError> {
    Ok(app.store.gauges().await?.into_iter().map(|gauge| (gauge.id, gauge.is.name)).collect())
}

fn told(line: HistoryLine, spec: Option<Spec>, statement: String, gauges: &GaugeNames) -> ToldChange {
    let HistoryLine { id, event, actor, at, stage, place } = line;
    let (column_id, correction) = match &event {
        HistoryEvent::Column { column_id, .. } => (Some(*column_id), None),
        HistoryEvent::Cell(cells) | HistoryEvent::Cells(cells) => (Some(cells.column_id), Some(correction(cells))),
        _ => (None, None),
    };
    let of_properties = matches!(event, HistoryEvent::Column { .. });
    ToldChange { id, sentence: sentence(&event, place, &statement, gauges), actor, at, stage, column_id, of_properties, correction, spec }
}

fn correction(CellsChanged { column, row_id, before, after, .. }: &CellsChanged) -> Correction {
    let said = |text: &str| if text.is_empty() { "nothing".to_owned() } else { text.to_owned() };
    Correction { row_id: *row_id, words: format!("{column} {} to {}", said(before), said(after)) }
}

/// A text, or "missing" where there is none.
fn shown(text: &str) -> &str {
    if text.is_empty() { "missing" } else { text }
}

fn sentence(event: &HistoryEvent, place: Option<i64>, statement: &str, gauges: &GaugeNames) -> String {
    match event {
        HistoryEvent::Cell(CellsChanged { column, before, after, .. }) => {
            // Where the row stands by now, which is not where it stood when it was changed.
            let row = place.map_or_else(|| "A row deleted since".to_owned(), |place| format!("Row {}", place + 1));
            format!("{row}, {column}: {} → {}", shown(before), shown(after))
        }
        HistoryEvent::Cells(cells) => block(cells, place),
        HistoryEvent::RowsAdded { count, .. } => format!("{} added", counted(*count, "row", "rows")),
        HistoryEvent::RowsDeleted { count, .. } => format!("{} deleted", counted(*count, "row", "rows")),
        HistoryEvent::RowsOrdered { by, .. } => format!("Rows put in the order of {}", by.join(", ")),
        HistoryEvent::Column { before, after, .. } => properties(before, after, gauges),
        HistoryEvent::Columns { after, .. } => format!("Properties of {} changed", counted(after.len(), "column", "columns")),
        HistoryEvent::ColumnAdded(columns) => format!("Column {} added", columns.column),
        HistoryEvent::ColumnDeleted(columns) => format!("Column {} deleted", columns.column),
        HistoryEvent::ColumnsArranged(_) => "Columns moved, hidden or shown".to_owned(),
        HistoryEvent::DatasetCreated { .. } => "Brought in".to_owned(),
        HistoryEvent::DatasetName { before, after } => format!("Name: {before} → {after}"),
        HistoryEvent::Followed { count } => format!("Made anew: {}", counted(*count, "row", "rows")),
        HistoryEvent::Unlinked => "Stands by itself since".to_owned(),
        HistoryEvent::StudyCreated { .. } => format!("Asked: {statement}"),
        HistoryEvent::Statement { .. } => statement.to_owned(),
        HistoryEvent::StudyName { after, .. } => format!("Name: {}", after.as_deref().unwrap_or("its question")),
        HistoryEvent::Shown { before, after } => {
            let moved = |to: bool| {
                let keys = before.keys().chain(after.keys().filter(|key| !before.contains_key(*key)));
                // A mark without a word of its own is as usual again: the other way from what it was.
                let shows = |key: &String| after.get(key).copied().unwrap_or(!before.get(key).copied().unwrap_or(false));
                let is_moved = |key: &&String| before.get(*key) != after.get(*key) && shows(key) == to;
                keys.filter(is_moved).map(String::as_str).collect::<Vec<_>>().join(", ")
            };
            let parts = [("Shown", moved(true)), ("Hidden", moved(false))].into_iter().filter(|(_, marks)| !marks.is_empty());
            parts.map(|(word, marks)| format!("{word}: {marks}.")).collect::<Vec<_>>().join(" ")
        }
        HistoryEvent::Finding { before, after, .. } => finding(before.as_deref(), after.as_deref()),
        HistoryEvent::Turned { way: UndoDirection::Undo, event, .. } => format!("Undone: {}", noun(event)),
        HistoryEvent::Turned { way: UndoDirection::Redo, event, .. } => format!("Redone: {}", noun(event)),
    }
}

/// What was undone.
fn noun(event: &HistoryEvent) -> &'static str {
    match event {
        HistoryEvent::Cell(_) => "a value",
        HistoryEvent::Cells(_) => "a block of cells",
        HistoryEvent::RowsAdded { .. } => "added rows",
        HistoryEvent::RowsDeleted { .. } => "deleted rows",
        HistoryEvent::RowsOrdered { .. } => "the order of rows",
        HistoryEvent::Column { .. } => "a property",
        HistoryEvent::Columns { .. } => "properties of columns",
        HistoryEvent::ColumnAdded(_) => "an added column",
        HistoryEvent::ColumnDeleted(_) => "a deleted column",
        HistoryEvent::ColumnsArranged(_) => "the order of columns",
        HistoryEvent::DatasetName { .. } | HistoryEvent::StudyName { .. } => "a name",
        HistoryEvent::Statement { .. } => "a statement",
        HistoryEvent::Shown { .. } => "marks of the figure",
        HistoryEvent::Finding { .. } => "what was said of a signal",
        HistoryEvent::DatasetCreated { .. }
        | HistoryEvent::Followed { .. }
        | HistoryEvent::Unlinked
        | HistoryEvent::StudyCreated { .. }
        | HistoryEvent::Turned { .. } => "a change",
    }
}

/// A block of cells, over the rows in which it stands by now.
fn block(cells: &CellsChanged, place: Option<i64>) -> String {
    let CellsChanged { count, how, down, across, column, .. } = cells;
    let deed = match how {
        EditKind::Typed => "Changed",
        EditKind::Pasted => "Pasted",
        EditKind::Filled => "Filled",
        EditKind::Cleared => "Cleared",
        EditKind::Replaced => "Replaced a text in",
    };
    let is_block = down * across == *count;
    let what = match is_block {
        true => format!("{} × {} cells", grouped(*down), grouped(*across)),
        false => counted(*count, "cell", "cells"),
    };
    let over = match place.and_then(|place| usize::try_from(place).ok()) {
        Some(first) if is_block && *down == 1 => format!(" over row {}", grouped(first + 1)),
        Some(first) if is_block => format!(" over rows {} to {}", grouped(first + 1), grouped(first + down)),
        _ => String::new(),
    };
    let of = if *across == 1 { format!(", {column}") } else { String::new() };
    format!("{deed} {what}{over}{of}")
}

/// The properties of a column that are no longer what they were.
fn properties(before: &ColumnChange, after: &ColumnChange, gauges: &GaugeNames) -> String {
    let none = || "none".to_owned();
    let number = |value: Option<f64>| value.map_or_else(none, typed);
    let text = |value: &Option<String>| value.clone().filter(|text| !text.is_empty()).unwrap_or_else(none);
    let gauge = |id: Option<i64>| {
        let named = |id| gauges.iter().find(|(known, _)| *known == id).map_or("a gauge deleted since", |(_, name)| name).to_owned();
        id.map_or_else(none, named)
    };
    let all = |column: &ColumnChange| {
        let info = &column.info;
        [
            ("name", column.name.clone()),
            ("kind", column.kind.display_text().to_owned()),
            ("unit", text(&info.unit)),
            ("decimals", info.decimals.map_or_else(none, |decimals| decimals.to_string())),
            ("gauge", gauge(column.gauge_id)),
            ("LSL", number(info.lsl)),
            ("target", number(info.target)),
            ("USL", number(info.usl)),
            ("formula", text(&column.formula)),
            ("limits by product or date", info.limit_table.as_ref().map_or_else(none, limit_lines)),
            ("what it can be", can_be(&info.rules)),
        ]
    };
    let moved = all(before).into_iter().zip(all(after)).filter(|((_, was), (_, is))| was != is);
    moved.map(|((what, was), (_, is))| format!("{what} of {}: {was} → {is}", after.name)).collect::<Vec<_>>().join("; ")
}

fn limit_lines(table: &LimitTable) -> String {
    counted(table.rows.len(), "line", "lines")
}

fn can_be(rules: &Rules) -> String {
    let bounds = |low: Option<f64>, high: Option<f64>| match (low, high) {
        (Some(low), Some(high)) => format!("{} to {}", typed(low), typed(high)),
        (Some(low), None) => format!("from {}", typed(low)),
        (None, Some(high)) => format!("up to {}", typed(high)),
        (None, None) => String::new(),
    };
    let believed = bounds(rules.lowest, rules.highest);
    let parts = [
        bounds(rules.lower_bound, rules.upper_bound),
        if believed.is_empty() { believed } else { format!("believed {believed}") },
        rules.choices.join(", "),
        if rules.causes.is_empty() { String::new() } else { format!("causes {}", rules.causes.join(", ")) },
    ];
    let parts: Vec<String> = parts.into_iter().filter(|part| !part.is_empty()).collect();
    if parts.is_empty() { "anything".to_owned() } else { parts.join("; ") }
}

fn finding(before: Option<&Finding>, after: Option<&Finding>) -> String {
    let Some(after) = after else {
        let (sentence, cause) = before.map(|finding| (finding.sentence.as_str(), finding.cause.as_deref())).unwrap_or_default();
        return format!("{sentence} Taken back: {}.", cause.unwrap_or("what was said"));
    };
    let was_left = before.is_some_and(|before| before.left_out);
    let doing = match (after.action.as_str(), after.owner.as_str()) {
        ("", _) => String::new(),
        (action, owner) => {
            let by = if owner.is_empty() { String::new() } else { format!(", {owner}") };
            format!(" {}: {action}{by}.", if after.done { "Done" } else { "Action" })
        }
    };
    let left = match (was_left, after.left_out) {
        (false, true) => " Left out of the limits.",
        (true, false) => " Back in the limits.",
        _ => "",
    };
    format!("{} Cause: {}.{doing}{left}", after.sentence, after.cause.as_deref().unwrap_or("none"))
}
