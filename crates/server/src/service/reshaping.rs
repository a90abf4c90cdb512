//! Makes tables of tables.

use acorn_data::frame::{Column, Frame};
use acorn_data::reshape::{Reshaped, reshape};
use acorn_formats::{Table, TableColumn};
use acorn_store::{Dataset, Link};
use acorn_study::TableView;

use crate::service::answers::compute;
use crate::service::{App, ErrorKind, ServiceError};

/// A table that was made, and what of.
pub struct Made {
    pub from: Dataset,
    pub with: Option<Dataset>,
    pub made: Reshaped,
}

/// Makes a table of what it is linked to, as that is now.
pub async fn made_of(app: &App, link: &Link) -> Result<Made, ServiceError> {
    let (from, frame) = app.store.frame(link.from, |_| true).await?;
    let (with, other) = match link.with {
        Some(with) => app.store.frame(with, |_| true).await.map(|(with, frame)| (Some(with), Some(frame)))?,
        None => (None, None),
    };
    let Link { how, view, .. } = link.clone();
    let made = compute(move |_| {
        let frame = if view == TableView::default() { frame } else { rows_of(&frame, &view)? };
        Ok(reshape(&frame, other.as_ref(), &how))
    });
    let refused = |error: acorn_data::reshape::ReshapeError| {
        let advice = "Choose the columns anew; nothing was stored.";
        ServiceError::new(ErrorKind::Invalid, "cannot-reshape", error.to_string(), advice)
    };
    Ok(Made { from, with, made: made.await?.map_err(refused)? })
}

/// Columns as a table to be stored.
pub fn table_of(columns: Vec<Column>) -> Table {
    let rows = columns.first().map_or(0, |column| column.values.len());
    let column = |Column { name, kind, info, values, .. }: Column| TableColumn { name, kind, unit: info.unit, values };
    Table { columns: columns.into_iter().map(column).collect(), rows }
}

fn rows_of(frame: &Frame, view: &TableView) -> Result<Frame, acorn_study::StudyError> {
    let rows: Vec<usize> = view.rows(frame)?.into_iter().map(|row| row as usize).collect();
    Ok(frame.pick(&frame.columns().iter().collect::<Vec<_>>(), &rows))
}
