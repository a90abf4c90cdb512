//! How a slot of a statement is filled.

use serde::Serialize;
use serde_json::Value;

use super::StudyError;
use acorn_data::frame::Kind;

/// Kinds of columns that hold numbers.
pub const NUMBERS: [Kind; 2] = [Kind::Number, Kind::WholeNumber];
/// Kinds of columns that group rows.
pub const GROUPING: [Kind; 4] = [Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
/// Kinds of columns that order rows.
pub const ORDERING: [Kind; 3] = [Kind::DateTime, Kind::WholeNumber, Kind::Number];

impl SlotKind {
    /// A column without which the question cannot be answered.
    pub fn needed(kinds: &[Kind], empty: &'static str) -> SlotKind {
        SlotKind::Column { kinds: kinds.to_vec(), empty, required: true, most: 1, several: "", ordered: false, rest: false }
    }

    /// A column that may be left out.
    pub fn optional(kinds: &[Kind], empty: &'static str) -> SlotKind {
        SlotKind::Column { kinds: kinds.to_vec(), empty, required: false, most: 1, several: "", ordered: false, rest: false }
    }

    /// Up to so many columns side by side, and when to choose several.
    pub fn many(self, up_to: usize, several: &'static str) -> SlotKind {
        match self {
            SlotKind::Column { kinds, empty, required, ordered, rest, .. } => {
                SlotKind::Column { kinds, empty, required, most: up_to, several, ordered, rest }
            }
            other => other,
        }
    }

    /// Columns whose order matters, and which are therefore moved where they stand.
    pub fn ordered(mut self) -> SlotKind {
        if let SlotKind::Column { ordered, .. } = &mut self {
            *ordered = true;
        }
        self
    }

    /// Left empty, it means every column that plays no other role.
    pub fn or_all(mut self) -> SlotKind {
        if let SlotKind::Column { rest, .. } = &mut self {
            *rest = true;
        }
        self
    }

    /// A number with what holds unless said otherwise.
    pub fn usually(usual: f64, words: &'static str, unset: &'static str, low: f64, high: f64) -> SlotKind {
        SlotKind::Number { words, unset, usual: Some(usual), low, high, whole: false, offered: Vec::new() }
    }

    /// A number that has to be given, or in a quiet slot may be.
    pub fn number(words: &'static str, unset: &'static str, low: f64, high: f64) -> SlotKind {
        SlotKind::Number { words, unset, usual: None, low, high, whole: false, offered: Vec::new() }
    }

    /// Whole numbers only.
    pub fn whole(self) -> SlotKind {
        match self {
            SlotKind::Number { words, unset, usual, low, high, offered, .. } => {
                SlotKind::Number { words, unset, usual, low, high, whole: true, offered }
            }
            other => other,
        }
    }

    /// Numbers that are chosen most.
    pub fn offering(self, numbers: &[f64]) -> SlotKind {
        match self {
            SlotKind::Number { words, unset, usual, low, high, whole, .. } => {
                SlotKind::Number { words, unset, usual, low, high, whole, offered: numbers.to_vec() }
            }
            other => other,
        }
    }

    /// One of some choices, the first unless said otherwise.
    pub fn choice(choices: Vec<Choice>) -> SlotKind {
        SlotKind::Choice { tag: "", choices }
    }
}

/// Fails in words when an option cannot be read.
pub type Check = fn(option: &str, given: &Value) -> Result<(), StudyError>;

/// How a slot is filled.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum SlotKind {
    /// A role: a column of one of these kinds.
    Column {
        /// Kinds that fit.
        kinds: Vec<Kind>,
        /// Shown while nothing is chosen and, for an optional role, offered as a choice.
        empty: &'static str,
        /// Whether the question cannot be answered without it.
        required: bool,
        /// How many columns may stand side by side.
        most: usize,
        /// When several are chosen; empty where there is but one.
        several: &'static str,
        /// Whether their order matters.
        ordered: bool,
        /// Whether, left empty, it means every column that plays no other role.
        rest: bool,
    },
    /// An option: one number.
    Number {
        /// How it reads in the statement, the number in braces: "{} at a time".
        words: &'static str,
        /// Shown while it is not set; without a usual value the question cannot be answered then.
        unset: &'static str,
        /// What holds while it is not set.
        usual: Option<f64>,
        /// Smallest allowed.
        low: f64,
        /// Largest allowed.
        high: f64,
        /// Whether it is a whole number.
        whole: bool,
        /// Numbers that are chosen most, one click each.
        offered: Vec<f64>,
    },
    /// An option: yes or no.
    Switch {
        /// What holds unless said otherwise.
        usual: bool,
        /// How yes reads.
        on: &'static str,
        /// How no reads.
        off: &'static str,
    },
    /// The specification limits of a column, which live with the column.
    Limits {
        /// The role whose column has them.
        of: &'static str,
    },
    /// Options that are typed over the figure, with an answer while typing.
    Typed {
        /// What is typed; of a list, into each of its rows.
        fields: Vec<Field>,
        /// The option that holds the rows of a list; absent when each field is an option of its own.
        list: Option<&'static str>,
        /// Most rows of a list.
        most: usize,
        /// What a row of a list is called.
        row_word: &'static str,
    },
    /// An option: a table of counts, typed or pasted over the figure, its rows and columns named there.
    Counts {
        /// Most rows, and most columns.
        most: usize,
    },
    /// An option: labels of a column that are to go by another name, so that several may be one.
    Renames {
        /// The role of that column.
        of: &'static str,
        /// Shown while none is given.
        unset: &'static str,
    },
    /// An option: a number for each label of a column.
    PerLabel {
        /// The role of that column.
        of: &'static str,
        /// Shown while none is given.
        unset: &'static str,
    },
    /// An option: a number for each point of a figure by its name, taken from another dataset.
    PerPoint {
        /// The role of the column that makes the points.
        of: &'static str,
        /// Shown while none is given.
        unset: &'static str,
    },
    /// An option: one label of a column, such as the one that counts.
    Label {
        /// The role of that column.
        of: &'static str,
        /// How it reads in the statement, the label in braces.
        words: &'static str,
        /// Shown while none is chosen.
        empty: &'static str,
        /// Whether the question cannot be answered without it.
        required: bool,
    },
    /// An option: stretches of rows by their ids, ends included.
    Rows {
        /// Shown while none is given.
        empty: &'static str,
    },
    /// An option: rows that are left out, each stretch of ids with a reason.
    LeftOut {
        /// Shown while none is.
        unset: &'static str,
    },
    /// An option that is built piece by piece in the figure, and read by the method that knows it.
    Built {
        /// What one piece is called: "input".
        one: &'static str,
        /// What several are called, or the whole when it has no pieces.
        many: &'static str,
        /// Shown while there is none.
        unset: &'static str,
        /// Whether the question cannot be answered without it.
        required: bool,
        /// Kinds of pieces, with what is typed of each.
        choices: Vec<Choice>,
        /// Fails in words when it cannot be read.
        #[serde(skip)]
        check: Check,
    },
    /// An option: places where a new phase begins, each with a name.
    Cuts {
        /// Most of them.
        most: usize,
    },
    /// An option: one of several choices, some with fields of their own.
    Choice {
        /// The key that tells the choices apart; empty when the option is the bare choice itself, "=" when a choice with a
        /// field is that field alone, such as `{"width": 0.5}`.
        tag: &'static str,
        /// The choices; the first is the default.
        choices: Vec<Choice>,
    },
    /// An option: any number of items of a list, some with a length.
    Checklist {
        /// What one is called: "pattern".
        one: &'static str,
        /// What several are called.
        many: &'static str,
        /// The key of an item's name.
        tag: &'static str,
        /// The items.
        items: Vec<Item>,
    },
}

