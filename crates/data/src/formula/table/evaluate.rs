//! The value of each row.

use rayon::prelude::*;

use super::part::{NOTHING, Part};
use super::words::Words;
use super::{TableFormula, Type, constant, groups, moments, parts_of, rows, words};
use crate::formula::{Formula, Function, Node, Operand, Pair, Program, Room, TableFunction, Use};
use crate::frame::{Frame, NO_CODE, NO_TIME, Values};

/// Rows that a program runs over at once.
const BLOCK: usize = 4096;

/// The values of a formula.
pub fn values(of: &TableFormula, frame: &Frame) -> Values {
    let last = parts(of, frame, true).pop().flatten();
    let values = match last.unwrap_or(Part::Number(f64::NAN)) {
        Part::Number(number) => Values::Number(vec![number; frame.rows()].into()),
        Part::Words(words) => Values::Label { codes: vec![0; frame.rows()].into(), labels: [words].into() },
        Part::Each(values) => values,
    };
    match values {
        // What has no end is no value.
        Values::Number(numbers) if numbers.iter().any(|number| number.is_infinite()) => {
            Values::Number(numbers.iter().map(|&number| if number.is_finite() { number } else { f64::NAN }).collect())
        }
        values => values,
    }
}

/// The value of each part. Fused, arithmetic is worked out in one go, and parts within it have no value of their own; so have parts that
/// nothing needs any more.
pub fn parts(of: &TableFormula, frame: &Frame, fused: bool) -> Vec<Option<Part>> {
    let nodes = of.formula.nodes();
    let mut within = vec![false; nodes.len()];
    if fused {
        for node in nodes.iter().enumerate().filter(|(place, _)| of.is_arithmetic(*place)).map(|(_, node)| node) {
            parts_of(node).into_iter().for_each(|part| within[part] = of.is_arithmetic(part));
        }
    }
    let mut done: Vec<Option<Part>> = Vec::with_capacity(nodes.len());
    for (place, node) in nodes.iter().enumerate() {
        if within[place] {
            done.push(None);
            continue;
        }
        let value = match node {
            Node::Number(number) => Part::Number(*number),
            Node::Words(words) => Part::Words(words.clone()),
            Node::Name(name) => {
                let name = &of.formula.uses()[*name].name;
                match frame.column(name) {
                    Some(column) => Part::Each(column.values.clone()),
                    None => Part::Number(constant(name).unwrap_or(f64::NAN)),
                }
            }
            _ if of.is_arithmetic(place) => arithmetic(of, place, &within, &done, frame.rows()),
            Node::Pair(pair, left, right) => {
                let sides = [left, right].map(|side| done[*side].as_ref().unwrap_or(&NOTHING));
                compare(*pair, sides, [of.types[*left], of.types[*right]], frame.rows())
            }
            Node::Call(Function::If, parts) => choose(parts, &done, of.types[place], frame.rows()),
            Node::Of(function, parts) => {
                let arguments: Vec<&Part> = parts.iter().map(|part| done[*part].as_ref().unwrap_or(&NOTHING)).collect();
                call(*function, &arguments, frame)
            }
            Node::Negative(_) | Node::Call(..) => NOTHING,
        };
        if fused {
            parts_of(node).into_iter().for_each(|part| done[part] = None);
        }
        done.push(Some(value));
    }
    done
}

/// Arithmetic down to what is none itself, as one program over blocks of rows.
fn arithmetic(of: &TableFormula, place: usize, within: &[bool], done: &[Option<Part>], rows: usize) -> Part {
    let nodes = of.formula.nodes();
    // From the whole to its parts: those within are worked out here, the others are at hand.
    let mut needed = vec![false; place + 1];
    needed[place] = true;
    for at in (0..=place).rev().filter(|at| *at == place || within[*at]) {
        if needed[at] {
            parts_of(&nodes[at]).into_iter().for_each(|part| needed[part] = true);
        }
    }
    let mut places = vec![0; place + 1];
    let (mut own, mut operands, mut columns): (Vec<Node>, Vec<Operand>, Vec<&[f64]>) = (Vec::new(), Vec::new(), Vec::new());
    for at in (0..=place).filter(|at| needed[*at]) {
        places[at] = own.len();
        own.push(match &nodes[at] {
            node if at == place || within[at] => moved(node, &places),
            _ => {
                operands.push(match done[at].as_ref().unwrap_or(&NOTHING) {
                    Part::Each(Values::Number(values)) => {
                        columns.push(values);
                        Operand::Column(columns.len() - 1)
                    }
                    part => Operand::Constant(part.number(0)),
                });
                Node::Name(operands.len() - 1)
            }
        });
    }
    let uses = operands.iter().map(|_| Use { name: String::new(), from: 0, to: 0 }).collect();
    let program = Program::of(&Formula { nodes: own, uses }, &operands);
    if let Some(constant) = program.constant() {
        return Part::Number(constant);
    }
    let mut out = vec![0.0; rows];
    out.par_chunks_mut(BLOCK).enumerate().for_each_init(Room::default, |room, (block, out)| {
        let here = block * BLOCK..block * BLOCK + out.len();
        let columns: Vec<&[f64]> = columns.iter().map(|column| &column[here.clone()]).collect();
        program.run(&columns, room, out);
    });
    Part::Each(Values::Number(out.into()))
}

