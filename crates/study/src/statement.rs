//! How a statement reads: its text and slots in order, what stands in each slot, and whether one still waits to be filled. The page
//! draws what this says.

use acorn_data::frame::ColumnInfo;
use acorn_maths::words::{counted, typed};
use serde::Serialize;
use serde_json::{Map, Value};

use super::card::{Choice, FieldKind, MethodCard, Slot, SlotKind};
use super::{RoleColumns, Spec};

/// What is known of a column that a statement may name.
#[derive(Clone, Copy, Debug)]
pub struct NamedColumn<'c> {
    /// Its number, by which limit tables name it.
    pub id: i64,
    /// Its name.
    pub name: &'c str,
    /// Its unit and limits.
    pub info: &'c ColumnInfo,
}

/// A statement as it reads.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Statement {
    /// Text and slots in order.
    pub parts: Vec<StatementPart>,
    /// Every slot that shows, also those that can be added to the sentence.
    pub slots: Vec<SlotState>,
    /// Whether it can be answered as it is.
    pub complete: bool,
}

/// A piece of a statement.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StatementPart {
    /// How it reads.
    pub text: String,
    /// The slot that it is, by its place among the slots of the card; absent for plain text.
    pub slot: Option<usize>,
}

/// What stands in a slot.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct SlotState {
    /// Its place among the slots of the card.
    pub slot: usize,
    /// How it reads.
    pub text: String,
    /// Whether it waits to be filled.
    pub waits: bool,
    /// Whether anything was chosen.
    pub filled: bool,
    /// Whether it stays out of the sentence until it is filled.
    pub offered: bool,
    /// Of a choice: the one that holds.
    pub choice: Option<&'static str>,
}

impl Statement {
    /// The sentence, for captions and exports.
    pub fn words(&self) -> String {
        self.parts.iter().map(|part| part.text.as_str()).collect()
    }
}

