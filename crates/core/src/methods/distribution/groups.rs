//! The values of each group, in order of first appearance.

use std::collections::HashMap;

use super::params::Params;
use crate::frame::Column;
use crate::numeric::sorting::sorted;
use crate::study::StudyError;

/// Most groups.
const GROUPS_MOST: usize = 200;

/// One group.
pub struct Group {
    /// Its label; `None` without a group column.
    pub label: Option<String>,
    /// Its values, rising, without missing ones.
    pub sorted: Vec<f64>,
    /// Its values in the order of the rows, without missing ones.
    pub in_order: Vec<f64>,
    /// How many are missing.
    pub missing: usize,
}

/// Splits the values.
///
/// # Errors
/// [`StudyError::TooManyGroups`].
pub fn split(params: &Params) -> Result<Vec<Group>, StudyError> {
    let mut groups: Vec<Group> = Vec::new();
    let mut known: HashMap<[u64; 2], usize> = HashMap::new();
    for (row, &value) in params.values.iter().enumerate() {
        let mut keys = [0; 2];
        for (key, column) in keys.iter_mut().zip(&params.groups) {
            *key = column.values.key(row);
        }
        let place = *known.entry(keys).or_insert(groups.len());
        if place == groups.len() {
            if place == GROUPS_MOST {
                let columns: Vec<String> = params.groups.iter().map(|column| column.name.clone()).collect();
                return Err(StudyError::TooManyGroups { columns: columns.join(" and "), most: GROUPS_MOST });
            }
            groups.push(Group { label: label(&params.groups, row), sorted: Vec::new(), in_order: Vec::new(), missing: 0 });
        }
        if value.is_nan() {
            groups[place].missing += 1;
        } else {
            groups[place].in_order.push(value);
        }
    }
    for group in &mut groups {
        group.sorted = sorted(&group.in_order);
    }
    Ok(groups)
}

fn label(columns: &[&Column], row: usize) -> Option<String> {
    let one = |column: &&Column| {
        if column.values.is_missing(row) { format!("no {}", column.name) } else { column.values.text(row).unwrap_or_default() }
    };
    (!columns.is_empty()).then(|| columns.iter().map(one).collect::<Vec<_>>().join(", "))
}
