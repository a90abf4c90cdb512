//! A statement read against the card of its method: the one place where roles, kinds, bounds and choices are checked.

use std::sync::Arc;

use serde::de::DeserializeOwned;
use serde_json::{Map, Value};

use super::card::{Choice, Field, FieldKind, MethodCard, Slot, SlotKind};
use super::count_table::CountTable;
use super::differing_limits::limits_differ;
use super::left_out::LeftOut;
use super::reading::{bad, numbers};
use super::{RoleColumns, Spec, StudyError, in_range};
use acorn_data::frame::{Column, Frame, Kind, Values};
use acorn_maths::describe::extent;
use acorn_maths::{LARGEST, SMALLEST};

/// A statement that fits its card: columns are there and of the right kind, options within their bounds.
#[derive(Clone, Copy)]
pub struct ValidatedSpec<'a> {
    card: &'static MethodCard,
    frame: &'a Frame,
    spec: &'a Spec,
}

impl<'a> ValidatedSpec<'a> {
    /// Reads a statement.
    ///
    /// # Errors
    /// [`StudyError::UnknownRole`], [`StudyError::UnknownColumn`], [`StudyError::WrongKind`], [`StudyError::MissingRole`] for
    /// a slot that waits to be filled, [`StudyError::UnknownOption`], [`StudyError::BadOption`], [`StudyError::OutOfRange`].
    pub fn read(card: &'static MethodCard, frame: &'a Frame, spec: &'a Spec) -> Result<ValidatedSpec<'a>, StudyError> {
        let filled = ValidatedSpec { card, frame, spec };
        for (role, columns) in &spec.roles {
            filled.check_role(role, columns)?;
        }
        for (option, given) in spec.options.iter().filter(|(_, given)| !given.is_null()) {
            let known = || StudyError::UnknownOption { option: option.clone(), known: card.options().collect() };
            let slot = filled.slot(|slot| slot.options().any(|name| name == option)).ok_or_else(known)?;
            check_option(slot, option, given)?;
        }
        let waits = |slot: &&Slot| slot.waits(spec);
        match card.shown(spec).into_iter().find(waits) {
            Some(slot) => Err(slot.missing()),
            None => Ok(filled),
        }
    }

    /// The slot that shows, or else one that would in another statement.
    fn slot(&self, is_meant: impl Fn(&&Slot) -> bool) -> Option<&'static Slot> {
        self.card.shown(self.spec).into_iter().find(|slot| is_meant(slot)).or_else(|| self.card.slots.iter().find(|slot| is_meant(slot)))
    }

    fn check_role(&self, role: &str, columns: &RoleColumns) -> Result<(), StudyError> {
        let known = || StudyError::UnknownRole { role: role.to_owned(), known: self.card.roles().collect() };
        let is_meant = |slot: &&Slot| slot.name == role && matches!(slot.kind, SlotKind::Column { .. });
        let slot = self.slot(is_meant).ok_or_else(known)?;
        let SlotKind::Column { kinds, most, .. } = &slot.kind else { return Err(known()) };
        if columns.names().len() > *most {
            let problem = format!(
                "takes {}, not {}",
                if *most == 1 { "one column".to_owned() } else { format!("up to {most} columns") },
                columns.names().len()
            );
            return Err(StudyError::BadOption { option: role.to_owned(), problem });
        }
        for name in columns.names() {
            let unknown = || StudyError::UnknownColumn { role: slot.label.to_owned(), column: name.clone() };
            let column = self.frame.column(name).ok_or_else(unknown)?;
            // What groups may be of any kind; what is offered for it is not.
            if !kinds.contains(&column.kind) && !kinds.contains(&Kind::Category) {
                return Err(StudyError::WrongKind {
                    role: slot.label,
                    column: name.clone(),
                    found: column.kind.display_text(),
                    needed: kinds[0].display_text(),
                });
            }
            // Labels are not computed with.
            if kinds.contains(&Kind::Number) || !kinds.contains(&Kind::Category) {
                check_size(column)?;
            }
        }
        Ok(())
    }

