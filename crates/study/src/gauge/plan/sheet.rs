//! The sheet of a planned study, in an order that nobody can learn.

use rand::SeedableRng;
use rand::seq::SliceRandom;
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Map, Value, json};

use super::{Plan, StudyKind};
use crate::{RoleColumns, Spec, StudyError};
use acorn_data::frame::{Column, ColumnInfo, Kind, NO_CODE, Values};

/// The sheet to fill.
pub struct Sheet {
    /// Order, who, what, which time, the cell to fill, and what is known.
    pub columns: Vec<Column>,
    /// The question that the filled sheet answers, without its data.
    pub spec: Spec,
    /// The column to fill.
    pub measure: String,
}

impl Plan {
    /// The sheet: trial after trial, in it operator after operator, each with the parts in an order of their own.
    ///
    /// # Errors
    /// What [`Plan::check`] refuses.
    pub fn sheet(&self) -> Result<Sheet, StudyError> {
        self.check()?;
        let mut random = Xoshiro256PlusPlus::seed_from_u64(self.seed);
        let nobody = [String::new()];
        let people = if self.kind.has_operators() { &self.operators[..] } else { &nobody };
        let mut rows: Vec<(usize, usize, usize)> = Vec::with_capacity(self.rows());
        for trial in 0..self.trials {
            let mut order: Vec<usize> = (0..people.len()).collect();
            order.shuffle(&mut random);
            for operator in order {
                let mut parts: Vec<usize> = (0..self.parts).collect();
                parts.shuffle(&mut random);
                rows.extend(parts.into_iter().map(|part| (trial, operator, part)));
            }
        }
        let n = rows.len();
        let wide = self.parts.to_string().len();
        let part_name = |&(_, operator, part): &(usize, usize, usize)| match self.kind {
            StudyKind::Nested => format!("{}-{:0wide$}", people[operator].trim(), part + 1),
            _ => format!("{:0wide$}", part + 1),
        };
        let label = |name: &str, texts: Vec<String>| column(name, Kind::Category, labels(texts));
        let whole = |name: &str, numbers: Vec<f64>| column(name, Kind::WholeNumber, Values::Number(numbers.into()));
        let mut columns = vec![whole("order", (1..=n).map(|place| place as f64).collect())];
        if self.kind.has_operators() {
            columns.push(label("operator", rows.iter().map(|&(_, operator, _)| people[operator].trim().to_owned()).collect()));
        }
        if self.kind != StudyKind::Single {
            columns.push(label("part", rows.iter().map(part_name).collect()));
            columns.push(whole("trial", rows.iter().map(|&(trial, ..)| (trial + 1) as f64).collect()));
        }
        let measure = self.characteristic.split_whitespace().collect::<Vec<_>>().join(" ");
        let empty = match self.kind {
            StudyKind::Attribute => Values::Label { codes: vec![NO_CODE; n].into(), labels: self.labels.clone().into() },
            _ => Values::Number(vec![f64::NAN; n].into()),
        };
        let kind = if self.kind == StudyKind::Attribute { Kind::Category } else { Kind::Number };
        columns.push(Column { info: self.info.clone(), ..column(&measure, kind, empty) });
        match self.kind {
            StudyKind::Linearity => {
                let info = ColumnInfo { unit: self.info.unit.clone(), ..ColumnInfo::default() };
                let known = rows.iter().map(|&(.., part)| self.references[part]).collect::<Vec<f64>>();
                columns.push(Column { info, ..column("reference", Kind::Number, Values::Number(known.into())) });
            }
            StudyKind::Attribute if !self.known.is_empty() => {
                columns.push(label("reference", rows.iter().map(|&(.., part)| self.known[part].clone()).collect()));
            }
            _ => {}
        }
        Ok(Sheet { spec: self.question(&measure), columns, measure })
    }

    fn question(&self, measure: &str) -> Spec {
        let role = |name: &str, column: &str| (name.to_owned(), RoleColumns::One(column.to_owned()));
        let mut options = Map::new();
        let mut roles = vec![role(if self.kind == StudyKind::Attribute { "rating" } else { "measure" }, measure)];
        match self.kind {
            StudyKind::Single => {
                options.insert("reference".to_owned(), json!(self.references[0]));
            }
            StudyKind::Linearity => roles.extend([role("part", "part"), role("reference", "reference")]),
            StudyKind::Nested => roles.extend([role("part", "part"), role("operator", "operator")]),
            StudyKind::Crossed => roles.extend([role("part", "part"), role("operator", "operator"), role("trial", "trial")]),
            StudyKind::Attribute => {
                roles.extend([role("part", "part"), role("operator", "operator"), role("trial", "trial")]);
                if !self.known.is_empty() {
                    roles.push(role("reference", "reference"));
                    options.insert("bad".to_owned(), Value::String(self.labels[0].clone()));
                }
            }
        }
        Spec { method: self.kind.method().to_owned(), roles: roles.into_iter().collect(), options, ..Spec::default() }
    }
}

fn column(name: &str, kind: Kind, values: Values) -> Column {
    Column { name: name.to_owned(), kind, info: ColumnInfo::default(), measuring: None, held: None, values }
}

fn labels(texts: Vec<String>) -> Values {
    let mut known: Vec<String> = Vec::new();
    let code = |text: String| {
        let place = known.iter().position(|label| *label == text).unwrap_or_else(|| {
            known.push(text);
            known.len() - 1
        });
        place as u32
    };
    let codes: Vec<u32> = texts.into_iter().map(code).collect();
    Values::Label { codes: codes.into(), labels: known.into() }
}
