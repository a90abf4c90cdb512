//! The table of indices, in the shape of its contract.

use serde::Serialize;

use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::dial::Dial;
use acorn_study::gauge::share;
use acorn_study::{Brief, StoredAnswer, Table, ToNumbers, Tone, View};

/// One row for each column, or for each group of each column.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = IndicesNumbers)]
pub struct Numbers {
    /// The rows, in the order of the columns and of first appearance.
    pub rows: Vec<Row>,
    /// The group column.
    pub group: Option<String>,
    /// The Ppk asked for.
    pub goal: f64,
}

/// One study in short. Null is what cannot be told, and why stands in `problem`.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = IndicesRow)]
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
    /// The gauge's share of the overall spread; null where no gauge is known.
    pub gauge_share: Option<f64>,
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
    pub writer: ValueFormat,
    /// Why it cannot be judged.
    pub problem: Option<String>,
}

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl Numbers {
    fn named(&self, table: Table) -> Table {
        let table = table.texts("column", self.rows.iter().map(|row| Some(row.column.clone())));
        if self.group.is_some() { table.texts("group", self.rows.iter().map(|row| row.group.clone())) } else { table }
    }

    fn numbers_of(&self, get: impl Fn(&Row) -> Option<f64>) -> Vec<Option<f64>> {
        self.rows.iter().map(get).collect()
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        self.rows.iter().map(|row| size_of::<Row>() + row.column.len() + row.title.len() + 64 * size_of::<f64>()).sum()
    }

    fn brief(&self) -> Vec<Brief> {
        vec![Brief { term: "asked for", words: format!("Ppk {:.2}", self.goal) }, Brief { term: "rows", words: grouped(self.rows.len()) }]
    }

    fn tables(&self) -> Vec<Table> {
        let id = Some("row");
        let table = self
            .named(Table::new("shapes", "Shapes"))
            .texts("shape taken", self.rows.iter().map(|row| Some(row.shape.clone()).filter(|shape| !shape.is_empty())))
            .numbers("its p", Some(&ValueFormat::fixed(3)), id, self.numbers_of(|row| row.shape_p))
            .numbers("seen out", Some(&ValueFormat::percent(2)), id, self.numbers_of(|row| row.seen_out))
            .numbers("expected out", Some(&ValueFormat::percent(4)), id, self.numbers_of(|row| row.expected_out))
            .wholes("signals", id, self.rows.iter().map(|row| row.signals));
        // Only where a gauge is known: else there would be a column of nothing.
        let known = self.rows.iter().any(|row| row.gauge_share.is_some());
        let shares = || self.numbers_of(|row| row.gauge_share);
        let table = match known {
            true => table.numbers("share of the gauge", Some(&ValueFormat::percent(1)), Some(share::FORMULA.id), shares()),
            false => table,
        };
        vec![table]
    }

    fn points(&self, view: &View) -> Table {
        let (id, two, three) = (Some("row"), ValueFormat::fixed(2), ValueFormat::fixed(3));
        self.named(Table::new("points", "Indices"))
            .wholes("n", id, self.rows.iter().map(|row| row.n))
            .numbers("lsl", Some(&three), None, self.numbers_of(|row| row.lsl))
            .numbers("usl", Some(&three), None, self.numbers_of(|row| row.usl))
            .numbers("cp", Some(&two), id, self.numbers_of(|row| row.cp))
            .numbers("cpk", Some(&two), id, self.numbers_of(|row| row.cpk))
            .numbers("pp", Some(&two), id, self.numbers_of(|row| row.pp))
            .numbers("ppk", Some(&two), id, self.numbers_of(|row| row.ppk))
            .wholes("signals", id, self.rows.iter().map(|row| row.signals))
            .numbers("shape p", Some(&three), id, self.numbers_of(|row| row.shape_p))
            .texts("verdict", self.rows.iter().map(|row| Some(row.problem.clone().unwrap_or_else(|| row.title.clone()))))
            .in_view(view)
    }
}
