//! Last answers in brief, kept over a restart.

use sqlx::FromRow;

use crate::{Result, Store};

/// Most of them; the oldest go first.
const BRIEFS_MOST: i64 = 1000;
/// Longest question and brief that are kept, in bytes.
const BYTES_MOST: usize = 1 << 18;

/// The last answer to a question, in brief.
#[derive(Clone, Debug, PartialEq, FromRow)]
pub struct KeptBrief {
    /// The question.
    pub question: String,
    /// What the answer rests on: the same again means the same answer.
    pub rests_on: String,
    /// The answer.
    pub brief: String,
}

impl Store {
    /// All that are kept.
    ///
    /// # Errors
    /// The database's own.
    pub async fn briefs(&self) -> Result<Vec<KeptBrief>> {
        Ok(sqlx::query_as("SELECT question, rests_on, brief FROM brief").fetch_all(&self.readers).await?)
    }

    /// Keeps some, each in place of the one before. One that is too long is not kept.
    ///
    /// # Errors
    /// The database's own.
    pub async fn keep_briefs(&self, briefs: &[KeptBrief], at: i64) -> Result<()> {
        let mut transaction = self.begin().await?;
        for KeptBrief { question, rests_on, brief } in briefs {
            if question.len().max(brief.len()) <= BYTES_MOST {
                let keep = "INSERT OR REPLACE INTO brief (question, rests_on, brief, at) VALUES (?, ?, ?, ?)";
                sqlx::query(keep).bind(question).bind(rests_on).bind(brief).bind(at).execute(&mut *transaction).await?;
            }
        }
        let oldest = "DELETE FROM brief WHERE question NOT IN (SELECT question FROM brief ORDER BY at DESC LIMIT ?)";
        sqlx::query(oldest).bind(BRIEFS_MOST).execute(&mut *transaction).await?;
        transaction.commit().await
    }
}
