//! The variance analysis of parts and operators at random, balanced.
//!
//! SSₚ = o r Σ(x̄ₚ − x̄)², SSₒ = p r Σ(x̄ₒ − x̄)², SSₒₚ = r Σ(x̄ₒₚ − x̄ₒ − x̄ₚ + x̄)², SSₑ = Σ(x − x̄ₒₚ)²; part and operator are
//! tested over the interaction, that over repeatability, and where it is pooled both over the two together. Source: Montgomery
//! (2013), Introduction to Statistical Quality Control, sec. 8.7.

use serde::Serialize;

use super::cells::{Cells, mean};
use crate::numeric::tails::f_above;

/// A line of the table of a variance analysis; null where there is nothing to tell.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = AnovaLine))]
pub struct Line {
    /// What it is about.
    pub source: &'static str,
    /// Degrees of freedom.
    pub df: f64,
    /// Sum of squares.
    pub ss: f64,
    /// Mean square.
    pub ms: Option<f64>,
    /// Over what it is tested against.
    pub f: Option<f64>,
    /// The chance of so large an F.
    pub p: Option<f64>,
}

impl Line {
    fn new(source: &'static str, df: f64, ss: f64) -> Line {
        Line { source, df, ss, ms: (df > 0.0).then(|| ss / df), f: None, p: None }
    }

    fn total(lines: &[Line]) -> Line {
        Line { ms: None, ..Line::new("total", lines.iter().map(|line| line.df).sum(), lines.iter().map(|line| line.ss).sum()) }
    }

    fn tested(self, against: &Line) -> Line {
        let f = self.ms.zip(against.ms.filter(|ms| *ms > 0.0)).map(|(ms, against)| ms / against);
        let p = f.map(|f| f_above(f, self.df, against.df));
        Line { f, p, ..self }
    }

    /// Its mean square, 0 where it has none.
    pub fn mean_square(&self) -> f64 {
        self.ms.unwrap_or(0.0)
    }
}

/// Both tables; without a second operator or a second reading there is no interaction to tell.
pub struct Tables {
    /// part, operator, operator-part, repeatability, total.
    pub with: Option<[Line; 5]>,
    /// part, operator, repeatability, total; interaction and repeatability pooled.
    pub without: [Line; 4],
}

impl Tables {
    pub fn of(cells: &Cells) -> Tables {
        let (p, o, r) = (cells.parts.len(), cells.operators.len(), cells.trials);
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
        let without = [part.clone().tested(&pooled), operator.clone().tested(&pooled), pooled.clone(), total.clone()];
        let with = (o > 1 && r > 1).then(|| {
            let both = both.tested(&repeat);
            [part.tested(&both), operator.tested(&both), both, repeat, total]
        });
        Tables { with, without }
    }
}
