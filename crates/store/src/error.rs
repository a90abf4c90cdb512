//! Why the store refuses.

use acorn_formats::FormatError;
use acorn_study::problem::Problem;

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
    /// A short name for machines, stable between versions.
    pub fn code(&self) -> &'static str {
        match self {
            _ if self.is_full() => "disk-full",
            StoreError::NotFound { .. } => "not-found",
            StoreError::Conflict { .. } => "changed-meanwhile",
            StoreError::BadName { .. } => "bad-name",
            StoreError::BadLimits { .. } => "bad-limits",
            StoreError::BadFinding { .. } => "bad-finding",
            StoreError::BadRows { .. } => "bad-rows",
            StoreError::BadPlan(error) => error.code(),
            StoreError::BadCollection { .. } => "bad-collection",
            StoreError::Refused(_) => "entry-refused",
            StoreError::BadGauge { .. } => "bad-gauge",
            StoreError::BadStatement { .. } => "bad-statement",
            StoreError::BadColumn { .. } => "bad-column",
            StoreError::NotAllowed { .. } => "value-not-allowed",
            StoreError::Follows { .. } => "follows-another",
            StoreError::Value(error) => error.code(),
            StoreError::NothingToUndo => "nothing-to-undo",
            StoreError::NothingToRedo => "nothing-to-redo",
            StoreError::Corrupt(_) | StoreError::Database(_) => "store-failed",
        }
    }

    /// What the person can do about it, as a sentence.
    pub fn advice(&self) -> String {
        let advice = match self {
            _ if self.is_full() => "Nothing was changed, and nothing is lost. Make room on it, then try again.",
            StoreError::NotFound { .. } => "It may have been deleted; go back and choose another.",
            StoreError::Conflict { .. } => "Look at the new state and apply your change again.",
            StoreError::BadName { .. } => "Choose another name.",
            StoreError::BadLimits { .. } => "Correct the limits; the lower one must lie below the upper one.",
            StoreError::BadFinding { .. } => {
                "Give the signal a cause first, then leave its points out; correct what is wrong and try again."
            }
            StoreError::BadRows { .. } => "Correct the rows and send them again; nothing was changed.",
            StoreError::BadPlan(error) => return error.advice(),
            StoreError::BadCollection { .. } => "Correct the plan and try again; nothing was changed.",
            StoreError::Refused(refusal) => refusal.advice(),
            StoreError::BadGauge { .. } => "Correct what is said of the gauge and try again.",
            StoreError::BadStatement { .. } => "Choose a column that is there, and data of one kind.",
            StoreError::BadColumn { .. } => "Nothing was changed; correct what is said and try again.",
            StoreError::NotAllowed { .. } => "Correct the value, or change what the column takes in its properties; nothing was changed.",
            StoreError::Follows { .. } => "Change that one, or let this table stand by itself first; nothing was changed.",
            StoreError::Value(error) => return error.advice(),
            StoreError::NothingToUndo => "Every change so far has been undone.",
            StoreError::NothingToRedo => "Only what was undone last can be redone.",
            StoreError::Corrupt(_) | StoreError::Database(_) => "Nothing was changed. Check the disk that holds the data, then try again.",
        };
        advice.to_owned()
    }

    /// Whether there is no room left for a change.
    pub fn is_full(&self) -> bool {
        /// SQLITE_FULL.
        const FULL: &str = "13";
        matches!(self, StoreError::Database(sqlx::Error::Database(error)) if error.code().as_deref() == Some(FULL))
    }
}

impl From<&StoreError> for Problem {
    fn from(error: &StoreError) -> Self {
        let detail = if error.is_full() { "the disk that holds the data is full".to_owned() } else { error.to_string() };
        Problem::new(error.code(), detail, error.advice())
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
