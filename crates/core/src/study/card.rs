//! How a method describes itself, so that the front end can render any statement without knowing the method.

use serde::Serialize;
use serde_json::Value;

use super::Spec;
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

    fn holds(&self, condition: &Condition, spec: &Spec) -> bool {
        let filled = |role: &str| spec.roles.contains_key(role);
        let among = |option: &&'static str| self.choice_of(option, spec).is_some_and(|value| condition.among.contains(&value));
        condition.empty_role.is_none_or(|role| !filled(role))
            && condition.filled_role.is_none_or(filled)
            && condition.option.as_ref().is_none_or(among)
    }

    /// The value of a plain choice; one not set has the first of its slot.
    fn choice_of<'s>(&self, option: &str, spec: &'s Spec) -> Option<&'s str> {
        let first = self.slots.iter().find_map(|slot| match &slot.filling {
            Filling::Choice { choices, .. } if slot.name == option => choices.first().map(|choice| choice.value),
            _ => None,
        });
        spec.options.get(option).filter(|given| !given.is_null()).map_or(first, Value::as_str)
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
    /// How it is filled.
    #[serde(flatten)]
    pub filling: Filling,
}

/// What must hold for a slot to show.
#[derive(Clone, Debug, Serialize)]
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
        /// Whether several columns may stand side by side.
        many: bool,
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
    },
    /// An option: yes or no, yes unless said otherwise.
    Switch {
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
    },
    /// An option: places where a new phase begins, each with a name.
    Cuts,
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

/// A formula of the method with its source.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Formula {
    /// What it gives.
    pub name: &'static str,
    /// The formula in plain notation.
    pub formula: &'static str,
    /// Author, year, place.
    pub source: &'static str,
}

/// How wide the bars of a heap may be.
pub fn bar_choices() -> Vec<Choice> {
    let field = |name, label, low| Field { name, label, kind: FieldKind::Number, required: true, low: Some(low) };
    vec![
        Choice { value: "auto", words: "found from the values", use_when: "Rounded to 1, 2 or 5; the usual way.", fields: vec![] },
        Choice {
            value: "width",
            words: "{width} wide",
            use_when: "You can also drag the edge of a bar.",
            fields: vec![field("width", "width", 0.0)],
        },
        Choice {
            value: "count",
            words: "{count} in number",
            use_when: "Over the range of the values.",
            fields: vec![field("count", "number of bars", 1.0)],
        },
    ]
}
