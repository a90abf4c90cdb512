//! Rows that have the same label in some columns.

use std::collections::HashMap;

use super::{Column, Frame};

/// What becomes of rows that lack a label.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Missing {
    /// They make a group of their own.
    Apart,
    /// They belong to none.
    Left,
}

/// More groups than were allowed.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("{columns} makes more than {most} groups")]
pub struct TooManyGroups {
    /// The group columns.
    pub columns: String,
    /// The bound.
    pub most: usize,
}

/// Groups in order of first appearance.
#[derive(Clone, Debug, PartialEq)]
pub struct Groups {
    labels: Vec<Option<String>>,
    /// The rows of all groups, group after group, each in the order in which they were looked at.
    rows: Vec<usize>,
    /// Where the rows of each group end.
    ends: Vec<usize>,
}

/// Of a row that belongs to no group.
pub const NO_GROUP: usize = usize::MAX;

impl Frame {
    /// The groups that columns make of the rows; one nameless group of all rows without a column. `order` gives the rows in
    /// another order than theirs.
    ///
    /// # Errors
    /// [`TooManyGroups`].
    ///
    /// # Examples
    /// ```
    /// use acorn_data::frame::{Frame, Missing};
    /// let columns = serde_json::json!({"bench": ["B", "A", null, "B"]});
    /// let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    /// let bench = frame.column("bench").unwrap();
    /// let groups = frame.groups(&[bench], None, Missing::Left, 9).unwrap();
    /// // In order of first appearance, not of the alphabet.
    /// assert_eq!((groups.label(0), groups.rows(0)), (Some("B"), &[0, 3][..]));
    /// assert_eq!(groups.len(), 2);
    /// ```
    pub fn groups(&self, by: &[&Column], order: Option<&[usize]>, missing: Missing, most: usize) -> Result<Groups, TooManyGroups> {
        let n = order.map_or(self.rows, <[usize]>::len);
        let at = |place: usize| order.map_or(place, |order| order[place]);
        let mut codes = vec![0; n];
        let mut firsts = if by.is_empty() && n > 0 { vec![at(0)] } else { Vec::new() };
        for column in by {
            firsts.clear();
            let mut known: HashMap<(usize, u64), usize> = HashMap::new();
            // Rows of one group mostly stand together: no look-up then.
            let mut before = ((NO_GROUP, 0), NO_GROUP);
            for (place, code) in codes.iter_mut().enumerate() {
                let row = at(place);
                if *code == NO_GROUP || missing == Missing::Left && column.values.is_missing(row) {
                    *code = NO_GROUP;
                    continue;
                }
                let key = (*code, column.values.key(row));
                if before.1 == NO_GROUP || before.0 != key {
                    let group = *known.entry(key).or_insert(firsts.len());
                    if group == firsts.len() {
                        if group == most {
                            let columns = by.iter().map(|column| column.name.as_str()).collect::<Vec<_>>().join(" and ");
                            return Err(TooManyGroups { columns, most });
                        }
                        firsts.push(row);
                    }
                    before = (key, group);
                }
                *code = before.1;
            }
        }
        let labels = firsts.iter().map(|&row| label(by, row)).collect();
        let (rows, ends) = gathered(&codes, firsts.len(), at);
        Ok(Groups { labels, rows, ends })
    }
}

/// The rows of each group, and where each group's end.
fn gathered(codes: &[usize], groups: usize, at: impl Fn(usize) -> usize) -> (Vec<usize>, Vec<usize>) {
    let mut ends = vec![0; groups];
    codes.iter().filter(|code| **code != NO_GROUP).for_each(|code| ends[*code] += 1);
    let mut total = 0;
    for end in &mut ends {
        total += std::mem::replace(end, total);
    }
    let mut rows = vec![0; total];
    for (place, code) in codes.iter().enumerate().filter(|(_, code)| **code != NO_GROUP) {
        rows[ends[*code]] = at(place);
        ends[*code] += 1;
    }
    (rows, ends)
}

fn label(by: &[&Column], row: usize) -> Option<String> {
    let one = |column: &&Column| column.values.text(row).unwrap_or_else(|| format!("no {}", column.name));
    (!by.is_empty()).then(|| by.iter().map(one).collect::<Vec<_>>().join(", "))
}

impl Groups {
    /// How many there are.
    pub fn len(&self) -> usize {
        self.ends.len()
    }

    /// Whether there is none.
    pub fn is_empty(&self) -> bool {
        self.ends.is_empty()
    }

    /// What a group is called; `None` for the one of all rows.
    pub fn label(&self, group: usize) -> Option<&str> {
        self.labels[group].as_deref()
    }

    /// The rows of a group.
    pub fn rows(&self, group: usize) -> &[usize] {
        let start = if group == 0 { 0 } else { self.ends[group - 1] };
        &self.rows[start..self.ends[group]]
    }

    /// The group of each of so many rows; [`NO_GROUP`] of one that belongs to none.
    pub fn of_rows(&self, rows: usize) -> Vec<usize> {
        let mut of = vec![NO_GROUP; rows];
        for group in 0..self.len() {
            self.rows(group).iter().for_each(|&row| of[row] = group);
        }
        of
    }

    /// The rows of all groups, group after group, and where each group's end.
    pub fn into_rows(self) -> (Vec<usize>, Vec<usize>) {
        (self.rows, self.ends)
    }
}
