//! A column for each label of a column.

use super::{COLUMNS_MOST, ReshapeError, Result, named, picked};
use crate::frame::{Column, Frame, Missing, NO_GROUP};

pub(super) fn unstack(frame: &Frame, label: &str, value: &str) -> Result<Vec<Column>> {
    let (labels, values) = (named(frame, label)?, named(frame, value)?);
    if label == value {
        return Err(ReshapeError("the labels and the values are two columns".to_owned()));
    }
    let keys: Vec<&Column> = frame.columns().iter().filter(|column| column.name != label && column.name != value).collect();
    let too_many = |error: crate::frame::TooManyGroups| ReshapeError(error.to_string());
    let rows = frame.groups(&keys, None, Missing::Apart, frame.rows().max(1)).map_err(too_many)?;
    let news = frame.groups(&[labels], None, Missing::Left, COLUMNS_MOST).map_err(too_many)?;
    let (of_rows, of_news) = (rows.of_rows(frame.rows()), news.of_rows(frame.rows()));
    let mut cells: Vec<Vec<Option<usize>>> = vec![vec![None; rows.len()]; news.len()];
    for row in (0..frame.rows()).filter(|row| of_news[*row] != NO_GROUP) {
        if let Some(before) = cells[of_news[row]][of_rows[row]].replace(row) {
            let key = rows.label(of_rows[row]).map(|key| format!(" for {key}")).unwrap_or_default();
            let name = news.label(of_news[row]).unwrap_or_default();
            let problem = format!(
                "{value} of {label} {name} comes twice{key}: in rows {} and {}; a column that tells them apart is missing",
                before + 1,
                row + 1
            );
            return Err(ReshapeError(problem));
        }
    }
    let first = (0..rows.len()).map(|group| rows.rows(group)[0]);
    let mut columns: Vec<Column> = keys.iter().map(|column| picked(column, first.clone().map(Some))).collect();
    for (new, cells) in cells.into_iter().enumerate() {
        let name = news.label(new).unwrap_or_default().to_owned();
        columns.push(Column { name, ..picked(values, cells.into_iter()) });
    }
    Ok(columns)
}
