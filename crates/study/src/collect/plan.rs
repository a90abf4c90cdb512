//! What is collected at a station: the plan as it is written, and what a plan must hold to.

use serde::{Deserialize, Serialize};

use super::alert::Way;

/// How an identifier comes about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Asked {
    /// The moment of the entry, filled in.
    Time,
    /// The number of the subgroup, counted on.
    Subgroup,
    /// The number of the piece in its subgroup, counted.
    Piece,
    /// One of a list.
    Choice,
    /// Words, such as a badge number, typed or scanned.
    Text,
    /// The remark of the entry.
    Remark,
}

/// Something that tells entries apart.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Identifier {
    /// The column that it goes into.
    pub column: String,
    /// How it comes about.
    pub asked: Asked,
    /// Whether an entry without it is refused.
    #[serde(default)]
    pub required: bool,
    /// Whether it is kept from entry to entry, or asked each time.
    #[serde(default)]
    pub remembered: bool,
    /// The list that it is chosen from, by its number.
    #[serde(default)]
    pub list: Option<i64>,
    /// Whether it names who makes the entry, and so who says what caused a signal.
    #[serde(default)]
    pub person: bool,
}

/// Something that is measured.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Measurement {
    /// The column that it goes into, which has its unit, decimals and limits, and says which values are believed.
    pub column: String,
    /// The channel of the gauge that measures it; absent for any.
    #[serde(default)]
    pub channel: Option<String>,
}

/// Something that is counted.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Counts {
    /// The column of how many were inspected.
    #[serde(default)]
    pub inspected: Option<String>,
    /// The column of how many of them are defective.
    #[serde(default)]
    pub defectives: Option<String>,
    /// A column of defects for each kind.
    #[serde(default)]
    pub defects: Vec<String>,
}

/// How often: one of minutes and pieces says it, the other is 0.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Every {
    /// Minutes from one to the next, counted from midnight.
    #[serde(default)]
    pub minutes: u32,
    /// Pieces made from one to the next, counted at each station.
    #[serde(default)]
    pub pieces: u32,
    /// Minutes, or pieces, after which one that is due is late.
    #[serde(default = "ten")]
    pub late_after: u32,
}

fn ten() -> u32 {
    10
}

/// A part of the working day, which lasts until the next begins.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Shift {
    /// What it is called.
    pub name: String,
    /// When it begins, in minutes after midnight.
    pub begins: u32,
}

impl Shift {
    /// Three shifts of eight hours.
    pub fn usual() -> Vec<Shift> {
        [("early", 6), ("late", 14), ("night", 22)].map(|(name, hour)| Shift { name: name.to_owned(), begins: hour * 60 }).to_vec()
    }
}

/// What calls for a reaction.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Occasion {
    /// A value beyond its specification limits.
    BeyondSpecification,
    /// A signal of the chart.
    Signal,
}

/// What is to be done on an occasion.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Reaction {
    /// The occasion.
    pub on: Occasion,
    /// What to do, in words.
    pub words: String,
    /// Of a signal: the pattern that it is about, by its name; absent for all.
    #[serde(default)]
    pub pattern: Option<String>,
    /// A picture, as a data address of a PNG, JPEG or SVG.
    #[serde(default)]
    pub picture: Option<String>,
}

/// A collection plan.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CollectionPlan {
    /// What it is called.
    pub name: String,
    /// What tells entries apart, in the order in which it is asked.
    #[serde(default)]
    pub identifiers: Vec<Identifier>,
    /// What is measured of each piece.
    #[serde(default)]
    pub measurements: Vec<Measurement>,
    /// Pieces of a subgroup, each of which becomes a row.
    #[serde(default = "one")]
    pub pieces: usize,
    /// Whether each reading of a gauge is an entry by itself, without anyone at the station.
    #[serde(default)]
    pub unattended: bool,
    /// What is counted.
    #[serde(default)]
    pub counts: Counts,
    /// How often; absent for whenever somebody measures.
    #[serde(default)]
    pub every: Option<Every>,
    /// The shifts of the day, in their order, by which missed ones are counted.
    #[serde(default = "Shift::usual")]
    pub shifts: Vec<Shift>,
    /// What is to be done when something is wrong.
    #[serde(default)]
    pub reactions: Vec<Reaction>,
    /// Causes to choose from when something is wrong.
    #[serde(default)]
    pub causes: Vec<String>,
    /// Who is told of what is wrong: addresses of web hooks or of mail.
    #[serde(default)]
    pub told: Vec<String>,
}

fn one() -> usize {
    1
}

/// Why a plan cannot be.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{0}")]
pub struct PlanProblem(pub String);

/// Pieces of a subgroup at most.
pub const PIECES_MOST: usize = 50;
/// Minutes between two at most: a week.
pub const MINUTES_MOST: u32 = 7 * 24 * 60;
/// Pieces between two at most.
pub const PIECES_BETWEEN_MOST: u32 = 1_000_000;
/// Shifts of a day at most.
pub const SHIFTS_MOST: usize = 8;
/// Identifiers, measurements, kinds of defects, reactions and addressees at most, each.
pub const MANY: usize = 40;
/// Characters of a cause at most.
pub const CAUSE_MOST: usize = 100;
/// Characters of a text at most.
pub const WORDS_MOST: usize = 2000;
/// Characters of a picture's data address at most.
pub const PICTURE_MOST: usize = 700_000;

