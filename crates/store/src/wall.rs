//! The Wall: where each characteristic hangs, and how it stood on the days before.

use std::collections::HashMap;

use serde::{Deserialize, Serialize};
use sqlx::FromRow;

use crate::{Result, Store, StoreError};

/// Where a characteristic hangs.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize, FromRow, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WallPlace {
    /// Its column.
    pub column_id: i64,
    /// The line that it belongs to; empty for none.
    pub line: String,
    /// The product that it belongs to; empty for none.
    pub product: String,
    /// Its place when they hang by hand; the smallest comes first.
    pub place: i64,
}

/// How a characteristic stood when it was last looked at on a day.
#[derive(Clone, Debug, PartialEq, Serialize, FromRow, utoipa::ToSchema)]
pub struct DayStanding {
    /// The study.
    #[serde(skip)]
    pub study_id: i64,
    /// The day, as 2026-05-04.
    pub day: String,
    /// No signal on any panel.
    pub steady: bool,
    /// Signals on all panels.
    pub signals: i64,
    /// Ppk.
    pub ppk: Option<f64>,
}

/// Places hung at once at most.
const PLACES_MOST: usize = 5000;
/// Days that are kept.
const DAYS_KEPT: i64 = 60;

impl Store {
    /// Where each hangs that was hung by somebody, by its column.
    ///
    /// # Errors
    /// The database's own.
    pub async fn wall_places(&self) -> Result<HashMap<i64, WallPlace>> {
        let places: Vec<WallPlace> =
            sqlx::query_as("SELECT column_id, line, product, place FROM wall_place").fetch_all(&self.readers).await?;
        Ok(places.into_iter().map(|place| (place.column_id, place)).collect())
    }

    /// Hangs some of them. A column that is gone meanwhile is passed over.
    ///
    /// # Errors
    /// [`crate::StoreError::BadCollection`] for too many, or too long a name.
    pub async fn hang(&self, places: &[WallPlace]) -> Result<()> {
        let long = |place: &WallPlace| [&place.line, &place.product].iter().any(|name| name.chars().count() > 100);
        if places.len() > PLACES_MOST || places.iter().any(long) {
            return Err(StoreError::bad_collection(format!(
                "{PLACES_MOST} are hung at once at most, lines and products of 100 characters"
            )));
        }
        let mut transaction = self.begin().await?;
        for WallPlace { column_id, line, product, place } in places {
            let hang = "INSERT INTO wall_place (column_id, line, product, place) SELECT id, ?2, ?3, ?4 FROM dataset_column WHERE id = ?1 \
                ON CONFLICT (column_id) DO UPDATE SET line = ?2, product = ?3, place = ?4";
            let hang = sqlx::query(hang).bind(column_id).bind(line.trim()).bind(product.trim()).bind(place);
            hang.execute(&mut *transaction).await?;
        }
        transaction.commit().await?;
        Ok(())
    }

    /// How each study stood on the last day before one on which somebody looked, by study.
    ///
    /// # Errors
    /// The database's own.
    pub async fn wall_before(&self, day: &str) -> Result<HashMap<i64, DayStanding>> {
        let query = "SELECT study_id, day, steady, signals, ppk FROM wall_day WHERE day = (SELECT max(day) FROM wall_day WHERE day < ?)";
        let days: Vec<DayStanding> = sqlx::query_as(query).bind(day).fetch_all(&self.readers).await?;
        Ok(days.into_iter().map(|day| (day.study_id, day)).collect())
    }

    /// Keeps how studies stand on a day; those of long ago are dropped.
    ///
    /// # Errors
    /// The database's own.
    pub async fn keep_wall_day(&self, standings: &[DayStanding]) -> Result<()> {
        let mut transaction = self.begin().await?;
        for DayStanding { study_id, day, steady, signals, ppk } in standings {
            let keep = "INSERT INTO wall_day (study_id, day, steady, signals, ppk) SELECT id, ?2, ?3, ?4, ?5 FROM study WHERE id = ?1 \
                ON CONFLICT (study_id, day) DO UPDATE SET steady = ?3, signals = ?4, ppk = ?5";
            let keep = sqlx::query(keep).bind(study_id).bind(day).bind(steady).bind(signals).bind(ppk);
            keep.execute(&mut *transaction).await?;
        }
        let old = "DELETE FROM wall_day WHERE day < (SELECT min(day) FROM (SELECT DISTINCT day FROM wall_day ORDER BY day DESC LIMIT ?))";
        sqlx::query(old).bind(DAYS_KEPT).execute(&mut *transaction).await?;
        transaction.commit().await?;
        Ok(())
    }
}
