//! An entry held against its plan: what is refused, what becomes of it in rows, what lies beyond the limits.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::plan::{Asked, CollectionPlan};
use acorn_data::frame::{ColumnInfo, Limits, Rules};
use acorn_maths::describe::decimals;

/// What was entered at a station at one time: a subgroup, or what was counted.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Entry {
    /// By which the station tells it from its others; the same key twice is one entry.
    pub key: String,
    /// When it was made, in milliseconds since 1970, by the clock of the station.
    pub at: i64,
    /// The same as its clock shows it: `2026-05-04 13:30:05`.
    pub time: String,
    /// What was said, by column.
    #[serde(default)]
    pub identifiers: BTreeMap<String, String>,
    /// The values of each piece, by column.
    #[serde(default)]
    pub pieces: Vec<BTreeMap<String, f64>>,
    /// What was counted, by column.
    #[serde(default)]
    pub counts: BTreeMap<String, u32>,
    /// A remark.
    #[serde(default)]
    pub remark: String,
    /// Whether values beyond belief were looked at again and are so; takes a remark.
    #[serde(default)]
    pub confirmed: bool,
}

/// Why an entry is not taken.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum Refusal {
    /// It has no key or too long a one.
    #[error("an entry has a key of 1 to 100 characters")]
    Key,
    /// Something is missing.
    #[error("“{column}” is missing")]
    Missing {
        /// The column.
        column: String,
    },
    /// Not as many pieces as a subgroup has.
    #[error("a subgroup has {need} pieces, and {have} were given")]
    Pieces {
        /// Pieces given.
        have: usize,
        /// Pieces of a subgroup.
        need: usize,
    },
    /// A column that the plan does not fill.
    #[error("“{column}” is not asked for")]
    NotAsked {
        /// The column.
        column: String,
    },
    /// A value that nobody believes.
    #[error("{value} of “{column}” is beyond belief: values {believed} are believed")]
    BeyondBelief {
        /// The column.
        column: String,
        /// Which piece, from 1.
        piece: usize,
        /// The value.
        value: f64,
        /// The values that are believed, in words.
        believed: String,
    },
    /// A value that its column cannot have.
    #[error("{problem}")]
    NotAllowed {
        /// Why.
        problem: String,
    },
    /// A number that is none.
    #[error("a value of “{column}” is too large to compute with")]
    NoNumber {
        /// The column.
        column: String,
    },
    /// More defective than inspected.
    #[error("{defectives} defectives of {inspected} inspected")]
    MoreThanInspected {
        /// Defectives.
        defectives: u32,
        /// Inspected.
        inspected: u32,
    },
    /// A time that is none.
    #[error("“{time}” is no time; it is written as 2026-05-04 13:30:05")]
    Time {
        /// What was given.
        time: String,
    },
    /// A text without end.
    #[error("what is said of “{column}” has {WORDS} characters at most")]
    TooLong {
        /// The column, or the remark.
        column: String,
    },
    /// Confirmed without a word on why.
    #[error("a value beyond belief needs a remark on why it is so")]
    Remark,
}

impl Refusal {
    /// What the person can do about it, as a sentence.
    pub fn advice(&self) -> &'static str {
        match self {
            Refusal::BeyondBelief { .. } => "Measure again; if it is so, confirm it with a remark.",
            Refusal::Remark => "Say in the remark why it is so.",
            _ => "Correct the entry and send it again.",
        }
    }
}

/// Characters of what is said at most.
const WORDS: usize = 500;

/// A value beyond its specification limits.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Beyond {
    /// The column.
    pub column: String,
    /// Which piece, from 1.
    pub piece: usize,
    /// The value.
    pub value: f64,
    /// The limit that it lies beyond.
    pub limit: f64,
}

impl Beyond {
    /// In words: "flux 770 lm, below LSL 780 lm".
    pub fn display_text(&self, info: &ColumnInfo) -> String {
        let writer = info.writer(decimals(&[self.value, self.limit]));
        let side = if self.value < self.limit { "below LSL" } else { "above USL" };
        format!("{} {}, {side} {}", self.column, writer.value(self.value), writer.value(self.limit))
    }
}

