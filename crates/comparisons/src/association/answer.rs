//! A finished answer, with what is kept of it for tables and rows.

use std::sync::Arc;

use super::compute::{table, within};
use super::numbers::{Layer, Numbers, TableNumbers};
use super::params::{Params, Source};
use acorn_data::frame::NO_CODE;
use acorn_maths::words::{ValueFormat, grouped, small};
use acorn_study::{Brief, Cancel, StoredAnswer, StudyError, Table, Term, ToNumbers, ValidatedSpec, View};

/// Most rows and columns that are drawn.
const DRAWN_MOST: usize = 12;

/// Everything about a table.
pub struct Answer {
    pub(super) numbers: Numbers,
    source: Option<(Source, Option<Arc<[i64]>>)>,
}

/// Answers a statement.
///
/// # Errors
/// [`StudyError`].
pub fn answer(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Answer, StudyError> {
    let params = Params::read(asked, cancel)?;
    let whole = table(&params.all, params.alpha, cancel)?;
    let small = |cross: &super::tally::Cross| table(&cross.drawn(&params.all, DRAWN_MOST), params.alpha, cancel);
    let drawn = (whole.rows.len().max(whole.columns.len()) > DRAWN_MOST).then(|| small(&params.all)).transpose()?;
    let parts = params.layers.as_ref().map(|(_, layers)| layers);
    let within = parts.map(|layers| within(layers, &whole, &params, cancel)).transpose()?;
    let layer = |(label, cross): &(String, super::tally::Cross)| Ok::<_, StudyError>(Layer { label: label.clone(), table: small(cross)? });
    let layers = parts.into_iter().flatten().map(layer).collect::<Result<_, _>>()?;
    let numbers = Numbers {
        table: whole,
        drawn,
        third: params.layers.map(|(name, _)| name),
        within,
        layers,
        names: [params.column, params.row],
        alpha: params.alpha,
        missing: params.missing,
    };
    Ok(Answer { numbers, source: params.source.map(|source| (source, asked.frame().row_ids().cloned())) })
}

impl Answer {
    /// Whether rows of data stand behind its cells.
    pub fn has_rows(&self) -> bool {
        self.source.is_some()
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        let cells = |table: &TableNumbers| 120 * table.rows.len() * table.columns.len();
        let layers: usize = self.numbers.layers.iter().map(|layer| cells(&layer.table)).sum();
        let rows = self.source.as_ref().map_or(0, |(source, _)| 8 * source.rows.codes.len());
        cells(&self.numbers.table) + self.numbers.drawn.as_ref().map_or(0, cells) + layers + rows
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers.table;
        let v = of.cramers_v.map(|v| Brief { term: "Cramér's V", words: format!("{v:.2}") });
        let p = of.p_used.map(|p| Brief { term: "p", words: small(p) });
        v.into_iter().chain(p).chain([Brief { term: "values", words: grouped(of.total as usize) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let (of, two, four) = (&self.numbers.table, ValueFormat::fixed(2), ValueFormat::fixed(4));
        let test =
            |words: &str, formula, value: f64, p: Option<f64>| Term::new(words, &four, formula, [Some(value), Some(of.df as f64), p]);
        let mut terms = vec![
            test("χ²", "chi-square", of.chi2, of.p),
            test("G²", "g-square", of.g2, of.p_g2),
            Term::new("exact test", &four, "exact", [None, None, of.exact_p]),
            Term::new("Cramér's V", &four, "cramer", [of.cramers_v, None, None]),
        ];
        if let Some(within) = &self.numbers.within {
            terms.push(Term::new("χ² within", &four, "within", [Some(within.chi2), Some(within.df as f64), within.p]));
        }
        let tests = Table::of_terms("tests", "Does it depend?", &["", "value", "df", "p"], terms);
        let percent = ValueFormat::percent(1);
        let mut profiles = Table::new("profiles", "Share of each row")
            .texts("groups", of.rows.iter().map(|label| Some(label.clone())).chain([Some("all".to_owned())]));
        for (column, label) in of.columns.iter().enumerate().take(DRAWN_MOST) {
            let cells = of.row_profile.iter().map(|row| row[column]).chain([of.overall_profile[column]]);
            profiles = profiles.numbers(label.clone(), Some(&percent), Some("profile"), cells);
        }
        let each = || self.numbers.layers.iter();
        let layers = Table::new("layers", "For each label of the third column")
            .texts("groups", each().map(|layer| Some(layer.label.clone())))
            .numbers("total", Some(&ValueFormat::whole()), None, each().map(|layer| Some(layer.table.total)))
            .numbers("χ²", Some(&two), Some("chi-square"), each().map(|layer| Some(layer.table.chi2)))
            .numbers("p", Some(&four), Some("chi-square"), each().map(|layer| layer.table.p_used))
            .numbers("Cramér's V", Some(&two), Some("cramer"), each().map(|layer| layer.table.cramers_v));
        let mut tables = vec![tests, profiles];
        if !self.numbers.layers.is_empty() {
            tables.push(layers);
        }
        tables
    }

    fn points(&self, view: &View) -> Table {
        let of = &self.numbers.table;
        let cells = || (0..of.rows.len()).flat_map(|row| (0..of.columns.len()).map(move |column| (row, column)));
        let (whole, two, four) = (ValueFormat::whole(), ValueFormat::fixed(2), ValueFormat::fixed(4));
        Table::new("points", "Cells")
            .texts("row", cells().map(|(row, _)| Some(of.rows[row].clone())))
            .texts("column", cells().map(|(_, column)| Some(of.columns[column].clone())))
            .numbers("observed", Some(&whole), None, cells().map(|(row, column)| Some(of.observed[row][column])))
            .numbers("expected count", Some(&two), Some("expected"), cells().map(|(row, column)| Some(of.expected[row][column])))
            .numbers("adds to χ²", Some(&two), Some("chi-square"), cells().map(|(row, column)| Some(of.contribution[row][column])))
            .numbers("adjusted residual", Some(&two), Some("adjusted"), cells().map(|(row, column)| of.adjusted_residual[row][column]))
            .numbers("p", Some(&four), Some("cell-p"), cells().map(|(row, column)| of.cell_p[row][column]))
            .in_view(view)
    }

    /// The rows of the cells of a stretch.
    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        let Some((source, ids)) = &self.source else { return Vec::new() };
        let wide = source.column_side.labels.len();
        let cell = |row: usize| {
            let (r, c) = (source.rows.codes[row], source.columns.codes[row]);
            (r != NO_CODE && c != NO_CODE).then(|| source.row_side.places[r as usize] * wide + source.column_side.places[c as usize])
        };
        let is_meant = |row: &usize| cell(*row).is_some_and(|cell| (first..=last).contains(&cell));
        (0..source.rows.codes.len()).filter(is_meant).map(|row| ids.as_ref().map_or(row as i64, |ids| ids[row])).collect()
    }
}
