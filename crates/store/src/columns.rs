//! Changing a column: name, kind, unit, decimals, limits.

use acorn_core::frame::{ColumnInfo, Kind};
use acorn_core::study::Spec;
use acorn_formats::convert;
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;

use crate::chunks::{self, kind_name};
use crate::datasets::{advance, checked_name, get};
use crate::history::{self, Change};
use crate::{Dataset, Result, Store, StoreError, StoredColumn};

/// The properties of a column as they should be; every one is given, so that empty means none.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct ColumnChange {
    /// Its name.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// Unit, decimals and limits.
    #[serde(flatten)]
    pub info: ColumnInfo,
}

impl From<&StoredColumn> for ColumnChange {
    fn from(column: &StoredColumn) -> Self {
        ColumnChange { name: column.name.clone(), kind: column.kind, info: column.info.clone() }
    }
}

impl ColumnChange {
    fn checked(mut self) -> Result<ColumnChange> {
        self.name = checked_name(&self.name)?;
        self.info.unit = self.info.unit.map(|unit| unit.trim().to_owned()).filter(|unit| !unit.is_empty());
        let ColumnInfo { lsl, target, usl, decimals, .. } = self.info;
        let wrong = |problem: String| Err(StoreError::BadLimits { problem });
        if let (Some(lsl), Some(usl)) = (lsl, usl)
            && lsl >= usl
        {
            return wrong(format!("the lower limit {lsl} is not below the upper limit {usl}"));
        }
        if [lsl, target, usl].into_iter().flatten().any(|value| !value.is_finite()) {
            return wrong("limits must be finite numbers".into());
        }
        if decimals.is_some_and(|decimals| decimals > 12) {
            return wrong("decimals must lie from 0 to 12".into());
        }
        Ok(self)
    }
}

impl Store {
    /// Changes a column. Studies that name it follow a new name; a new kind converts every value or nothing.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`], [`StoreError::BadLimits`],
    /// or [`StoreError::Value`] when values do not fit the new kind.
    pub async fn change_column(
        &self,
        dataset_id: i64,
        column_id: i64,
        revision: i64,
        wanted: ColumnChange,
        change: &Change<'_>,
    ) -> Result<Dataset> {
        let wanted = wanted.checked()?;
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let before = ColumnChange::from(dataset.column(column_id)?);
        if before != wanted {
            advance(&mut transaction, dataset_id, revision).await?;
            apply(&mut transaction, &dataset, column_id, &wanted).await?;
            let entry = history::Entry {
                dataset_id: Some(dataset_id),
                what: "column",
                target: serde_json::json!({ "column_id": column_id }).to_string(),
                before: Some(serde_json::to_string(&before)?),
                after: Some(serde_json::to_string(&wanted)?),
                ..Default::default()
            };
            history::record(&mut transaction, change, entry).await?;
        }
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

/// Writes the properties of a column; also how a change is undone.
pub(crate) async fn apply(connection: &mut SqliteConnection, dataset: &Dataset, column_id: i64, wanted: &ColumnChange) -> Result<()> {
    let before = dataset.column(column_id)?;
    if dataset.columns.iter().any(|other| other.id != column_id && other.name == wanted.name) {
        return Err(StoreError::BadName { problem: format!("there is already a column “{}”", wanted.name) });
    }
    if before.kind != wanted.kind {
        let values = chunks::read_column(connection, column_id, before.kind, 0..i64::MAX).await?;
        let converted = convert(&values, wanted.kind)?;
        chunks::clear_column(connection, column_id).await?;
        chunks::write_column(connection, column_id, &converted).await?;
    }
    let info = &wanted.info;
    let update =
        sqlx::query("UPDATE dataset_column SET name = ?, kind = ?, unit = ?, decimals = ?, lsl = ?, target = ?, usl = ? WHERE id = ?");
    let update = update.bind(&wanted.name).bind(kind_name(wanted.kind)).bind(&info.unit).bind(info.decimals);
    update.bind(info.lsl).bind(info.target).bind(info.usl).bind(column_id).execute(&mut *connection).await?;
    if before.name != wanted.name {
        rename_in_studies(connection, dataset.id, &before.name, &wanted.name).await?;
    }
    Ok(())
}

async fn rename_in_studies(connection: &mut SqliteConnection, dataset_id: i64, from: &str, to: &str) -> Result<()> {
    let studies: Vec<(i64, String)> =
        sqlx::query_as("SELECT id, spec FROM study WHERE dataset_id = ?").bind(dataset_id).fetch_all(&mut *connection).await?;
    for (id, spec) in studies {
        let mut spec: Spec = serde_json::from_str(&spec)?;
        if spec.rename_column(from, to) {
            let update = sqlx::query("UPDATE study SET spec = ?, revision = revision + 1 WHERE id = ?");
            update.bind(serde_json::to_string(&spec)?).bind(id).execute(&mut *connection).await?;
        }
    }
    Ok(())
}
