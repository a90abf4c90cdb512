//! The one shape of a question: in the command line, the API, a saved study and the tests.

use std::collections::BTreeMap;

use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use super::StudyError;
use crate::frame::{Column, Frame};

/// A question about data: a method, which column plays which role, options, and where the data are.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
    /// Where the data are.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub data: Option<DataSource>,
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

    /// Replaces a column name in every role; true when one was replaced.
    pub fn rename_column(&mut self, from: &str, to: &str) -> bool {
        let names = self.roles.values_mut().flat_map(|columns| match columns {
            RoleColumns::One(name) => std::slice::from_mut(name),
            RoleColumns::Many(names) => names.as_mut_slice(),
        });
        let mut changed = false;
        for name in names.filter(|name| *name == from) {
            to.clone_into(name);
            changed = true;
        }
        changed
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
