//! Changing a column: name, kind, unit, decimals, limits.

use acorn_data::frame::{ColumnInfo, Kind, LimitTable};
use acorn_formats::bounds::UNIT_CHARS;
use acorn_formats::convert;
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;

use crate::chunks::{self, Chunk, encode, kind_name};
use crate::datasets::{Touched, advance, checked_name, get, kept, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, About, Change, HistoryEvent};
use crate::layout::Layout;
use crate::{Dataset, Result, Store, StoreError, StoredColumn, arrange, images, labels};

/// The properties of a column as they should be; every one is given, so that empty means none.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ColumnChange {
    /// Its name.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// Unit, decimals and limits.
    #[serde(flatten)]
    pub info: ColumnInfo,
    /// The gauge that it is measured with.
    #[serde(default)]
    pub gauge_id: Option<i64>,
    /// What it is worked out by; without one its cells stay as they are, and can be typed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub formula: Option<String>,
}

impl From<&StoredColumn> for ColumnChange {
    fn from(column: &StoredColumn) -> Self {
        let StoredColumn { name, kind, info, gauge_id, formula, .. } = column.clone();
        ColumnChange { name, kind, info, gauge_id, formula }
    }
}

impl ColumnChange {
    fn checked(mut self) -> Result<ColumnChange> {
        self.name = checked_name(&self.name)?;
        self.formula = self.formula.map(|text| text.trim().to_owned()).filter(|text| !text.is_empty());
        self.info.unit = self.info.unit.map(|unit| unit.trim().to_owned()).filter(|unit| !unit.is_empty());
        let long = self.info.unit.as_ref().is_some_and(|unit| unit.chars().count() > UNIT_CHARS);
        if long {
            return Err(StoreError::BadName { problem: format!("the unit is longer than {UNIT_CHARS} characters") });
        }
        let bad = |problem: String| StoreError::BadLimits { problem };
        let rules = std::mem::take(&mut self.info.rules);
        self.info.rules = rules.checked().map_err(bad)?;
        self.info.limits().check().map_err(bad)?;
        self.info.limit_table = self.info.limit_table.map(LimitTable::checked).transpose().map_err(bad)?.flatten();
        if self.info.decimals.is_some_and(|decimals| decimals > 12) {
            return Err(bad("decimals must lie from 0 to 12".into()));
        }
        Ok(self)
    }

    /// That the columns which choose its limits are there, and can.
    fn check_choosers(&self, column_id: i64, dataset: &Dataset) -> Result<()> {
        let Some(table) = &self.info.limit_table else { return Ok(()) };
        let bad = |problem: &str| Err(StoreError::BadLimits { problem: problem.to_owned() });
        for id in [table.by, table.since].into_iter().flatten() {
            if id == column_id {
                return bad("a column does not choose its own limits");
            }
            if dataset.columns.iter().all(|column| column.id != id) {
                return bad("the column that chooses the limits is not one of this table");
            }
        }
        match table.since.map(|id| dataset.column(id)).transpose()? {
            Some(since) if since.kind != Kind::DateTime => bad("the column that says when a row was measured has no dates"),
            _ => Ok(()),
        }
    }
}

impl Store {
    /// Changes a column. A new kind converts every value or nothing; a new formula works every value out.
    ///
    /// # Errors
    /// Those of [`Store::change_columns`].
    pub async fn change_column(
        &self,
        dataset_id: i64,
        column_id: i64,
        revision: i64,
        wanted: ColumnChange,
        change: &Change<'_>,
    ) -> Result<Dataset> {
        self.change_columns(dataset_id, revision, vec![OneColumn { column_id, wanted }], change).await
    }

