//! Sheets to fill: a planned gauge study as an empty dataset with its question, stored together.

use acorn_formats::{Table, TableColumn};
use acorn_study::gauge::plan::Plan;
use acorn_study::{DataSource, Spec};
use serde::{Deserialize, Serialize};

use crate::datasets::{self, NewDataset, SheetPlan};
use crate::gauges::{self, GaugeChange};
use crate::history::Change;
use crate::studies::{self, NewStudy};
use crate::{Dataset, Result, Store, StoreError, Study};

/// A gauge study to be made.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewSheet {
    /// What the sheet is called; else it goes by what is read.
    #[serde(default)]
    pub name: Option<String>,
    /// The plan.
    pub plan: Plan,
    /// The gauge, if it is known already.
    #[serde(default)]
    pub gauge_id: Option<i64>,
    /// A gauge to be entered with it.
    #[serde(default)]
    pub gauge: Option<GaugeChange>,
}

/// A sheet with the question that it answers.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct StoredSheet {
    /// The sheet.
    pub dataset: Dataset,
    /// Its question.
    pub study: Study,
}

impl Store {
    /// Makes a sheet of a plan, with its question and, where it is new, its gauge. All or nothing.
    ///
    /// # Errors
    /// [`StoreError::BadPlan`], [`StoreError::NotFound`] for the gauge, and what a new gauge is refused for.
    pub async fn create_sheet(&self, new: &NewSheet, change: &Change<'_>) -> Result<StoredSheet> {
        let sheet = new.plan.sheet().map_err(StoreError::BadPlan)?;
        let mut transaction = self.begin().await?;
        let gauge = match (&new.gauge, new.gauge_id) {
            (Some(gauge), _) => Some(gauges::insert(&mut transaction, gauge.clone(), change).await?),
            (None, Some(id)) => Some(gauges::exists(&mut transaction, id).await?),
            (None, None) => None,
        };
        let rows = sheet.columns.first().map_or(0, |column| column.values.len());
        let infos: Vec<_> = sheet.columns.iter().map(|column| (column.name.clone(), column.info.clone())).collect();
        let column = |column: &acorn_data::frame::Column| TableColumn {
            name: column.name.clone(),
            kind: column.kind,
            unit: column.info.unit.clone(),
            values: column.values.clone(),
        };
        let table = Table { columns: sheet.columns.iter().map(column).collect(), rows };
        let usual = format!("{}, gauge study", sheet.measure);
        let name = new.name.as_deref().filter(|name| !name.trim().is_empty()).unwrap_or(&usual);
        let gauges: Vec<(String, i64)> = gauge.map(|id| (sheet.measure.clone(), id)).into_iter().collect();
        let new_dataset = NewDataset { name, source: "plan", table: &table, infos: &infos, gauges: &gauges };
        let id = datasets::insert(&mut transaction, &new_dataset, false, change).await?;
        let stored = datasets::get(&mut transaction, id).await?;
        let measure = stored.columns.iter().find(|column| column.name == sheet.measure);
        let column_id = measure.ok_or_else(|| StoreError::Corrupt("a sheet without its column".into()))?.id;
        let plan = serde_json::to_string(&SheetPlan { column_id, plan: new.plan.clone() })?;
        sqlx::query("UPDATE dataset SET plan = ? WHERE id = ?").bind(plan).bind(id).execute(&mut *transaction).await?;
        let spec = Spec { data: Some(DataSource::Dataset(id)), ..sheet.spec };
        let study = studies::insert(&mut transaction, &NewStudy { name: None, spec }, change).await?;
        transaction.commit().await?;
        Ok(StoredSheet { dataset: self.dataset(id).await?, study: self.study(study).await? })
    }
}
