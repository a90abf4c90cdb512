//! Lists that identifiers are chosen from, shared between plans.

use serde::{Deserialize, Serialize};

use crate::datasets::checked_name;
use crate::{Result, Store, StoreError};

/// A list that identifiers are chosen from.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ChoiceList {
    /// Its number.
    pub id: i64,
    /// What it is called.
    pub name: String,
    /// Its choices in their order.
    pub choices: Vec<String>,
    /// Grows with every change.
    pub revision: i64,
}

/// A list about to be made or changed.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ListChange {
    /// The revision that the person saw; absent for a new list.
    #[serde(default)]
    pub revision: Option<i64>,
    /// What it is called.
    pub name: String,
    /// Its choices in their order.
    pub choices: Vec<String>,
}

/// Most choices of a list.
const CHOICES_MOST: usize = 500;

impl Store {
    /// All lists, by name.
    ///
    /// # Errors
    /// The database's own.
    pub async fn choice_lists(&self) -> Result<Vec<ChoiceList>> {
        let query = "SELECT id, name, choices, revision FROM choice_list ORDER BY name";
        let rows: Vec<(i64, String, String, i64)> = sqlx::query_as(query).fetch_all(&self.readers).await?;
        let list = |(id, name, choices, revision): (i64, String, String, i64)| {
            Ok(ChoiceList { id, name, choices: serde_json::from_str(&choices)?, revision })
        };
        rows.into_iter().map(list).collect()
    }

    /// Makes a list, or changes the one of a number.
    ///
    /// # Errors
    /// [`StoreError::BadCollection`], [`StoreError::Conflict`], [`StoreError::NotFound`].
    pub async fn put_choice_list(&self, id: Option<i64>, wanted: &ListChange) -> Result<ChoiceList> {
        let name = checked_name(&wanted.name)?;
        let mut choices: Vec<String> = Vec::new();
        for choice in &wanted.choices {
            let choice = choice.trim().to_owned();
            if !choice.is_empty() && !choices.contains(&choice) {
                choices.push(choice);
            }
        }
        if choices.len() > CHOICES_MOST || choices.iter().any(|choice| choice.chars().count() > 100) {
            return Err(StoreError::bad_collection(format!("a list has {CHOICES_MOST} choices of 100 characters at most")));
        }
        let mut transaction = self.begin().await?;
        let taken: Option<i64> =
            sqlx::query_scalar("SELECT id FROM choice_list WHERE name = ?").bind(&name).fetch_optional(&mut *transaction).await?;
        if taken.is_some() && taken != id {
            return Err(StoreError::bad_collection(format!("there is a list “{name}” already")));
        }
        let stored = serde_json::to_string(&choices)?;
        let id = match id {
            None => {
                let insert = sqlx::query("INSERT INTO choice_list (name, choices) VALUES (?, ?)").bind(&name).bind(stored);
                insert.execute(&mut *transaction).await?.last_insert_rowid()
            }
            Some(id) => {
                let now: Option<i64> =
                    sqlx::query_scalar("SELECT revision FROM choice_list WHERE id = ?").bind(id).fetch_optional(&mut *transaction).await?;
                let current = now.ok_or(StoreError::NotFound { what: "list", id })?;
                let given = wanted.revision.unwrap_or_default();
                if current != given {
                    return Err(StoreError::Conflict { what: "list", current, given });
                }
                let update = sqlx::query("UPDATE choice_list SET name = ?, choices = ?, revision = revision + 1 WHERE id = ?");
                update.bind(&name).bind(stored).bind(id).execute(&mut *transaction).await?;
                id
            }
        };
        transaction.commit().await?;
        let lists = self.choice_lists().await?;
        lists.into_iter().find(|list| list.id == id).ok_or(StoreError::NotFound { what: "list", id })
    }
}