    /// Changes several columns, all or none; they are undone together.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`], [`StoreError::BadLimits`],
    /// [`StoreError::BadColumn`], or [`StoreError::Value`] when values do not fit the new kind.
    pub async fn change_columns(&self, dataset_id: i64, revision: i64, wanted: Vec<OneColumn>, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let (mut before, mut after) = (Vec::new(), Vec::new());
        for OneColumn { column_id, wanted } in wanted {
            let mut wanted = wanted.checked()?;
            wanted.check_choosers(column_id, &dataset)?;
            let was = ColumnChange::from(dataset.column(column_id)?);
            if let Some(text) = &wanted.formula {
                wanted.kind = formulas::read(text, Some(column_id), &dataset.columns)?.kind();
            }
            if after.iter().any(|other: &OneColumn| other.column_id == column_id) {
                return Err(StoreError::BadColumn { problem: format!("“{}” is changed twice", was.name) });
            }
            if was != wanted {
                before.push(OneColumn { column_id, wanted: was });
                after.push(OneColumn { column_id, wanted });
            }
        }
        if !after.is_empty() {
            advance(&mut transaction, dataset_id, Some(revision)).await?;
            let line = history::record(&mut transaction, change, About::Dataset(dataset_id), &event(&before, &after)).await?;
            let mut touched = Vec::new();
            for (was, is) in before.iter().zip(&after) {
                touched.extend(apply(&mut transaction, line, dataset_id, was, is).await?);
            }
            touch(&mut transaction, dataset_id, Touched::Columns(&touched)).await?;
        }
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

/// A column and the properties that it should have.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct OneColumn {
    /// Its number.
    pub column_id: i64,
    /// Its properties.
    #[serde(flatten)]
    pub wanted: ColumnChange,
}

fn event(before: &[OneColumn], after: &[OneColumn]) -> HistoryEvent {
    match (before, after) {
        ([before], [after]) => HistoryEvent::Column {
            column_id: after.column_id,
            before: Box::new(before.wanted.clone()),
            after: Box::new(after.wanted.clone()),
        },
        _ => HistoryEvent::Columns { before: before.to_vec(), after: after.to_vec() },
    }
}

/// Changes one column as a part of the change of a line. Gives the columns touched.
async fn apply(connection: &mut SqliteConnection, line: i64, dataset_id: i64, before: &OneColumn, after: &OneColumn) -> Result<Vec<i64>> {
    let (column_id, before, wanted) = (after.column_id, &before.wanted, &after.wanted);
    let dataset = get(connection, dataset_id).await?;
    if before.kind != wanted.kind && wanted.formula.is_none() {
        dataset.stands_alone()?;
        convert_cells(connection, line, &dataset, column_id, wanted.kind).await?;
    }
    write(connection, &dataset, column_id, wanted).await?;
    let mut touched = vec![column_id];
    if before.kind != wanted.kind || before.formula != wanted.formula {
        let now = get(connection, dataset_id).await?;
        formulas::check(&now.columns)?;
        let changed = Changed { columns: Some(vec![column_id]), chunks: None };
        touched.extend(formulas::refresh(connection, line, &now, &changed).await?);
    }
    Ok(touched)
}

async fn convert_cells(connection: &mut SqliteConnection, line: i64, dataset: &Dataset, column_id: i64, kind: Kind) -> Result<()> {
    let values = chunks::read_column(connection, column_id, dataset.column(column_id)?.kind).await?;
    let converted = labels::adopt(connection, column_id, convert(&values, kind)?).await?;
    for place in Layout::read(connection, dataset.id).await?.places {
        let cells = encode(&converted, place.first..place.first + place.rows);
        images::replace(connection, line, column_id, place.no, Some(&Chunk { rows: place.rows, cells })).await?;
    }
    Ok(())
}

/// Writes the properties of a column, its cells aside.
pub(crate) async fn write(connection: &mut SqliteConnection, dataset: &Dataset, column_id: i64, wanted: &ColumnChange) -> Result<()> {
    if dataset.column(column_id)?.name != wanted.name {
        arrange::free(dataset, &wanted.name)?;
    }
    let info = &wanted.info;
    let update = sqlx::query(
        "UPDATE dataset_column SET name = ?, kind = ?, unit = ?, decimals = ?, lsl = ?, target = ?, usl = ?, rules = ?, limit_table = ?, \
         gauge_id = (SELECT id FROM gauge WHERE id = ?) WHERE id = ?",
    );
    let update = update.bind(&wanted.name).bind(kind_name(wanted.kind)).bind(&info.unit).bind(info.decimals);
    let [rules, limit_table] = kept(info)?;
    update
        .bind(info.lsl)
        .bind(info.target)
        .bind(info.usl)
        .bind(rules)
        .bind(limit_table)
        .bind(wanted.gauge_id)
        .bind(column_id)
        .execute(&mut *connection)
        .await?;
    formulas::keep(connection, column_id, wanted.formula.as_ref(), &dataset.columns).await
}