impl CollectionPlan {
    /// All columns that it fills, in the order of identifiers, measurements and counts.
    pub fn columns(&self) -> Vec<&str> {
        let Counts { inspected, defectives, defects } = &self.counts;
        let counts = inspected.iter().chain(defectives).chain(defects);
        let measured = self.measurements.iter().map(|one| &one.column);
        self.identifiers.iter().map(|one| &one.column).chain(measured).chain(counts).map(String::as_str).collect()
    }

    /// The same with its columns called otherwise.
    #[must_use]
    pub fn renamed(mut self, called: impl Fn(&str) -> String) -> CollectionPlan {
        let Counts { inspected, defectives, defects } = &mut self.counts;
        let counts = inspected.iter_mut().chain(defectives).chain(defects);
        let measured = self.measurements.iter_mut().map(|one| &mut one.column);
        for column in self.identifiers.iter_mut().map(|one| &mut one.column).chain(measured).chain(counts) {
            *column = called(column);
        }
        self
    }

    /// Whether something is counted.
    pub fn counts_anything(&self) -> bool {
        self.counts != Counts::default()
    }

    /// Refuses a plan that cannot be followed.
    ///
    /// # Errors
    /// [`PlanProblem`] in words.
    pub fn check(&self) -> Result<(), PlanProblem> {
        let wrong = |problem: String| Err(PlanProblem(problem));
        let columns = self.columns();
        if self.measurements.is_empty() && !self.counts_anything() {
            return wrong("nothing is measured or counted; choose a column for it".to_owned());
        }
        if let Some((place, column)) = columns.iter().enumerate().find(|(place, column)| columns[..*place].contains(column)) {
            return wrong(format!("“{column}” is filled twice, as number {} too", place + 1));
        }
        let many = [
            self.identifiers.len(),
            self.measurements.len(),
            self.counts.defects.len(),
            self.reactions.len(),
            self.causes.len(),
            self.told.len(),
        ];
        if many.iter().any(|many| *many > MANY) {
            return wrong(format!("a plan has {MANY} of each at most"));
        }
        if !(1..=PIECES_MOST).contains(&self.pieces) {
            return wrong(format!("a subgroup has 1 to {PIECES_MOST} pieces"));
        }
        let asks = self.identifiers.iter().any(|one| one.required && matches!(one.asked, Asked::Choice | Asked::Text));
        if self.unattended && (self.pieces != 1 || self.measurements.len() != 1 || self.counts_anything() || asks) {
            return wrong("readings become entries by themselves only where one measurement of one piece is all that is asked".to_owned());
        }
        if let Some(Every { minutes, pieces, late_after }) = self.every {
            let step = match (minutes, pieces) {
                (1..=MINUTES_MOST, 0) => minutes,
                (0, 1..=PIECES_BETWEEN_MOST) => pieces,
                _ => return wrong(format!("from one to the next pass 1 to {MINUTES_MOST} minutes, or 1 to {PIECES_BETWEEN_MOST} pieces")),
            };
            if late_after >= step {
                return wrong("it must be late before the next is due".to_owned());
            }
        }
        let named = |shift: &Shift| (1..=40).contains(&shift.name.trim().chars().count()) && shift.begins < 24 * 60;
        let in_order = self.shifts.windows(2).all(|pair| pair[0].begins < pair[1].begins);
        if self.shifts.len() > SHIFTS_MOST || !in_order || !self.shifts.iter().all(named) {
            return wrong(format!(
                "up to {SHIFTS_MOST} shifts have a name of 1 to 40 characters and begin one after the other within a day"
            ));
        }
        if let Some(address) = self.told.iter().find(|address| Way::of(address).is_none()) {
            return wrong(format!("“{address}” is neither an e-mail address nor a web address"));
        }
        if self.causes.iter().any(|cause| cause.trim().is_empty() || cause.chars().count() > CAUSE_MOST) {
            return wrong(format!("a cause has 1 to {CAUSE_MOST} characters"));
        }
        for reaction in &self.reactions {
            if reaction.words.chars().count() > WORDS_MOST {
                return wrong(format!("a reaction has {WORDS_MOST} characters at most"));
            }
            if let Some(picture) = &reaction.picture {
                let is_picture = ["data:image/png;base64,", "data:image/jpeg;base64,", "data:image/svg+xml;base64,"];
                if !is_picture.iter().any(|kind| picture.starts_with(kind)) || picture.len() > PICTURE_MOST {
                    return wrong("a picture is a PNG, JPEG or SVG of half a megabyte at most".to_owned());
                }
            }
        }
        match self.identifiers.iter().find(|one| one.asked == Asked::Choice && one.list.is_none()) {
            Some(one) => wrong(format!("“{}” is chosen from a list, and no list is named", one.column)),
            None => Ok(()),
        }
    }

    /// What to do on an occasion: what is written for its pattern first, then what is written for all.
    pub fn reactions_to(&self, on: Occasion, pattern: Option<&str>) -> Vec<Reaction> {
        let of = |reaction: &&Reaction| reaction.on == on && (reaction.pattern.is_none() || reaction.pattern.as_deref() == pattern);
        let mut found: Vec<Reaction> = self.reactions.iter().filter(of).cloned().collect();
        found.sort_by_key(|reaction| reaction.pattern.is_none());
        found
    }
}
