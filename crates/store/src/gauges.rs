//! Gauges: what they measure, what their studies said, and which columns they measure.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::{Touched, advance as advance_dataset, checked_name, touch};
use crate::history::Change;
use crate::{Result, Store, StoreError};

/// What a gauge is.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct GaugeChange {
    /// Its name: "Depth gauge".
    pub name: String,
    /// By which it is told from others of its kind; may be empty.
    #[serde(default)]
    pub number: String,
    /// What it measures, in words.
    #[serde(default)]
    pub measures: String,
    /// The unit that it reads in.
    #[serde(default)]
    pub unit: String,
    /// The smallest step that it shows.
    #[serde(default)]
    pub resolution: Option<f64>,
    /// Months from one study to the next; absent when none is asked for.
    #[serde(default)]
    pub months: Option<u32>,
    /// A remark.
    #[serde(default)]
    pub note: String,
}

/// A gauge.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Gauge {
    /// Its number in addresses.
    pub id: i64,
    /// What it is.
    #[serde(flatten)]
    pub is: GaugeChange,
    /// Grows with every change.
    pub revision: i64,
    /// When it was entered, in milliseconds since 1970.
    pub created_at: i64,
    /// What its studies said, the newest first.
    pub records: Vec<GaugeRecord>,
    /// The columns that it measures.
    pub columns: Vec<GaugedColumn>,
}

impl GaugeChange {
    /// "Depth gauge D-07".
    pub fn display_text(&self) -> String {
        format!("{} {}", self.name, self.number).trim_end().to_owned()
    }

    fn checked(self) -> Result<GaugeChange> {
        let wrong = |problem: &str| Err(StoreError::BadGauge { problem: problem.to_owned() });
        if self.resolution.is_some_and(|step| !(step.is_finite() && step > 0.0)) {
            return wrong("the resolution is a number above 0");
        }
        if self.months.is_some_and(|months| !(1..=1200).contains(&months)) {
            return wrong("the months between studies lie from 1 to 1,200");
        }
        let short = |text: String, most: usize| {
            let text = text.trim().to_owned();
            if text.chars().count() <= most {
                Ok(text)
            } else {
                Err(StoreError::BadGauge { problem: format!("a text is longer than {most} characters") })
            }
        };
        Ok(GaugeChange {
            name: checked_name(&self.name)?,
            number: short(self.number, 60)?,
            measures: short(self.measures, 200)?,
            unit: short(self.unit, 30)?,
            note: short(self.note, 2000)?,
            ..self
        })
    }
}

