//! The table of indices, in the shape of its contract.

use serde::Serialize;

use crate::dial::Dial;
use crate::frame::Values;
use crate::methods::Numbers as MethodNumbers;
use crate::study::words::Writer;
use crate::study::{Tone, View, ViewNumbers};

/// One row for each column, or for each group of each column.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = IndicesNumbers))]
pub struct Numbers {
    /// The rows, in the order of the columns and of first appearance.
    pub rows: Vec<Row>,
    /// The group column.
    pub group: Option<String>,
    /// The Ppk asked for.
    pub goal: f64,
}

/// One study in short. Null is what cannot be told, and why stands in `problem`.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = IndicesRow))]
pub struct Row {
    /// The column.
    pub column: String,
    /// The group.
    pub group: Option<String>,
    /// Values.
    pub n: usize,
    /// Cp.
    pub cp: Option<f64>,
    /// Cpk.
    pub cpk: Option<f64>,
    /// Pp.
    pub pp: Option<f64>,
    /// Ppk.
    pub ppk: Option<f64>,
    /// 95 % interval of Ppk.
    pub ppk_ci95: Option<[f64; 2]>,
    /// The share of values beyond the limits.
    pub seen_out: Option<f64>,
    /// The share that the shape puts there.
    pub expected_out: Option<f64>,
    /// No signal on its chart.
    pub steady: Option<bool>,
    /// Signals on its chart.
    pub signals: usize,
    /// Whether chance explains them.
    pub signals_by_chance: bool,
    /// The chance of values so unlike the shape.
    pub shape_p: Option<f64>,
    /// Whether the values contradict it.
    pub misfits: bool,
    /// The shape taken, in words.
    pub shape: String,
    /// How good the news is.
    pub tone: Tone,
    /// The verdict in two or three words.
    pub title: String,
    /// Lower limit.
    pub lsl: Option<f64>,
    /// Target.
    pub target: Option<f64>,
    /// Upper limit.
    pub usl: Option<f64>,
    /// The dial.
    pub dial: Option<Dial>,
    /// How its values are written.
    pub writer: Writer,
    /// Why it cannot be judged.
    pub problem: Option<String>,
}

impl ViewNumbers for Numbers {
    fn numbers(&self, _view: &View) -> MethodNumbers {
        MethodNumbers::Indices(Box::new(self.clone()))
    }

    fn bytes(&self) -> usize {
        self.rows.len() * 1024
    }

    fn point_columns(&self) -> Vec<(String, Values)> {
        let of = |get: fn(&Row) -> Option<f64>| Values::Number(self.rows.iter().map(|row| get(row).unwrap_or(f64::NAN)).collect());
        let text = |get: &dyn Fn(&Row) -> String| {
            let codes = (0u32..).take(self.rows.len()).collect();
            Values::Label { codes, labels: self.rows.iter().map(get).collect() }
        };
        let mut columns = vec![("column".to_owned(), text(&|row| row.column.clone()))];
        if self.group.is_some() {
            columns.push(("group".to_owned(), text(&|row| row.group.clone().unwrap_or_default())));
        }
        columns.extend([
            ("n".to_owned(), of(|row| Some(row.n as f64))),
            ("lsl".to_owned(), of(|row| row.lsl)),
            ("usl".to_owned(), of(|row| row.usl)),
            ("cp".to_owned(), of(|row| row.cp)),
            ("cpk".to_owned(), of(|row| row.cpk)),
            ("pp".to_owned(), of(|row| row.pp)),
            ("ppk".to_owned(), of(|row| row.ppk)),
            ("signals".to_owned(), of(|row| Some(row.signals as f64))),
            ("shape p".to_owned(), of(|row| row.shape_p)),
            ("verdict".to_owned(), text(&|row| row.problem.clone().unwrap_or_else(|| row.title.clone()))),
        ]);
        columns
    }
}
