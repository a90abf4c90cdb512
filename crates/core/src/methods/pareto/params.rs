//! What ranking takes.

use std::sync::Arc;

use serde::Deserialize;

use super::card::SHARE;
use crate::frame::{Column, Frame, Missing, NO_CODE, Values};
use crate::study::filled::{bad, numbers};
use crate::study::{Filled, StudyError};

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

/// Labels of a column by row.
pub struct Coded {
    pub codes: Arc<[u32]>,
    pub labels: Vec<String>,
}

impl Coded {
    fn of(frame: &Frame, column: &Column, most: usize) -> Result<Coded, StudyError> {
        if let Values::Label { codes, labels } = &column.values
            && labels.len() <= most
        {
            return Ok(Coded { codes: codes.clone(), labels: labels.to_vec() });
        }
        let groups = frame.groups(&[column], None, Missing::Left, most)?;
        let mut codes = vec![NO_CODE; frame.rows()];
        for group in 0..groups.len() {
            groups.rows(group).iter().for_each(|&row| codes[row] = group as u32);
        }
        let labels = (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect();
        Ok(Coded { codes: codes.into(), labels })
    }
}

/// The statement, read.
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub category: &'f Column,
    pub kinds: Coded,
    pub group: Option<(&'f Column, Coded)>,
    pub count: Option<&'f Column>,
    pub weight: Option<&'f Column>,
    pub fold: Fold,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &Filled<'f>) -> Result<Params<'f>, StudyError> {
        let (frame, category) = (asked.frame(), asked.needed("category")?);
        let group = asked.column("group");
        if group.is_some_and(|group| group.name == category.name) {
            return Err(bad("group", "groups and kinds are the same column; choose another for the groups"));
        }
        for role in ["count", "weight"] {
            asked.column(role).map(|column| numbers(column, if role == "count" { "counts" } else { "weight" })).transpose()?;
        }
        Ok(Params {
            frame,
            category,
            kinds: Coded::of(frame, category, KINDS_MOST)?,
            group: group.map(|column| Ok::<_, StudyError>((column, Coded::of(frame, column, GROUPS_MOST)?))).transpose()?,
            count: asked.column("count"),
            weight: asked.column("weight"),
            fold: asked.option("fold")?.unwrap_or(Fold::Usual),
        })
    }
}
