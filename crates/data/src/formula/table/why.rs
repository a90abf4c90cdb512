//! Why a row has no value, in words.

use super::evaluate::parts;
use super::part::Part;
use super::{TableFormula, TableFunction, parts_of};
use crate::formula::notation::sign_of;
use crate::formula::{Function, Node};
use crate::frame::{Frame, Values, time_text};
use acorn_maths::words::typed;

/// The part at which the value of a row is lost, with the values that it was worked out from.
pub fn why(of: &TableFormula, frame: &Frame, row: usize) -> Option<String> {
    let parts = parts(of, frame, false);
    let nodes = of.formula.nodes();
    let is_missing = |place: usize| parts[place].as_ref().is_none_or(|part| part.is_missing(row));
    let mut at = nodes.len().checked_sub(1).filter(|last| is_missing(*last))?;
    loop {
        let node = &nodes[at];
        let from = match node {
            Node::Name(place) => return Some(format!("“{}” is missing", of.formula.uses()[*place].name)),
            // Only the branch that is chosen counts.
            Node::Call(Function::If, branches) if !is_missing(branches[0]) => {
                let holds = parts[branches[0]].as_ref().is_some_and(|part| part.number(row) != 0.0);
                Some(branches[if holds { 1 } else { 2 }])
            }
            Node::Of(TableFunction::Previous | TableFunction::Difference, _) if row == 0 => {
                return Some("no row stands above it".to_owned());
            }
            Node::Of(TableFunction::Previous | TableFunction::Difference, of_above) if !is_missing(of_above[0]) => {
                return Some("there is no value above it".to_owned());
            }
            node => parts_of(node).into_iter().find(|part| is_missing(*part)),
        };
        match from {
            Some(part) => at = part,
            None => return Some(lost(of, &parts, at, row)),
        }
    }
}

fn lost(of: &TableFormula, parts: &[Option<Part>], at: usize, row: usize) -> String {
    let shown = |place: usize| match parts[place].as_ref() {
        None => String::new(),
        Some(Part::Words(words)) => format!("“{words}”"),
        Some(Part::Each(Values::Time(values))) => time_text(values[row]).unwrap_or_default(),
        Some(Part::Each(Values::Label { codes, labels })) => {
            labels.get(codes[row] as usize).map(|label| format!("“{label}”")).unwrap_or_default()
        }
        Some(part) => typed(part.number(row)),
    };
    match &of.formula.nodes()[at] {
        Node::Of(TableFunction::AsNumber, of) => format!("{} is no number", shown(of[0])),
        Node::Of(TableFunction::AsMoment, of) => format!("{} is no moment; it is written 2026-05-04 06:10", shown(of[0])),
        Node::Of(TableFunction::ZScore | TableFunction::GroupSd | TableFunction::ColumnSd, _) => {
            "its group has a single value, or all of them alike".to_owned()
        }
        Node::Pair(pair, left, right) => format!("{} {} {} has no value", shown(*left), sign_of(*pair), shown(*right)),
        Node::Call(function, of) => format!("{}({}) has no value", function.name(), listed(of, shown)),
        Node::Of(function, of) => format!("{}({}) has no value", function.name(), listed(of, shown)),
        _ => "it has no value".to_owned(),
    }
}

fn listed(parts: &[usize], shown: impl Fn(usize) -> String) -> String {
    parts.iter().map(|part| shown(*part)).collect::<Vec<_>>().join(", ")
}
