//! The values of each group, in order of first appearance.

use super::params::Params;
use acorn_data::frame::Missing;
use acorn_maths::sorting::Sorted;
use acorn_study::StudyError;

/// Most groups.
const GROUPS_MOST: usize = 200;

/// One group.
pub struct Group {
    /// Its label; `None` without a group column.
    pub label: Option<String>,
    /// Its values, rising.
    pub sorted: Sorted,
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
    let groups = params.frame.groups(&params.groups, None, Missing::Apart, GROUPS_MOST)?;
    let group = |place: usize| {
        let rows = groups.rows(place);
        let in_order: Vec<f64> = rows.iter().map(|&row| params.values[row]).filter(|value| !value.is_nan()).collect();
        Group {
            label: groups.label(place).map(str::to_owned),
            sorted: Sorted::of(&in_order),
            missing: rows.len() - in_order.len(),
            in_order,
        }
    };
    Ok((0..groups.len()).map(group).collect())
}
