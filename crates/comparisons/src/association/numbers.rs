//! What dependence consists of, in the shape of its contract.

use serde::Serialize;

/// What dependence consists of.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AssociationNumbers)]
pub struct Numbers {
    /// The whole table.
    #[serde(flatten)]
    pub table: TableNumbers,
    /// The table with its rare labels as one, small enough to be drawn; absent when the whole is.
    pub drawn: Option<TableNumbers>,
    /// The name of the third column; absent without one.
    pub third: Option<String>,
    /// Whether it depends within its labels, all of them together.
    pub within: Option<Within>,
    /// The table of each of its labels, small enough to be drawn.
    pub layers: Vec<Layer>,
    /// What depends, and on what.
    pub names: [String; 2],
    /// The chance below which it is no longer chance.
    pub alpha: f64,
    /// Rows without a label or a count.
    pub missing: usize,
}

/// A table of counts against what was expected; matrices by row.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AssociationTable)]
pub struct TableNumbers {
    /// Labels of the rows.
    pub rows: Vec<String>,
    /// Labels of the columns.
    pub columns: Vec<String>,
    /// Counts.
    pub observed: Vec<Vec<f64>>,
    /// Row total × column total / all.
    pub expected: Vec<Vec<f64>>,
    /// What each cell adds to χ².
    pub contribution: Vec<Vec<f64>>,
    /// Pearson's residual; null where nothing is expected.
    pub residual: Vec<Vec<Option<f64>>>,
    /// Adjusted residual.
    pub adjusted_residual: Vec<Vec<Option<f64>>>,
    /// Its chance, for all cells together.
    pub cell_p: Vec<Vec<Option<f64>>>,
    /// 1 or −1 where a cell stands out, more or fewer than expected; else 0.
    pub stands_out: Vec<Vec<i8>>,
    /// (observed − expected) / expected.
    pub difference: Vec<Vec<Option<f64>>>,
    /// Share of the row's total; null in an empty row.
    pub row_profile: Vec<Vec<Option<f64>>>,
    /// Share of the column's total; null in an empty column.
    pub column_profile: Vec<Vec<Option<f64>>>,
    /// Share of all, by column.
    pub overall_profile: Vec<Option<f64>>,
    /// Totals of the rows.
    pub row_totals: Vec<f64>,
    /// Totals of the columns.
    pub column_totals: Vec<f64>,
    /// All counts.
    pub total: f64,
    /// χ².
    pub chi2: f64,
    /// Degrees of freedom, empty rows and columns apart.
    pub df: usize,
    /// Chance of χ²; null without two rows and two columns.
    pub p: Option<f64>,
    /// G².
    pub g2: f64,
    /// Chance of G².
    pub p_g2: Option<f64>,
    /// Cramér's V.
    pub cramers_v: Option<f64>,
    /// Cells that expect fewer than 5.
    pub cells_below_5: usize,
    /// The smallest expected count.
    pub min_expected: Option<f64>,
    /// Whether χ² may be used.
    pub valid: bool,
    /// The exact chance, where χ² may not be used.
    pub exact_p: Option<f64>,
    /// Random tables that it was found from; 0 when every table was looked at.
    pub exact_draws: usize,
    /// Its standard error, of random tables.
    pub exact_error: Option<f64>,
    /// The chance that counts: that of χ² where it may be used, else the exact one.
    pub p_used: Option<f64>,
    /// Whether that is below alpha.
    pub depends: bool,
    /// Rare labels that are one, of rows and of columns.
    pub folded: [usize; 2],
}

impl TableNumbers {
    /// Cells that stand out, and to which side.
    pub fn marked(&self) -> impl Iterator<Item = (usize, usize, i8)> {
        let cells = self
            .stands_out
            .iter()
            .enumerate()
            .flat_map(|(row, cells)| cells.iter().enumerate().map(move |(column, side)| (row, column, *side)));
        cells.filter(|(.., side)| *side != 0)
    }

    /// The cell that stands out most; of equal ones, one with more than expected.
    pub fn foremost(&self) -> Option<(usize, usize)> {
        let far = |(row, column, _): (usize, usize, i8)| self.adjusted_residual[row][column].unwrap_or_default().abs();
        let farther = |best: (usize, usize, i8), one: (usize, usize, i8)| {
            let equal = (far(one) - far(best)).abs() < 1e-9 * far(best);
            let better = if equal { one.2 > best.2 } else { far(one) > far(best) };
            if better { one } else { best }
        };
        self.marked().reduce(farther).map(|(row, column, _)| (row, column))
    }
}

/// The table of one label of a third column.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AssociationLayer)]
pub struct Layer {
    /// The label.
    pub label: String,
    /// Its table.
    pub table: TableNumbers,
}

/// Dependence within the labels of a third column.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AssociationWithin)]
pub struct Within {
    /// Σ χ² of the labels.
    pub chi2: f64,
    /// Σ df.
    pub df: usize,
    /// Its chance.
    pub p: Option<f64>,
    /// How the whole and its parts contradict each other.
    pub reversed: Option<Reversed>,
}

/// How a whole contradicts its parts.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = AssociationReversed)]
#[serde(tag = "how", rename_all = "kebab-case")]
pub enum Reversed {
    /// The whole depends and its parts do not.
    OnlyWhole,
    /// The parts depend and the whole does not.
    OnlyWithin,
    /// A cell that stands out in the whole stands on the other side within.
    Turned {
        /// Its row.
        row: usize,
        /// Its column.
        column: usize,
    },
}
