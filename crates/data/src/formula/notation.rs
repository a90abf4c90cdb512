//! A formula as a textbook writes it.

use serde::Serialize;

use super::function::Function;
use super::{Formula, Node, Pair};

/// A formula laid out, and in one line.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = FormulaNotation)]
pub struct Notation {
    /// In one line: "capacity × voltage ÷ power".
    pub line: String,
    /// Its parts, each after those that it is made of; the last one is the whole.
    pub parts: Vec<Part>,
}

/// A part of a formula laid out; other parts are named by their place.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = NotationPart)]
#[serde(tag = "part", rename_all = "kebab-case")]
pub enum Part {
    /// A number.
    Number {
        /// As written.
        text: String,
    },
    /// A name.
    Name {
        /// The name.
        text: String,
    },
    /// Parts and signs in a row.
    Row {
        /// Parts by place, or signs.
        items: Vec<Item>,
    },
    /// One over another.
    Fraction {
        /// Above.
        over: usize,
        /// Below.
        under: usize,
    },
    /// Raised.
    Power {
        /// Below.
        base: usize,
        /// Raised.
        exponent: usize,
    },
    /// Under a root.
    Root {
        /// Under it.
        of: usize,
    },
}

/// An item of a row.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = NotationItem)]
#[serde(untagged)]
pub enum Item {
    /// A part by place.
    Part(usize),
    /// A sign, a parenthesis, or the name of a function.
    Sign(&'static str),
}

/// How tightly a part binds, as a number that grows.
const LOOSE: u8 = 0;
const SUM: u8 = 1;
const PRODUCT: u8 = 2;
const SIGNED: u8 = 3;
const POWER: u8 = 4;
const ATOM: u8 = 5;

/// Longest line.
const LINE_MOST: usize = 2_000;

impl Notation {
    /// Lays out a formula.
    pub fn of(formula: &Formula) -> Notation {
        let mut parts = Vec::with_capacity(formula.nodes().len());
        let mut lines: Vec<(String, u8)> = Vec::with_capacity(formula.nodes().len());
        for node in formula.nodes() {
            let ranks: Vec<u8> = lines.iter().map(|(_, rank)| *rank).collect();
            parts.push(part(formula, node, &ranks));
            // Each part is used once, so that its line can be taken.
            let line = line(formula, node, &mut lines);
            lines.push(line);
        }
        Notation { line: lines.pop().map(|(line, _)| line).unwrap_or_default(), parts }
    }
}

pub fn sign_of(pair: Pair) -> &'static str {
    match pair {
        Pair::Add => "+",
        Pair::Subtract => "−",
        Pair::Multiply => "×",
        Pair::Divide => "÷",
        Pair::Power => "^",
        Pair::Less => "<",
        Pair::LessOrEqual => "≤",
        Pair::Greater => ">",
        Pair::GreaterOrEqual => "≥",
        Pair::Equal => "=",
        Pair::Unequal => "≠",
    }
}

/// The rank of a pair, and the least rank that its left and right part need without parentheses.
fn ranks_of(pair: Pair) -> (u8, u8, u8) {
    match pair {
        // What was typed in parentheses stays in them: rounding depends on the order.
        Pair::Add => (SUM, SUM, PRODUCT),
        Pair::Subtract => (SUM, SUM, PRODUCT),
        Pair::Multiply => (PRODUCT, PRODUCT, SIGNED),
        Pair::Divide => (PRODUCT, PRODUCT, SIGNED),
        Pair::Power => (POWER, ATOM, SIGNED),
        _ => (LOOSE, LOOSE, SUM),
    }
}

fn rank(node: &Node) -> u8 {
    match node {
        Node::Pair(pair, ..) => ranks_of(*pair).0,
        Node::Negative(_) => SIGNED,
        _ => ATOM,
    }
}

fn line(formula: &Formula, node: &Node, lines: &mut [(String, u8)]) -> (String, u8) {
    let mut taken = |place: usize, least: u8| {
        let (line, rank) = std::mem::take(&mut lines[place]);
        if rank < least { format!("({line})") } else { line }
    };
    let text = match node {
        Node::Number(number) => number.to_string(),
        Node::Name(place) => formula.uses()[*place].name.clone(),
        Node::Negative(of) => format!("−{}", taken(*of, SIGNED)),
        Node::Pair(Pair::Power, base, exponent) => format!("{}^{}", taken(*base, ATOM), taken(*exponent, SIGNED)),
        Node::Pair(pair, left, right) => {
            let (_, least_left, least_right) = ranks_of(*pair);
            let left = taken(*left, least_left);
            format!("{left} {} {}", sign_of(*pair), taken(*right, least_right))
        }
        Node::Call(function, parts) => {
            let parts: Vec<String> = parts.iter().map(|part| taken(*part, LOOSE)).collect();
            format!("{}({})", function.name(), parts.join(", "))
        }
        Node::Words(words) => format!("“{words}”"),
        Node::Of(function, parts) => {
            let parts: Vec<String> = parts.iter().map(|part| taken(*part, LOOSE)).collect();
            format!("{}({})", function.name(), parts.join(", "))
        }
    };
    let cut = if text.chars().count() > LINE_MOST { text.chars().take(LINE_MOST).chain(['…']).collect() } else { text };
    (cut, rank(node))
}

fn part(formula: &Formula, node: &Node, ranks: &[u8]) -> Part {
    let within = |place: usize, least: u8| match ranks[place] < least {
        true => vec![Item::Sign("("), Item::Part(place), Item::Sign(")")],
        false => vec![Item::Part(place)],
    };
    match node {
        Node::Number(number) => Part::Number { text: number.to_string() },
        Node::Name(place) => Part::Name { text: formula.uses()[*place].name.clone() },
        Node::Negative(of) => Part::Row { items: [vec![Item::Sign("−")], within(*of, SIGNED)].concat() },
        // A fraction bar and a raised exponent need no parentheses.
        Node::Pair(Pair::Divide, over, under) => Part::Fraction { over: *over, under: *under },
        Node::Pair(Pair::Power, base, exponent) if ranks[*base] == ATOM => Part::Power { base: *base, exponent: *exponent },
        Node::Pair(pair, left, right) => {
            let (_, least_left, least_right) = ranks_of(*pair);
            Part::Row { items: [within(*left, least_left), vec![Item::Sign(sign_of(*pair))], within(*right, least_right)].concat() }
        }
        Node::Call(Function::Sqrt, parts) => Part::Root { of: parts[0] },
        Node::Words(words) => Part::Name { text: format!("“{words}”") },
        Node::Call(function, parts) => call(function.name(), parts),
        Node::Of(function, parts) => call(function.name(), parts),
    }
}

fn call(name: &'static str, parts: &[usize]) -> Part {
    let mut items = vec![Item::Sign(name), Item::Sign("(")];
    for (place, part) in parts.iter().enumerate() {
        if place > 0 {
            items.push(Item::Sign(","));
        }
        items.push(Item::Part(*part));
    }
    items.push(Item::Sign(")"));
    Part::Row { items }
}
