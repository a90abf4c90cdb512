//! Columns that are worked out by a formula: their cells are kept like any others, and worked out anew within the change that touches
//! what they rest on, so that undoing that change brings them back too.

use std::collections::{BTreeMap, BTreeSet};

use acorn_data::formula::{TableFormula, in_order};
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, Values};
use sqlx::SqliteConnection;

use crate::chunks::{self, Chunk, encode};
use crate::layout::{Layout, Place};
use crate::{Dataset, Result, StoreError, StoredColumn, formula_names, images, labels};

/// Keeps the formula of a column, or that it has none.
pub(crate) async fn keep(connection: &mut SqliteConnection, id: i64, formula: Option<&String>, columns: &[StoredColumn]) -> Result<()> {
    let columns: Vec<(i64, &str)> = columns.iter().map(|column| (column.id, column.name.as_str())).collect();
    let marked = formula.map(|text| formula_names::by_id(text, &columns));
    sqlx::query("UPDATE dataset_column SET formula = ? WHERE id = ?").bind(marked).bind(id).execute(connection).await?;
    Ok(())
}

/// Reads the formula of a column over the others.
///
/// # Errors
/// [`StoreError::BadColumn`], also for one that would need itself.
pub(crate) fn read(text: &str, own: Option<i64>, columns: &[StoredColumn]) -> Result<TableFormula> {
    let bad = |mistake: acorn_data::formula::Mistake| StoreError::BadColumn { problem: mistake.to_string() };
    let named: Vec<(&str, Kind)> = columns.iter().map(|column| (column.name.as_str(), column.kind)).collect();
    let formula = TableFormula::read(text, &named).map_err(bad)?;
    if let Some(own) = columns.iter().find(|column| Some(column.id) == own) {
        let others: Vec<(&str, &str)> = columns
            .iter()
            .filter(|column| column.id != own.id)
            .filter_map(|column| Some((column.name.as_str(), column.formula.as_deref()?)))
            .collect();
        formula.formula().check_circle(&own.name, &others).map_err(bad)?;
    }
    Ok(formula)
}

/// Refuses a change of columns after which the formula of one of them could no longer be read.
pub(crate) fn check(columns: &[StoredColumn]) -> Result<()> {
    for column in columns {
        let Some(text) = &column.formula else { continue };
        let formula = read(text, Some(column.id), columns).map_err(|error| StoreError::BadColumn {
            problem: format!("the formula of “{}” would no longer hold: {error}", column.name),
        })?;
        if formula.kind() != column.kind {
            let problem = format!(
                "the formula of “{}” would give {}, not {}",
                column.name,
                formula.kind().display_text(),
                column.kind.display_text()
            );
            return Err(StoreError::BadColumn { problem });
        }
    }
    Ok(())
}

/// What a change touched.
pub(crate) struct Changed {
    /// Columns; all when absent.
    pub columns: Option<Vec<i64>>,
    /// The chunks in which; all when absent.
    pub chunks: Option<BTreeSet<i64>>,
}

/// The chunks in which a column changed; all when absent.
type Scope = Option<BTreeSet<i64>>;

/// Works out anew what rests on what was touched, as a part of the change of a line of the history. Gives the columns that it wrote.
pub(crate) async fn refresh(connection: &mut SqliteConnection, line: i64, dataset: &Dataset, changed: &Changed) -> Result<Vec<i64>> {
    let columns = &dataset.columns;
    if columns.iter().all(|column| column.formula.is_none()) {
        return Ok(Vec::new());
    }
    let formulas: Vec<Option<TableFormula>> =
        columns.iter().map(|column| column.formula.as_ref().map(|text| read(text, None, columns)).transpose()).collect::<Result<_>>()?;
    let names: Vec<&str> = columns.iter().map(|column| column.name.as_str()).collect();
    let needs: Vec<Vec<usize>> = formulas.iter().map(|one| one.as_ref().map_or_else(Vec::new, |one| one.formula().needs(&names))).collect();
    let order = in_order(&needs).map_err(|_| StoreError::Corrupt("formulas go in a circle".into()))?;
    let layout = Layout::read(connection, dataset.id).await?;
    let mut scopes: BTreeMap<usize, Scope> = BTreeMap::new();
    let mut written = Vec::new();
    for place in order {
        let is_touched = changed.columns.as_ref().is_none_or(|ids| ids.contains(&columns[place].id));
        let Some(formula) = &formulas[place] else {
            if is_touched {
                scopes.insert(place, changed.chunks.clone());
            }
            continue;
        };
        let of_inputs: Vec<&Scope> = needs[place].iter().filter_map(|input| scopes.get(input)).collect();
        let own = is_touched.then(|| changed.chunks.clone());
        if own.is_none() && of_inputs.is_empty() {
            continue;
        }
        let everywhere = formula.looks_around() || of_inputs.iter().copied().chain(&own).any(Option::is_none);
        let here = || of_inputs.iter().copied().chain(&own).flatten().flatten().copied().collect();
        let scope: Scope = (!everywhere).then(here);
        let inputs: Vec<&StoredColumn> = needs[place].iter().map(|input| &columns[*input]).collect();
        let pieces: Vec<&[Place]> = match &scope {
            None => vec![&layout.places],
            Some(some) => layout.places.chunks(1).filter(|piece| some.contains(&piece[0].no)).collect(),
        };
        for piece in pieces {
            write(connection, line, &columns[place], formula, &inputs, piece).await?;
        }
        written.push(columns[place].id);
        scopes.insert(place, scope);
    }
    Ok(written)
}

/// Works out a formula over some chunks that follow each other, and writes them.
async fn write(
    connection: &mut SqliteConnection,
    line: i64,
    column: &StoredColumn,
    formula: &TableFormula,
    inputs: &[&StoredColumn],
    piece: &[Place],
) -> Result<()> {
    let (Some(first), Some(last)) = (piece.first(), piece.last()) else { return Ok(()) };
    let rows = last.first + last.rows - first.first;
    let mut read = Vec::with_capacity(inputs.len());
    for input in inputs {
        let values = chunks::read_rows(connection, input.id, input.kind, first.no..last.no + 1, 0..rows).await?;
        read.push(Column { name: input.name.clone(), kind: input.kind, info: ColumnInfo::default(), measuring: None, held: None, values });
    }
    if read.is_empty() {
        // Rows are counted by their columns.
        let values = Values::Number(vec![f64::NAN; rows].into());
        read.push(Column { name: String::new(), kind: Kind::Number, info: ColumnInfo::default(), measuring: None, held: None, values });
    }
    let frame = Frame::new(read, None).map_err(|error| StoreError::Corrupt(error.to_string()))?;
    let formula = formula.clone();
    let values = tokio::task::spawn_blocking(move || formula.values(&frame)).await;
    let values = values.map_err(|_| StoreError::Corrupt("a formula was not worked out".into()))?;
    let values = labels::adopt(connection, column.id, values).await?;
    for place in piece {
        let start = place.first - first.first;
        let chunk = Chunk { rows: place.rows, cells: encode(&values, start..start + place.rows) };
        images::replace(connection, line, column.id, place.no, Some(&chunk)).await?;
    }
    Ok(())
}

/// Refuses typing into a column that is worked out by a formula.
pub(crate) fn not_typed(column: &StoredColumn) -> Result<()> {
    match &column.formula {
        None => Ok(()),
        Some(_) => Err(StoreError::BadColumn {
            problem: format!("“{}” is worked out by its formula; change that, or turn it into plain values first", column.name),
        }),
    }
}
