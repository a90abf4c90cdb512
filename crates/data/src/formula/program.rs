//! A formula as steps over blocks of numbers.
//!
//! Each step goes through a whole block, so that the machine works on several numbers at once; what does not depend on a name is
//! worked out once, when the program is made. A result that is no number (a root of a negative one, 0/0) is NaN and stays it.

use super::function::Function;
use super::{Formula, Node, Pair};

/// Where a number comes from.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Operand {
    /// One number for all.
    Constant(f64),
    /// A column of the block, by its place.
    Column(usize),
    /// A register of the program.
    Register(usize),
}

#[derive(Clone, Copy, Debug)]
enum Work {
    Pair(Pair),
    One(Function),
    Negative,
    Smaller,
    Larger,
    /// The second where the first holds, else the third.
    Choose,
}

#[derive(Clone, Copy, Debug)]
struct Step {
    work: Work,
    from: [Operand; 3],
    to: usize,
}

/// A formula, ready to run.
#[derive(Clone, Debug)]
pub struct Program {
    steps: Vec<Step>,
    result: Operand,
    registers: usize,
}

/// Registers that programs share, one after another.
#[derive(Clone, Debug, Default)]
pub struct Room(Vec<Vec<f64>>);

/// The registers in use while a program is made.
#[derive(Default)]
struct Registers {
    free: Vec<usize>,
    all: usize,
}

impl Registers {
    fn take(&mut self) -> usize {
        self.free.pop().unwrap_or_else(|| {
            self.all += 1;
            self.all - 1
        })
    }

    fn give_back(&mut self, operand: Operand) {
        if let Operand::Register(register) = operand {
            self.free.push(register);
        }
    }
}

impl Program {
    /// Makes the program of a formula, with where each of its names comes from.
    pub fn of(formula: &Formula, names: &[Operand]) -> Program {
        let mut registers = Registers::default();
        let mut steps = Vec::new();
        let mut values: Vec<Operand> = Vec::with_capacity(formula.nodes().len());
        for node in formula.nodes() {
            let mut put = |work: Work, from: [Operand; 3]| {
                if let Some(constant) = folded(work, from) {
                    return Operand::Constant(constant);
                }
                let to = registers.take();
                from.into_iter().for_each(|operand| registers.give_back(operand));
                steps.push(Step { work, from, to });
                Operand::Register(to)
            };
            let none = Operand::Constant(0.0);
            let value = match node {
                Node::Number(number) => Operand::Constant(*number),
                Node::Name(place) => names[*place],
                Node::Negative(of) => put(Work::Negative, [values[*of], none, none]),
                Node::Pair(pair, left, right) => put(Work::Pair(*pair), [values[*left], values[*right], none]),
                Node::Call(Function::If, parts) => put(Work::Choose, [values[parts[0]], values[parts[1]], values[parts[2]]]),
                Node::Call(function @ (Function::Min | Function::Max), parts) => {
                    let work = if *function == Function::Min { Work::Smaller } else { Work::Larger };
                    parts[1..].iter().fold(values[parts[0]], |best, part| put(work, [best, values[*part], none]))
                }
                Node::Call(function, parts) => put(Work::One(*function), [values[parts[0]], none, none]),
                // Of a table, and read as such; there is no number in it.
                Node::Words(_) | Node::Of(..) => Operand::Constant(f64::NAN),
            };
            values.push(value);
        }
        let result = values.last().copied().unwrap_or(Operand::Constant(f64::NAN));
        Program { steps, result, registers: registers.all }
    }

    /// The one number that it always gives, when no column is read.
    pub fn constant(&self) -> Option<f64> {
        if let Operand::Constant(constant) = self.result { Some(constant) } else { None }
    }

    /// Runs over a block: columns as long as what is written.
    pub fn run(&self, columns: &[&[f64]], room: &mut Room, out: &mut [f64]) {
        let len = out.len();
        if room.0.len() < self.registers {
            room.0.resize(self.registers, Vec::new());
        }
        for register in &mut room.0[..self.registers] {
            register.resize(len, 0.0);
        }
        for step in &self.steps {
            // Never one of those that it reads.
            let mut target = std::mem::take(&mut room.0[step.to]);
            let source = |operand: Operand| match operand {
                Operand::Constant(constant) => Source::One(constant),
                Operand::Column(place) => Source::Each(&columns[place][..len]),
                Operand::Register(place) => Source::Each(&room.0[place][..len]),
            };
            work(step.work, step.from.map(source), &mut target[..len]);
            room.0[step.to] = target;
        }
        match self.result {
            Operand::Constant(constant) => out.fill(constant),
            Operand::Column(place) => out.copy_from_slice(&columns[place][..len]),
            Operand::Register(place) => out.copy_from_slice(&room.0[place][..len]),
        }
    }
}

