//! Formulas in standard arithmetic: read once, checked, shown as in a textbook, and run over blocks of numbers.
//!
//! `+ - * / ^`, parentheses, comparisons and the functions of [`Function`]; names as they are, odd ones in back-ticks.
//! `^` binds tightest and to the right, unary minus below it, then `* /`, then `+ -`, comparisons last; angles are in radians.
//! A formula is a list of nodes in which parts stand before what they are parts of, so that nothing that goes through it has to
//! call itself: a sum of thousands of terms is as safe as one of two.

mod circle;
mod function;
mod names;
mod notation;
mod parse;
mod program;
pub mod table;
mod token;
mod units;

pub use circle::in_order;
pub use function::Function;
pub use notation::Notation;
pub use program::{Operand, Program, Room};
pub use table::{TableFormula, TableFunction};
pub use units::{Unit, unit_of};

use serde::Serialize;

/// A place in a formula that cannot be read, counted in characters.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, thiserror::Error, utoipa::ToSchema)]
#[schema(as = FormulaMistake)]
#[error("at character {}: {words}", from + 1)]
pub struct Mistake {
    /// First character.
    pub from: usize,
    /// After the last one; as `from` where something is missing.
    pub to: usize,
    /// What is wrong and what to do.
    pub words: String,
}

/// Two things that are worked out together.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Pair {
    /// Sum.
    Add,
    /// Difference.
    Subtract,
    /// Product.
    Multiply,
    /// Quotient.
    Divide,
    /// Power.
    Power,
    /// 1 when less, else 0.
    Less,
    /// 1 when not above, else 0.
    LessOrEqual,
    /// 1 when above, else 0.
    Greater,
    /// 1 when not below, else 0.
    GreaterOrEqual,
    /// 1 when equal, else 0.
    Equal,
    /// 1 when unequal, else 0.
    Unequal,
}

/// A part of a formula; parts are named by their place in the list.
#[derive(Clone, Debug, PartialEq)]
pub enum Node {
    /// A number as typed.
    Number(f64),
    /// A name, by its place among the names.
    Name(usize),
    /// The negative of a part.
    Negative(usize),
    /// Two parts.
    Pair(Pair, usize, usize),
    /// A function of parts.
    Call(Function, Vec<usize>),
    /// Words as typed, in a formula over the columns of a table.
    Words(String),
    /// A function over the columns of a table.
    Of(TableFunction, Vec<usize>),
}

/// A name where it first stands.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Use {
    /// The name, without back-ticks.
    pub name: String,
    /// First character.
    pub from: usize,
    /// After the last one.
    pub to: usize,
}

/// A formula that can be read.
#[derive(Clone, Debug, PartialEq)]
pub struct Formula {
    nodes: Vec<Node>,
    uses: Vec<Use>,
}

/// Known without being defined.
pub const PI: &str = "pi";
/// Most characters of a formula.
pub const LENGTH_MOST: usize = 20_000;

impl Formula {
    /// Reads a formula.
    ///
    /// # Errors
    /// [`Mistake`] with its place.
    pub fn read(text: &str) -> Result<Formula, Mistake> {
        parse::read(text, parse::Dialect::Numbers)
    }

    /// Reads a formula whose names are among some, `pi` besides.
    ///
    /// # Errors
    /// [`Mistake`] with its place, also for an unknown name, with the nearest one there is.
    pub fn read_among(text: &str, names: &[&str]) -> Result<Formula, Mistake> {
        Formula::read(text)?.among(names)
    }

    /// Reads a formula over the columns of a table, `pi` besides.
    ///
    /// # Errors
    /// [`Mistake`] with its place, also for an unknown column, with the nearest one there is.
    pub fn read_over(text: &str, columns: &[&str]) -> Result<Formula, Mistake> {
        parse::read(text, parse::Dialect::Table)?.among(columns)
    }

    fn among(self, names: &[&str]) -> Result<Formula, Mistake> {
        let formula = self;
        let unknown = formula.uses.iter().find(|used| used.name != PI && !names.contains(&used.name.as_str()));
        match unknown {
            Some(Use { name, from, to }) => {
                let nearest = names::nearest(name, names).map(|near| format!("; is “{near}” meant?")).unwrap_or_default();
                Err(Mistake { from: *from, to: *to, words: format!("nothing is called “{name}”{nearest}") })
            }
            None => Ok(formula),
        }
    }

    /// Refuses a formula that would need itself through the formulas of others; those of them that cannot be read need nothing.
    ///
    /// # Errors
    /// [`Mistake`] at the name through which the circle goes.
    pub fn check_circle(&self, name: &str, others: &[(&str, &str)]) -> Result<(), Mistake> {
        let names: Vec<&str> = std::iter::once(name).chain(others.iter().map(|(other, _)| *other)).collect();
        let of_others =
            others.iter().map(|(_, text)| parse::read(text, parse::Dialect::Table).map_or_else(|_| Vec::new(), |read| read.needs(&names)));
        let needs: Vec<Vec<usize>> = std::iter::once(self.needs(&names)).chain(of_others).collect();
        match in_order(&needs) {
            Err(round) if round[0] == 0 => Err(self.circle(&round, &names)),
            // A circle among the others is theirs.
            _ => Ok(()),
        }
    }

    /// The places of the names that it uses, among some names.
    pub fn needs(&self, names: &[&str]) -> Vec<usize> {
        self.uses.iter().filter_map(|used| names.iter().position(|name| *name == used.name)).collect()
    }

    /// What is wrong with it when it begins a circle of places, each of which needs the next.
    pub fn circle(&self, round: &[usize], names: &[&str]) -> Mistake {
        let next = names[round[1 % round.len()]];
        let (from, to) = self.uses.iter().find(|used| used.name == next).map_or((0, 0), |used| (used.from, used.to));
        let all: Vec<String> = round.iter().chain(&round[..1]).map(|place| format!("“{}”", names[*place])).collect();
        Mistake { from, to, words: format!("goes in a circle: {}", all.join(" needs ")) }
    }

    /// The names that it uses, each where it first stands.
    pub fn uses(&self) -> &[Use] {
        &self.uses
    }

    /// Its parts; the last one is the whole.
    pub fn nodes(&self) -> &[Node] {
        &self.nodes
    }
}

/// A name as it has to be written in a formula.
pub fn written(name: &str) -> String {
    let plain = name.chars().enumerate().all(|(place, letter)| token::is_of_name(letter, place == 0));
    if plain && !name.is_empty() { name.to_owned() } else { format!("`{name}`") }
}

/// A formula with one name replaced by another wherever it stands; as it is when it cannot be cut into words.
pub fn renamed(text: &str, from: &str, to: &str) -> String {
    let Ok(tokens) = token::tokens(text) else { return text.to_owned() };
    let letters: Vec<char> = text.chars().collect();
    let mut out = String::new();
    let mut at = 0;
    for (place, token) in tokens.iter().enumerate() {
        let is_function = Function::named(from).is_some() || TableFunction::named(from).is_some();
        let is_call = matches!(tokens.get(place + 1), Some(next) if next.word == token::Word::Sign("(")) && is_function;
        if token.word == token::Word::Name(from.to_owned()) && !is_call {
            out.extend(&letters[at..token.from]);
            out.push_str(&written(to));
            at = token.to;
        }
    }
    out.extend(&letters[at..]);
    out
}