/// What a study said of a gauge on a day.
#[derive(Clone, Debug, PartialEq, Serialize, FromRow, utoipa::ToSchema)]
pub struct GaugeRecord {
    /// Its number.
    pub id: i64,
    #[serde(skip)]
    gauge_id: i64,
    /// The study, while it is there.
    pub study_id: Option<i64>,
    /// The method of the study.
    pub method: String,
    /// What was read.
    pub characteristic: String,
    /// In which data.
    pub dataset: String,
    /// The day, as `2026-05-04`.
    pub day: String,
    /// Sd of the gauge; null where the study has none.
    pub sd: Option<f64>,
    /// Its share of what it is held against.
    pub share: Option<f64>,
    /// `calm`, `caution`, `alarm` or `unsure`.
    pub tone: String,
    /// The verdict's title.
    pub title: String,
    /// The verdict.
    pub sentence: String,
    /// Who recorded it.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

/// A record about to be kept.
pub struct NewRecord<'r> {
    /// The study.
    pub study_id: i64,
    /// Its method.
    pub method: &'r str,
    /// What was read.
    pub characteristic: &'r str,
    /// In which data.
    pub dataset: &'r str,
    /// The day.
    pub day: Date,
    /// Sd of the gauge.
    pub sd: Option<f64>,
    /// Its share of what it is held against.
    pub share: Option<f64>,
    /// The verdict's tone, title and sentence.
    pub verdict: [&'r str; 3],
}

/// A column that a gauge measures.
#[derive(Clone, Debug, PartialEq, Serialize, FromRow, utoipa::ToSchema)]
pub struct GaugedColumn {
    #[serde(skip)]
    gauge_id: i64,
    /// The dataset.
    pub dataset_id: i64,
    /// Its name.
    pub dataset: String,
    /// The column.
    pub column_id: i64,
    /// Its name.
    pub column: String,
}

#[derive(FromRow)]
struct GaugeRow {
    id: i64,
    name: String,
    number: String,
    measures: String,
    unit: String,
    resolution: Option<f64>,
    months: Option<u32>,
    note: String,
    revision: i64,
    created_at: i64,
}

const RECORDS: &str =
    "SELECT id, gauge_id, study_id, method, characteristic, dataset, day, sd, share, tone, title, sentence, actor, at FROM gauge_record";
const COLUMNS: &str = "SELECT c.gauge_id, d.id AS dataset_id, d.name AS dataset, c.id AS column_id, c.name AS column FROM dataset_column AS c \
    JOIN dataset AS d ON d.id = c.dataset_id AND NOT c.gone";

async fn read(connection: &mut SqliteConnection, only: Option<i64>) -> Result<Vec<Gauge>> {
    let query = "SELECT id, name, number, measures, unit, resolution, months, note, revision, created_at FROM gauge WHERE ?1 IS NULL OR id = ?1 \
        ORDER BY name COLLATE NOCASE, number COLLATE NOCASE, id";
    let rows: Vec<GaugeRow> = sqlx::query_as(query).bind(only).fetch_all(&mut *connection).await?;
    let query = sqlx::AssertSqlSafe(format!("{RECORDS} WHERE ?1 IS NULL OR gauge_id = ?1 ORDER BY day DESC, id DESC"));
    let records: Vec<GaugeRecord> = sqlx::query_as(query).bind(only).fetch_all(&mut *connection).await?;
    let query = sqlx::AssertSqlSafe(format!(
        "{COLUMNS} WHERE c.gauge_id IS NOT NULL AND (?1 IS NULL OR c.gauge_id = ?1) ORDER BY d.name COLLATE NOCASE, c.position"
    ));
    let columns: Vec<GaugedColumn> = sqlx::query_as(query).bind(only).fetch_all(connection).await?;
    let whole = |row: GaugeRow| Gauge {
        records: records.iter().filter(|record| record.gauge_id == row.id).cloned().collect(),
        columns: columns.iter().filter(|column| column.gauge_id == row.id).cloned().collect(),
        id: row.id,
        revision: row.revision,
        created_at: row.created_at,
        is: GaugeChange {
            name: row.name,
            number: row.number,
            measures: row.measures,
            unit: row.unit,
            resolution: row.resolution,
            months: row.months,
            note: row.note,
        },
    };
    Ok(rows.into_iter().map(whole).collect())
}

async fn one(connection: &mut SqliteConnection, id: i64) -> Result<Gauge> {
    read(connection, Some(id)).await?.pop().ok_or(StoreError::NotFound { what: "gauge", id })
}

/// Answers about columns of a gauge are told anew.
async fn touch_columns(connection: &mut SqliteConnection, gauge: &Gauge) -> Result<()> {
    for column in &gauge.columns {
        advance_dataset(connection, column.dataset_id, None).await?;
        touch(connection, column.dataset_id, Touched::Columns(&[column.column_id])).await?;
    }
    Ok(())
}

impl Store {
    /// All gauges by name, with their records and columns.
    ///
    /// # Errors
    /// The database's own.
    pub async fn gauges(&self) -> Result<Vec<Gauge>> {
        read(&mut *self.readers.begin().await?, None).await
    }

    /// One gauge.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn gauge(&self, id: i64) -> Result<Gauge> {
        one(&mut *self.readers.begin().await?, id).await
    }

    /// Enters a gauge.
    ///
    /// # Errors
    /// [`StoreError::BadName`], [`StoreError::BadGauge`], also when there is one of this name and number.
    pub async fn create_gauge(&self, new: GaugeChange, change: &Change<'_>) -> Result<Gauge> {
        let mut transaction = self.begin().await?;
        let id = insert(&mut transaction, new, change).await?;
        transaction.commit().await?;
        self.gauge(id).await
    }

