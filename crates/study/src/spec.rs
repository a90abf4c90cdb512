//! The one shape of a question: in the command line, the API, a saved study and the tests.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use super::StudyError;

/// A question about data: a method, which column plays which role, options, and where the data are.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(from = "Written")]
pub struct Spec {
    /// The method, such as `control-chart`.
    pub method: String,
    /// Role to column.
    #[serde(default)]
    pub roles: BTreeMap<String, RoleColumns>,
    /// Options of the method.
    #[serde(default)]
    #[schema(value_type = std::collections::HashMap<String, serde_json::Value>)]
    pub options: Map<String, Value>,
    /// Rows left out of what the answer rests on, by id; typed columns and files have their positions for ids.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub omit: Vec<i64>,
    /// What the question is narrowed to, step by step: rows that meet all of it. Empty for all rows.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub only: Vec<FilterStep>,
    /// Where the data are; absent when all is typed in the options.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub data: Option<DataSource>,
}

/// A specification as people write it: rows to leave out may also stand among the options.
#[derive(Deserialize)]
struct Written {
    method: String,
    #[serde(default)]
    roles: BTreeMap<String, RoleColumns>,
    #[serde(default)]
    options: Map<String, Value>,
    #[serde(default)]
    omit: Vec<i64>,
    #[serde(default)]
    only: Vec<FilterStep>,
    #[serde(default)]
    data: Option<DataSource>,
}

impl From<Written> for Spec {
    fn from(Written { method, roles, mut options, mut omit, only, data }: Written) -> Spec {
        // One that is no list of ids stays an option, and is refused as one.
        if let Some(Ok(mut listed)) = options.get("omit").map(Vec::<i64>::deserialize) {
            options.shift_remove("omit");
            omit.append(&mut listed);
        }
        Spec { method, roles, options, omit, only, data }
    }
}

impl Spec {
    /// The columns that it reads, some maybe more than once.
    pub fn columns(&self) -> impl Iterator<Item = &String> {
        let narrowing = self.only.iter().filter_map(|one| if let FilterStep::Column { column, .. } = one { Some(column) } else { None });
        self.roles.values().flat_map(RoleColumns::names).chain(narrowing).chain(self.linked())
    }

    /// The columns of its own data that pieces of its options are taken from.
    fn linked(&self) -> impl Iterator<Item = &String> {
        self.pieces().filter(|(dataset, _)| dataset.is_none()).map(|(_, column)| column)
    }

    /// The columns of other datasets that pieces of its options are taken from, with the dataset of each.
    pub fn foreign_columns(&self) -> impl Iterator<Item = (i64, &String)> {
        self.pieces().filter_map(|(dataset, column)| Some((dataset?, column)))
    }

    fn pieces(&self) -> impl Iterator<Item = (Option<i64>, &String)> {
        let pieces = self.options.values().filter_map(Value::as_array).flatten();
        pieces.filter_map(|piece| match piece.get(COLUMN_OF_PIECE) {
            Some(Value::String(column)) => Some((piece.get(DATASET_OF_PIECE).and_then(Value::as_i64), column)),
            _ => None,
        })
    }
}

/// Under which name a piece of an option says from which column it is taken.
pub const COLUMN_OF_PIECE: &str = "column";
/// Under which name it says of which dataset that column is; absent for the one that the question is about.
pub const DATASET_OF_PIECE: &str = "dataset";

/// A step by which a question, or what a table shows, is narrowed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(untagged)]
pub enum FilterStep {
    /// Rows by what stands in a column.
    Column {
        /// The column.
        column: String,
        /// What its value has to be.
        #[serde(flatten)]
        is: Predicate,
        /// The role that the column had in the question before, which it takes again when the step is taken back.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        role: Option<String>,
    },
    /// Rows of some stretches.
    Rows {
        /// First and last row id of each, both included.
        rows: Vec<[i64; 2]>,
        /// Where they are from, in words.
        #[serde(default)]
        from: String,
    },
}

/// What the value of a column has to be for its row to be taken.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Predicate {
    /// Any one of these labels.
    Labels(Vec<String>),
    /// A number from the first to the second, ends included; without an end it goes on.
    Between([Option<f64>; 2]),
    /// A moment from the first to the second, as `2026-05-04` or `2026-05-04 06:10`; a day or a minute that is named is meant whole.
    During([Option<String>; 2]),
    /// A text that holds these words, in capitals or not.
    Contains(String),
    /// Missing, or not.
    Missing(bool),
    /// Beyond a specification limit of its column, or not.
    BeyondLimits(bool),
}

impl FilterStep {
    /// Rows with any one of some labels.
    pub fn labels(column: impl Into<String>, labels: Vec<String>) -> FilterStep {
        FilterStep::Column { column: column.into(), is: Predicate::Labels(labels), role: None }
    }
}

/// One column or several.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(untagged)]
pub enum RoleColumns {
    /// One column.
    One(String),
    /// Several, in order.
    Many(Vec<String>),
}

/// Where the data of a question are.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum DataSource {
    /// Columns typed in place: name to list of numbers, labels or null.
    Columns(TypedColumns),
    /// A file, read by the command line only.
    File(String),
    /// A stored dataset, known to the server only.
    Dataset(i64),
}

/// Columns by name: each a list of numbers, labels or null.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[schema(value_type = std::collections::HashMap<String, Vec<serde_json::Value>>)]
pub struct TypedColumns(pub Map<String, Value>);

impl DataSource {
    /// The stored dataset, when it is one.
    pub fn dataset(&self) -> Option<i64> {
        if let DataSource::Dataset(id) = self { Some(*id) } else { None }
    }

    /// The typed columns, when there are any.
    pub fn columns(&self) -> Option<&Map<String, Value>> {
        if let DataSource::Columns(TypedColumns(columns)) = self { Some(columns) } else { None }
    }
}

impl RoleColumns {
    /// The names, in order.
    pub fn names(&self) -> &[String] {
        match self {
            RoleColumns::One(name) => std::slice::from_ref(name),
            RoleColumns::Many(names) => names,
        }
    }
}

/// Fails when a number is not finite or outside a range.
///
/// # Errors
/// [`StudyError::OutOfRange`].
pub fn in_range(option: &str, value: f64, low: f64, high: f64) -> Result<f64, StudyError> {
    if (low..=high).contains(&value) { Ok(value) } else { Err(StudyError::OutOfRange { option: option.to_owned(), value, low, high }) }
}