/// One choice of a slot.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Choice {
    /// Its value.
    pub value: &'static str,
    /// How it reads in the statement, fields in braces, what shows only with a field in brackets: "values {first} to {last}".
    pub words: &'static str,
    /// A line to choose by.
    pub use_when: &'static str,
    /// Numbers that belong to it.
    pub fields: Vec<Field>,
    /// Roles and options that tell that it is meant while none is chosen.
    pub implied_by: &'static [&'static str],
}

/// Something to type that belongs to a choice.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Field {
    /// Its key.
    pub name: &'static str,
    /// Its label.
    pub label: &'static str,
    /// What is typed.
    pub kind: FieldKind,
    /// Whether the choice needs it.
    pub required: bool,
    /// Smallest allowed.
    pub low: Option<f64>,
}

/// What is typed into a field.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum FieldKind {
    /// A number.
    Number,
    /// A point number: counts from 0 in a specification and from 1 on the screen.
    Point,
    /// Words.
    Text,
    /// A day, as `2026-05-04`.
    Date,
}

/// One item of a checklist.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Item {
    /// Its value.
    pub value: &'static str,
    /// Its name in words.
    pub label: &'static str,
    /// What it finds, `{length}` in braces.
    pub finds: &'static str,
    /// Whether it is on unless said otherwise.
    pub default_on: bool,
    /// Its length, when it has one.
    pub length: Option<Length>,
}

/// The length of a pattern.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct Length {
    /// Unless said otherwise.
    pub default: usize,
    /// Smallest allowed.
    pub low: usize,
    /// Largest allowed.
    pub high: usize,
}

impl Choice {
    /// One without fields.
    pub fn plain(value: &'static str, words: &'static str, use_when: &'static str) -> Choice {
        Choice { value, words, use_when, fields: Vec::new(), implied_by: &[] }
    }

    /// One with fields.
    pub fn with(value: &'static str, words: &'static str, use_when: &'static str, fields: Vec<Field>) -> Choice {
        Choice { fields, ..Choice::plain(value, words, use_when) }
    }

    /// Meant when one of some roles or options is given.
    pub fn implied_by(self, implied_by: &'static [&'static str]) -> Choice {
        Choice { implied_by, ..self }
    }
}

impl Field {
    /// A number.
    pub fn number(name: &'static str, label: &'static str, required: bool, low: Option<f64>) -> Field {
        Field { name, label, kind: FieldKind::Number, required, low }
    }
}
