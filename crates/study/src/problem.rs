//! The one JSON shape of everything that can go wrong (RFC 9457), in the shell and over HTTP.

use serde::Serialize;

use crate::StudyError;

/// A problem in words, with what to do about it.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Problem {
    /// Which kind of problem, as a path.
    pub r#type: String,
    /// The kind in words.
    pub title: String,
    /// What is wrong, this time.
    pub detail: String,
    /// What to do about it.
    pub advice: String,
}

/// Longest detail, in characters: it may name what somebody sent.
const DETAIL_CHARS: usize = 1000;

impl Problem {
    /// A problem of a kind such as `unknown-column`. A detail that is too long loses its middle.
    pub fn new(code: &str, detail: impl Into<String>, advice: impl Into<String>) -> Problem {
        let words = code.replace('-', " ");
        let mut letters = words.chars();
        let title = letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect());
        let mut detail = detail.into();
        let length = detail.chars().count();
        if length > DETAIL_CHARS {
            let kept = DETAIL_CHARS / 2;
            detail = detail.chars().take(kept).chain([' ', '…', ' ']).chain(detail.chars().skip(length - kept)).collect();
        }
        Problem { r#type: format!("/problems/{code}"), title, detail, advice: advice.into() }
    }
}

impl From<StudyError> for Problem {
    fn from(error: StudyError) -> Self {
        Problem::new(error.code(), error.to_string(), error.advice())
    }
}
