//! Why a question cannot be answered, with what to do about it.

use acorn_data::frame::{InlineError, TooManyGroups};
use acorn_maths::cancel::Stopped;
use acorn_maths::words::{counted, typed};

/// Every way a specification can be wrong. The text says what is wrong, [`StudyError::advice`] what to do.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum StudyError {
    /// No such method.
    #[error("there is no method “{method}”")]
    UnknownMethod {
        /// As given.
        method: String,
        /// All there are.
        known: Vec<&'static str>,
    },
    /// A role that the question cannot do without is empty.
    #[error("the study has no {role} yet")]
    MissingRole {
        /// The role.
        role: &'static str,
        /// What to choose for it.
        choose: &'static str,
    },
    /// A role that the method does not have.
    #[error("“{role}” is not a role of this method")]
    UnknownRole {
        /// As given.
        role: String,
        /// All there are.
        known: Vec<&'static str>,
    },
    /// A role names a column that the data do not have.
    #[error("there is no column “{column}” for the {role}")]
    UnknownColumn {
        /// The role.
        role: String,
        /// The name given.
        column: String,
    },
    /// A column of the wrong kind.
    #[error("column “{column}” holds {found}, but the {role} needs {needed}")]
    WrongKind {
        /// The role.
        role: &'static str,
        /// The column.
        column: String,
        /// Its kind in words.
        found: &'static str,
        /// The kind needed, in words.
        needed: &'static str,
    },
    /// An option that the method does not have.
    #[error("“{option}” is not an option of this method")]
    UnknownOption {
        /// As given.
        option: String,
        /// All there are.
        known: Vec<&'static str>,
    },
    /// An option that cannot be read.
    #[error("option “{option}”: {problem}")]
    BadOption {
        /// The option.
        option: String,
        /// What the reader said.
        problem: String,
    },
    /// A number outside what makes sense.
    #[error("option “{option}” is {}, but must {}", typed(*value), range_words(*low, *high))]
    OutOfRange {
        /// The option.
        option: String,
        /// As given.
        value: f64,
        /// Smallest allowed.
        low: f64,
        /// Largest allowed.
        high: f64,
    },
    /// Not enough values to say anything.
    #[error("column “{column}” has {}; at least {need} {} needed", counted(*have, "usable value", "usable values"), if *need == 1 { "is" } else { "are" })]
    TooFewValues {
        /// The column.
        column: String,
        /// How many there are.
        have: usize,
        /// How many are needed.
        need: usize,
    },
    /// Rows that are held against several specification limits, where the question takes one pair.
    #[error("the limits of “{column}” differ among these rows: {limits}")]
    LimitsDiffer {
        /// The column.
        column: String,
        /// The limits in words, with how many rows have them.
        limits: String,
    },
    /// More groups than anybody can look at.
    #[error(transparent)]
    TooManyGroups(#[from] TooManyGroups),
    /// A value that its role cannot have.
    #[error("column “{column}”, row {}: {problem}", row + 1)]
    BadValue {
        /// The column.
        column: String,
        /// The position of its row by now, from 0.
        row: usize,
        /// What is wrong with it.
        problem: String,
    },
    /// The specification names no data, or data that cannot be reached from here.
    #[error("{problem}")]
    NoData {
        /// What is missing.
        problem: String,
    },
    /// Typed columns that do not make a table.
    #[error(transparent)]
    Inline(#[from] InlineError),
    /// Somebody asked the computation to stop.
    #[error(transparent)]
    Stopped(#[from] Stopped),
}

/// "lie from 0 to 3", "be at least 0"; the largest number is no bound that a person set.
fn range_words(low: f64, high: f64) -> String {
    match (low > f64::MIN, high < f64::MAX) {
        (true, true) => format!("lie from {} to {}", typed(low), typed(high)),
        (true, false) if low == f64::MIN_POSITIVE => "be above 0".to_owned(),
        (true, false) => format!("be at least {}", typed(low)),
        (false, true) => format!("be at most {}", typed(high)),
        (false, false) => "be a number that can be written".to_owned(),
    }
}

impl StudyError {
    /// A short name for machines, stable between versions.
    pub fn code(&self) -> &'static str {
        match self {
            StudyError::UnknownMethod { .. } => "unknown-method",
            StudyError::MissingRole { .. } => "missing-role",
            StudyError::UnknownRole { .. } => "unknown-role",
            StudyError::UnknownColumn { .. } => "unknown-column",
            StudyError::WrongKind { .. } => "wrong-kind",
            StudyError::UnknownOption { .. } => "unknown-option",
            StudyError::BadOption { .. } => "bad-option",
            StudyError::OutOfRange { .. } => "out-of-range",
            StudyError::TooFewValues { .. } => "too-few-values",
            StudyError::LimitsDiffer { .. } => "limits-differ",
            StudyError::TooManyGroups(_) => "too-many-groups",
            StudyError::BadValue { .. } => "bad-value",
            StudyError::NoData { .. } => "no-data",
            StudyError::Inline(_) => "bad-columns",
            StudyError::Stopped(_) => "stopped",
        }
    }

    /// What the person can do about it, as a sentence.
    pub fn advice(&self) -> String {
        match self {
            StudyError::UnknownMethod { known, .. } => format!("Use one of: {}.", known.join(", ")),
            StudyError::MissingRole { choose, .. } => format!("Choose {choose} in the statement."),
            StudyError::UnknownRole { known, .. } => {
                format!("Its roles are: {}.", known.join(", "))
            }
            StudyError::UnknownColumn { role, .. } => {
                format!("Choose another column for the {role}; the old one may have been removed.")
            }
            StudyError::WrongKind { .. } => "Choose another column, or change the kind of this one on the Data page.".into(),
            StudyError::UnknownOption { known, .. } => {
                format!("Its options are: {}.", known.join(", "))
            }
            StudyError::BadOption { option, .. } => format!("Correct “{option}” and ask again."),
            StudyError::OutOfRange { low, high, .. } => {
                format!("Correct it: it must {}.", range_words(*low, *high))
            }
            StudyError::TooFewValues { need, .. } => {
                format!("Bring in or type at least {}, or choose another column.", counted(*need, "value", "values"))
            }
            StudyError::LimitsDiffer { .. } => {
                "Narrow the question to rows with one pair of limits, such as those of one product; “Which of them can meet their limits?” \
                 holds each product against its own."
                    .into()
            }
            StudyError::TooManyGroups(_) => "Group by a column with fewer different values.".into(),
            StudyError::BadValue { .. } => "Correct the value on the Data page, or choose another column or chart.".into(),
            StudyError::NoData { .. } => "Give the data as columns, a file or a dataset.".into(),
            StudyError::Inline(_) => "Correct the columns: one list of numbers or labels each, all of one length.".into(),
            StudyError::Stopped(_) => "Ask again to compute it anew.".into(),
        }
    }
}