impl MethodCard {
    /// How a specification reads, with what is known of its columns.
    pub fn statement(&self, spec: &Spec, columns: &[NamedColumn<'_>]) -> Statement {
        let slots: Vec<SlotState> = self.visible(spec).map(|place| self.state(place, spec, columns)).collect();
        let at = |name: &str| slots.iter().find(|state| self.slots[state.slot].at == name && !state.offered);
        let mut parts: Vec<StatementPart> = Vec::new();
        for (segment, optional) in segments(self.statement) {
            let pieces: Vec<Option<StatementPart>> = pieces(segment)
                .filter(|piece| !matches!(piece, Piece::Text("")))
                .map(|piece| match piece {
                    Piece::Text(text) => Some(StatementPart { text: text.to_owned(), slot: None }),
                    Piece::Name(name) => at(name).map(|state| StatementPart { text: state.text.clone(), slot: Some(state.slot) }),
                })
                .collect();
            if !optional || pieces.iter().all(Option::is_some) {
                parts.extend(pieces.into_iter().flatten());
            }
        }
        let waits = |part: &StatementPart| part.slot.is_some_and(|slot| self.slots[slot].waits(spec));
        Statement { complete: !parts.iter().any(waits), parts, slots }
    }

    /// The specification without choices that no longer fit, as when another role takes the place of the one that offered them.
    #[must_use]
    pub fn fitted(&self, mut spec: Spec) -> Spec {
        let unfit = |slot: &&Slot| match (&slot.kind, spec.options.get(slot.name)) {
            (SlotKind::Choice { choices, .. }, Some(Value::String(given))) => choices.iter().all(|choice| choice.value != given),
            _ => false,
        };
        let unfit: Vec<&str> = self.visible(&spec).map(|place| &self.slots[place]).filter(unfit).map(|slot| slot.name).collect();
        spec.options.retain(|name, _| !unfit.contains(&name.as_str()));
        spec
    }

    /// The slots that show, by their places: the first that shows of those that share a place in the sentence.
    fn visible(&self, spec: &Spec) -> impl Iterator<Item = usize> {
        let shown: Vec<usize> = (0..self.slots.len()).filter(|place| self.shows(&self.slots[*place], spec)).collect();
        let first = |place: &usize| shown.iter().find(|other| self.slots[**other].at == self.slots[*place].at) == Some(place);
        shown.iter().copied().filter(first).collect::<Vec<_>>().into_iter()
    }

    fn state(&self, place: usize, spec: &Spec, columns: &[NamedColumn<'_>]) -> SlotState {
        let slot = &self.slots[place];
        let Reading { text, waits, filled, choice } = slot.reading(spec, columns);
        SlotState { slot: place, text, waits: waits || slot.waits(spec), filled, offered: slot.quiet && !filled, choice }
    }
}

/// How a slot reads by itself.
struct Reading {
    text: String,
    /// Whether it waits though the question can be answered without it.
    waits: bool,
    filled: bool,
    choice: Option<&'static str>,
}

fn reads(text: impl Into<String>, filled: bool) -> Reading {
    Reading { text: text.into(), waits: false, filled, choice: None }
}

/// Rows in stretches of ids.
fn rows_in(stretches: &Value) -> usize {
    let long = |stretch: &Value| Some(stretch.get(1)?.as_i64()? - stretch.get(0)?.as_i64()? + 1);
    stretches.as_array().map_or(0, |all| all.iter().filter_map(long).sum::<i64>().max(0) as usize)
}

impl Slot {
    fn reading(&self, spec: &Spec, columns: &[NamedColumn<'_>]) -> Reading {
        let none = Value::Null;
        let given = spec.options.get(self.name).unwrap_or(&none);
        let pieces = given.as_array().map_or(0, Vec::len);
        let named = given.as_object().map_or(pieces, Map::len);
        match &self.kind {
            SlotKind::Column { empty, ordered, .. } => column_reading(spec.roles.get(self.name), empty, *ordered),
            SlotKind::Number { words, unset, .. } => match given.as_f64() {
                Some(value) => reads(words.replace("{}", &typed(value)), true),
                None => reads(*unset, false),
            },
            SlotKind::Switch { usual, on, off } => {
                let is_on = given.as_bool().unwrap_or(*usual);
                reads(if is_on { *on } else { *off }, is_on != *usual)
            }
            SlotKind::Label { words, empty, .. } => match given.as_str() {
                Some(label) => reads(words.replace("{}", label), true),
                None => reads(*empty, false),
            },
            SlotKind::PerLabel { unset, .. } | SlotKind::PerPoint { unset, .. } => match named {
                0 => reads(*unset, false),
                count => reads(format!("{count} of their own"), true),
            },
            SlotKind::Rows { empty } => match rows_in(given) {
                0 => reads(*empty, false),
                count => reads(counted(count, "row", "rows"), true),
            },
            SlotKind::LeftOut { unset } => {
                let listed = given.as_array().into_iter().flatten().filter_map(|one| one.get("rows"));
                match listed.map(rows_in).sum() {
                    0 => reads(*unset, false),
                    count => reads(counted(count, "row", "rows"), true),
                }
            }
            SlotKind::Renames { unset, .. } => match named {
                0 => reads(*unset, false),
                count => reads(format!("{} counted as another", counted(count, "name", "names")), true),
            },
            SlotKind::Counts { .. } => {
                let long = |name: &str| given.get(name).and_then(Value::as_array).map_or(0, Vec::len);
                let text = format!("{} by {} counts", long("rows"), long("columns"));
                reads(if given.is_null() { "type it below".to_owned() } else { text }, true)
            }
            SlotKind::Cuts { .. } => {
                let begins = |cut: &&Value| cut.get("first").and_then(Value::as_u64).is_some_and(|first| first > 0);
                let cuts = given.as_array().map_or(0, |cuts| cuts.iter().filter(begins).count());
                reads(format!("{} phases cut by hand", cuts + 1), cuts > 0)
            }
            SlotKind::Choice { tag, choices } => choice_reading(tag, choices, given, spec),
            SlotKind::Limits { of } => limits_reading(spec, columns, of),
            SlotKind::Built { one, many, unset, .. } => match given {
                Value::Null => reads(*unset, false),
                Value::Array(pieces) if pieces.is_empty() => reads(*unset, false),
                Value::Array(pieces) => reads(counted(pieces.len(), one, many), true),
                _ => reads(*many, true),
            },
            SlotKind::Typed { list: Some(list), row_word, .. } => {
                let count = spec.options.get(*list).and_then(Value::as_array).map_or(0, Vec::len);
                let text = if count == 0 { "type them below".to_owned() } else { counted(count, row_word, &format!("{row_word}s")) };
                reads(text, true)
            }
            SlotKind::Typed { fields, list: None, .. } => {
                let said = fields.iter().filter_map(|field| Some(format!("{} {}", field.label, written(spec.options.get(field.name)?)?)));
                let said: Vec<String> = said.collect();
                reads(if said.is_empty() { "type them below".to_owned() } else { said.join(", ") }, true)
            }
            SlotKind::Checklist { one, many, tag, items } => {
                let offered = |entry: &&Value| items.iter().any(|item| entry.get(*tag).and_then(Value::as_str) == Some(item.value));
                let usual = || items.iter().filter(|item| item.default_on).count();
                let on = given.as_array().map_or_else(usual, |entries| entries.iter().filter(offered).count());
                reads(if on == 0 { format!("no {one}") } else { counted(on, one, many) }, spec.options.contains_key(self.name))
            }
        }
    }
}

fn column_reading(columns: Option<&RoleColumns>, empty: &str, ordered: bool) -> Reading {
    match columns.map_or(&[][..], RoleColumns::names) {
        [] => reads(empty, false),
        names if ordered => reads(names.join(" › "), true),
        [first, second, more @ ..] if more.len() > 1 => reads(format!("{first}, {second} and {} more", more.len()), true),
        names => reads(names.join(", "), true),
    }
}

/// A number or text as it is typed; nothing for what is neither.
fn written(value: &Value) -> Option<String> {
    match value {
        Value::Number(number) => number.as_f64().map(typed),
        Value::String(text) if !text.is_empty() => Some(text.clone()),
        _ => None,
    }
}

fn choice_reading(tag: &str, choices: &[Choice], given: &Value, spec: &Spec) -> Reading {
    let fields = given.as_object();
    // A choice with a field that is that field alone: {"width": 0.5}.
    let alone = || fields.and_then(|fields| fields.keys().next()).map(String::as_str);
    let value = given.as_str().or_else(|| if tag == "=" { alone() } else { fields?.get(tag)?.as_str() });
    let chosen = choices.iter().find(|choice| Some(choice.value) == value).or_else(|| usual_choice(choices, spec));
    let Some(choice) = chosen else { return reads("", false) };
    let part = |name: &str| {
        let field = choice.fields.iter().find(|field| field.name == name)?;
        match fields?.get(name)? {
            // Points count from 1 on the screen.
            Value::Number(point) if field.kind == FieldKind::Point => point.as_f64().map(|point| typed(point + 1.0)),
            value => written(value),
        }
    };
    let text = with_parts(choice.words, part);
    Reading { text, waits: false, filled: choices.first().is_some_and(|first| first.value != choice.value), choice: Some(choice.value) }
}

/// The choice that is meant while none is set.
pub(crate) fn usual_choice<'c>(choices: &'c [Choice], spec: &Spec) -> Option<&'c Choice> {
    let given = |name: &&str| spec.roles.contains_key(*name) || spec.options.get(*name).is_some_and(|value| !value.is_null());
    choices.iter().rev().find(|choice| choice.implied_by.iter().any(given)).or(choices.first())
}

/// "1.1 to 1.3 mm", "at most 2.5 mL/min": the limits of the column, or those that the statement has of its own.
fn limits_reading(spec: &Spec, columns: &[NamedColumn<'_>], of: &str) -> Reading {
    let own = ["lsl", "usl"].map(|name| spec.options.get(name).and_then(Value::as_f64));
    let has_own = own.iter().any(Option::is_some);
    let name = spec.roles.get(of).and_then(|columns| columns.names().first());
    let column = columns.iter().find(|column| Some(column.name) == name.map(String::as_str));
    let info = column.map(|column| column.info);
    if info.is_none() && !has_own {
        return reads("its limits", true);
    }
    if let Some(table) = info.and_then(|info| info.limit_table.as_ref()).filter(|_| !has_own) {
        let chooser = columns.iter().find(|column| Some(column.id) == table.by.or(table.since));
        return reads(format!("its limits by {}", chooser.map_or("product", |column| column.name)), true);
    }
    let [lsl, usl] = if has_own { own } else { [info.and_then(|info| info.lsl), info.and_then(|info| info.usl)] };
    let text = match (lsl, usl) {
        (None, None) => return Reading { waits: true, ..reads("limits not set yet", false) },
        (None, Some(usl)) => format!("at most {}", typed(usl)),
        (Some(lsl), None) => format!("at least {}", typed(lsl)),
        (Some(lsl), Some(usl)) => format!("{} to {}", typed(lsl), typed(usl)),
    };
    match info.and_then(|info| info.unit.as_ref()) {
        Some(unit) => reads(format!("{text} {unit}"), true),
        None => reads(text, true),
    }
}

/// A piece of a template: text, or a name that stood in braces.
enum Piece<'t> {
    Text(&'t str),
    Name(&'t str),
}

fn pieces(template: &str) -> impl Iterator<Item = Piece<'_>> {
    template.split('{').enumerate().flat_map(|(place, part)| match part.split_once('}') {
        Some((name, text)) if place > 0 => vec![Piece::Name(name), Piece::Text(text)],
        _ => vec![Piece::Text(part)],
    })
}

/// The segments of a template, with whether each stood in brackets.
fn segments(template: &str) -> impl Iterator<Item = (&str, bool)> {
    template.split('[').enumerate().flat_map(|(place, part)| match part.split_once(']') {
        Some((optional, text)) if place > 0 => vec![(optional, true), (text, false)],
        _ => vec![(part, false)],
    })
}

/// A template with its names filled in; what is in brackets shows only with all of its names: "known[, set by {name}]".
fn with_parts(template: &str, part: impl Fn(&str) -> Option<String>) -> String {
    let mut whole = String::new();
    for (segment, optional) in segments(template) {
        let filled: Vec<Option<String>> = pieces(segment)
            .map(|piece| match piece {
                Piece::Text(text) => Some(text.to_owned()),
                Piece::Name(name) => part(name),
            })
            .collect();
        if !optional || filled.iter().all(Option::is_some) {
            filled.into_iter().for_each(|text| whole += text.as_deref().unwrap_or("…"));
        }
    }
    whole
}
