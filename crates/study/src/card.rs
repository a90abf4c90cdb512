//! How a method describes itself, so that the front end can render any statement without knowing the method.

use serde::Serialize;
use serde_json::Value;

pub use super::slot_kind::{Check, Choice, Field, FieldKind, GROUPING, Item, Length, NUMBERS, ORDERING, SlotKind};
use super::statement::usual_choice;
use super::{Decision, Entry, Spec, StudyError};

/// A method as a question with a statement to fill in.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
    /// What it claims where chance could deceive; verdicts and notes name them by id.
    pub decisions: &'static [Decision],
    /// Formulas and sources, for the ledger.
    pub formulas: Vec<Formula>,
    /// Terms that this method alone uses, for the glossary.
    #[serde(skip)]
    pub terms: &'static [Entry],
}

impl MethodCard {
    /// Whether the question as it stands cannot be asked without a table.
    pub fn needs_columns(&self, spec: &Spec) -> bool {
        self.shown(spec).iter().any(|slot| matches!(slot.kind, SlotKind::Column { required: true, .. }))
    }

    /// The slots that show in a statement.
    pub fn shown(&self, spec: &Spec) -> Vec<&Slot> {
        self.slots.iter().filter(|slot| self.shows(slot, spec)).collect()
    }

    /// Whether a slot shows in a statement.
    pub(crate) fn shows(&self, slot: &Slot, spec: &Spec) -> bool {
        slot.shows.iter().all(|condition| self.holds(condition, spec))
    }

    /// What a statement is about; `None` while nothing is chosen. The one place that decides it.
    pub fn subject(&self, spec: &Spec) -> Option<Subject> {
        let of = |slot: &Slot| {
            let columns = spec.roles.get(slot.name).map(|columns| columns.names().to_vec()).filter(|columns| !columns.is_empty())?;
            Some(Subject { kind: slot.subject?, columns })
        };
        self.shown(spec).into_iter().find_map(of)
    }

    /// The names of its roles.
    pub fn roles(&self) -> impl Iterator<Item = &'static str> {
        self.slots.iter().filter(|slot| matches!(slot.kind, SlotKind::Column { .. })).map(|slot| slot.name)
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
            && condition.unset_option.is_none_or(|option| spec.options.get(option).is_none_or(Value::is_null))
            && condition.option.as_ref().is_none_or(among)
    }

    /// The value of a plain choice. One not set is told by what else is given, or is the first of its slot.
    fn choice_of<'s>(&self, option: &str, spec: &'s Spec) -> Option<&'s str> {
        let choices = self.slots.iter().find_map(|slot| match &slot.kind {
            SlotKind::Choice { choices, .. } if slot.name == option => Some(choices),
            _ => None,
        })?;
        let usual = || usual_choice(choices, spec).map(|choice| choice.value);
        spec.options.get(option).filter(|given| !given.is_null()).map_or_else(usual, Value::as_str)
    }
}

/// What the columns hold that an answer is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum SubjectKind {
    /// Measured values.
    Measurement,
    /// How many there were: defects, defectives, events, or rows of a log.
    Count,
    /// Labels.
    Labels,
}

/// What an answer is about.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Subject {
    /// What its columns hold.
    pub kind: SubjectKind,
    /// The columns, in the order of the statement; several stand side by side.
    pub columns: Vec<String>,
}

impl Subject {
    /// The column, when it is one alone.
    pub fn column(&self) -> Option<&String> {
        if let [column] = &self.columns[..] { Some(column) } else { None }
    }
}

/// A changeable part of a statement.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
    /// What its columns hold, when they are what the answer is about.
    pub subject: Option<SubjectKind>,
    /// Whether the method can help in choosing it.
    pub advises: bool,
    /// How it is filled.
    #[serde(flatten)]
    pub kind: SlotKind,
}

impl Slot {
    /// A slot that shows always and stands in the statement.
    pub fn new(name: &'static str, label: &'static str, kind: SlotKind) -> Slot {
        Slot { at: name, name, label, shows: Vec::new(), quiet: false, subject: None, advises: false, kind }
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
    pub fn subject(self, kind: SubjectKind) -> Slot {
        Slot { subject: Some(kind), ..self }
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

    /// Only while an option is not given.
    pub fn without_option(mut self, option: &'static str) -> Slot {
        self.shows.push(Condition { unset_option: Some(option), ..Condition::default() });
        self
    }

    /// Only while a role has no more than one column.
    pub fn single(mut self, role: &'static str) -> Slot {
        self.shows.push(Condition { single_role: Some(role), ..Condition::default() });
        self
    }

    /// The options that it sets.
    pub fn options(&self) -> impl Iterator<Item = &'static str> + use<> {
        let names: Vec<&'static str> = match &self.kind {
            SlotKind::Column { .. } => Vec::new(),
            SlotKind::Limits { .. } => vec!["lsl", "target", "usl"],
            SlotKind::Typed { list: Some(list), .. } => vec![*list],
            SlotKind::Typed { fields, list: None, .. } => fields.iter().map(|field| field.name).collect(),
            _ => vec![self.name],
        };
        names.into_iter()
    }

    /// Whether it stands for every column of the data.
    pub fn takes_all(&self, spec: &Spec) -> bool {
        let empty = spec.roles.get(self.name).is_none_or(|columns| columns.names().is_empty());
        matches!(self.kind, SlotKind::Column { rest: true, .. }) && empty
    }

    /// Whether the question cannot be answered while it is as it is.
    pub fn waits(&self, spec: &Spec) -> bool {
        let given = |option: &str| spec.options.get(option).is_some_and(|value| !value.is_null());
        match &self.kind {
            SlotKind::Column { required, .. } => *required && spec.roles.get(self.name).is_none_or(|columns| columns.names().is_empty()),
            SlotKind::Number { usual, .. } => !self.quiet && usual.is_none() && !given(self.name),
            SlotKind::Label { required, .. } => *required && !given(self.name),
            SlotKind::Counts { .. } => !given(self.name),
            SlotKind::Built { required, .. } => {
                *required && spec.options.get(self.name).is_none_or(|given| given.is_null() || given.as_array().is_some_and(Vec::is_empty))
            }
            SlotKind::Typed { list: Some(list), .. } => {
                spec.options.get(*list).is_none_or(|rows| rows.is_null() || rows.as_array().is_some_and(Vec::is_empty))
            }
            SlotKind::Typed { fields, list: None, .. } => fields.iter().any(|field| field.required && !given(field.name)),
            _ => false,
        }
    }

    /// That it waits to be filled.
    pub fn missing(&self) -> StudyError {
        let choose = match &self.kind {
            SlotKind::Built { unset, .. } => unset,
            SlotKind::Column { empty, .. } | SlotKind::Label { empty, .. } => empty.strip_prefix("choose ").unwrap_or(empty),
            SlotKind::Typed { fields, list: None, .. } => {
                fields.iter().find(|field| field.required).map_or(self.label, |field| field.label)
            }
            _ => self.label,
        };
        StudyError::MissingRole { role: self.label, choose }
    }
}

/// What must hold for a slot to show.
#[derive(Clone, Debug, Default, Serialize, utoipa::ToSchema)]
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
    /// An option that is not given.
    pub unset_option: Option<&'static str>,
}

/// A formula of the method with its source.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
