//! Units carried through a formula.
//!
//! A unit is a product of powers of base symbols with a factor; what is known of the usual ones of a plant stands in a table, any
//! other word is a base symbol of its own. A bare number takes any unit. Nothing is converted: a mismatch is told, and the
//! numbers stay as they are.

use std::collections::BTreeMap;

use super::function::Function;
use super::{Formula, Node, Pair};

/// A unit.
#[derive(Clone, Debug, PartialEq)]
pub struct Unit {
    factor: f64,
    powers: BTreeMap<String, f64>,
    /// Multiplied by a bare number, which may have converted it: its factor is then not known.
    scaled: bool,
}

/// What a part of a formula has for a unit.
#[derive(Clone, Debug, PartialEq)]
enum Carried {
    /// A bare number, which fits any.
    Any,
    /// Not known.
    Unknown,
    Unit(Unit),
}

/// Unit, factor and base units of the usual ones.
const KNOWN: [(&str, f64, &str); 38] = [
    ("%", 0.01, ""),
    ("1", 1.0, ""),
    ("rad", 1.0, ""),
    ("mg", 1e-6, "kg"),
    ("g", 1e-3, "kg"),
    ("t", 1e3, "kg"),
    ("µm", 1e-6, "m"),
    ("um", 1e-6, "m"),
    ("mm", 1e-3, "m"),
    ("cm", 1e-2, "m"),
    ("km", 1e3, "m"),
    ("in", 0.0254, "m"),
    ("µs", 1e-6, "s"),
    ("ms", 1e-3, "s"),
    ("min", 60.0, "s"),
    ("h", 3600.0, "s"),
    ("d", 86400.0, "s"),
    ("Hz", 1.0, "s-1"),
    ("kHz", 1e3, "s-1"),
    ("mA", 1e-3, "A"),
    ("Ah", 3600.0, "A s"),
    ("mAh", 3.6, "A s"),
    ("C", 1.0, "A s"),
    ("N", 1.0, "kg m s-2"),
    ("kN", 1e3, "kg m s-2"),
    ("Pa", 1.0, "kg m-1 s-2"),
    ("kPa", 1e3, "kg m-1 s-2"),
    ("MPa", 1e6, "kg m-1 s-2"),
    ("bar", 1e5, "kg m-1 s-2"),
    ("J", 1.0, "kg m2 s-2"),
    ("Wh", 3600.0, "kg m2 s-2"),
    ("W", 1.0, "kg m2 s-3"),
    ("mW", 1e-3, "kg m2 s-3"),
    ("kW", 1e3, "kg m2 s-3"),
    ("V", 1.0, "kg m2 s-3 A-1"),
    ("mV", 1e-3, "kg m2 s-3 A-1"),
    ("Ω", 1.0, "kg m2 s-3 A-2"),
    ("l", 1e-3, "m3"),
];

impl Unit {
    fn bare() -> Unit {
        Unit { factor: 1.0, powers: BTreeMap::new(), scaled: false }
    }

    fn times(&self, other: &Unit, power: f64) -> Unit {
        let mut powers = self.powers.clone();
        for (symbol, exponent) in &other.powers {
            *powers.entry(symbol.clone()).or_insert(0.0) += exponent * power;
        }
        powers.retain(|_, exponent| exponent.abs() > 1e-9);
        Unit { factor: self.factor * other.factor.powf(power), powers, scaled: self.scaled || other.scaled }
    }

    fn raised(&self, power: f64) -> Unit {
        Unit::bare().times(self, power)
    }

    fn is_bare(&self) -> bool {
        self.powers.is_empty()
    }

    fn same_kind(&self, other: &Unit) -> bool {
        let close = |(symbol, exponent): (&String, &f64)| other.powers.get(symbol).is_some_and(|found| (found - exponent).abs() < 1e-9);
        self.powers.len() == other.powers.len() && self.powers.iter().all(close)
    }

