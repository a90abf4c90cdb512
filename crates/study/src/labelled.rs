//! Columns of labels beside measured values, and the one that parts them into streams.

use acorn_data::frame::{Column, Frame, Kind, Missing, NO_GROUP};
use acorn_maths::judgement::unlikely_among;
use acorn_maths::one_way::OneWay;

/// Most labels of a column of streams.
const STREAMS_MOST: usize = 20;
/// Most columns that are looked at.
const COLUMNS_MOST: usize = 12;
/// Most labels of a column of batches or tools.
const LABELS_MOST: usize = 2000;
/// Streams make up at least this share of the variation.
pub const STREAMS_SHARE: f64 = 0.6;
/// The outermost streams are at least so many of their own sds apart.
const APART: f64 = 3.0;

/// A column of labels, and the group of each value of a series.
pub struct Labelled<'f> {
    /// The column.
    pub column: &'f Column,
    /// Its labels.
    pub names: Vec<String>,
    /// The label of each value, by its place; [`NO_GROUP`] without one.
    pub group: Vec<usize>,
}

impl Labelled<'_> {
    /// Whether its labels may be streams: few, and none of them alone in a stretch of its own.
    pub fn are_streams(&self) -> bool {
        let changes = self.group.windows(2).filter(|pair| pair[0] != pair[1]).count();
        (2..=STREAMS_MOST).contains(&self.names.len()) && changes >= 3 * self.names.len()
    }

    /// Where each label stands in one stretch, their lengths; `None` where one comes back.
    pub fn stretches(&self) -> Option<Vec<std::ops::Range<usize>>> {
        let mut found: Vec<std::ops::Range<usize>> = Vec::new();
        let mut seen = std::collections::HashSet::new();
        for (place, &group) in self.group.iter().enumerate() {
            if place == 0 || self.group[place - 1] != group {
                if group == NO_GROUP || !seen.insert(group) {
                    return None;
                }
                found.push(place..place);
            }
            if let Some(last) = found.last_mut() {
                last.end = place + 1;
            }
        }
        Some(found)
    }
}

/// The columns of labels of a frame but some, with the group of each of some rows.
pub fn labelled<'f>(frame: &'f Frame, rows: &[usize], but: &[String]) -> Vec<Labelled<'f>> {
    let is_label = |column: &&Column| matches!(column.kind, Kind::Category | Kind::WholeNumber) && !but.contains(&column.name);
    let one = |column: &'f Column| {
        let groups = frame.groups(&[column], None, Missing::Left, LABELS_MOST).ok()?;
        let of = groups.of_rows(frame.rows());
        let group: Vec<usize> = rows.iter().map(|&row| of[row]).collect();
        let names = (0..groups.len()).map(|place| groups.label(place).unwrap_or_default().to_owned()).collect();
        Some(Labelled { column, names, group })
    };
    frame.columns().iter().filter(is_label).filter_map(one).take(COLUMNS_MOST).collect()
}

/// Streams that a label tells apart.
#[derive(Clone, Debug, PartialEq)]
pub struct Streams {
    /// The column.
    pub by: String,
    /// The labels of the lowest and the highest mean.
    pub ends: [String; 2],
    /// How far these lie apart.
    pub apart: f64,
}

/// The column that parts values into streams, the one with the largest share of their variation; `None` where none does.
pub fn streams(values: &[f64], labelled: &[Labelled]) -> Option<Streams> {
    let one = |one: &Labelled| {
        let of = OneWay::of(values, &one.group, one.names.len())?;
        let [low, high] = of.ends();
        let holds = of.share >= STREAMS_SHARE && unlikely_among(of.p, labelled.len()) && of.apart() >= APART * of.squares[1].sqrt();
        let ends = [one.names[low].clone(), one.names[high].clone()];
        Some((of.share, Streams { by: one.column.name.clone(), ends, apart: of.apart() })).filter(|_| holds)
    };
    let found = labelled.iter().filter(|labelled| labelled.are_streams()).filter_map(one);
    found.max_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, streams)| streams)
}
