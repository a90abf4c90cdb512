//! One capability study after another.

use std::borrow::Cow;

use rayon::prelude::*;

use super::numbers::{Numbers, Row};
use crate::capability::{Answer, GOAL, Params, ShapeChoice, answer, verdict};
use acorn_data::frame::{Column, Frame, Missing};
use acorn_study::differing_limits::limits_differ;
use acorn_study::{Cancel, StudyError, Tone, ValidatedSpec};

/// Most columns, and most groups.
pub const MANY: usize = 200;

/// Computes every row.
///
/// # Errors
/// [`StudyError::TooManyGroups`], [`StudyError::Stopped`]. A column that cannot be judged is a row that says why.
pub fn compute(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let frame = asked.frame();
    let shape: ShapeChoice = asked.option("shape")?.unwrap_or_default();
    let goal = asked.number("goal").unwrap_or(GOAL);
    let (group, order) = (asked.column("group"), asked.column("order"));
    let groups = frame.groups(group.as_slice(), None, Missing::Left, MANY)?;
    let columns = asked.columns("measure");
    let all: Vec<(&Column, usize)> = columns.iter().flat_map(|column| (0..groups.len()).map(move |place| (*column, place))).collect();
    cancel.expect(all.len() as u32);
    let row = |&(column, place): &(&Column, usize)| {
        cancel.step()?;
        let read: Vec<&Column> = order.into_iter().chain([column]).collect();
        // A group is held against its own limits.
        let rows = groups.label(place).map(|_| Frame::with_shared_limits(Cow::Owned(frame.pick(&read, groups.rows(place)))));
        let rows = rows.as_deref().unwrap_or(frame);
        let column = rows.column(&column.name).unwrap_or(column);
        let question =
            Params { shape, goal, among: all.len(), order: order.map(|order| order.name.clone()), ..Params::plain(rows, column) };
        match limits_differ(column).map_or_else(|| answer(question, cancel), Err) {
            Err(StudyError::Stopped(stopped)) => Err(stopped),
            found => Ok(told(column, groups.label(place), found)),
        }
    };
    let rows = all.par_iter().map(row).collect::<Result<Vec<_>, _>>()?;
    Ok(Numbers { rows, group: group.map(|group| group.name.clone()), goal })
}

fn told(column: &Column, group: Option<&str>, found: Result<Answer, StudyError>) -> Row {
    let info = &column.info;
    let bare = Row {
        column: column.name.clone(),
        group: group.map(str::to_owned),
        n: 0,
        cp: None,
        cpk: None,
        pp: None,
        ppk: None,
        ppk_ci95: None,
        gauge_share: None,
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
        writer: info.writer(2),
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
        gauge_share: numbers.gauge.as_ref().map(|gauge| gauge.share),
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