    /// The data.
    pub fn frame(&self) -> &'a Frame {
        self.frame
    }

    /// Rows left out of what the answer rests on, by id.
    pub fn omit(&self) -> &'a [i64] {
        &self.spec.omit
    }

    /// The column that the question is about, the first of several.
    pub fn subject(&self) -> Option<&'a Column> {
        self.card.slots.iter().filter(|slot| slot.subject.is_some()).find_map(|slot| self.column(slot.name))
    }

    /// The columns of a role; none when it is empty.
    pub fn columns(&self, role: &str) -> Vec<&'a Column> {
        let names = self.spec.roles.get(role).map(RoleColumns::names).unwrap_or_default();
        names.iter().filter_map(|name| self.frame.column(name)).collect()
    }

    /// The columns of all roles, each once.
    pub fn named_columns(&self) -> impl Iterator<Item = &'a Column> {
        let frame = self.frame;
        let names: std::collections::BTreeSet<&String> = self.spec.roles.values().flat_map(RoleColumns::names).collect();
        frame.columns().iter().filter(move |column| names.contains(&column.name))
    }

    /// The column of a role; `None` when it is empty.
    pub fn column(&self, role: &str) -> Option<&'a Column> {
        self.columns(role).into_iter().next()
    }

    /// The column of a role that this statement cannot do without.
    ///
    /// # Errors
    /// [`StudyError::MissingRole`].
    pub fn needed(&self, role: &'static str) -> Result<&'a Column, StudyError> {
        let missing = || self.slot(|slot| slot.name == role).map_or(StudyError::MissingRole { role, choose: role }, |slot| slot.missing());
        self.column(role).ok_or_else(missing)
    }

    /// The numbers of the column of a role that this statement cannot do without.
    ///
    /// # Errors
    /// [`StudyError::MissingRole`], [`StudyError::WrongKind`].
    pub fn numbers(&self, role: &'static str) -> Result<&'a Arc<[f64]>, StudyError> {
        numbers(self.needed(role)?, role)
    }

    /// A number; what holds unless said otherwise when it is not given.
    pub fn number(&self, option: &str) -> Option<f64> {
        let usual = || {
            self.slot(|slot| slot.name == option).and_then(|slot| if let SlotKind::Number { usual, .. } = slot.kind { usual } else { None })
        };
        self.given(option).and_then(Value::as_f64).or_else(usual)
    }

    /// The specification limits of a column: those of the statement, which stand together, else the column's own.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when the lower one does not lie below the upper one; [`StudyError::LimitsDiffer`] when the rows have
    /// several.
    pub fn limits(&self, column: &Column) -> Result<[Option<f64>; 2], StudyError> {
        let limits = match self.typed_limits() {
            None => limits_differ(column).map_or(Ok([column.info.lsl, column.info.usl]), Err)?,
            Some(limits) => limits,
        };
        match limits {
            [Some(lsl), Some(usl)] if lsl >= usl => Err(bad("usl", format!("USL {usl} must lie above LSL {lsl}"))),
            limits => Ok(limits),
        }
    }

    /// The specification limits that the statement itself gives.
    pub fn typed_limits(&self) -> Option<[Option<f64>; 2]> {
        let limits = [self.number("lsl"), self.number("usl")];
        limits.iter().any(Option::is_some).then_some(limits)
    }

    /// A whole number; what holds unless said otherwise when it is not given.
    pub fn whole(&self, option: &str) -> Option<usize> {
        self.number(option).map(|number| number as usize)
    }

    /// Whether a switch is on.
    pub fn is_on(&self, option: &str) -> bool {
        let usual = || self.slot(|slot| slot.name == option).is_some_and(|slot| matches!(slot.kind, SlotKind::Switch { usual: true, .. }));
        self.given(option).and_then(Value::as_bool).unwrap_or_else(usual)
    }

    /// An option as the method takes it; `None` when it is not given.
    ///
    /// # Errors
    /// [`StudyError::BadOption`].
    pub fn option<T: DeserializeOwned>(&self, option: &str) -> Result<Option<T>, StudyError> {
        let bad = |error: serde_json::Error| bad(option, error.to_string());
        self.given(option).map(|value| T::deserialize(value).map_err(bad)).transpose()
    }

    /// Whether an option is given.
    pub fn is_given(&self, option: &str) -> bool {
        self.given(option).is_some()
    }

    fn given(&self, option: &str) -> Option<&'a Value> {
        self.spec.options.get(option).filter(|value| !value.is_null())
    }
}

