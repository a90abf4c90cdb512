//! Worst-case and root-sum-square stacks of a response that is a sum of its inputs, each by a factor.
//!
//! Every input reaches as far as 0.135 % and 99.865 % of its distribution, which of a normal are three sds. Worst case puts every
//! input at its worst end at once; root-sum-square adds the squares of the half-widths (Drake 1999, Dimensioning and Tolerancing
//! Handbook, ch. 9).

use super::assembly::Model;
use super::linear::forms;

/// How far a sum reaches.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize, utoipa::ToSchema)]
#[schema(as = ToleranceStack)]
pub struct Stack {
    /// All inputs in their middle.
    pub middle: f64,
    /// All at their worst ends.
    pub worst: [f64; 2],
    /// By the root of the sum of squares.
    pub rss: [f64; 2],
}

/// The share beyond either end of an input.
const BEYOND: f64 = 0.00135;

/// The stack of every response; `None` where it is no sum of two inputs or more.
pub fn stacks(model: &Model) -> Vec<Option<Stack>> {
    let ends: Vec<[f64; 2]> = model
        .drawn
        .iter()
        .map(|one| [one.distribution.quantile(BEYOND, 1.0 - BEYOND), one.distribution.quantile(1.0 - BEYOND, BEYOND)])
        .collect();
    let stack = |form: Option<super::linear::Linear>| {
        let form = form.filter(|form| form.factors.iter().filter(|factor| **factor != 0.0).count() > 1)?;
        let used = || form.factors.iter().zip(&ends).filter(|(factor, _)| **factor != 0.0);
        let middle = form.constant + used().map(|(factor, [low, high])| factor * (low + high) / 2.0).sum::<f64>();
        let halves: Vec<f64> = used().map(|(factor, [low, high])| factor.abs() * (high - low) / 2.0).collect();
        let (worst, rss) = (halves.iter().sum::<f64>(), halves.iter().map(|half| half * half).sum::<f64>().sqrt());
        let stack = Stack { middle, worst: [middle - worst, middle + worst], rss: [middle - rss, middle + rss] };
        (stack.worst.iter().chain(&stack.rss).all(|end| end.is_finite())).then_some(stack)
    };
    forms(model).into_iter().map(stack).collect()
}
