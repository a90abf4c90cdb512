//! Values of several columns under each other.

use super::{ReshapeError, Result, all_named, bounded, made, picked};
use crate::frame::{Column, ColumnInfo, Frame, Kind, NO_CODE, Values};

pub(super) fn stack(frame: &Frame, names: &[String], label: &str, value: &str) -> Result<Vec<Column>> {
    let stacked = all_named(frame, names, "two columns or more to stack")?;
    if stacked.len() < 2 {
        return Err(ReshapeError("choose two columns or more to stack".to_owned()));
    }
    let (rows, each) = (frame.rows(), stacked.len());
    bounded(rows.saturating_mul(each))?;
    let others = frame.columns().iter().filter(|column| !names.contains(&column.name));
    let mut columns: Vec<Column> = others.map(|column| picked(column, (0..rows * each).map(|place| Some(place / each)))).collect();
    let codes = (0..rows * each).map(|place| (place % each) as u32).collect();
    columns.push(made(label, Kind::Category, Values::Label { codes, labels: names.to_vec().into() }));
    columns.push(values(&stacked, value, rows)?);
    Ok(columns)
}

fn values(stacked: &[&Column], name: &str, rows: usize) -> Result<Column> {
    let first = stacked[0];
    let is_alike = |column: &&Column| std::mem::discriminant(&column.values) == std::mem::discriminant(&first.values);
    if let Some(odd) = stacked.iter().find(|column| !is_alike(column)) {
        let (a, b) = (first.kind.display_text(), odd.kind.display_text());
        return Err(ReshapeError(format!("“{}” is a {a} and “{}” a {b}; they cannot stand in one column", first.name, odd.name)));
    }
    let each = stacked.len();
    let places = (0..rows * each).map(|place| (place % each, place / each));
    let values = match &first.values {
        Values::Number(_) => {
            let number =
                |(column, row): (usize, usize)| if let Values::Number(values) = &stacked[column].values { values[row] } else { f64::NAN };
            Values::Number(places.map(number).collect())
        }
        Values::Time(_) => {
            let time = |(column, row): (usize, usize)| {
                if let Values::Time(values) = &stacked[column].values { values[row] } else { crate::frame::NO_TIME }
            };
            Values::Time(places.map(time).collect())
        }
        Values::Label { .. } => {
            let mut known = std::collections::HashMap::new();
            let mut labels: Vec<String> = Vec::new();
            let mut new_codes = Vec::with_capacity(each);
            for column in stacked {
                let Values::Label { labels: own, .. } = &column.values else { continue };
                let code = |label: &String| {
                    *known.entry(label.clone()).or_insert_with(|| {
                        labels.push(label.clone());
                        labels.len() as u32 - 1
                    })
                };
                new_codes.push(own.iter().map(code).collect::<Vec<u32>>());
            }
            let code = |(column, row): (usize, usize)| match &stacked[column].values {
                Values::Label { codes, .. } => new_codes[column].get(codes[row] as usize).copied().unwrap_or(NO_CODE),
                _ => NO_CODE,
            };
            let codes = places.map(code).collect();
            Values::Label { codes, labels: labels.into() }
        }
    };
    // What holds of all of them holds of the new one.
    let info = if stacked.iter().all(|column| column.info == first.info) {
        first.info.clone()
    } else {
        let unit = first.info.unit.clone().filter(|_| stacked.iter().all(|column| column.info.unit == first.info.unit));
        ColumnInfo { unit, ..ColumnInfo::default() }
    };
    let kind = if stacked.iter().all(|column| column.kind == first.kind) {
        first.kind
    } else if first.kind.is_numeric() {
        Kind::Number
    } else {
        Kind::Text
    };
    Ok(Column { info, ..made(name, kind, values) })
}