/// Refuses numbers that cannot be computed with.
fn check_size(column: &Column) -> Result<(), StudyError> {
    let Values::Number(values) = &column.values else { return Ok(()) };
    let fits = |value: f64| value.abs() <= LARGEST;
    match extent(values) {
        Some([low, high]) if !(fits(low) && fits(high)) => {
            let row = values.iter().position(|value| !value.is_nan() && !fits(*value)).unwrap_or_default();
            let problem = format!("{:e} is too large to compute with; the largest is {LARGEST:e}", values[row]);
            Err(StudyError::BadValue { column: column.name.clone(), row, problem })
        }
        Some([low, high]) if (low != 0.0 || high != 0.0) && low.abs().max(high.abs()) < SMALLEST => {
            let row = values.iter().position(|value| value.abs() > 0.0).unwrap_or_default();
            let problem = format!("{:e} is too small to compute with, as are all others; the smallest is {SMALLEST:e}", values[row]);
            Err(StudyError::BadValue { column: column.name.clone(), row, problem })
        }
        _ => Ok(()),
    }
}

fn check_option(slot: &Slot, option: &str, given: &Value) -> Result<(), StudyError> {
    match &slot.kind {
        SlotKind::Column { .. } => Err(bad(option, "is a role; name its column there")),
        SlotKind::Number { low, high, whole, .. } => number(option, given, *low, *high, *whole),
        SlotKind::Limits { .. } => number(option, given, f64::MIN, f64::MAX, false),
        SlotKind::Switch { .. } if given.is_boolean() => Ok(()),
        SlotKind::Switch { .. } => Err(bad(option, "is true or false")),
        SlotKind::Choice { tag, choices } => choice(option, given, tag, choices),
        SlotKind::Label { .. } if given.is_string() => Ok(()),
        SlotKind::Label { .. } => Err(bad(option, format!("{given} is not a label"))),
        SlotKind::PerLabel { .. } | SlotKind::PerPoint { .. } => {
            let numbers = given.as_object().ok_or_else(|| bad(option, "gives a number for each label"))?;
            numbers.iter().try_for_each(|(label, value)| number(&format!("{option}.{label}"), value, f64::MIN, f64::MAX, false))
        }
        SlotKind::Counts { most } => CountTable::read(option, given, *most).map(|_| ()),
        SlotKind::Renames { .. } => {
            let names = given.as_object().ok_or_else(|| bad(option, "gives a name for each name"))?;
            names.values().try_for_each(|name| if name.is_string() { Ok(()) } else { Err(bad(option, format!("{name} is no name"))) })
        }
        SlotKind::Built { check, .. } => check(option, given),
        SlotKind::Rows { .. } => serde_json::from_value::<Vec<[i64; 2]>>(given.clone())
            .map(|_| ())
            .map_err(|_| bad(option, "gives stretches of rows, each by its first and its last id")),
        SlotKind::LeftOut { .. } => {
            let read = serde_json::from_value::<Vec<LeftOut>>(given.clone());
            let sound = read.is_ok_and(|all| all.iter().all(|one| !one.why.trim().is_empty()));
            if sound { Ok(()) } else { Err(bad(option, "gives stretches of rows, each with the reason why they are left out")) }
        }
        SlotKind::Cuts { most } => each(option, given, *most, |cut| {
            fields(option, cut, &[("first", FieldKind::Point, true, Some(0.0)), ("name", FieldKind::Text, false, None)], None)
        }),
        SlotKind::Typed { fields: typed, list: Some(_), most, .. } => {
            each(option, given, *most, |row| with_fields(option, row, typed, None))
        }
        SlotKind::Typed { fields: typed, list: None, .. } => {
            let field = typed.iter().find(|field| field.name == option);
            field.map_or(Ok(()), |field| typed_value(option, given, field.kind, field.low))
        }
        SlotKind::Checklist { tag, items, .. } => each(option, given, usize::MAX, |item| {
            let named = item.get(*tag).and_then(Value::as_str).ok_or_else(|| bad(option, format!("each has a {tag}")))?;
            let known = items.iter().find(|item| item.value == named);
            match (known.and_then(|item| item.length), item.get("length").filter(|length| !length.is_null())) {
                (Some(bounds), Some(length)) => number(named, length, bounds.low as f64, bounds.high as f64, true),
                (None, Some(length)) => number(named, length, 1.0, 1e6, true),
                _ => Ok(()),
            }
        }),
    }
}

