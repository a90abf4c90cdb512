//! One capability study after another.

use std::collections::HashMap;

use rayon::prelude::*;
use serde_json::{Map, json};

use super::numbers::{Numbers, Row};
use crate::frame::{Column, Frame};
use crate::methods::capability::{Answer, GOAL, answer, verdict};
use crate::study::words::Writer;
use crate::study::{Cancel, Options, RoleColumns, Spec, StudyError, Tone, in_range};

/// Most columns, and most groups.
const MANY: usize = 200;

/// Computes every row.
///
/// # Errors
/// [`StudyError::MissingRole`] without a column, [`StudyError::UnknownColumn`], [`StudyError::TooManyGroups`],
/// [`StudyError::Stopped`]. A column that cannot be judged is a row that says why.
pub fn compute(frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Numbers, StudyError> {
    spec.known_roles(&["measure", "group", "order"])?;
    let mut options = Options::of(spec);
    let shape = options.take::<String>("shape")?.unwrap_or_else(|| "normal".to_owned());
    let goal = in_range("goal", options.take("goal")?.unwrap_or(GOAL), 0.1, 10.0)?;
    options.finish()?;
    let columns = columns(frame, spec)?;
    let group = spec.role(frame, "group")?;
    let groups = groups(frame, group)?;
    let asked: Vec<(&Column, &Group)> = columns.iter().flat_map(|column| groups.iter().map(move |group| (*column, group))).collect();
    let order = spec.roles.get("order");
    let row = |(column, group): &(&Column, &Group)| {
        cancel.check()?;
        let mut roles: std::collections::BTreeMap<_, _> = [("measure".to_owned(), RoleColumns::One(column.name.clone()))].into();
        roles.extend(order.map(|order| ("order".to_owned(), order.clone())));
        let options = Map::from_iter([("shape".to_owned(), json!(shape)), ("goal".to_owned(), json!(goal))]);
        let one = Spec { method: "capability".to_owned(), roles, options, ..Spec::default() };
        let rows = group.rows.as_ref().map(|rows| frame.rows_at(rows));
        match answer(rows.as_ref().unwrap_or(frame), &one, cancel) {
            Err(StudyError::Stopped) => Err(StudyError::Stopped),
            found => Ok(told(column, group, found)),
        }
    };
    let rows = asked.par_iter().map(row).collect::<Result<Vec<_>, _>>()?;
    Ok(Numbers { rows, group: group.map(|group| group.name.clone()), goal })
}

fn told(column: &Column, group: &Group, found: Result<Answer, StudyError>) -> Row {
    let info = &column.info;
    let bare = Row {
        column: column.name.clone(),
        group: group.label.clone(),
        n: 0,
        cp: None,
        cpk: None,
        pp: None,
        ppk: None,
        ppk_ci95: None,
        seen_out: None,
        expected_out: None,
        steady: None,
        signals: 0,
        signals_by_chance: true,
        shape_p: None,
        misfits: false,
        shape: String::new(),
        tone: Tone::Unsure,
        title: "Cannot be told".to_owned(),
        lsl: info.lsl,
        target: info.target,
        usl: info.usl,
        dial: None,
        writer: Writer::of(info, 2),
        problem: None,
    };
    let answer = match found {
        Ok(answer) => answer,
        Err(error) => return Row { problem: Some(error.to_string()), ..bare },
    };
    let (numbers, verdict) = (answer.numbers(), verdict::read(&answer));
    Row {
        n: numbers.n,
        cp: numbers.cp,
        cpk: numbers.cpk,
        pp: numbers.pp,
        ppk: numbers.ppk,
        ppk_ci95: numbers.ppk_ci95,
        seen_out: numbers.observed.total,
        expected_out: numbers.expected_overall.total,
        steady: Some(numbers.steady),
        signals: numbers.signals,
        signals_by_chance: numbers.signals_by_chance,
        shape_p: numbers.shape_p,
        misfits: numbers.misfits,
        shape: numbers.shape.clone(),
        tone: verdict.tone,
        title: verdict.title,
        dial: Some(answer.dial()),
        writer: numbers.writer.clone(),
        ..bare
    }
}

fn columns<'f>(frame: &'f Frame, spec: &Spec) -> Result<Vec<&'f Column>, StudyError> {
    let names: &[String] = match spec.roles.get("measure") {
        None => return Err(StudyError::MissingRole { role: "measurement", choose: "columns with limits" }),
        Some(RoleColumns::One(name)) => std::slice::from_ref(name),
        Some(RoleColumns::Many(names)) => names,
    };
    in_range("measure", names.len() as f64, 1.0, MANY as f64)?;
    let find = |name: &String| {
        let unknown = || StudyError::UnknownColumn { role: "measurement".into(), column: name.clone() };
        frame.column(name).ok_or_else(unknown)
    };
    names.iter().map(find).collect()
}

/// Rows of one label, or all of them.
struct Group {
    label: Option<String>,
    rows: Option<Vec<usize>>,
}

/// The rows of each label, in order of first appearance; one group of all rows without a column.
fn groups(frame: &Frame, column: Option<&Column>) -> Result<Vec<Group>, StudyError> {
    let Some(column) = column else { return Ok(vec![Group { label: None, rows: None }]) };
    let mut known: HashMap<u64, usize> = HashMap::new();
    let mut groups: Vec<(Option<String>, Vec<usize>)> = Vec::new();
    for row in 0..frame.rows() {
        if column.values.is_missing(row) {
            continue;
        }
        let place = *known.entry(column.values.key(row)).or_insert(groups.len());
        if place == groups.len() {
            if place == MANY {
                return Err(StudyError::TooManyGroups { columns: column.name.clone(), most: MANY });
            }
            groups.push((column.values.text(row), Vec::new()));
        }
        groups[place].1.push(row);
    }
    Ok(groups.into_iter().map(|(label, rows)| Group { label, rows: Some(rows) }).collect())
}
