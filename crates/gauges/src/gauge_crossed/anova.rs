//! The variance analysis of parts and operators at random.
//!
//! Balanced: SSₚ = o r Σ(x̄ₚ − x̄)², SSₒ = p r Σ(x̄ₒ − x̄)², SSₒₚ = r Σ(x̄ₒₚ − x̄ₒ − x̄ₚ + x̄)², SSₑ = Σ(x − x̄ₒₚ)²; part and operator
//! are tested over the interaction, that over repeatability, and where it is pooled both over the two together. Unbalanced: see
//! [`super::unbalanced`]. Source: Montgomery (2013), Introduction to Statistical Quality Control, sec. 8.7.

use super::cells::Cells;
use super::unbalanced::Sums;
use acorn_maths::describe::mean;
use acorn_study::StudyError;
use acorn_study::gauge::analysis::Line;

/// Both tables; without a second operator or a second reading there is no interaction to tell.
pub struct Tables {
    /// part, operator, operator-part, repeatability, total.
    pub with: Option<[Line; 5]>,
    /// part, operator, repeatability, total; interaction and repeatability pooled.
    pub without: [Line; 4],
    /// Sums of squares of a study whose cells differ in number.
    pub unbalanced: Option<Sums>,
}

impl Tables {
    /// # Errors
    /// [`StudyError::BadOption`] when the cells are so uneven that operators cannot be compared.
    pub fn of(cells: &Cells) -> Result<Tables, StudyError> {
        match cells.trials() {
            Some(trials) => Ok(balanced(cells, trials)),
            None => unbalanced(cells),
        }
    }
}

fn balanced(cells: &Cells, r: usize) -> Tables {
    let (p, o) = (cells.parts.len(), cells.operators.len());
    let grand = mean(&cells.values);
    let parts: Vec<f64> = (0..p).map(|part| mean(cells.of_part(part)) - grand).collect();
    let cell = |part: usize, operator: usize| mean(cells.cell(part, operator)) - grand;
    let operators: Vec<f64> = (0..o).map(|operator| (0..p).map(|part| cell(part, operator)).sum::<f64>() / p as f64).collect();
    let squares = |values: &[f64]| values.iter().map(|value| value * value).sum::<f64>();
    let (mut interaction, mut within) = (0.0, 0.0);
    for (part, of_part) in parts.iter().enumerate() {
        for (operator, of_operator) in operators.iter().enumerate() {
            let own = cell(part, operator);
            interaction += (own - of_part - of_operator).powi(2);
            within += cells.cell(part, operator).iter().map(|value| (value - grand - own).powi(2)).sum::<f64>();
        }
    }
    let (pf, of, rf) = (p as f64, o as f64, r as f64);
    let part = Line::new("part", pf - 1.0, of * rf * squares(&parts));
    let operator = Line::new("operator", of - 1.0, pf * rf * squares(&operators));
    let both = Line::new("operator-part", (pf - 1.0) * (of - 1.0), rf * interaction);
    let repeat = Line::new("repeatability", pf * of * (rf - 1.0), within);
    let pooled = Line::new("repeatability", both.df + repeat.df, both.ss + repeat.ss);
    let all = [part, operator, both, repeat];
    let total = Line::total(&all);
    let [part, operator, both, repeat] = all;
    let without = [part.clone().tested(&pooled), operator.clone().tested(&pooled), pooled, total.clone()];
    let with = (o > 1 && r > 1).then(|| {
        let both = both.tested(&repeat);
        [part.tested(&both), operator.tested(&both), both, repeat, total]
    });
    Tables { with, without, unbalanced: None }
}

fn unbalanced(cells: &Cells) -> Result<Tables, StudyError> {
    let sums = Sums::of(cells)?;
    let (p, o, n) = (cells.parts.len() as f64, cells.operators.len() as f64, cells.values.len() as f64);
    let both = Line::new("operator-part", sums.filled as f64 - (p + o - 1.0), sums.interaction);
    let repeat = Line::new("repeatability", n - sums.filled as f64, sums.within);
    let pooled = Line::new("repeatability", both.df + repeat.df, both.ss + repeat.ss);
    let line = |source, df, ss: f64| Line::new(source, df, ss);
    let total = Line { ms: None, ..line("total", n - 1.0, sums.total) };
    let [part, operator] = [line("part", p - 1.0, sums.adjusted[0]), line("operator", o - 1.0, sums.adjusted[1])];
    let without = [part.tested(&pooled), operator.tested(&pooled), pooled, total.clone()];
    let with = (o > 1.0 && both.df > 0.0 && repeat.df > 0.0).then(|| {
        let [part, operator] = [line("part", p - 1.0, sums.third[0]), line("operator", o - 1.0, sums.third[1])];
        let both = both.tested(&repeat);
        [part.tested(&both), operator.tested(&both), both, repeat, total]
    });
    Ok(Tables { with, without, unbalanced: Some(sums) })
}
