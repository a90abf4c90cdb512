//! The one shape of a question: in the command line, the API, a saved study and the tests.

use std::collections::BTreeMap;

use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use super::StudyError;
use crate::frame::{Column, Frame};

/// A question about data: a method, which column plays which role, options, and where the data are.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(from = "Written")]
pub struct Spec {
    /// The method, such as `control-chart`.
    pub method: String,
    /// Role to column.
    #[serde(default)]
    pub roles: BTreeMap<String, RoleColumns>,
    /// Options of the method.
    #[serde(default)]
    #[cfg_attr(feature = "openapi", schema(value_type = std::collections::HashMap<String, serde_json::Value>))]
    pub options: Map<String, Value>,
    /// Rows left out of what the answer rests on, by id; typed columns and files have their positions for ids.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub omit: Vec<i64>,
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
    data: Option<DataSource>,
}

impl From<Written> for Spec {
    fn from(Written { method, roles, mut options, mut omit, data }: Written) -> Spec {
        // One that is no list of ids stays an option, and is refused as one.
        if let Some(Ok(mut listed)) = options.get("omit").map(Vec::<i64>::deserialize) {
            options.shift_remove("omit");
            omit.append(&mut listed);
        }
        Spec { method, roles, options, omit, data }
    }
}

/// One column or several.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum RoleColumns {
    /// One column.
    One(String),
    /// Several, in order.
    Many(Vec<String>),
}

/// Where the data of a question are; exactly one of these is given.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct DataSource {
    /// Columns typed in place: name to list of numbers, labels or null.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "openapi", schema(value_type = Option<std::collections::HashMap<String, Vec<serde_json::Value>>>))]
    pub columns: Option<Map<String, Value>>,
    /// A file, read by the command line only.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub file: Option<String>,
    /// A stored dataset, known to the server only.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub dataset: Option<i64>,
}

impl DataSource {
    /// A stored dataset.
    pub fn of_dataset(id: i64) -> DataSource {
        DataSource { dataset: Some(id), ..DataSource::default() }
    }
}

impl Spec {
    /// The column of a role, `None` when the role is empty.
    ///
    /// # Errors
    /// [`StudyError::UnknownColumn`] when the frame lacks it, [`StudyError::BadOption`] for a list.
    pub fn role<'f>(&self, frame: &'f Frame, role: &str) -> Result<Option<&'f Column>, StudyError> {
        let name = match self.roles.get(role) {
            None => return Ok(None),
            Some(RoleColumns::One(name)) => name,
            Some(RoleColumns::Many(names)) if names.len() == 1 => &names[0],
            Some(RoleColumns::Many(names)) => {
                return Err(StudyError::BadOption { option: role.to_owned(), problem: format!("takes one column, not {}", names.len()) });
            }
        };
        let unknown = || StudyError::UnknownColumn { role: role.to_owned(), column: name.clone() };
        frame.column(name).map(Some).ok_or_else(unknown)
    }

    /// Fails on roles that the method does not have, so that a typing slip is not silently ignored.
    ///
    /// # Errors
    /// [`StudyError::UnknownRole`].
    pub fn known_roles(&self, known: &[&'static str]) -> Result<(), StudyError> {
        match self.roles.keys().find(|role| !known.contains(&role.as_str())) {
            Some(role) => Err(StudyError::UnknownRole { role: role.clone(), known: known.to_vec() }),
            None => Ok(()),
        }
    }
}

/// Reads options one by one, then refuses what is left over.
pub struct Options<'s> {
    given: &'s Map<String, Value>,
    known: Vec<&'static str>,
}

impl<'s> Options<'s> {
    /// Starts reading.
    pub fn of(spec: &'s Spec) -> Self {
        Options { given: &spec.options, known: Vec::new() }
    }

    /// The value of an option, `None` when absent or null.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when it has another shape.
    pub fn take<T: DeserializeOwned>(&mut self, option: &'static str) -> Result<Option<T>, StudyError> {
        self.known.push(option);
        let given = self.given.get(option).filter(|value| !value.is_null());
        let bad = |error: serde_json::Error| StudyError::BadOption { option: option.to_owned(), problem: error.to_string() };
        given.map(|value| T::deserialize(value).map_err(bad)).transpose()
    }

    /// Fails when an option was given that nobody took.
    ///
    /// # Errors
    /// [`StudyError::UnknownOption`].
    pub fn finish(self) -> Result<(), StudyError> {
        match self.given.keys().find(|option| !self.known.contains(&option.as_str())) {
            Some(option) => Err(StudyError::UnknownOption { option: option.clone(), known: self.known }),
            None => Ok(()),
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
