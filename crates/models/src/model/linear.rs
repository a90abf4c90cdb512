//! Whether a response is a sum of its inputs, each by a factor.

use super::assembly::{Meaning, Model};
use acorn_data::formula::{Function, Node, Pair};

/// A constant and a factor for each drawn input.
#[derive(Clone, Debug, PartialEq)]
pub struct Linear {
    /// What is added.
    pub constant: f64,
    /// A factor for each drawn input.
    pub factors: Vec<f64>,
}

impl Linear {
    fn constant(constant: f64, inputs: usize) -> Linear {
        Linear { constant, factors: vec![0.0; inputs] }
    }

    fn is_constant(&self) -> bool {
        self.factors.iter().all(|factor| *factor == 0.0)
    }

    fn times(mut self, by: f64) -> Linear {
        self.constant *= by;
        self.factors.iter_mut().for_each(|factor| *factor *= by);
        self
    }

    fn plus(mut self, other: &Linear, by: f64) -> Linear {
        self.constant += by * other.constant;
        self.factors.iter_mut().zip(&other.factors).for_each(|(factor, other)| *factor += by * other);
        self
    }
}

/// Every response as a linear form of the drawn inputs; `None` where it is none.
pub fn forms(model: &Model) -> Vec<Option<Linear>> {
    let mut forms: Vec<Option<Linear>> = vec![None; model.responses.len()];
    for &place in &model.order {
        forms[place] =
            form(model, place, &forms).filter(|form| form.constant.is_finite() && form.factors.iter().all(|factor| factor.is_finite()));
    }
    forms
}

fn form(model: &Model, response: usize, forms: &[Option<Linear>]) -> Option<Linear> {
    let inputs = model.drawn.len();
    let mut parts: Vec<Option<Linear>> = Vec::new();
    for node in model.responses[response].formula.nodes() {
        let part = |place: &usize| parts[*place].clone();
        let next = match node {
            Node::Number(number) => Some(Linear::constant(*number, inputs)),
            Node::Name(name) => match model.meanings_of(response)[*name] {
                Meaning::Drawn(input) => {
                    let mut one = Linear::constant(0.0, inputs);
                    one.factors[input] = 1.0;
                    Some(one)
                }
                Meaning::Control(control) => Some(Linear::constant(model.controls[control].value, inputs)),
                Meaning::Response(other) => forms[other].clone(),
                Meaning::Constant(constant) => Some(Linear::constant(constant, inputs)),
            },
            Node::Negative(of) => part(of).map(|of| of.times(-1.0)),
            Node::Pair(pair, left, right) => part(left).zip(part(right)).and_then(|(left, right)| paired(*pair, left, &right)),
            Node::Call(function, of) if !matches!(function, Function::Min | Function::Max | Function::If) => {
                part(&of[0]).filter(Linear::is_constant).map(|of| Linear::constant(function.of(of.constant), inputs))
            }
            Node::Call(..) | Node::Words(_) | Node::Of(..) => None,
        };
        parts.push(next);
    }
    parts.pop().flatten()
}

fn paired(pair: Pair, left: Linear, right: &Linear) -> Option<Linear> {
    match pair {
        Pair::Add => Some(left.plus(right, 1.0)),
        Pair::Subtract => Some(left.plus(right, -1.0)),
        Pair::Multiply if right.is_constant() => Some(left.times(right.constant)),
        Pair::Multiply if left.is_constant() => Some(right.clone().times(left.constant)),
        Pair::Divide if right.is_constant() => Some(left.times(1.0 / right.constant)),
        Pair::Power if left.is_constant() && right.is_constant() => {
            Some(Linear::constant(left.constant.powf(right.constant), left.factors.len()))
        }
        _ => None,
    }
}