    fn scaled(&self) -> Unit {
        Unit { scaled: true, ..self.clone() }
    }

    /// How many of another it is, when both measure the same; 1 where that is not known.
    fn ratio(&self, other: &Unit) -> Option<f64> {
        self.same_kind(other).then(|| if self.scaled || other.scaled { 1.0 } else { self.factor / other.factor })
    }

    fn word(word: &str) -> Unit {
        match KNOWN.iter().find(|(known, ..)| *known == word) {
            Some((_, factor, base)) => {
                let powers = base.split_whitespace().map(|part| {
                    let letters = part.chars().take_while(|letter| letter.is_alphabetic()).count();
                    (part[..letters].to_owned(), part[letters..].parse().unwrap_or(1.0))
                });
                Unit { factor: *factor, powers: powers.collect(), scaled: false }
            }
            None => Unit { factor: 1.0, powers: BTreeMap::from([(word.to_owned(), 1.0)]), scaled: false },
        }
    }

    /// Reads a unit such as "mm", "N·m", "g/cm³", "m/s^2"; one that cannot be taken apart is a word of its own.
    pub fn read(text: &str) -> Unit {
        let mut unit = Unit::bare();
        let mut power = 1.0;
        let mut word = String::new();
        let end = |word: &mut String, unit: &mut Unit, power: f64| {
            if !word.is_empty() {
                let (name, exponent) = parted(word);
                *unit = unit.times(&Unit::word(name), power * exponent);
                word.clear();
            }
        };
        for letter in text.trim().chars() {
            match letter {
                '·' | '*' | '×' | ' ' | '(' | ')' => end(&mut word, &mut unit, power),
                '/' => {
                    end(&mut word, &mut unit, power);
                    power = -1.0;
                }
                // Two code points for one sign.
                'μ' => word.push('µ'),
                letter => word.push(letter),
            }
        }
        end(&mut word, &mut unit, power);
        unit
    }
}

/// A symbol with its exponent: "mm²", "mm2", "mm^2", "s-1".
fn parted(word: &str) -> (&str, f64) {
    let raised = |letter: char| "⁰¹²³⁴⁵⁶⁷⁸⁹⁻".chars().position(|one| one == letter);
    let is_exponent = |letter: char| letter.is_ascii_digit() || letter == '^' || letter == '-' || raised(letter).is_some();
    let start = word.char_indices().find(|(_, letter)| is_exponent(*letter)).map_or(word.len(), |(at, _)| at);
    let plain = |letter: char| match raised(letter) {
        Some(10) => '-',
        Some(digit) => char::from_digit(digit as u32, 10).unwrap_or('0'),
        None => letter,
    };
    let digits: String = word[start..].chars().filter(|letter| *letter != '^').map(plain).collect();
    match digits.parse() {
        Ok(exponent) if start > 0 => (&word[..start], exponent),
        _ => (word, 1.0),
    }
}