fn moved(node: &Node, places: &[usize]) -> Node {
    match node {
        Node::Negative(of) => Node::Negative(places[*of]),
        Node::Pair(pair, left, right) => Node::Pair(*pair, places[*left], places[*right]),
        Node::Call(function, parts) => Node::Call(*function, parts.iter().map(|part| places[*part]).collect()),
        other => other.clone(),
    }
}

/// 1 where a comparison holds, 0 where it does not, no number where a side is missing.
fn compare(pair: Pair, [left, right]: [&Part; 2], types: [Type; 2], rows: usize) -> Part {
    let holds = |order: std::cmp::Ordering| match pair {
        Pair::Less => order.is_lt(),
        Pair::LessOrEqual => order.is_le(),
        Pair::Greater => order.is_gt(),
        Pair::GreaterOrEqual => order.is_ge(),
        Pair::Equal => order.is_eq(),
        _ => order.is_ne(),
    };
    let truth = |order: Option<std::cmp::Ordering>| order.map_or(f64::NAN, |order| f64::from(u8::from(holds(order))));
    let out: Vec<f64> = if types.contains(&Type::Moment) {
        let there = |moment: i64| Some(moment).filter(|moment| *moment != NO_TIME);
        (0..rows).map(|row| truth(there(left.moment(row)).zip(there(right.moment(row))).map(|(a, b)| a.cmp(&b)))).collect()
    } else {
        let (left, right) = (Words::of(&left.each(rows)), Words::of(&right.each(rows)));
        (0..rows).map(|row| truth(left.at(row).zip(right.at(row)).map(|(a, b)| a.cmp(b)))).collect()
    };
    Part::Each(Values::Number(out.into()))
}

/// Words or moments by a condition.
fn choose(parts: &[usize], done: &[Option<Part>], of: Type, rows: usize) -> Part {
    let [condition, then, other] = [0, 1, 2].map(|place| done[parts[place]].as_ref().unwrap_or(&NOTHING));
    let chosen = |row: usize| match condition.number(row) {
        holds if holds.is_nan() => None,
        holds => Some(holds != 0.0),
    };
    Part::Each(match of {
        Type::Moment => {
            let at = |row: usize| chosen(row).map_or(NO_TIME, |first| if first { then.moment(row) } else { other.moment(row) });
            Values::Time((0..rows).map(at).collect())
        }
        _ => {
            let (then, other) = (Words::of(&then.each(rows)), Words::of(&other.each(rows)));
            let (labels, recoded) = then.with(&other);
            let code = |row: usize| match chosen(row) {
                Some(true) => then.codes[row],
                Some(false) => recoded.get(other.codes[row] as usize).copied().unwrap_or(NO_CODE),
                None => NO_CODE,
            };
            Values::Label { codes: (0..rows).map(code).collect(), labels }
        }
    })
}

fn call(function: TableFunction, arguments: &[&Part], frame: &Frame) -> Part {
    use TableFunction::*;
    let rows_all = frame.rows();
    let numbers = |value: &(dyn Fn(usize) -> f64 + Sync)| {
        Part::Each(Values::Number((0..rows_all).into_par_iter().map(value).collect::<Vec<f64>>().into()))
    };
    let truth = |holds: bool| f64::from(u8::from(holds));
    match function {
        Missing => numbers(&|row| truth(arguments[0].is_missing(row))),
        And | Or => numbers(&|row| {
            let all = arguments.iter().map(|part| part.number(row));
            let decided = if function == And { 0.0 } else { 1.0 };
            let mut unknown = false;
            for value in all {
                unknown |= value.is_nan();
                if !value.is_nan() && truth(value != 0.0) == decided {
                    return decided;
                }
            }
            if unknown { f64::NAN } else { 1.0 - decided }
        }),
        Not => numbers(&|row| match arguments[0].number(row) {
            value if value.is_nan() => value,
            value => truth(value == 0.0),
        }),
        Remainder => numbers(&|row| {
            let (value, by) = (arguments[0].number(row), arguments[1].number(row));
            value - by * (value / by).floor()
        }),
        RowMean | RowSd | RowRange => numbers(&|row| rows::of_row(function, arguments.iter().map(|part| part.number(row)))),
        FirstOf => rows::first_of(arguments, rows_all),
        Hours => numbers(&|row| moments::hours(arguments[0].moment(row), arguments[1].moment(row))),
        Year | Month | Week | Day | Weekday | Hour | Minute => numbers(&|row| moments::number(function, arguments[0].moment(row))),
        Date | Shift => moments::label(function, arguments, rows_all),
        Row | Previous | Difference | RunningSum | RunningCount => rows::along(function, arguments, rows_all),
        GroupCount | GroupMean | GroupSd | GroupSum | GroupMin | GroupMax | ColumnMean | ColumnSd | ZScore => {
            groups::of_groups(function, arguments, rows_all)
        }
        Rank => groups::ranks(arguments[0], rows_all),
        Upper | Lower | Trim | Length | Left | Right | Piece | Join | Contains | Replace | Recode | AsNumber | AsWords | Classes
        | AsMoment => words::of_words(function, arguments, rows_all),
    }
}