/// The value of a step whose numbers are all known.
fn folded(step: Work, from: [Operand; 3]) -> Option<f64> {
    let constant = |operand: Operand| if let Operand::Constant(constant) = operand { Some(Source::One(constant)) } else { None };
    let [a, b, c] = from;
    let sources = [constant(a)?, constant(b)?, constant(c)?];
    let mut out = [0.0];
    work(step, sources, &mut out);
    Some(out[0])
}

#[derive(Clone, Copy)]
enum Source<'a> {
    One(f64),
    Each(&'a [f64]),
}

impl Source<'_> {
    #[inline]
    fn at(&self, place: usize) -> f64 {
        match self {
            Source::One(one) => *one,
            Source::Each(each) => each[place],
        }
    }
}

fn work(work: Work, [a, b, c]: [Source; 3], out: &mut [f64]) {
    let truth = |holds: bool, a: f64, b: f64| if a.is_nan() || b.is_nan() { f64::NAN } else { f64::from(u8::from(holds)) };
    match work {
        Work::Negative => one(a, out, |a| -a),
        Work::One(function) => one(a, out, |a| function.of(a)),
        Work::Smaller => two(a, b, out, |a, b| if a < b || a.is_nan() { a } else { b }),
        Work::Larger => two(a, b, out, |a, b| if a > b || a.is_nan() { a } else { b }),
        Work::Pair(Pair::Add) => two(a, b, out, |a, b| a + b),
        Work::Pair(Pair::Subtract) => two(a, b, out, |a, b| a - b),
        Work::Pair(Pair::Multiply) => two(a, b, out, |a, b| a * b),
        Work::Pair(Pair::Divide) => two(a, b, out, |a, b| a / b),
        Work::Pair(Pair::Power) => power(a, b, out),
        Work::Pair(Pair::Less) => two(a, b, out, |a, b| truth(a < b, a, b)),
        Work::Pair(Pair::LessOrEqual) => two(a, b, out, |a, b| truth(a <= b, a, b)),
        Work::Pair(Pair::Greater) => two(a, b, out, |a, b| truth(a > b, a, b)),
        Work::Pair(Pair::GreaterOrEqual) => two(a, b, out, |a, b| truth(a >= b, a, b)),
        Work::Pair(Pair::Equal) => two(a, b, out, |a, b| truth(a == b, a, b)),
        Work::Pair(Pair::Unequal) => two(a, b, out, |a, b| truth(a != b, a, b)),
        Work::Choose => {
            for (place, out) in out.iter_mut().enumerate() {
                let holds = a.at(place);
                *out = if holds.is_nan() { f64::NAN } else { (if holds == 0.0 { c } else { b }).at(place) };
            }
        }
    }
}

fn power(a: Source, b: Source, out: &mut [f64]) {
    match b {
        Source::One(2.0) => one(a, out, |a| a * a),
        Source::One(3.0) => one(a, out, |a| a * a * a),
        Source::One(-1.0) => one(a, out, |a| 1.0 / a),
        // A power of 0 is 1 even of what is no number, which is then still none.
        _ => two(a, b, out, |a, b| if a.is_nan() || b.is_nan() { f64::NAN } else { a.powf(b) }),
    }
}

#[inline]
fn one(a: Source, out: &mut [f64], value: impl Fn(f64) -> f64) {
    match a {
        Source::One(a) => out.fill(value(a)),
        Source::Each(a) => out.iter_mut().zip(a).for_each(|(out, a)| *out = value(*a)),
    }
}

#[inline]
fn two(a: Source, b: Source, out: &mut [f64], value: impl Fn(f64, f64) -> f64) {
    match (a, b) {
        (Source::One(a), Source::One(b)) => out.fill(value(a, b)),
        (Source::One(a), Source::Each(b)) => out.iter_mut().zip(b).for_each(|(out, b)| *out = value(a, *b)),
        (Source::Each(a), Source::One(b)) => out.iter_mut().zip(a).for_each(|(out, a)| *out = value(*a, b)),
        (Source::Each(a), Source::Each(b)) => out.iter_mut().zip(a.iter().zip(b)).for_each(|(out, (a, b))| *out = value(*a, *b)),
    }
}
