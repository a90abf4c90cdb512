//! How a method describes itself, so that the front end can render any statement without knowing the method.

use serde::Serialize;
use serde_json::Value;

use super::{Spec, StudyError};
use crate::frame::Kind;

/// A method as a question with a statement to fill in.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct MethodCard {
    /// Its name in a specification.
    pub method: &'static str,
    /// The question as people ask it.
    pub question: &'static str,
    /// Which part of the work it belongs to.
    pub part: &'static str,
    /// One line: use it when.
    pub use_when: &'static str,
    /// Terms of the trade that it is found by.
    pub found_by: &'static [&'static str],
    /// The statement, slots in braces, what shows only with a slot in brackets: "Chart {measure}[ out of {size}]."
    pub statement: &'static str,
    /// The slots of the statement.
    pub slots: Vec<Slot>,
    /// Formulas and sources, for the ledger.
    pub formulas: Vec<Formula>,
}

impl MethodCard {
    /// Whether the question as it stands cannot be asked without a table.
    pub fn needs_columns(&self, spec: &Spec) -> bool {
        self.shown(spec).iter().any(|slot| matches!(slot.filling, Filling::Column { required: true, .. }))
    }

    /// The slots that show in a statement.
    pub fn shown(&self, spec: &Spec) -> Vec<&Slot> {
        self.slots.iter().filter(|slot| slot.shows.iter().all(|condition| self.holds(condition, spec))).collect()
    }

    /// The names of its roles.
    pub fn roles(&self) -> impl Iterator<Item = &'static str> {
        self.slots.iter().filter(|slot| matches!(slot.filling, Filling::Column { .. })).map(|slot| slot.name)
    }

    /// The names of its options.
    pub fn options(&self) -> impl Iterator<Item = &'static str> {
        self.slots.iter().flat_map(Slot::options)
    }

    fn holds(&self, condition: &Condition, spec: &Spec) -> bool {
        let filled = |role: &str| spec.roles.contains_key(role);
        let among = |option: &&'static str| self.choice_of(option, spec).is_some_and(|value| condition.among.contains(&value));
        condition.empty_role.is_none_or(|role| !filled(role))
            && condition.filled_role.is_none_or(filled)
            && condition.single_role.is_none_or(|role| spec.roles.get(role).is_none_or(|columns| columns.names().len() <= 1))
            && condition.option.as_ref().is_none_or(among)
    }

    /// The value of a plain choice. One not set is told by what else is given, or is the first of its slot.
    fn choice_of<'s>(&self, option: &str, spec: &'s Spec) -> Option<&'s str> {
        let choices = self.slots.iter().find_map(|slot| match &slot.filling {
            Filling::Choice { choices, .. } if slot.name == option => Some(choices),
            _ => None,
        })?;
        let given = |name: &&str| spec.roles.contains_key(*name) || spec.options.get(*name).is_some_and(|value| !value.is_null());
        let told = || choices.iter().rev().find(|choice| choice.told_by.iter().any(given)).or(choices.first());
        spec.options.get(option).filter(|given| !given.is_null()).map_or_else(|| told().map(|choice| choice.value), Value::as_str)
    }
}

/// A changeable part of a statement.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Slot {
    /// Its place in the statement; several slots may share one, of which the first that shows is used.
    pub at: &'static str,
    /// The role or option it sets.
    pub name: &'static str,
    /// What it is, such as "measurement".
    pub label: &'static str,
    /// When it shows: all of these hold.
    pub shows: Vec<Condition>,
    /// Whether it stays out of the statement until it is filled.
    pub quiet: bool,
    /// Whether its columns are what the answer is about.
    pub subject: bool,
    /// Whether the method can help in choosing it.
    pub advises: bool,
    /// How it is filled.
    #[serde(flatten)]
    pub filling: Filling,
}

impl Slot {
    /// A slot that shows always and stands in the statement.
    pub fn new(name: &'static str, label: &'static str, filling: Filling) -> Slot {
        Slot { at: name, name, label, shows: Vec::new(), quiet: false, subject: false, advises: false, filling }
    }

    /// Out of the statement until it is filled.
    pub fn quiet(self) -> Slot {
        Slot { quiet: true, ..self }
    }

    /// At a place that it shares with others.
    pub fn at(self, at: &'static str) -> Slot {
        Slot { at, ..self }
    }

    /// What the answer is about.
    pub fn subject(self) -> Slot {
        Slot { subject: true, ..self }
    }