/// What the units of its names make of a formula: doubts in words, first about the formula, then about the unit it is said to have.
/// `None` for a name whose unit is not known.
pub fn unit_of(formula: &Formula, names: &[Option<Unit>], said: Option<(&str, &Unit)>) -> Vec<String> {
    let mut doubts = Vec::new();
    let mut carried: Vec<Carried> = Vec::with_capacity(formula.nodes().len());
    // Numbers that are raised to have to be known.
    let number = |place: usize| match formula.nodes()[place] {
        Node::Number(number) => Some(number),
        Node::Negative(of) => {
            if let Node::Number(number) = formula.nodes()[of] {
                Some(-number)
            } else {
                None
            }
        }
        _ => None,
    };
    for node in formula.nodes() {
        let next = match node {
            Node::Number(_) => Carried::Any,
            Node::Name(place) => names[*place].clone().map_or(Carried::Unknown, Carried::Unit),
            Node::Negative(of) => carried[*of].clone(),
            Node::Pair(Pair::Add | Pair::Subtract, left, right) => {
                together(&carried[*left], &carried[*right], "adds or subtracts", &mut doubts)
            }
            Node::Pair(Pair::Multiply, left, right) => product(&carried[*left], &carried[*right], 1.0),
            Node::Pair(Pair::Divide, left, right) => product(&carried[*left], &carried[*right], -1.0),
            Node::Pair(Pair::Power, base, exponent) => match (&carried[*base], number(*exponent)) {
                (Carried::Unit(unit), Some(power)) => Carried::Unit(unit.raised(power)),
                (Carried::Any, _) => Carried::Any,
                (Carried::Unit(unit), None) if unit.is_bare() => Carried::Unit(Unit::bare()),
                _ => Carried::Unknown,
            },
            Node::Pair(_, left, right) => {
                together(&carried[*left], &carried[*right], "compares", &mut doubts);
                Carried::Any
            }
            Node::Call(function, parts) => of_call(*function, parts, &carried, &mut doubts),
            Node::Words(_) | Node::Of(..) => Carried::Unknown,
        };
        carried.push(next);
    }
    if let (Some((words, unit)), Some(Carried::Unit(found))) = (said, carried.last()) {
        match found.ratio(unit) {
            None => doubts.push(format!("its units do not make {words}")),
            Some(ratio) if (ratio - 1.0).abs() > 1e-9 => {
                // Four digits, and none that are not there: "60", "0.001".
                let told: f64 = format!("{ratio:.3e}").parse().unwrap_or(ratio);
                doubts.push(format!("its units make {words} times {told}"));
            }
            Some(_) => {}
        }
    }
    doubts.dedup();
    doubts
}

fn together(left: &Carried, right: &Carried, does: &str, doubts: &mut Vec<String>) -> Carried {
    match (left, right) {
        (Carried::Unit(a), Carried::Unit(b)) => {
            match a.ratio(b) {
                None => doubts.push(format!("it {does} different units")),
                Some(ratio) if (ratio - 1.0).abs() > 1e-9 => {
                    doubts.push(format!("it {does} the same in different units, and nothing is converted"))
                }
                Some(_) => {}
            }
            Carried::Unit(a.clone())
        }
        (Carried::Unknown, _) | (_, Carried::Unknown) => Carried::Unknown,
        (Carried::Any, other) | (other, Carried::Any) => other.clone(),
    }
}

fn product(left: &Carried, right: &Carried, power: f64) -> Carried {
    match (left, right) {
        (Carried::Unknown, _) | (_, Carried::Unknown) => Carried::Unknown,
        (Carried::Any, Carried::Any) => Carried::Any,
        (Carried::Unit(a), Carried::Any) => Carried::Unit(a.scaled()),
        (Carried::Any, Carried::Unit(b)) => Carried::Unit(b.raised(power).scaled()),
        (Carried::Unit(a), Carried::Unit(b)) => Carried::Unit(a.times(b, power)),
    }
}

fn of_call(function: Function, parts: &[usize], carried: &[Carried], doubts: &mut Vec<String>) -> Carried {
    let first = &carried[parts[0]];
    match function {
        Function::Abs | Function::Floor | Function::Ceil | Function::Round => first.clone(),
        Function::Min | Function::Max => {
            parts[1..].iter().fold(first.clone(), |all, part| together(&all, &carried[*part], "compares", doubts))
        }
        Function::If => together(&carried[parts[1]], &carried[parts[2]], "chooses between", doubts),
        Function::Sqrt => match first {
            Carried::Unit(unit) => Carried::Unit(unit.raised(0.5)),
            other => other.clone(),
        },
        _ => {
            if let Carried::Unit(unit) = first
                && !unit.is_bare()
            {
                doubts.push(format!("it takes {} of something with a unit", function.name()));
            }
            Carried::Any
        }
    }
}
