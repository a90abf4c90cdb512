//! Why the store refuses.

use acorn_formats::FormatError;

/// Every way a call can fail.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// No such thing, or no longer.
    #[error("there is no {what} {id}")]
    NotFound {
        /// Dataset, column, study.
        what: &'static str,
        /// Its number.
        id: i64,
    },
    /// Somebody else changed it since.
    #[error("the {what} was changed meanwhile: it is at revision {current}, not {given}")]
    Conflict {
        /// Dataset or study.
        what: &'static str,
        /// The revision it has.
        current: i64,
        /// The revision the change was made on.
        given: i64,
    },
    /// A name that is taken, or empty.
    #[error("{problem}")]
    BadName {
        /// What is wrong with it.
        problem: String,
    },
    /// Limits in the wrong order.
    #[error("{problem}")]
    BadLimits {
        /// What is wrong with them.
        problem: String,
    },
    /// Something said about a signal that cannot be kept.
    #[error("{problem}")]
    BadFinding {
        /// What is wrong with it.
        problem: String,
    },
    /// Rows that cannot be added or deleted as asked.
    #[error("{problem}")]
    BadRows {
        /// What is wrong with them.
        problem: String,
    },
    /// A plan that no sheet can be made of.
    #[error(transparent)]
    BadPlan(acorn_study::StudyError),
    /// A collection plan, a station or a list that cannot be kept as it is.
    #[error("{problem}")]
    BadCollection {
        /// What is wrong with it.
        problem: String,
    },
    /// An entry that its plan does not take.
    #[error(transparent)]
    Refused(#[from] acorn_study::collect::Refusal),
    /// A gauge that cannot be kept as it is.
    #[error("{problem}")]
    BadGauge {
        /// What is wrong with it.
        problem: String,
    },
    /// A statement that cannot be kept.
    #[error("{problem}")]
    BadStatement {
        /// What is wrong with it.
        problem: String,
    },
    /// Columns that cannot be as asked: a formula, an arrangement, cells that a formula works out.
    #[error("{problem}")]
    BadColumn {
        /// What is wrong.
        problem: String,
    },
    /// A value that its column cannot have.
    #[error("{problem}")]
    NotAllowed {
        /// Why.
        problem: String,
    },
    /// Values or rows of a table that follows another.
    #[error("“{dataset}” follows the table that it was made of")]
    Follows {
        /// Its name.
        dataset: String,
    },
    /// A value that does not fit.
    #[error(transparent)]
    Value(#[from] FormatError),
    /// Nothing left to undo.
    #[error("there is nothing left to undo")]
    NothingToUndo,
    /// Nothing left to redo.
    #[error("there is nothing to redo")]
    NothingToRedo,
    /// What is stored cannot be read.
    #[error("stored data cannot be read: {0}")]
    Corrupt(String),
    /// The database itself.
    #[error("the database failed: {0}")]
    Database(#[from] sqlx::Error),
}

impl StoreError {
    /// Whether there is no room left for a change.
    pub fn is_full(&self) -> bool {
        /// SQLITE_FULL.
        const FULL: &str = "13";
        matches!(self, StoreError::Database(sqlx::Error::Database(error)) if error.code().as_deref() == Some(FULL))
    }
}

impl From<sqlx::migrate::MigrateError> for StoreError {
    fn from(error: sqlx::migrate::MigrateError) -> Self {
        StoreError::Database(error.into())
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(error: serde_json::Error) -> Self {
        StoreError::Corrupt(error.to_string())
    }
}

impl StoreError {
    /// A [`StoreError::BadCollection`].
    pub(crate) fn bad_collection(problem: impl Into<String>) -> StoreError {
        StoreError::BadCollection { problem: problem.into() }
    }
}
