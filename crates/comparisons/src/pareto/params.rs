//! What ranking takes.

use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

use serde::Deserialize;

use super::card::SHARE;
use super::names::followed;
use acorn_data::frame::{Coded, Column, Frame, NO_CODE};
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec};

/// Most kinds and most groups.
const KINDS_MOST: usize = 20_000;
const GROUPS_MOST: usize = 200;

/// Where the leading kinds end and the rest is one.
#[derive(Clone, Copy, Debug, PartialEq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Fold {
    /// After 80 %.
    Usual,
    /// After a share of all.
    Share(f64),
    /// After so many kinds.
    Top(f64),
    /// Nowhere.
    None,
}

impl Fold {
    /// How many of some ranked values stand by themselves.
    pub fn kept(self, ranked: &[f64], total: f64) -> usize {
        match self {
            Fold::None => ranked.len(),
            Fold::Top(top) => ranked.len().min(top.max(1.0) as usize),
            Fold::Usual => reaching(ranked, total, SHARE),
            Fold::Share(share) => reaching(ranked, total, share),
        }
    }
}

/// The fewest leading values that reach a share of the total. Counts are compared, so that one that meets it exactly has.
pub fn reaching(ranked: &[f64], total: f64, share: f64) -> usize {
    let wanted = share * total * (1.0 - 1e-12);
    let mut sum = 0.0;
    let reached = ranked.iter().position(|value| {
        sum += value;
        sum >= wanted
    });
    reached.map_or(ranked.len(), |place| place + 1)
}

/// Which rows are before, and which after.
pub struct Stage {
    /// 0 before, 1 after, [`NO_CODE`] neither.
    pub codes: Arc<[u32]>,
    /// What they are called.
    pub labels: [String; 2],
    /// How many were inspected in each.
    pub inspected: Option<[f64; 2]>,
}

/// The statement, read.
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub category: &'f Column,
    pub kinds: Coded,
    /// Names that go by another.
    pub renames: BTreeMap<String, String>,
    pub group: Option<(&'f Column, Coded)>,
    pub count: Option<&'f Column>,
    pub weight: Option<&'f Column>,
    pub fold: Fold,
    pub stage: Option<Stage>,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let (frame, category) = (asked.frame(), asked.needed("category")?);
        let group = asked.column("group");
        if group.is_some_and(|group| group.name == category.name) {
            return Err(bad("group", "groups and kinds are the same column; choose another for the groups"));
        }
        for role in ["count", "weight"] {
            asked.column(role).map(|column| numbers(column, if role == "count" { "counts" } else { "weight" })).transpose()?;
        }
        let renames: BTreeMap<String, String> = asked.option("merge")?.unwrap_or_default();
        Ok(Params {
            frame,
            category,
            kinds: merged(frame.coded(category, KINDS_MOST)?, &renames),
            renames,
            group: group.map(|column| Ok::<_, StudyError>((column, frame.coded(column, GROUPS_MOST)?))).transpose()?,
            count: asked.column("count"),
            weight: asked.column("weight"),
            fold: asked.option("fold")?.unwrap_or(Fold::Usual),
            stage: stage(asked)?,
        })
    }

    /// The columns that are counted, without what is done with them.
    pub fn bare(&self) -> Params<'f> {
        let Params { frame, category, count, weight, fold, .. } = *self;
        let kinds = Coded { codes: Arc::new([]), labels: Arc::new([]) };
        Params { frame, category, kinds, renames: BTreeMap::new(), group: None, count, weight, fold, stage: None }
    }
}

/// Labels with those that go by another name as one with it.
fn merged(coded: Coded, renames: &BTreeMap<String, String>) -> Coded {
    if renames.is_empty() {
        return coded;
    }
    let mut places: HashMap<&str, u32> = HashMap::new();
    let mut labels = Vec::new();
    let mut to = Vec::with_capacity(coded.labels.len());
    for label in coded.labels.iter() {
        let name = followed(label, renames);
        to.push(*places.entry(name).or_insert_with(|| {
            labels.push(name.to_owned());
            labels.len() as u32 - 1
        }));
    }
    let codes = coded.codes.iter().map(|code| to.get(*code as usize).copied().unwrap_or(NO_CODE)).collect();
    Coded { codes, labels: labels.into() }
}

/// What is compared, if anything.
fn stage(asked: &ValidatedSpec) -> Result<Option<Stage>, StudyError> {
    let frame = asked.frame();
    let by: Option<String> = asked.option("compare_to")?;
    let column = asked.column("stage");
    let (codes, labels) = match (by.as_deref(), column) {
        (Some("rows"), _) => by_rows(asked, frame.rows())?,
        (Some("none"), _) | (_, None) => return Ok(None),
        (_, Some(column)) => by_labels(asked, frame, column)?,
    };
    let inspected = match (asked.number("inspected_before"), asked.number("inspected_after")) {
        (Some(before), Some(after)) => Some([before, after]),
        (None, None) => None,
        _ => return Err(bad("inspected_after", "give the number inspected for both, before and after, or for neither")),
    };
    Ok(Some(Stage { codes, labels, inspected }))
}

fn by_labels(asked: &ValidatedSpec, frame: &Frame, column: &Column) -> Result<(Arc<[u32]>, [String; 2]), StudyError> {
    let coded = frame.coded(column, KINDS_MOST)?;
    let place = |option: &str, usual: usize| {
        let given: Option<String> = asked.option(option)?;
        let name = given.or_else(|| coded.labels.get(usual).cloned());
        let name = name.ok_or_else(|| bad(option, format!("“{}” has one label only; two are compared", column.name)))?;
        let place = coded.labels.iter().position(|label| *label == name);
        place.map(|place| (place as u32, name.clone())).ok_or_else(|| bad(option, format!("no row of “{}” is {name}", column.name)))
    };
    let ((before, before_name), (after, after_name)) = (place("before", 0)?, place("after", 1)?);
    if before == after {
        return Err(bad("after", format!("{after_name} is compared with itself; choose another label")));
    }
    let stage = |code: &u32| match *code {
        code if code == before => 0,
        code if code == after => 1,
        _ => NO_CODE,
    };
    Ok((coded.codes.iter().map(stage).collect(), [before_name, after_name]))
}

/// Two stretches of rows, counted from 1.
fn by_rows(asked: &ValidatedSpec, rows: usize) -> Result<(Arc<[u32]>, [String; 2]), StudyError> {
    let bound = |option: &'static str| {
        let number: f64 = asked.option(option)?.ok_or_else(|| bad(option, "type a row number"))?;
        let fits = number.fract() == 0.0 && number >= 1.0 && number <= rows as f64;
        if fits { Ok(number as usize) } else { Err(bad(option, format!("{number} is no row; they go from 1 to {rows}"))) }
    };
    let stretch = |first: &'static str, last: &'static str| {
        let (from, to) = (bound(first)?, bound(last)?);
        if from <= to { Ok(from..=to) } else { Err(bad(last, "the last row stands before the first")) }
    };
    let (before, after) = (stretch("before_first", "before_last")?, stretch("after_first", "after_last")?);
    if before.contains(after.start()) || after.contains(before.start()) {
        return Err(bad("after_first", "both stretches have rows in common"));
    }
    let stage = |row: usize| match row {
        row if before.contains(&row) => 0,
        row if after.contains(&row) => 1,
        _ => NO_CODE,
    };
    let words = |stretch: &std::ops::RangeInclusive<usize>| format!("rows {} to {}", stretch.start(), stretch.end());
    Ok(((1..=rows).map(stage).collect(), [words(&before), words(&after)]))
}