    /// Changes what a gauge is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], and what [`Store::create_gauge`] refuses.
    pub async fn change_gauge(&self, id: i64, revision: i64, wanted: GaugeChange) -> Result<Gauge> {
        let is = wanted.checked()?;
        let mut transaction = self.begin().await?;
        let before = one(&mut transaction, id).await?;
        if before.revision != revision {
            return Err(StoreError::Conflict { what: "gauge", current: before.revision, given: revision });
        }
        let update = sqlx::query(
            "UPDATE gauge SET name = ?, number = ?, measures = ?, unit = ?, resolution = ?, months = ?, note = ?, revision = revision + 1 WHERE id = ?",
        );
        let update = update.bind(&is.name).bind(&is.number).bind(&is.measures).bind(&is.unit).bind(is.resolution).bind(is.months);
        taken(update.bind(&is.note).bind(id).execute(&mut *transaction).await, &is)?;
        if before.is.display_text() != is.display_text() {
            touch_columns(&mut transaction, &before).await?;
        }
        transaction.commit().await?;
        self.gauge(id).await
    }

    /// Deletes a gauge with its records; its columns stay, without a gauge.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn delete_gauge(&self, id: i64) -> Result<Gauge> {
        let mut transaction = self.begin().await?;
        let gauge = one(&mut transaction, id).await?;
        touch_columns(&mut transaction, &gauge).await?;
        sqlx::query("DELETE FROM gauge WHERE id = ?").bind(id).execute(&mut *transaction).await?;
        transaction.commit().await?;
        Ok(gauge)
    }

    /// Keeps what a study said of a gauge.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn record_gauge(&self, id: i64, new: &NewRecord<'_>, change: &Change<'_>) -> Result<Gauge> {
        let mut transaction = self.begin().await?;
        let gauge = one(&mut transaction, id).await?;
        let [tone, title, sentence] = new.verdict;
        let insert = sqlx::query(
            "INSERT INTO gauge_record (gauge_id, study_id, method, characteristic, dataset, day, sd, share, tone, title, sentence, actor, at) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        );
        let insert =
            insert.bind(id).bind(new.study_id).bind(new.method).bind(new.characteristic).bind(new.dataset).bind(new.day.to_string());
        let insert = insert.bind(new.sd).bind(new.share).bind(tone).bind(title).bind(sentence).bind(change.actor).bind(change.at);
        insert.execute(&mut *transaction).await?;
        touch_columns(&mut transaction, &gauge).await?;
        transaction.commit().await?;
        self.gauge(id).await
    }

    /// Takes a record back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn forget_record(&self, id: i64, record: i64) -> Result<Gauge> {
        let mut transaction = self.begin().await?;
        let gauge = one(&mut transaction, id).await?;
        let gone =
            sqlx::query("DELETE FROM gauge_record WHERE id = ? AND gauge_id = ?").bind(record).bind(id).execute(&mut *transaction).await?;
        if gone.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "record", id: record });
        }
        touch_columns(&mut transaction, &gauge).await?;
        transaction.commit().await?;
        self.gauge(id).await
    }
}

/// A database error about two gauges of one name and number, in words.
fn taken<T>(done: std::result::Result<T, sqlx::Error>, is: &GaugeChange) -> Result<T> {
    done.map_err(|error| match error.as_database_error() {
        Some(database) if database.is_unique_violation() => {
            StoreError::BadGauge { problem: format!("there is already a gauge “{}”; give this one another number", is.display_text()) }
        }
        _ => error.into(),
    })
}

/// The number of a gauge that is there.
pub(crate) async fn exists(connection: &mut SqliteConnection, id: i64) -> Result<i64> {
    Ok(one(connection, id).await?.id)
}

/// Enters a gauge.
pub(crate) async fn insert(connection: &mut SqliteConnection, new: GaugeChange, change: &Change<'_>) -> Result<i64> {
    let is = new.checked()?;
    let insert = sqlx::query(
        "INSERT INTO gauge (name, number, measures, unit, resolution, months, note, created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(&is.name).bind(&is.number).bind(&is.measures).bind(&is.unit).bind(is.resolution).bind(is.months);
    Ok(taken(insert.bind(&is.note).bind(change.at).execute(connection).await, &is)?.last_insert_rowid())
}
