//! Why the service refuses, before anything is said of HTTP.

use acorn_formats::FormatError;
use acorn_store::StoreError;
use acorn_study::StudyError;
use acorn_study::problem::Problem;

/// A problem in words, with what kind of refusal it is.
#[derive(Clone, Debug)]
pub struct ServiceError {
    pub kind: ErrorKind,
    pub problem: Problem,
}

/// Kinds of refusals.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ErrorKind {
    /// What was asked cannot be.
    Invalid,
    /// What it is about is not there.
    NotFound,
    /// It was changed meanwhile, and has this revision by now.
    Conflict { current: i64 },
    /// It cannot be done just now.
    NotNow,
    /// It is too much at once.
    TooMuch,
    /// The disk is full.
    Full,
    /// The service is stopping.
    Stopping,
    /// Something here failed.
    Failed,
}

impl ServiceError {
    pub fn new(kind: ErrorKind, code: &str, detail: impl Into<String>, advice: impl Into<String>) -> ServiceError {
        ServiceError { kind, problem: Problem::new(code, detail, advice) }
    }

    /// Whether it may go once the disk, the store or the service is well again.
    pub fn is_for_the_moment(&self) -> bool {
        matches!(self.kind, ErrorKind::Full | ErrorKind::Stopping | ErrorKind::Failed)
    }

    /// Whether asking the same again gives the same.
    pub fn is_about_the_question(&self) -> bool {
        self.kind == ErrorKind::Invalid && self.problem.r#type != "/problems/stopped"
    }
}

impl From<StudyError> for ServiceError {
    fn from(error: StudyError) -> Self {
        ServiceError { kind: ErrorKind::Invalid, problem: error.into() }
    }
}

impl From<FormatError> for ServiceError {
    fn from(error: FormatError) -> Self {
        let kind = if matches!(error, FormatError::TooMuch { .. }) { ErrorKind::TooMuch } else { ErrorKind::Invalid };
        ServiceError { kind, problem: error.into() }
    }
}

impl From<StoreError> for ServiceError {
    fn from(error: StoreError) -> Self {
        let problem = Problem::from(&error);
        let kind = match error {
            _ if error.is_full() => ErrorKind::Full,
            StoreError::Value(error) => return error.into(),
            StoreError::NotFound { .. } => ErrorKind::NotFound,
            StoreError::Conflict { current, .. } => ErrorKind::Conflict { current },
            StoreError::NothingToRedo | StoreError::NothingToUndo => ErrorKind::NotNow,
            StoreError::Corrupt(_) | StoreError::Database(_) => {
                tracing::error!(detail = %problem.detail, "the store failed");
                ErrorKind::Failed
            }
            _ => ErrorKind::Invalid,
        };
        ServiceError { kind, problem }
    }
}
