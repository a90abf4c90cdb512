//! Help in choosing: at most a few plain questions, and a proposal with its reasons.

use std::collections::BTreeMap;

use serde::Serialize;
use serde_json::{Map, Value};

use super::RoleColumns;

/// What a method proposes for some data.
#[derive(Clone, Debug, Default, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Advice {
    /// What it still has to know; absent when nothing.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub question: Option<AdviceQuestion>,
    /// The best proposal so far; absent when no column fits.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub proposal: Option<Proposal>,
}

/// A plain question with its answers.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct AdviceQuestion {
    /// The key of its answer.
    pub key: &'static str,
    /// The question.
    pub words: &'static str,
    /// Possible answers.
    pub answers: Vec<AdviceAnswer>,
}

/// One answer.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct AdviceAnswer {
    /// Its value.
    pub value: &'static str,
    /// In words.
    pub words: String,
}

/// A statement half or wholly filled, with its reasons.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Proposal {
    /// What it is called.
    pub words: &'static str,
    /// Why this one.
    pub why: String,
    /// Its neighbours, and why not.
    pub others: Vec<NotThis>,
    /// Roles to fill.
    pub roles: BTreeMap<String, RoleColumns>,
    /// Options to set.
    #[schema(value_type = std::collections::HashMap<String, serde_json::Value>)]
    pub options: Map<String, Value>,
}

/// A neighbour that does not fit as well.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct NotThis {
    /// What it is called.
    pub words: &'static str,
    /// Why not.
    pub why: String,
}