impl Entry {
    /// Holds an entry against its plan and what its columns can be. A value beyond belief is refused, unless it was confirmed with a
    /// remark; one that its column cannot have is refused in any case.
    ///
    /// # Errors
    /// [`Refusal`], the first there is.
    pub fn check<'r>(&self, plan: &CollectionPlan, rules: impl Fn(&str) -> Option<&'r Rules>) -> Result<(), Refusal> {
        if !(1..=100).contains(&self.key.chars().count()) {
            return Err(Refusal::Key);
        }
        if jiff::civil::DateTime::strptime("%Y-%m-%d %H:%M:%S", &self.time).is_err() {
            return Err(Refusal::Time { time: self.time.chars().take(40).collect() });
        }
        let said = self.identifiers.iter().map(|(column, said)| (column.as_str(), said)).chain([("remark", &self.remark)]);
        if let Some((column, _)) = said.into_iter().find(|(_, said)| said.chars().count() > WORDS) {
            return Err(Refusal::TooLong { column: column.to_owned() });
        }
        for one in plan.identifiers.iter().filter(|one| one.required && matches!(one.asked, Asked::Choice | Asked::Text)) {
            if self.identifiers.get(&one.column).is_none_or(|said| said.trim().is_empty()) {
                return Err(Refusal::Missing { column: one.column.clone() });
            }
        }
        let not_asked = |column: &String| Err(Refusal::NotAsked { column: column.clone() });
        let is_said = |column: &&String| {
            !plan.identifiers.iter().any(|one| one.column == **column && matches!(one.asked, Asked::Choice | Asked::Text))
        };
        if let Some(column) = self.identifiers.keys().find(is_said) {
            return not_asked(column);
        }
        let refused = |(column, said): (&String, &String)| rules(column)?.refuses_label(column, said.trim());
        let chosen = self.identifiers.iter().filter(|(_, said)| !said.trim().is_empty());
        if let Some(problem) = chosen.into_iter().find_map(refused) {
            return Err(Refusal::NotAllowed { problem });
        }
        let need = if plan.measurements.is_empty() { 0 } else { plan.pieces };
        if self.pieces.len() != need {
            return Err(Refusal::Pieces { have: self.pieces.len(), need });
        }
        for (place, piece) in self.pieces.iter().enumerate() {
            if let Some(column) = piece.keys().find(|column| !plan.measurements.iter().any(|one| one.column == **column)) {
                return not_asked(column);
            }
            for one in &plan.measurements {
                let Some(&value) = piece.get(&one.column) else { return Err(Refusal::Missing { column: one.column.clone() }) };
                if value.is_nan() || value.abs() > 1e100 {
                    return Err(Refusal::NoNumber { column: one.column.clone() });
                }
                let Some(rules) = rules(&one.column) else { continue };
                if let Some(problem) = rules.refuses(&one.column, value) {
                    return Err(Refusal::NotAllowed { problem });
                }
                if rules.doubts(value) && !self.confirmed {
                    let believed = rules.display_text();
                    return Err(Refusal::BeyondBelief { column: one.column.clone(), piece: place + 1, value, believed });
                }
                if rules.doubts(value) && self.remark.trim().is_empty() {
                    return Err(Refusal::Remark);
                }
            }
        }
        self.check_counts(plan)
    }

    fn check_counts(&self, plan: &CollectionPlan) -> Result<(), Refusal> {
        let counts = &plan.counts;
        let asked = counts.inspected.iter().chain(&counts.defectives).chain(&counts.defects).collect::<Vec<_>>();
        if let Some(column) = self.counts.keys().find(|column| !asked.contains(column)) {
            return Err(Refusal::NotAsked { column: column.clone() });
        }
        // A kind of defect that is not counted was not seen; what was inspected has to be said.
        for column in counts.inspected.iter().chain(&counts.defectives) {
            if !self.counts.contains_key(column) {
                return Err(Refusal::Missing { column: column.clone() });
            }
        }
        let of = |column: &Option<String>| column.as_ref().and_then(|column| self.counts.get(column)).copied();
        match (of(&counts.defectives), of(&counts.inspected)) {
            (Some(defectives), Some(inspected)) if defectives > inspected => Err(Refusal::MoreThanInspected { defectives, inspected }),
            _ => Ok(()),
        }
    }

    /// The rows that it becomes: a row for each piece, or one of what was counted. Cells are texts in the order of
    /// [`CollectionPlan::columns`]; what was counted stands in the first row.
    pub fn rows(&self, plan: &CollectionPlan, subgroup: i64) -> Vec<Vec<String>> {
        let row = |place: usize| {
            let identifier = |one: &super::Identifier| match one.asked {
                Asked::Time => self.time.clone(),
                Asked::Subgroup => subgroup.to_string(),
                Asked::Piece => (place + 1).to_string(),
                Asked::Choice | Asked::Text => self.identifiers.get(&one.column).map(|said| said.trim().to_owned()).unwrap_or_default(),
                Asked::Remark => self.remark.trim().to_owned(),
            };
            let measured = |one: &super::Measurement| {
                let value = self.pieces.get(place).and_then(|piece| piece.get(&one.column));
                value.map(f64::to_string).unwrap_or_default()
            };
            let counts = &plan.counts;
            let counted = |column: &String, usual: &str| match place {
                0 => self.counts.get(column).map_or_else(|| usual.to_owned(), u32::to_string),
                _ => String::new(),
            };
            let head = plan.identifiers.iter().map(identifier).chain(plan.measurements.iter().map(measured));
            let counted_of = counts.inspected.iter().chain(&counts.defectives).map(|column| counted(column, ""));
            head.chain(counted_of).chain(counts.defects.iter().map(|column| counted(column, "0"))).collect()
        };
        (0..self.pieces.len().max(1)).map(row).collect()
    }

    /// Its values beyond their specification limits.
    pub fn beyond(&self, limits: impl Fn(&str) -> Option<Limits>) -> Vec<Beyond> {
        let mut found = Vec::new();
        for (place, piece) in self.pieces.iter().enumerate() {
            for (column, &value) in piece {
                let Some(Limits { lsl, usl, .. }) = limits(column) else { continue };
                let low = lsl.filter(|lsl| value < *lsl);
                if let Some(limit) = low.or(usl.filter(|usl| value > *usl)) {
                    found.push(Beyond { column: column.clone(), piece: place + 1, value, limit });
                }
            }
        }
        found
    }
}