fn number(option: &str, given: &Value, low: f64, high: f64, whole: bool) -> Result<(), StudyError> {
    let value = given.as_f64().ok_or_else(|| bad(option, format!("{given} is not a number")))?;
    if whole && value.fract() != 0.0 {
        return Err(bad(option, format!("{value} is not a whole number")));
    }
    in_range(option, value, low, high).map(|_| ())
}

fn each(option: &str, given: &Value, most: usize, check: impl Fn(&Map<String, Value>) -> Result<(), StudyError>) -> Result<(), StudyError> {
    let list = given.as_array().ok_or_else(|| bad(option, "is a list"))?;
    in_range(option, list.len() as f64, 0.0, most as f64)?;
    list.iter().try_for_each(|item| check(item.as_object().ok_or_else(|| bad(option, format!("{item} has no fields")))?))
}

fn choice(option: &str, given: &Value, tag: &str, choices: &[Choice]) -> Result<(), StudyError> {
    let named = |value: &str| {
        let known =
            || bad(option, format!("“{value}” is none of: {}", choices.iter().map(|choice| choice.value).collect::<Vec<_>>().join(", ")));
        choices.iter().find(|choice| choice.value == value).ok_or_else(known)
    };
    match given {
        Value::String(value) => match &named(value)?.fields[..] {
            [] => Ok(()),
            [first, ..] => Err(bad(option, format!("“{value}” needs {}", first.label))),
        },
        Value::Object(given) if tag == "=" => {
            let alone = given.keys().next().map(String::as_str).unwrap_or_default();
            let meant = choices.iter().find(|choice| choice.value == alone || choice.fields.iter().any(|field| field.name == alone));
            with_fields(option, given, &meant.map_or_else(|| named(alone), Ok)?.fields, None)
        }
        Value::Object(given) if !tag.is_empty() => {
            let value = given.get(tag).and_then(Value::as_str).ok_or_else(|| bad(option, format!("has no “{tag}”")))?;
            with_fields(option, given, &named(value)?.fields, Some(tag))
        }
        _ => Err(bad(option, format!("{given} is not a choice"))),
    }
}

fn with_fields(option: &str, given: &Map<String, Value>, known: &[Field], tag: Option<&str>) -> Result<(), StudyError> {
    let known: Vec<_> = known.iter().map(|field| (field.name, field.kind, field.required, field.low)).collect();
    fields(option, given, &known, tag)
}

fn fields(
    option: &str,
    given: &Map<String, Value>,
    known: &[(&str, FieldKind, bool, Option<f64>)],
    tag: Option<&str>,
) -> Result<(), StudyError> {
    if let Some(name) = given.keys().find(|name| Some(name.as_str()) != tag && !known.iter().any(|(known, ..)| known == name)) {
        return Err(bad(option, format!("“{name}” is not one of its fields")));
    }
    for (name, kind, required, low) in known {
        match given.get(*name).filter(|value| !value.is_null()) {
            Some(value) => typed_value(&format!("{option}.{name}"), value, *kind, *low)?,
            None if *required => return Err(bad(option, format!("needs “{name}”"))),
            None => {}
        }
    }
    Ok(())
}

fn typed_value(option: &str, given: &Value, kind: FieldKind, low: Option<f64>) -> Result<(), StudyError> {
    match kind {
        FieldKind::Number => number(option, given, low.unwrap_or(f64::MIN), f64::MAX, false),
        FieldKind::Point => number(option, given, low.unwrap_or(0.0), 1e15, true),
        FieldKind::Date if given.as_str().is_some_and(|day| day.parse::<jiff::civil::Date>().is_err()) => {
            Err(bad(option, format!("{given} is not a day; write it as 2026-05-04")))
        }
        FieldKind::Text | FieldKind::Date if given.is_string() => Ok(()),
        FieldKind::Text | FieldKind::Date => Err(bad(option, format!("{given} is not text"))),
    }
}
