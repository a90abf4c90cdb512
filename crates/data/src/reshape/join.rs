//! Columns of another table where the key is the same.

use std::collections::HashMap;

use super::{ReshapeError, Result, all_named, named, picked};
use crate::frame::{Column, Frame, Values};

pub(super) struct Joined {
    pub columns: Vec<Column>,
    pub unmatched: usize,
}

/// A value of a key: one as another when it is written the same, or the same number or moment.
#[derive(PartialEq, Eq, Hash)]
enum Key<'f> {
    Number(u64),
    Time(i64),
    Label(&'f str),
    Text(String),
}

fn key<'f>(column: &'f Column, row: usize, by_text: bool) -> Option<Key<'f>> {
    if column.values.is_missing(row) {
        return None;
    }
    Some(match &column.values {
        _ if by_text => Key::Text(column.values.text(row)?),
        Values::Number(_) => Key::Number(column.values.key(row)),
        Values::Time(times) => Key::Time(times[row]),
        Values::Label { codes, labels } => Key::Label(labels.get(codes[row] as usize)?),
    })
}

/// The whole key of a row; `None` where a part of it is missing.
fn keys<'f>(columns: &[&'f Column], by_text: &[bool], row: usize) -> Option<Vec<Key<'f>>> {
    columns.iter().zip(by_text).map(|(column, by_text)| key(column, row, *by_text)).collect()
}

pub(super) fn join(frame: &Frame, other: &Frame, by: &[[String; 2]], bring: &[String]) -> Result<Joined> {
    if by.is_empty() {
        return Err(ReshapeError("choose the column by which rows belong together".to_owned()));
    }
    let here = by.iter().map(|[name, _]| named(frame, name)).collect::<Result<Vec<_>>>()?;
    let there = by.iter().map(|[_, name]| named(other, name)).collect::<Result<Vec<_>>>()?;
    // A number here may be written as a label there.
    let by_text: Vec<bool> =
        here.iter().zip(&there).map(|(a, b)| std::mem::discriminant(&a.values) != std::mem::discriminant(&b.values)).collect();
    let brought = all_named(other, bring, "the columns to bring")?;
    let mut known: HashMap<Vec<Key>, usize> = HashMap::with_capacity(other.rows());
    for row in 0..other.rows() {
        let Some(own) = keys(&there, &by_text, row) else { continue };
        if let Some(before) = known.insert(own, row) {
            let said = there.iter().filter_map(|column| column.values.text(row)).collect::<Vec<_>>().join(", ");
            let problem =
                format!("“{said}” comes twice in the other table, in rows {} and {}; a key names one row there", before + 1, row + 1);
            return Err(ReshapeError(problem));
        }
    }
    let found: Vec<Option<usize>> =
        (0..frame.rows()).map(|row| keys(&here, &by_text, row).and_then(|own| known.get(&own).copied())).collect();
    let mut columns = frame.columns().to_vec();
    for column in brought {
        let taken = |name: &str| columns.iter().any(|other| other.name == name);
        let again = (2..).map(|more| format!("{} {more}", column.name));
        let name = std::iter::once(column.name.clone()).chain(again).find(|name| !taken(name)).unwrap_or_default();
        columns.push(Column { name, ..picked(column, found.iter().copied()) });
    }
    Ok(Joined { columns, unmatched: found.iter().filter(|row| row.is_none()).count() })
}
