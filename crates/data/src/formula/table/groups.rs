//! Figures of all rows, or of the group of each.

use std::collections::HashMap;

use super::TableFunction;
use super::part::Part;
use crate::frame::Values;
use acorn_maths::describe::moments;

/// The group of each row by the values of some parts, from 0; `None` where one of them is missing.
fn groups(parts: &[&Part], rows: usize) -> (Vec<Option<usize>>, usize) {
    let mut groups: Vec<Option<usize>> = vec![Some(0); rows];
    let mut many = 1;
    for part in parts {
        let values = part.each(rows);
        let mut known: HashMap<(usize, u64), usize> = HashMap::new();
        for (row, group) in groups.iter_mut().enumerate() {
            *group = group.filter(|_| !values.is_missing(row)).map(|outer| {
                let next = known.len();
                *known.entry((outer, values.key(row))).or_insert(next)
            });
        }
        many = known.len();
    }
    (groups, many)
}

/// A figure of the group of each row; groups are what stands behind the first argument.
pub fn of_groups(function: TableFunction, arguments: &[&Part], rows: usize) -> Part {
    use TableFunction::*;
    if function == GroupCount {
        let (groups, many) = groups(arguments, rows);
        let mut counts = vec![0.0; many];
        groups.iter().flatten().for_each(|group| counts[*group] += 1.0);
        return Part::Each(Values::Number(groups.iter().map(|group| group.map_or(f64::NAN, |group| counts[group])).collect()));
    }
    let (groups, many) = groups(&arguments[1..], rows);
    let mut members: Vec<Vec<f64>> = vec![Vec::new(); many];
    for (row, group) in groups.iter().enumerate() {
        let value = arguments[0].number(row);
        group.iter().filter(|_| value.is_finite()).for_each(|group| members[*group].push(value));
    }
    // What a value has taken from it, and what it is divided by; a figure of the group itself takes all of it.
    let figure = |members: &Vec<f64>| {
        let of = moments(members);
        let found = match function {
            GroupMean | ColumnMean | ZScore => of.mean,
            GroupSd | ColumnSd => of.sd,
            GroupSum => (of.n > 0).then(|| members.iter().sum()),
            GroupMin => of.min,
            _ => of.max,
        };
        (found.unwrap_or(f64::NAN), of.sd.filter(|sd| *sd > 0.0).unwrap_or(f64::NAN))
    };
    let figures: Vec<(f64, f64)> = members.iter().map(figure).collect();
    let of_row = |(row, group): (usize, &Option<usize>)| match group.map(|group| figures[group]) {
        None => f64::NAN,
        Some((mean, sd)) if function == ZScore => (arguments[0].number(row) - mean) / sd,
        Some((figure, _)) => figure,
    };
    Part::Each(Values::Number(groups.iter().enumerate().map(of_row).collect()))
}

/// The place of each value by size, equal ones sharing the mean of theirs.
pub fn ranks(part: &Part, rows: usize) -> Part {
    let mut order: Vec<usize> = (0..rows).filter(|row| part.number(*row).is_finite()).collect();
    order.sort_unstable_by(|a, b| part.number(*a).total_cmp(&part.number(*b)));
    let mut ranks = vec![f64::NAN; rows];
    let mut first = 0;
    for equal in order.chunk_by(|a, b| part.number(*a) == part.number(*b)) {
        let rank = first as f64 + (equal.len() as f64 + 1.0) / 2.0;
        equal.iter().for_each(|row| ranks[*row] = rank);
        first += equal.len();
    }
    Part::Each(Values::Number(ranks.into()))
}
