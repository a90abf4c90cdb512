//! Formulas over the columns of a table: numbers, words and moments, a value for each row.
//!
//! A formula is read by the same reader as one over numbers, and its arithmetic runs by the same programs over blocks; what else there
//! is (words, moments, functions that look at other rows) goes through whole columns, part by part.

mod evaluate;
mod function;
mod groups;
mod moments;
mod part;
mod rows;
mod why;
mod words;

use super::{Formula, Function, Mistake, Node, PI, Pair};
use crate::frame::{Frame, Kind, Values};

pub use function::{Form, TableFunction, Type};

/// A formula that gives each row of a table its value.
#[derive(Clone, Debug)]
pub struct TableFormula {
    formula: Formula,
    /// What each part is.
    types: Vec<Type>,
}

impl TableFormula {
    /// Reads a formula over columns of some names and kinds.
    ///
    /// # Errors
    /// [`Mistake`] with its place, also where a part is not what it has to be.
    pub fn read(text: &str, columns: &[(&str, Kind)]) -> Result<TableFormula, Mistake> {
        let names: Vec<&str> = columns.iter().map(|(name, _)| *name).collect();
        let formula = Formula::read_over(text, &names)?;
        let types = types(&formula, columns).map_err(|words| Mistake { from: 0, to: text.chars().count(), words })?;
        Ok(TableFormula { formula, types })
    }

    /// The kind of column that it gives.
    pub fn kind(&self) -> Kind {
        match self.types.last() {
            Some(Type::Words) => Kind::Category,
            Some(Type::Moment) => Kind::DateTime,
            _ => Kind::Number,
        }
    }

    /// Whether the value of a row rests on other rows.
    pub fn looks_around(&self) -> bool {
        self.formula.nodes().iter().any(|node| matches!(node, Node::Of(function, _) if function.form().looks_around))
    }

    /// The formula itself.
    pub fn formula(&self) -> &Formula {
        &self.formula
    }

    /// The value of each row of a frame that has its columns. What has no value, or none that is finite, is missing.
    pub fn values(&self, frame: &Frame) -> Values {
        evaluate::values(self, frame)
    }

    /// Why a row has no value; `None` where it has one.
    pub fn why(&self, frame: &Frame, row: usize) -> Option<String> {
        why::why(self, frame, row)
    }

    /// Whether a part is arithmetic over numbers, which programs run.
    fn is_arithmetic(&self, place: usize) -> bool {
        let numbers = |parts: &[usize]| parts.iter().all(|part| self.types[*part] == Type::Number);
        match &self.formula.nodes()[place] {
            Node::Negative(_) => true,
            Node::Pair(_, left, right) => numbers(&[*left, *right]),
            Node::Call(_, parts) => numbers(parts),
            Node::Number(_) | Node::Name(_) | Node::Words(_) | Node::Of(..) => false,
        }
    }
}

/// The parts that a part is made of.
fn parts_of(node: &Node) -> Vec<usize> {
    match node {
        Node::Number(_) | Node::Name(_) | Node::Words(_) => Vec::new(),
        Node::Negative(of) => vec![*of],
        Node::Pair(_, left, right) => vec![*left, *right],
        Node::Call(_, parts) | Node::Of(_, parts) => parts.clone(),
    }
}

/// What each part is.
fn types(formula: &Formula, columns: &[(&str, Kind)]) -> Result<Vec<Type>, String> {
    let mut types: Vec<Type> = Vec::with_capacity(formula.nodes().len());
    let number = |of: Type, what: &str| match of {
        Type::Number => Ok(Type::Number),
        other => Err(format!("{what} needs numbers, not {}", other.display_text())),
    };
    for node in formula.nodes() {
        let next = match node {
            Node::Number(_) => Type::Number,
            Node::Words(_) => Type::Words,
            Node::Name(place) => {
                let name = formula.uses()[*place].name.as_str();
                columns.iter().find(|(column, _)| *column == name).map_or(Type::Number, |(_, kind)| Type::of(*kind))
            }
            Node::Negative(of) => number(types[*of], "a minus")?,
            Node::Pair(pair, left, right) => {
                let sides = (types[*left], types[*right]);
                let sign = super::notation::sign_of(*pair);
                match pair {
                    Pair::Add | Pair::Subtract | Pair::Multiply | Pair::Divide | Pair::Power => {
                        number(sides.0, sign)?;
                        number(sides.1, sign)?
                    }
                    _ if sides.0 == sides.1 => Type::Number,
                    // A moment beside one that is typed.
                    _ => {
                        let typed = |place: usize| match &formula.nodes()[place] {
                            Node::Words(words) => Some(words.clone()),
                            _ => None,
                        };
                        let text = match sides {
                            (Type::Moment, Type::Words) => typed(*right),
                            (Type::Words, Type::Moment) => typed(*left),
                            _ => None,
                        };
                        let unlike = || format!("{sign} compares {} with {}", sides.0.display_text(), sides.1.display_text());
                        let text = text.ok_or_else(unlike)?;
                        let unclear = || format!("“{text}” is no moment; write it as 2026-05-04 or 2026-05-04 06:10");
                        crate::frame::moments_named(&text).ok_or_else(unclear)?;
                        Type::Number
                    }
                }
            }
            Node::Call(Function::If, parts) => {
                number(types[parts[0]], "the condition of if")?;
                let (then, other) = (types[parts[1]], types[parts[2]]);
                if then != other {
                    return Err(format!("if gives {} or {}; both have to be alike", then.display_text(), other.display_text()));
                }
                then
            }
            Node::Call(function, parts) => {
                for part in parts {
                    number(types[*part], function.name())?;
                }
                Type::Number
            }
            Node::Of(function, parts) => {
                let arguments: Vec<Type> = parts.iter().map(|part| types[*part]).collect();
                let typed = |part: &usize| match &formula.nodes()[*part] {
                    Node::Number(_) | Node::Words(_) => true,
                    Node::Negative(of) => matches!(formula.nodes()[*of], Node::Number(_)),
                    _ => false,
                };
                function.check(&arguments, &parts.iter().map(typed).collect::<Vec<_>>())?
            }
        };
        types.push(next);
    }
    Ok(types)
}

/// What `pi` is where no column is called so.
fn constant(name: &str) -> Option<f64> {
    (name == PI).then_some(std::f64::consts::PI)
}
