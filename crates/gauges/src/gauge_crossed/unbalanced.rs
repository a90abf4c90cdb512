//! A study whose cells differ in number.
//!
//! Sums of squares: SSₑ within cells; the additive fit xᵢⱼ = part + operator by least squares leaves SSₒₚ beyond SSₑ; parts and
//! operators adjusted for each other (type II) without the interaction, and with it by the weighted squares of means (type III,
//! Yates 1934) where every cell is filled, else adjusted as without. Components by restricted maximum likelihood (Patterson and
//! Thompson 1971, Biometrika 58; Searle, Casella and McCulloch 1992, Variance Components, ch. 6), which on balanced readings
//! with no component below 0 gives those of the variance analysis. Tests over the interaction are approximate then.

use super::cells::Cells;
use acorn_maths::describe::mean;
use acorn_maths::lowest::lowest;
use acorn_study::StudyError;
use acorn_study::reading::bad;

/// More parts times squared operators take too long to fit over and over.
const WORK_MOST: usize = 20_000_000;

/// A filled cell.
struct Cell {
    part: usize,
    operator: usize,
    n: f64,
    /// Its mean less the mean of all.
    mean: f64,
}

/// Sums of squares of a study whose cells differ in number.
pub struct Sums {
    cells: Vec<Cell>,
    operators: usize,
    n: usize,
    /// Cells that have a reading.
    pub filled: usize,
    /// Within cells.
    pub within: f64,
    /// What the additive fit leaves beyond that.
    pub interaction: f64,
    /// Parts and operators, each adjusted for the other.
    pub adjusted: [f64; 2],
    /// Parts and operators beside the interaction.
    pub third: [f64; 2],
    /// About the mean of all.
    pub total: f64,
    /// What each operator adds, their mean taken off.
    pub effects: Vec<f64>,
    /// How many readings of a balanced study would tell it as well.
    pub worth: Vec<f64>,
}

impl Sums {
    /// Sums of squares.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when some operators have read no part that the others read, or when there are too many.
    pub fn of(cells: &Cells) -> Result<Sums, StudyError> {
        let (p, o) = (cells.parts.len(), cells.operators.len());
        if p.saturating_mul(o).saturating_mul(o) > WORK_MOST {
            let words = "so many operators can be told apart only when each cell has equally many readings; leave out what is short";
            return Err(bad("operator", words));
        }
        let grand = mean(&cells.values);
        let mut within = 0.0;
        let mut filled = Vec::new();
        for cell in 0..cells.len() {
            let readings = cells.nth(cell);
            if readings.is_empty() {
                continue;
            }
            let own = mean(readings);
            within += readings.iter().map(|value| (value - own).powi(2)).sum::<f64>();
            filled.push(Cell { part: cell / o, operator: cell % o, n: readings.len() as f64, mean: own - grand });
        }
        if let Some(apart) = apart(&filled, p, o) {
            let who = &cells.operators[apart];
            let words = format!("{who} has read no part that {} has read, so they cannot be compared", cells.operators[0]);
            return Err(bad("operator", format!("{words}; let both read some of the same parts")));
        }
        let mut sums = Sums {
            operators: o,
            n: cells.values.len(),
            filled: filled.len(),
            within,
            interaction: 0.0,
            adjusted: [0.0; 2],
            third: [0.0; 2],
            total: cells.values.iter().map(|value| (value - grand).powi(2)).sum(),
            effects: Vec::new(),
            worth: Vec::new(),
            cells: filled,
        };
        let squares = |by: &dyn Fn(&Cell) -> usize, groups: usize| {
            let means = sums.means(by, groups);
            sums.cells.iter().map(|cell| cell.n * (cell.mean - means[by(cell)]).powi(2)).sum::<f64>()
        };
        let (parts_only, operators_only) = (squares(&|cell| cell.part, p), squares(&|cell| cell.operator, o));
        let (effects, worth) = sums.operator_effects(p);
        let left = sums.additive_left(&effects, p);
        sums.interaction = left.max(0.0);
        sums.adjusted = [(operators_only - left).max(0.0), (parts_only - left).max(0.0)];
        sums.third = if sums.filled == p * o { sums.weighted(p) } else { sums.adjusted };
        let middle = effects.iter().sum::<f64>() / o as f64;
        sums.effects = effects.iter().map(|effect| effect - middle).collect();
        sums.worth = worth;
        Ok(sums)
    }

    fn means(&self, by: &dyn Fn(&Cell) -> usize, groups: usize) -> Vec<f64> {
        let mut sums = vec![(0.0, 0.0); groups];
        for cell in &self.cells {
            let (sum, n) = &mut sums[by(cell)];
            (*sum, *n) = (*sum + cell.n * cell.mean, *n + cell.n);
        }
        sums.into_iter().map(|(sum, n)| sum / n).collect()
    }

