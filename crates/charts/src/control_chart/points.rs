//! From rows to points: their order, the rows each is made of, what is left out, and the phases.

use std::ops::Range;
use std::sync::Arc;

use super::params::{Params, Sampling};
use acorn_data::frame::{Column, Missing, NO_TIME, Values};
use acorn_maths::describe;
use acorn_study::StudyError;
use acorn_study::periods::Periods;

/// A stretch of points with limits of its own.
#[derive(Clone, Debug, PartialEq)]
pub struct Phase {
    /// Its name; `None` when there is one only.
    pub label: Option<String>,
    /// Its points.
    pub points: Range<usize>,
}

/// The rows of the points.
enum Rows {
    /// A row a point, in the order of the rows.
    InPlace(usize),
    /// A row a point, in another order.
    Ordered(Vec<usize>),
    /// Several rows a point: all rows, and where each point's end.
    Gathered { rows: Vec<usize>, ends: Vec<usize> },
}

/// The points of a chart.
pub struct Points {
    rows: Rows,
    row_ids: Option<Arc<[i64]>>,
    labels: Option<Values>,
    /// What points are called that may have no row.
    own_labels: Option<Vec<String>>,
    /// The column that points are called by; moments are no names.
    pub named_by: Option<String>,
    /// Points left out of the limits.
    pub omitted: Option<Vec<bool>>,
    pub phases: Vec<Phase>,
    /// Rows without a place in the order; they stand last.
    pub unordered: usize,
    /// Rows that belong to no sample; they are not charted.
    pub unsampled: usize,
}

impl Points {
    /// Arranges the rows of a frame.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`] for a cut beyond the last point.
    pub fn arrange(params: &Params) -> Result<Points, StudyError> {
        let n = params.frame.rows();
        let order = params.order.and_then(sorted_rows);
        let (mut unsampled, mut own_labels) = (0, None);
        let rows = match (params.sampling, order) {
            (Some(Sampling::Periods(column, step)), order) => {
                let Periods { rows, ends, labels } = Periods::of(params.frame, column, step, order.as_deref())?;
                unsampled = n - rows.len();
                own_labels = Some(labels);
                Rows::Gathered { rows, ends }
            }
            (Some(Sampling::Column(column)), order) => {
                let samples = params.frame.groups(&[column], order.as_deref(), Missing::Left, usize::MAX)?;
                let (rows, ends) = samples.into_rows();
                unsampled = n - rows.len();
                Rows::Gathered { rows, ends }
            }
            (Some(Sampling::Consecutive(size)), order) => {
                let rows = order.unwrap_or_else(|| (0..n).collect());
                let ends = (0..n.div_ceil(size)).map(|sample| ((sample + 1) * size).min(n)).collect();
                Rows::Gathered { rows, ends }
            }
            (_, Some(order)) => Rows::Ordered(order),
            (_, None) => Rows::InPlace(n),
        };
        let by_sample = match params.sampling {
            Some(Sampling::Column(column) | Sampling::Periods(column, _)) => Some(column),
            _ => None,
        };
        let named_by = params.label.or(by_sample);
        let labels = named_by.or(params.order).map(|column| column.values.clone());
        let mut points = Points {
            rows,
            row_ids: params.frame.row_ids().cloned(),
            labels,
            own_labels,
            named_by: named_by.map(|column| column.name.clone()),
            omitted: None,
            phases: Vec::new(),
            unordered: params.order.map_or(0, |column| missing_in_order(&column.values)),
            unsampled,
        };
        if !params.omit.is_empty() {
            let is_out = |point| points.rows(point).iter().any(|&row| params.omit.contains(&points.id_of_row(row)));
            points.omitted = Some((0..points.len()).map(is_out).collect());
        }
        points.phases = points.phases_of(params)?;
        Ok(points)
    }

    /// The number of points.
    #[expect(clippy::len_without_is_empty, reason = "a chart without points is refused before")]
    pub fn len(&self) -> usize {
        match &self.rows {
            Rows::InPlace(n) => *n,
            Rows::Ordered(rows) => rows.len(),
            Rows::Gathered { ends, .. } => ends.len(),
        }
    }

    /// Whether points are made of several rows.
    pub fn gathered(&self) -> bool {
        matches!(self.rows, Rows::Gathered { .. })
    }