    /// Only while a plain choice has one of some values.
    pub fn on(mut self, option: &'static str, among: &[&'static str]) -> Slot {
        self.shows.push(Condition { option: Some(option), among: among.to_vec(), ..Condition::default() });
        self
    }

    /// Only with a role.
    pub fn with(mut self, role: &'static str) -> Slot {
        self.shows.push(Condition { filled_role: Some(role), ..Condition::default() });
        self
    }

    /// Only without a role.
    pub fn without(mut self, role: &'static str) -> Slot {
        self.shows.push(Condition { empty_role: Some(role), ..Condition::default() });
        self
    }

    /// Only while a role has no more than one column.
    pub fn single(mut self, role: &'static str) -> Slot {
        self.shows.push(Condition { single_role: Some(role), ..Condition::default() });
        self
    }

    /// The options that it sets.
    pub fn options(&self) -> impl Iterator<Item = &'static str> + use<> {
        let names: Vec<&'static str> = match &self.filling {
            Filling::Column { .. } => Vec::new(),
            Filling::Limits { .. } => vec!["lsl", "target", "usl"],
            Filling::Typed { list: Some(list), .. } => vec![*list],
            Filling::Typed { fields, list: None, .. } => fields.iter().map(|field| field.name).collect(),
            _ => vec![self.name],
        };
        names.into_iter()
    }

    /// Whether the question cannot be answered while it is as it is.
    pub fn waits(&self, spec: &Spec) -> bool {
        let given = |option: &str| spec.options.get(option).is_some_and(|value| !value.is_null());
        match &self.filling {
            Filling::Column { required, .. } => *required && spec.roles.get(self.name).is_none_or(|columns| columns.names().is_empty()),
            Filling::Number { usual, .. } => !self.quiet && usual.is_none() && !given(self.name),
            Filling::Label { required, .. } => *required && !given(self.name),
            Filling::Typed { list: Some(list), .. } => !given(list),
            Filling::Typed { fields, list: None, .. } => fields.iter().any(|field| field.required && !given(field.name)),
            _ => false,
        }
    }

    /// That it waits to be filled.
    pub fn missing(&self) -> StudyError {
        let choose = match &self.filling {
            Filling::Column { empty, .. } | Filling::Label { empty, .. } => empty.strip_prefix("choose ").unwrap_or(empty),
            Filling::Typed { fields, list: None, .. } => fields.iter().find(|field| field.required).map_or(self.label, |field| field.label),
            _ => self.label,
        };
        StudyError::MissingRole { role: self.label, choose }
    }
}

/// Kinds of columns that hold numbers.
pub const NUMBERS: [Kind; 2] = [Kind::Number, Kind::WholeNumber];
/// Kinds of columns that group rows.
pub const GROUPING: [Kind; 4] = [Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
/// Kinds of columns that order rows.
pub const ORDERING: [Kind; 3] = [Kind::DateTime, Kind::WholeNumber, Kind::Number];

impl Filling {
    /// A column without which the question cannot be answered.
    pub fn needed(kinds: &[Kind], empty: &'static str) -> Filling {
        Filling::Column { kinds: kinds.to_vec(), empty, required: true, most: 1 }
    }

    /// A column that may be left out.
    pub fn optional(kinds: &[Kind], empty: &'static str) -> Filling {
        Filling::Column { kinds: kinds.to_vec(), empty, required: false, most: 1 }
    }

    /// Up to so many columns side by side.
    pub fn many(self, up_to: usize) -> Filling {
        match self {
            Filling::Column { kinds, empty, required, .. } => Filling::Column { kinds, empty, required, most: up_to },
            other => other,
        }
    }

    /// A number with what holds unless said otherwise.
    pub fn usually(usual: f64, words: &'static str, unset: &'static str, low: f64, high: f64) -> Filling {
        Filling::Number { words, unset, usual: Some(usual), low, high, whole: false }
    }

    /// A number that has to be given, or in a quiet slot may be.
    pub fn number(words: &'static str, unset: &'static str, low: f64, high: f64) -> Filling {
        Filling::Number { words, unset, usual: None, low, high, whole: false }
    }

    /// Whole numbers only.
    pub fn whole(self) -> Filling {
        match self {
            Filling::Number { words, unset, usual, low, high, .. } => Filling::Number { words, unset, usual, low, high, whole: true },
            other => other,
        }
    }

    /// One of some choices, the first unless said otherwise.
    pub fn choice(choices: Vec<Choice>) -> Filling {
        Filling::Choice { tag: "", choices }
    }
}

/// What must hold for a slot to show.
#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Condition {
    /// An option whose value is among some; one not set has the first choice of its slot.
    pub option: Option<&'static str>,
    /// Those values.
    pub among: Vec<&'static str>,
    /// A role that is empty.
    pub empty_role: Option<&'static str>,
    /// A role that is filled.
    pub filled_role: Option<&'static str>,
    /// A role that has no more than one column.
    pub single_role: Option<&'static str>,
}

/// How a slot is filled.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(tag = "filling", rename_all = "kebab-case")]
pub enum Filling {
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
    /// An option: a number for each label of a column.
    PerLabel {
        /// The role of that column.
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
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
    pub told_by: &'static [&'static str],
}

/// Something to type that belongs to a choice.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
#[derive(Clone, Copy, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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
        Choice { value, words, use_when, fields: Vec::new(), told_by: &[] }
    }

    /// One with fields.
    pub fn with(value: &'static str, words: &'static str, use_when: &'static str, fields: Vec<Field>) -> Choice {
        Choice { fields, ..Choice::plain(value, words, use_when) }
    }

    /// Meant when one of some roles or options is given.
    pub fn told_by(self, told_by: &'static [&'static str]) -> Choice {
        Choice { told_by, ..self }
    }
}

impl Field {
    /// A number.
    pub fn number(name: &'static str, label: &'static str, required: bool, low: Option<f64>) -> Field {
        Field { name, label, kind: FieldKind::Number, required, low }
    }
}

/// A formula of the method with its source.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Formula {
    /// By which tables name it.
    pub id: &'static str,
    /// What it gives.
    pub name: &'static str,
    /// The formula in plain notation.
    pub formula: &'static str,
    /// Author, year, place.
    pub source: &'static str,
}

impl Formula {
    /// A formula.
    pub const fn new(id: &'static str, name: &'static str, formula: &'static str, source: &'static str) -> Formula {
        Formula { id, name, formula, source }
    }
}
