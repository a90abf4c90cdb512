//! Labels of a column as small numbers by row.

use std::sync::Arc;

use super::{Column, Frame, Missing, NO_CODE, TooManyGroups, Values};

/// The label of each row: a place in a list, [`NO_CODE`] where there is none.
#[derive(Clone, Debug)]
pub struct Coded {
    /// One a row.
    pub codes: Arc<[u32]>,
    /// The labels, in order of first appearance.
    pub labels: Arc<[String]>,
}

impl Frame {
    /// The labels of a column of any kind. A column of labels is taken as it is.
    ///
    /// # Errors
    /// [`TooManyGroups`].
    pub fn coded(&self, column: &Column, most: usize) -> Result<Coded, TooManyGroups> {
        if let Values::Label { codes, labels } = &column.values
            && labels.len() <= most
        {
            return Ok(Coded { codes: codes.clone(), labels: labels.clone() });
        }
        let groups = self.groups(&[column], None, Missing::Left, most)?;
        let mut codes = vec![NO_CODE; self.rows()];
        for group in 0..groups.len() {
            groups.rows(group).iter().for_each(|&row| codes[row] = group as u32);
        }
        let labels = (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect();
        Ok(Coded { codes: codes.into(), labels })
    }
}
