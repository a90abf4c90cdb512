//! What a person reads: the one source of ledger, file, shell and report.

use serde::Serialize;

use super::View;
use acorn_data::frame::{NO_CODE, Values};
use acorn_maths::words::ValueFormat;

/// Columns of equal length.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AnswerTable)]
pub struct Table {
    /// Its name in an address.
    pub id: &'static str,
    /// What it tells.
    pub title: String,
    /// Its columns.
    pub columns: Vec<Column>,
    /// What each row has of its own; empty when rows are alike.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub lines: Vec<Line>,
}

/// A column of a table.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AnswerColumn)]
pub struct Column {
    /// Its head.
    pub label: String,
    /// How its numbers are written; absent when each row says so.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub format: Option<ValueFormat>,
    /// The formula of its numbers, by id; absent when each row says so.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub formula: Option<&'static str>,
    /// One cell a row.
    pub cells: Cells,
}

/// The cells of a column.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[serde(untagged)]
pub enum Cells {
    /// Numbers; null where there is none.
    Numbers(Vec<Option<f64>>),
    /// Words; null where there are none.
    Texts(Vec<Option<String>>),
}

/// What a row has of its own.
#[derive(Clone, Debug, Default, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Line {
    /// How its numbers are written, where their column does not say.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub format: Option<ValueFormat>,
    /// Their formula, where their column does not say.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub formula: Option<&'static str>,
    /// The first and last point behind it; absent when all are.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub points: Option<[usize; 2]>,
}

/// A row of a list of terms with their numbers.
pub struct Term {
    /// What it is.
    pub words: String,
    /// Its numbers, by column.
    pub numbers: Vec<Option<f64>>,
    /// How they are written.
    pub format: ValueFormat,
    /// Their formula.
    pub formula: &'static str,
}

impl Term {
    /// One term.
    pub fn new(
        words: impl Into<String>,
        format: &ValueFormat,
        formula: &'static str,
        numbers: impl IntoIterator<Item = Option<f64>>,
    ) -> Term {
        Term { words: words.into(), numbers: numbers.into_iter().collect(), format: format.clone(), formula }
    }

    fn tells(&self) -> bool {
        self.numbers.iter().any(Option::is_some)
    }
}

impl Table {
    /// A table without columns yet.
    pub fn new(id: &'static str, title: impl Into<String>) -> Table {
        Table { id, title: title.into(), columns: Vec::new(), lines: Vec::new() }
    }

    /// A list of terms under heads; the first head is that of the terms. Terms without any number are left out.
    pub fn of_terms(id: &'static str, title: impl Into<String>, heads: &[&str], terms: Vec<Term>) -> Table {
        let terms: Vec<Term> = terms.into_iter().filter(Term::tells).collect();
        let line = |term: &Term| Line { format: Some(term.format.clone()), formula: Some(term.formula), points: None };
        let mut table =
            Table::new(id, title).texts(heads.first().copied().unwrap_or_default(), terms.iter().map(|term| Some(term.words.clone())));
        for (place, head) in heads.iter().skip(1).enumerate() {
            let cells = terms.iter().map(|term| term.numbers.get(place).copied().flatten());
            table = table.numbers(*head, None, None, cells);
        }
        Table { lines: terms.iter().map(line).collect(), ..table }
    }

    /// With a column of words.
    pub fn texts(mut self, label: impl Into<String>, cells: impl IntoIterator<Item = Option<String>>) -> Table {
        let cells = Cells::Texts(cells.into_iter().collect());
        self.columns.push(Column { label: label.into(), format: None, formula: None, cells });
        self
    }

    /// With a column of numbers; what is no number is none.
    pub fn numbers(
        mut self,
        label: impl Into<String>,
        format: Option<&ValueFormat>,
        formula: Option<&'static str>,
        cells: impl IntoIterator<Item = Option<f64>>,
    ) -> Table {
        let cells = Cells::Numbers(cells.into_iter().map(|cell| cell.filter(|number| number.is_finite())).collect());
        self.columns.push(Column { label: label.into(), format: format.cloned(), formula, cells });
        self
    }

    /// With a column of counts or running numbers.
    pub fn wholes(self, label: impl Into<String>, formula: Option<&'static str>, cells: impl IntoIterator<Item = usize>) -> Table {
        self.numbers(label, Some(&ValueFormat::whole()), formula, cells.into_iter().map(|cell| Some(cell as f64)))
    }

    /// Rows.
    pub fn rows(&self) -> usize {
        self.columns.first().map_or(0, |column| match &column.cells {
            Cells::Numbers(cells) => cells.len(),
            Cells::Texts(cells) => cells.len(),
        })
    }

    /// The rows of a stretch; a table is never thinned.
    pub fn in_view(mut self, view: &View) -> Table {
        let stretch = view.stretch(self.rows()).0;
        for column in &mut self.columns {
            match &mut column.cells {
                Cells::Numbers(cells) => *cells = cells.drain(stretch.clone()).collect(),
                Cells::Texts(cells) => *cells = cells.drain(stretch.clone()).collect(),
            }
        }
        if !self.lines.is_empty() {
            self.lines = self.lines.drain(stretch).collect();
        }
        self
    }

    /// Named columns for a file, with every digit.
    pub fn for_file(&self) -> Vec<(String, Values)> {
        let values = |column: &Column| match &column.cells {
            Cells::Numbers(cells) => Values::Number(cells.iter().map(|cell| cell.unwrap_or(f64::NAN)).collect()),
            Cells::Texts(cells) => {
                let mut labels = Vec::new();
                let mut code = |cell: &Option<String>| {
                    cell.as_ref().map_or(NO_CODE, |text| {
                        labels.push(text.clone());
                        labels.len() as u32 - 1
                    })
                };
                let codes = cells.iter().map(&mut code).collect();
                Values::Label { codes, labels: labels.into() }
            }
        };
        self.columns.iter().map(|column| (column.label.clone(), values(column))).collect()
    }
}