    /// What each operator adds in the additive fit, the first adding nothing: the normal equations with the parts taken out. And how many
    /// readings it is worth: (k − 1)/k over the variance of its distance from the mean of all, which is that over its readings in a
    /// balanced study.
    fn operator_effects(&self, parts: usize) -> (Vec<f64>, Vec<f64>) {
        let o = self.operators;
        let of_part = self.means(&|cell| cell.part, parts);
        let mut n_part = vec![0.0; parts];
        self.cells.iter().for_each(|cell| n_part[cell.part] += cell.n);
        let (mut matrix, mut right) = (vec![vec![0.0; o]; o], vec![0.0; o]);
        for cell in &self.cells {
            matrix[cell.operator][cell.operator] += cell.n;
            right[cell.operator] += cell.n * (cell.mean - of_part[cell.part]);
        }
        for cells in self.cells.chunk_by(|a, b| a.part == b.part) {
            for one in cells {
                for other in cells {
                    matrix[one.operator][other.operator] -= one.n * other.n / n_part[one.part];
                }
            }
        }
        // One operator is the origin.
        let rest: Vec<Vec<f64>> = matrix[1..].iter().map(|row| row[1..].to_vec()).collect();
        let Some(factor) = Factor::of(rest) else { return (vec![0.0; o], vec![0.0; o]) };
        let mut solved = vec![0.0];
        solved.extend(factor.solve(&right[1..]));
        let k = o as f64;
        let worth = |operator: usize| {
            let apart: Vec<f64> = (1..o).map(|other| f64::from(u8::from(other == operator)) - 1.0 / k).collect();
            let variance: f64 = factor.solve(&apart).iter().zip(&apart).map(|(solved, apart)| solved * apart).sum();
            (k - 1.0) / (k * variance)
        };
        (solved, (0..o).map(worth).collect())
    }

    /// Σ n (mean − part − operator)² of the additive fit.
    fn additive_left(&self, effects: &[f64], parts: usize) -> f64 {
        let mut sums = vec![(0.0, 0.0); parts];
        for cell in &self.cells {
            let (sum, n) = &mut sums[cell.part];
            (*sum, *n) = (*sum + cell.n * (cell.mean - effects[cell.operator]), *n + cell.n);
        }
        let left = |cell: &Cell| cell.mean - effects[cell.operator] - sums[cell.part].0 / sums[cell.part].1;
        self.cells.iter().map(|cell| cell.n * left(cell).powi(2)).sum()
    }

    /// Parts and operators by the weighted squares of the unweighted means, every cell filled.
    fn weighted(&self, parts: usize) -> [f64; 2] {
        let squares = |by: &dyn Fn(&Cell) -> usize, groups: usize| {
            let mut of = vec![(0.0, 0.0, 0.0); groups];
            for cell in &self.cells {
                let (sum, turned, k) = &mut of[by(cell)];
                (*sum, *turned, *k) = (*sum + cell.mean, *turned + 1.0 / cell.n, *k + 1.0);
            }
            let of: Vec<(f64, f64)> = of.into_iter().map(|(sum, turned, k)| (sum / k, k * k / turned)).collect();
            let weight: f64 = of.iter().map(|(_, weight)| weight).sum();
            let middle = of.iter().map(|(mean, weight)| mean * weight).sum::<f64>() / weight;
            of.iter().map(|(mean, weight)| weight * (mean - middle).powi(2)).sum()
        };
        [squares(&|cell| cell.part, parts), squares(&|cell| cell.operator, self.operators)]
    }

    /// Variances of repeatability, operators, interaction and parts by restricted maximum likelihood, none below 0.
    pub fn components(&self, with_interaction: bool) -> [f64; 4] {
        let start = 0.7;
        let roots = match (with_interaction, self.operators > 1) {
            (true, _) => lowest([start, start, start], 0.5, |roots| self.deviance(roots).0),
            (false, true) => {
                let [part, operator] = lowest([start, start], 0.5, |[part, operator]| self.deviance([part, operator, 0.0]).0);
                [part, operator, 0.0]
            }
            (false, false) => {
                let [part] = lowest([start], 0.5, |[part]| self.deviance([part, 0.0, 0.0]).0);
                [part, 0.0, 0.0]
            }
        };
        // A root that is next to nothing is nothing: the likelihood is flat there.
        let settle = |root: f64| if root.abs() < 1e-4 { 0.0 } else { root };
        let roots = roots.map(settle);
        let repeat = self.deviance(roots).1;
        let [part, operator, both] = roots.map(|root| root * root * repeat);
        [repeat, operator, both, part]
    }