    /// The positions of the rows of a point.
    pub fn rows(&self, point: usize) -> std::borrow::Cow<'_, [usize]> {
        match &self.rows {
            Rows::InPlace(_) => vec![point].into(),
            Rows::Ordered(rows) => rows[point..=point].into(),
            Rows::Gathered { rows, ends } => {
                let start = if point == 0 { 0 } else { ends[point - 1] };
                rows[start..ends[point]].into()
            }
        }
    }

    /// The position of the first row of a point; of a point without rows, that of the next one that has any, else the last.
    pub fn first_row(&self, point: usize) -> usize {
        match &self.rows {
            Rows::InPlace(_) => point,
            Rows::Ordered(rows) => rows[point],
            Rows::Gathered { rows, ends } => {
                let start = if point == 0 { 0 } else { ends[point - 1] };
                rows[start.min(rows.len() - 1)]
            }
        }
    }

    fn id_of_row(&self, row: usize) -> i64 {
        self.row_ids.as_ref().map_or(row as i64, |ids| ids[row])
    }

    /// The lasting identities of the rows of a point.
    pub fn row_ids(&self, point: usize) -> Vec<i64> {
        self.rows(point).iter().map(|&row| self.id_of_row(row)).collect()
    }

    /// The lasting identity of the first row of a point.
    pub fn row_id(&self, point: usize) -> i64 {
        self.id_of_row(self.first_row(point))
    }

    /// One number a point, from a column with one number a row, in the order of the points.
    pub fn of_rows(&self, values: &Arc<[f64]>) -> Arc<[f64]> {
        match &self.rows {
            Rows::InPlace(_) => values.clone(),
            Rows::Ordered(rows) => rows.iter().map(|&row| values[row]).collect(),
            Rows::Gathered { .. } => (0..self.len()).map(|point| self.rows(point).first().map_or(f64::NAN, |&row| values[row])).collect(),
        }
    }

    /// What a point is called: its label, or its number from 1.
    pub fn label(&self, point: usize) -> String {
        if let Some(labels) = &self.own_labels {
            return labels[point].clone();
        }
        let named = self.labels.as_ref().and_then(|labels| labels.text(self.first_row(point)));
        named.unwrap_or_else(|| (point + 1).to_string())
    }

    /// Whether a point is left out of the limits.
    pub fn is_omitted(&self, point: usize) -> bool {
        self.omitted.as_ref().is_some_and(|omitted| omitted[point])
    }

    /// About how much memory it keeps.
    pub fn bytes(&self) -> usize {
        let rows = match &self.rows {
            Rows::InPlace(_) => 0,
            Rows::Ordered(rows) => size_of_val(&rows[..]),
            Rows::Gathered { rows, ends } => size_of_val(&rows[..]) + size_of_val(&ends[..]),
        };
        rows + self.omitted.as_ref().map_or(0, Vec::len)
    }

    /// Stretches of points with one phase value, split where a cut was dropped; one nameless stretch without either.
    fn phases_of(&self, params: &Params) -> Result<Vec<Phase>, StudyError> {
        let mut phases = match params.phase {
            Some(column) => self.stretches(column),
            None => vec![Phase { label: None, points: 0..self.len() }],
        };
        let last = self.len().saturating_sub(1);
        for cut in &params.cuts {
            acorn_study::in_range("cuts.first", cut.first as f64, 0.0, last as f64)?;
            let Some(place) = phases.iter().position(|phase| phase.points.contains(&cut.first)) else { continue };
            let phase = &mut phases[place];
            let label = cut.name.clone().filter(|name| !name.trim().is_empty());
            if phase.points.start == cut.first {
                phase.label = label.or(phase.label.take());
            } else {
                let rest = cut.first..phase.points.end;
                phase.points.end = cut.first;
                phases.insert(place + 1, Phase { label, points: rest });
            }
        }
        if phases.len() > 1 {
            for (number, phase) in phases.iter_mut().enumerate() {
                phase.label.get_or_insert_with(|| format!("phase {}", number + 1));
            }
        }
        Ok(phases)
    }

    fn stretches(&self, column: &Column) -> Vec<Phase> {
        let mut phases: Vec<(u64, Phase)> = Vec::new();
        for point in 0..self.len() {
            let row = self.first_row(point);
            let key = column.values.key(row);
            match phases.last_mut() {
                Some((same, phase)) if *same == key => phase.points.end = point + 1,
                _ => {
                    let label = column.values.text(row).unwrap_or_else(|| "no phase".to_owned());
                    phases.push((key, Phase { label: Some(label), points: point..point + 1 }));
                }
            }
        }
        phases.into_iter().map(|(_, phase)| phase).collect()
    }
}

/// Row positions in rising order of a column, rows without a value last; `None` when they are already in
/// order, or when labels leave only the order of the rows.
fn sorted_rows(column: &Column) -> Option<Vec<usize>> {
    let rows = || (0..column.values.len()).collect::<Vec<usize>>();
    match &column.values {
        Values::Number(values) if !values.is_sorted_by(|a, b| a <= b || b.is_nan()) => {
            let mut rows = rows();
            rows.sort_by(|&a, &b| values[a].is_nan().cmp(&values[b].is_nan()).then(values[a].total_cmp(&values[b])));
            Some(rows)
        }
        Values::Time(values) if !values.is_sorted_by_key(|&time| (time == NO_TIME, time)) => {
            let mut rows = rows();
            rows.sort_by_key(|&row| (values[row] == NO_TIME, values[row]));
            Some(rows)
        }
        _ => None,
    }
}

fn missing_in_order(values: &Values) -> usize {
    match values {
        Values::Number(values) => values.len() - describe::count(values),
        Values::Time(values) => values.iter().filter(|&&time| time == NO_TIME).count(),
        Values::Label { .. } => 0,
    }
}
