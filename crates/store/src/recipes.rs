//! How files of a layout are read: the mends that a person chose for the last one hold for the next.

use acorn_formats::ReadOptions;
use serde::Serialize;

use crate::history::Change;
use crate::{Result, Store};

/// Layouts that are remembered; the oldest are forgotten.
const REMEMBERED: i64 = 1_000;

/// How the last file of a layout was read.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Recipe {
    /// The corrections.
    #[serde(skip)]
    pub read_options: ReadOptions,
    /// Who made them.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

impl Store {
    /// How a file of a layout was last read; none where it was read as it seems.
    ///
    /// # Errors
    /// The database's own.
    pub async fn recipe(&self, layout: &str) -> Result<Option<Recipe>> {
        let query = sqlx::query_as("SELECT wish, actor, at FROM recipe WHERE layout = ?").bind(layout);
        let row: Option<(String, String, i64)> = query.fetch_optional(&self.readers).await?;
        // What an older version wrote and this one does not know is no recipe.
        Ok(row.and_then(|(read_options, actor, at)| Some(Recipe { read_options: serde_json::from_str(&read_options).ok()?, actor, at })))
    }

    /// Remembers how a file of a layout was read; answers to single values are its own and are not kept.
    ///
    /// # Errors
    /// The database's own.
    pub async fn keep_recipe(&self, layout: &str, read_options: &ReadOptions, change: &Change<'_>) -> Result<()> {
        let plain = serde_json::to_string(&ReadOptions::default())?;
        let read_options = serde_json::to_string(&ReadOptions { fixes: Vec::new(), unfit_as_missing: false, ..read_options.clone() })?;
        let mut transaction = self.begin().await?;
        if read_options == plain {
            sqlx::query("DELETE FROM recipe WHERE layout = ?").bind(layout).execute(&mut *transaction).await?;
        } else {
            let query = sqlx::query("INSERT OR REPLACE INTO recipe (layout, wish, actor, at) VALUES (?, ?, ?, ?)");
            query.bind(layout).bind(read_options).bind(change.actor).bind(change.at).execute(&mut *transaction).await?;
            let old = "DELETE FROM recipe WHERE layout IN (SELECT layout FROM recipe ORDER BY at DESC LIMIT -1 OFFSET ?)";
            sqlx::query(old).bind(REMEMBERED).execute(&mut *transaction).await?;
        }
        transaction.commit().await?;
        Ok(())
    }
}
