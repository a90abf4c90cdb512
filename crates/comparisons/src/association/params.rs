//! What dependence takes: counts by row and column, and the same for each label of a third column.

use super::tally::{Cross, Side, Totals};
use acorn_data::frame::{Coded, NO_CODE};
use acorn_maths::judgement::UNLIKELY;
use acorn_study::count_table::{CountTable, counts};
use acorn_study::reading::bad;
use acorn_study::{Cancel, StudyError, ValidatedSpec};

/// Most labels of a column.
const LABELS_MOST: usize = 200_000;
/// Most labels of a third column.
const LAYERS_MOST: usize = 50;
/// Most labels of a side, and most cells, that are told apart; rarer labels are one.
const SIDE_MOST: usize = 200;
const CELLS_MOST: usize = 4_000;

/// The statement, read.
pub struct Params {
    /// What depends on what, in words: columns and rows.
    pub column: String,
    pub row: String,
    /// What each row of the data counts.
    pub all: Cross,
    /// The same for each label of a third column, with its name.
    pub layers: Option<(String, Vec<(String, Cross)>)>,
    pub alpha: f64,
    /// Rows without a label or a count.
    pub missing: usize,
    /// The rows of the data behind the cells; none of a typed table.
    pub source: Option<Source>,
}

/// Which cell each row of the data is in.
pub struct Source {
    pub rows: Coded,
    pub columns: Coded,
    pub row_side: Side,
    pub column_side: Side,
}

impl Params {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Params, StudyError> {
        let alpha = asked.number("alpha").unwrap_or(UNLIKELY);
        let from: Option<String> = asked.option("from")?;
        if let Some(table) = asked.option::<CountTable>("table")?.filter(|_| from.as_deref() != Some("columns")) {
            return Ok(typed(table, alpha));
        }
        let (row, column) = (asked.needed("row")?, asked.needed("column")?);
        let layer = asked.column("layer");
        if row.name == column.name || layer.is_some_and(|layer| layer.name == row.name || layer.name == column.name) {
            return Err(bad("row", "the same column stands twice; choose different ones"));
        }
        let frame = asked.frame();
        let counts = asked.column("count").map(|column| counts(column, "counts")).transpose()?.map(|counts| &counts[..]);
        let (rows, columns) = (frame.coded(row, LABELS_MOST)?, frame.coded(column, LABELS_MOST)?);
        let layers = layer.map(|layer| Ok::<_, StudyError>((layer.name.clone(), frame.coded(layer, LAYERS_MOST)?))).transpose()?;
        let layer_codes = layers.as_ref().map(|(_, coded)| &coded.codes[..]);
        let used = Used { rows: &rows.codes, columns: &columns.codes, layers: layer_codes, counts };
        let totals = used.totals(rows.labels.len(), columns.labels.len(), cancel)?;
        let (keep_rows, keep_columns) = kept(totals.rows.live(), totals.columns.live());
        let row_side = Side::of(&totals.rows, &rows.labels, keep_rows);
        let column_side = Side::of(&totals.columns, &columns.labels, keep_columns);
        let all = used.cross(&row_side, &column_side, None, cancel)?;
        let layers = match &layers {
            Some((name, coded)) => {
                let of = |layer: usize| {
                    let cross = used.cross(&row_side, &column_side, Some(layer as u32), cancel)?;
                    Ok::<_, StudyError>((coded.labels[layer].clone(), cross))
                };
                Some((name.clone(), (0..coded.labels.len()).map(of).collect::<Result<_, _>>()?))
            }
            None => None,
        };
        let source = Some(Source { rows, columns, row_side, column_side });
        let missing = frame.rows() - totals.used;
        Ok(Params { column: column.name.clone(), row: row.name.clone(), all, layers, alpha, missing, source })
    }
}

/// How many labels of each side are told apart.
fn kept(rows: usize, columns: usize) -> (usize, usize) {
    let (mut rows, mut columns) = (rows.min(SIDE_MOST), columns.min(SIDE_MOST));
    while rows * columns > CELLS_MOST {
        if rows > columns { rows -= 1 } else { columns -= 1 }
    }
    (rows, columns)
}

fn typed(table: CountTable, alpha: f64) -> Params {
    let named = |names: Vec<String>, what: &str| -> Vec<String> {
        let name = |(place, name): (usize, String)| if name.trim().is_empty() { format!("{what} {}", place + 1) } else { name };
        names.into_iter().enumerate().map(name).collect()
    };
    let all = Cross {
        rows: named(table.rows, "row"),
        columns: named(table.columns, "column"),
        counts: table.counts.into_iter().flatten().collect(),
        folded: [0, 0],
    };
    Params { column: "column".into(), row: "row".into(), all, layers: None, alpha, missing: 0, source: None }
}

/// The rows of the data, by their codes.
struct Used<'f> {
    rows: &'f [u32],
    columns: &'f [u32],
    layers: Option<&'f [u32]>,
    counts: Option<&'f [f64]>,
}

struct Both {
    rows: Totals,
    columns: Totals,
    used: usize,
}

impl Used<'_> {
    /// What a row counts; none without a label or a count.
    #[inline]
    fn count(&self, row: usize) -> Option<f64> {
        let labelled = self.rows[row] != NO_CODE && self.columns[row] != NO_CODE && self.layers.is_none_or(|layers| layers[row] != NO_CODE);
        labelled.then(|| self.counts.map_or(1.0, |counts| counts[row])).filter(|count| !count.is_nan())
    }

    fn each(&self, cancel: &Cancel, mut with: impl FnMut(usize, f64)) -> Result<(), StudyError> {
        for row in 0..self.rows.len() {
            if row.is_multiple_of(1 << 18) {
                cancel.check()?;
            }
            if let Some(count) = self.count(row) {
                with(row, count);
            }
        }
        Ok(())
    }

    fn totals(&self, rows: usize, columns: usize, cancel: &Cancel) -> Result<Both, StudyError> {
        let mut both = Both { rows: Totals::none(rows), columns: Totals::none(columns), used: 0 };
        self.each(cancel, |row, count| {
            both.rows.add(self.rows[row], count, row);
            both.columns.add(self.columns[row], count, row);
            both.used += 1;
        })?;
        Ok(both)
    }

    /// The counts by row and column, of all or of one label of the third column.
    fn cross(&self, rows: &Side, columns: &Side, layer: Option<u32>, cancel: &Cancel) -> Result<Cross, StudyError> {
        let wide = columns.labels.len();
        let mut counts = vec![0.0; rows.labels.len() * wide];
        let of_layer = |row: usize| layer.is_none_or(|layer| self.layers.is_some_and(|layers| layers[row] == layer));
        self.each(cancel, |row, count| {
            if of_layer(row) {
                counts[rows.places[self.rows[row] as usize] * wide + columns.places[self.columns[row] as usize]] += count;
            }
        })?;
        Ok(Cross { rows: rows.labels.clone(), columns: columns.labels.clone(), counts, folded: [rows.folded, columns.folded] })
    }
}