    /// Minus twice the restricted log likelihood, up to a constant, of sds of part, operator and interaction over that of
    /// repeatability; and the variance of repeatability that is likeliest with them.
    fn deviance(&self, roots: [f64; 3]) -> (f64, f64) {
        let [part, operator, both] = roots.map(|root| root * root);
        let o = self.operators;
        let mut matrix = vec![vec![0.0; o]; o];
        let (mut y_side, mut one_side) = (vec![0.0; o], vec![0.0; o]);
        let (mut ln_det, mut yy, mut y1, mut one) = (0.0, 0.0, 0.0, 0.0);
        for cells in self.cells.chunk_by(|a, b| a.part == b.part) {
            let weight = |cell: &Cell| 1.0 / (1.0 / cell.n + both);
            let sum: f64 = cells.iter().map(weight).sum();
            let of_y: f64 = cells.iter().map(|cell| weight(cell) * cell.mean).sum();
            let shrunk = part / (1.0 + part * sum);
            ln_det += (1.0 + part * sum).ln();
            yy -= shrunk * of_y * of_y;
            y1 += of_y - shrunk * of_y * sum;
            one += sum - shrunk * sum * sum;
            for cell in cells {
                let own = weight(cell);
                ln_det -= own.ln();
                yy += own * cell.mean * cell.mean;
                y_side[cell.operator] += own * (cell.mean - shrunk * of_y);
                one_side[cell.operator] += own * (1.0 - shrunk * sum);
                matrix[cell.operator][cell.operator] += own;
                for other in cells {
                    matrix[cell.operator][other.operator] -= shrunk * own * weight(other);
                }
            }
        }
        if operator > 0.0 {
            for (place, row) in matrix.iter_mut().enumerate() {
                row.iter_mut().for_each(|cell| *cell *= operator);
                row[place] += 1.0;
            }
            // I + γA is not symmetric to the last bit, but positive definite.
            let Some(factor) = Factor::of(matrix) else { return (f64::INFINITY, 0.0) };
            ln_det += factor.ln_det();
            let (y_solved, one_solved) = (factor.solve(&y_side), factor.solve(&one_side));
            let dot = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| a * b).sum::<f64>();
            yy -= operator * dot(&y_side, &y_solved);
            y1 -= operator * dot(&one_side, &y_solved);
            one -= operator * dot(&one_side, &one_solved);
        }
        let df = (self.n - 1) as f64;
        let repeat = (self.within + (yy - y1 * y1 / one).max(0.0)) / df;
        (df * repeat.ln() + ln_det + one.ln(), repeat)
    }
}

/// An operator who shares no part, not even through others, with the first.
fn apart(cells: &[Cell], parts: usize, operators: usize) -> Option<usize> {
    let (mut part_known, mut operator_known) = (vec![false; parts], vec![false; operators]);
    operator_known[0] = true;
    loop {
        let mut grown = false;
        for cell in cells {
            let known = part_known[cell.part] || operator_known[cell.operator];
            grown |= known && !(part_known[cell.part] && operator_known[cell.operator]);
            part_known[cell.part] |= known;
            operator_known[cell.operator] |= known;
        }
        if !grown {
            return operator_known.iter().position(|known| !known);
        }
    }
}

/// The Cholesky factor of a positive definite matrix.
struct Factor(Vec<Vec<f64>>);

impl Factor {
    fn of(mut matrix: Vec<Vec<f64>>) -> Option<Factor> {
        for row in 0..matrix.len() {
            for column in 0..=row {
                let known: f64 = (0..column).map(|k| matrix[row][k] * matrix[column][k]).sum();
                let left = matrix[row][column] - known;
                matrix[row][column] = if row == column { (left > 0.0).then(|| left.sqrt())? } else { left / matrix[column][column] };
            }
        }
        Some(Factor(matrix))
    }

    fn ln_det(&self) -> f64 {
        self.0.iter().enumerate().map(|(place, row)| 2.0 * row[place].ln()).sum()
    }

    fn solve(&self, right: &[f64]) -> Vec<f64> {
        let n = self.0.len();
        let mut solved = right.to_vec();
        for row in 0..n {
            let known: f64 = (0..row).map(|k| self.0[row][k] * solved[k]).sum();
            solved[row] = (solved[row] - known) / self.0[row][row];
        }
        for row in (0..n).rev() {
            let known: f64 = (row + 1..n).map(|k| self.0[k][row] * solved[k]).sum();
            solved[row] = (solved[row] - known) / self.0[row][row];
        }
        solved
    }
}
