//! Which chart? From the columns and at most three plain questions: one chart, why, and why not its neighbours.

use std::collections::{BTreeMap, HashSet};

use serde_json::{Map, Value, json};

use super::counts;
use super::explanation::{explained_by_order, scores};
use super::kind::ChartKind;
use super::panel::Panel;
use super::params::{Inspected, Params};
use super::parts::Dispersion;
use super::points::Points;
use acorn_data::frame::{Column, Frame, Kind, NO_CODE, Values};
use acorn_maths::describe;
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::words::{ValueFormat, about};
use acorn_study::RoleColumns;
use acorn_study::advice::{Advice, AdviceAnswer, AdviceQuestion, NotThis, Proposal};
use acorn_study::reading::numbers;

/// Answers given so far, by the key of their question.
pub type Answers = BTreeMap<String, String>;

/// Samples larger than this are better told by their sd than by their range.
const RANGE_UP_TO: f64 = 8.0;
/// Samples of more rows than this are stretches of something else.
const SAMPLE_UP_TO: f64 = 50.0;

/// What the columns offer.
struct Found<'f> {
    measured: Option<&'f Column>,
    count: Option<&'f Column>,
    size: Option<&'f Column>,
    sample: Option<(&'f Column, f64)>,
    /// Columns of one subgroup's readings, a row a subgroup; empty when there are none.
    side: Vec<&'f Column>,
    order: Option<&'f Column>,
    label: Option<&'f Column>,
}

/// Proposes a chart.
pub fn advise(frame: &Frame, answers: &Answers) -> Advice {
    let found = look(frame);
    let said = |key: &str| answers.get(key).map(String::as_str);
    let counted = match (said("kind"), found.measured, found.count) {
        (Some("counted"), _, Some(_)) => true,
        (Some("measured"), Some(_), _) => false,
        (_, Some(measured), Some(count)) => {
            // A measurement with limits is likelier the matter than a running number.
            let guess = !measured.info.is_limited() && found.size.is_some();
            let answers = [
                ("measured", format!("A measured value, such as {}", measured.name)),
                ("counted", format!("A count, such as {}", count.name)),
            ];
            let question = ask("kind", "What do you chart?", answers);
            let proposal =
                if guess { of_counts(frame, &found, count, answers_none()) } else { of_values(&found, measured, answers_none()) };
            return Advice { question: Some(question), proposal: Some(proposal.proposal) };
        }
        (_, None, Some(_)) => true,
        (_, Some(_), None) => false,
        (_, None, None) => return of_log(frame),
    };
    let staged = match (counted, found.count, found.measured) {
        (true, Some(count), _) if said("counting") != Some("neither") => of_counts(frame, &found, count, answers),
        (_, Some(count), None) => of_values(&found, count, answers),
        (_, _, Some(measured)) => of_values(&found, measured, answers),
        (_, None, None) => return Advice::default(),
    };
    Advice { question: staged.question, proposal: Some(staged.proposal) }
}

/// A log without numbers: its rows are counted by the day, or by the first column of labels that come again.
fn of_log(frame: &Frame) -> Advice {
    let moment = frame.columns().iter().find(|column| column.kind == Kind::DateTime);
    let again =
        |column: &&Column| column.kind == Kind::Category && frame.coded(column, frame.rows() / 2).is_ok_and(|coded| coded.labels.len() > 7);
    let Some(per) = moment.or_else(|| frame.columns().iter().find(again)) else { return Advice::default() };
    let how = if moment.is_some() { "day" } else { "label" };
    let proposal = Proposal {
        words: ChartKind::C.display_text(),
        why: format!("There is no number: a row each time, counted by the {how} of {}.", per.name),
        others: vec![NotThis { words: ChartKind::U.display_text(), why: "Takes how many were inspected each time.".to_owned() }],
        roles: BTreeMap::from([("per".to_owned(), RoleColumns::One(per.name.clone()))]),
        options: Map::from_iter([("chart".to_owned(), ChartKind::C.name().into())]),
    };
    Advice { question: None, proposal: Some(proposal) }
}

struct Staged {
    question: Option<AdviceQuestion>,
    proposal: Proposal,
}

fn answers_none() -> &'static Answers {
    static NONE: Answers = Answers::new();
    &NONE
}

fn ask<const N: usize>(key: &'static str, words: &'static str, answers: [(&'static str, String); N]) -> AdviceQuestion {
    let answers = answers.into_iter().map(|(value, words)| AdviceAnswer { value, words }).collect();
    AdviceQuestion { key, words, answers }
}

fn proposal(
    kind: ChartKind,
    why: String,
    others: &[(ChartKind, &str)],
    roles: &[(&str, Option<&Column>)],
    options: &[(&str, Value)],
) -> Proposal {
    let role = |(name, column): &(&str, Option<&Column>)| column.map(|column| ((*name).to_owned(), RoleColumns::One(column.name.clone())));
    let mut all = Map::from_iter([("chart".to_owned(), json!(kind.name()))]);
    all.extend(options.iter().map(|(name, value)| ((*name).to_owned(), value.clone())));
    Proposal {
        words: kind.display_text(),
        why,
        others: others.iter().map(|(kind, why)| NotThis { words: kind.display_text(), why: (*why).to_owned() }).collect(),
        roles: roles.iter().filter_map(role).collect(),
        options: all,
    }
}

/// A measured value: one at a time, or a few together.
fn of_values(found: &Found, measure: &Column, answers: &Answers) -> Staged {
    let said = answers.get("together").map(String::as_str);
    let beside = found.side.iter().any(|column| column.name == measure.name);
    let few = match said {
        Some(said) => said == "few",
        None => beside || found.sample.is_some(),
    };
    let question = said.is_none().then(|| {
        let few = match (&found.side[..], found.sample) {
            ([first, .., last], _) if beside => format!("A few together, {} to {} side by side", first.name, last.name),
            (_, Some((column, _))) => format!("A few together, by {}", column.name),
            _ => "A few together".to_owned(),
        };
        ask("together", "One value at a time or a few together?", [("one", "One value at a time".to_owned()), ("few", few)])
    });
    let roles = |sample| [("measure", Some(measure)), ("subgroup", sample), ("order", found.order)];
    if !few {
        let why = format!("{} comes one value at a time, so neighbours tell its short-term spread.", measure.name);
        let others = [
            (ChartKind::XbarR, "It needs a few pieces measured together."),
            (ChartKind::Ewma, "Better for small lasting shifts, once the process is known."),
            (ChartKind::Run, "It shows order but has no limits."),
        ];
        return Staged { question, proposal: proposal(ChartKind::Individuals, why, &others, &roles(None), &[]) };
    }
    let (column, size) = match found.sample {
        _ if beside => (None, found.side.len() as f64),
        Some((column, size)) => (Some(column), size),
        None => (None, 5.0),
    };
    let options: Vec<(&str, Value)> = if column.is_none() && !beside { vec![("subgroup_size", json!(size))] } else { Vec::new() };
    let together = match (&found.side[..], column) {
        ([first, .., last], _) if beside => {
            format!("{} to {} stand side by side, each row is a subgroup of {size:.0} readings", first.name, last.name)
        }
        (_, Some(column)) => format!("about {size:.0} pieces belong to each {}", column.name),
        _ => "a few pieces are taken together".to_owned(),
    };
    let (kind, why, others): (ChartKind, String, [(ChartKind, &str); 3]) = if size > RANGE_UP_TO {
        let why = format!("Since {together}, their sd uses all of them, where a range would use two.");
        (
            ChartKind::XbarS,
            why,
            [
                (ChartKind::XbarR, "A range wastes most of a large subgroup."),
                (ChartKind::XbarBetween, "For subgroups that differ by nature, such as batches."),
                (ChartKind::Individuals, "It would mix the spread within subgroups with that between them."),
            ],
        )
    } else {
        let why =
            format!("Since {together}, the spread within them tells what chance does, and means show shifts sooner than individuals.");
        (
            ChartKind::XbarR,
            why,
            [
                (ChartKind::XbarS, "For subgroups of nine or more."),
                (ChartKind::XbarBetween, "For subgroups that differ by nature, such as batches."),
                (ChartKind::Individuals, "It would mix the spread within subgroups with that between them."),
            ],
        )
    };
    let mut proposal = proposal(kind, why, &others, &roles(column), &options);
    if beside {
        let names = found.side.iter().map(|column| column.name.clone()).collect();
        proposal.roles.insert("measure".to_owned(), RoleColumns::Many(names));
    }
    Staged { question, proposal }
}

/// A count: of bad pieces or of blemishes, on a number inspected that changes or does not.
fn of_counts(frame: &Frame, found: &Found, count: &Column, answers: &Answers) -> Staged {
    let said = |key: &str| answers.get(key).map(String::as_str);
    let pieces = said("counting") != Some("defects");
    let varies = match (said("changes"), found.size) {
        (Some(said), _) => said == "yes",
        (None, Some(size)) => !constant(size),
        (None, None) => true,
    };
    let question = if said("counting").is_none() {
        let answers = [
            ("pieces", "Defectives: each is good or bad".to_owned()),
            ("defects", "Defects: a piece may have several".to_owned()),
            ("neither", format!("Neither: {} is a measurement", count.name)),
        ];
        Some(ask("counting", "Do you count defectives or defects?", answers))
    } else if found.size.is_none() && said("changes").is_none() {
        let answers = [("yes", "Yes, it changes".to_owned()), ("no", "No, always as many".to_owned())];
        Some(ask("changes", "Does the number inspected change?", answers))
    } else {
        None
    };
    let plain = match (pieces, varies) {
        (true, true) => ChartKind::P,
        (true, false) => ChartKind::Np,
        (false, true) => ChartKind::U,
        (false, false) => ChartKind::C,
    };
    let size = found.size.filter(|_| plain != ChartKind::C);
    let roles = [("count", Some(count)), ("size", size), ("order", found.order), ("label", found.label)];
    let what = if pieces { "pieces are good or bad" } else { "a piece may have several defects" };
    let scatter = dispersion(frame, plain, Some(count), size);
    // Where changes of level are the scatter, limits widened by it would hide them.
    if let Some((ratio, p, _)) = scatter.filter(|(_, p, by_order)| *p < VERY_UNLIKELY && size.is_some() && !by_order) {
        let kind = if pieces { ChartKind::PPrime } else { ChartKind::UPrime };
        let why = format!(
            "Subgroups scatter {} times as much as counting alone explains ({}), so plain limits would flag nearly everything.",
            about(ratio.sqrt()),
            acorn_maths::words::chance(p)
        );
        let others =
            [(plain, "Its limits are too tight for this scatter."), (ChartKind::Ratio, "It ignores that subgroups differ in size.")];
        return Staged { question, proposal: proposal(kind, why, &others, &roles, &[]) };
    }
    let changes = if varies { "the number inspected changes" } else { "the number inspected stays the same" };
    let why = format!("For {}, {what} and {changes}.", count.name);
    let others: &[(ChartKind, &str)] = match plain {
        ChartKind::P => &[
            (ChartKind::Np, "It needs the same number inspected each time."),
            (ChartKind::PPrime, "Needed only when subgroups scatter more than counting explains."),
        ],
        ChartKind::Np => &[
            (ChartKind::P, "For a number inspected that changes."),
            (ChartKind::G, "For defectives so rare that most subgroups have none."),
        ],
        ChartKind::U => &[
            (ChartKind::C, "It needs the same amount of product each time."),
            (ChartKind::UPrime, "Needed only when subgroups scatter more than counting explains."),
        ],
        _ => &[
            (ChartKind::U, "For an amount of product that changes."),
            (ChartKind::T, "For defects so rare that most subgroups have none."),
        ],
    };
    Staged { question, proposal: proposal(plain, why, others, &roles, &[]) }
}

/// Dispersion of counts as a plain chart would see it: its ratio and chance, and whether changes of level explain it.
fn dispersion(frame: &Frame, kind: ChartKind, count: Option<&Column>, size: Option<&Column>) -> Option<(f64, f64, bool)> {
    let inspected = size.and_then(|size| numbers(size, "number inspected").ok()).map(Inspected::Column);
    let params = Params { inspected, ..Params::plain(frame, kind, vec![count?]) };
    let points = Points::arrange(&params).ok()?;
    let parts = counts::build(&params, &points).ok()?;
    let Dispersion { ratio, p, .. } = parts.diagnostics.dispersion?;
    let plotted = Panel::new(parts.panels.into_iter().next()?, &points.phases, ValueFormat::default());
    Some((ratio, p, explained_by_order(&scores(&plotted))))
}

fn values(column: &Column) -> Option<&[f64]> {
    if let Values::Number(values) = &column.values { Some(values) } else { None }
}

fn constant(column: &Column) -> bool {
    values(column).and_then(describe::extent).is_some_and(|[low, high]| low == high)
}

/// Whether whole numbers may be counts: none negative, some twice or out of order, unlike running numbers.
fn may_count(column: &Column) -> bool {
    let Some(values) = values(column) else { return false };
    let running = values.windows(2).all(|pair| pair[1] >= pair[0]);
    column.kind == Kind::WholeNumber && !running && values.iter().all(|value| value.is_nan() || *value >= 0.0)
}

fn look(frame: &Frame) -> Found<'_> {
    let columns = frame.columns();
    let limited = |column: &&Column| column.info.is_limited();
    let measurable = || columns.iter().filter(|column| column.kind == Kind::Number && values(column).is_some());
    let measured = measurable().find(limited).or_else(|| measurable().next());
    let whole: Vec<&Column> = columns.iter().filter(|column| may_count(column)).collect();
    let sample = columns.iter().filter(|column| measured.is_none_or(|measured| measured.name != column.name)).filter_map(sample_size);
    let sample = sample.min_by(|a, b| a.1.total_cmp(&b.1));
    // The number inspected is never below the count and mostly well above it.
    let holds = |size: &Column, count: &Column| {
        let (Some(sizes), Some(counts)) = (values(size), values(count)) else { return false };
        let means = describe::moments(sizes).mean.zip(describe::moments(counts).mean);
        means.is_some_and(|(size, count)| size > 2.0 * count)
            && sizes.iter().zip(counts).all(|(size, count)| size.is_nan() || count.is_nan() || size >= count)
    };
    let pair =
        whole.iter().find_map(|count| whole.iter().find(|size| size.name != count.name && holds(size, count)).map(|size| (*count, *size)));
    let count =
        pair.map(|(count, _)| count).or(whole.iter().find(|column| sample.is_none_or(|(sample, _)| sample.name != column.name)).copied());
    let times = columns.iter().find(|column| column.kind == Kind::DateTime);
    let label = columns.iter().find(|column| matches!(column.kind, Kind::Category | Kind::Text) && all_distinct(column));
    let side = if sample.is_some() { Vec::new() } else { measured.map_or_else(Vec::new, |measured| side_by_side(columns, measured)) };
    Found { measured, count, size: pair.map(|(_, size)| size), sample, side, order: times, label }
}

/// Most readings of one subgroup that stand side by side.
const SIDE_UP_TO: usize = 25;

/// The columns that hold further readings of what one column holds: their names differ by a running number at the end only
/// (x1 to x5, reading 1 to reading 3), and whose values are of one size.
fn side_by_side<'f>(columns: &'f [Column], measured: &Column) -> Vec<&'f Column> {
    let numbered = |name: &str| -> Option<(String, u32)> {
        let stem = name.trim_end_matches(|letter: char| letter.is_ascii_digit());
        name[stem.len()..].parse().ok().map(|number| (stem.trim_end_matches([' ', '_', '-', '#']).to_lowercase(), number))
    };
    let Some((stem, _)) = numbered(&measured.name) else { return Vec::new() };
    let reach = |column: &Column| values(column).and_then(describe::extent);
    let Some([low, high]) = reach(measured) else { return Vec::new() };
    // Streams may lie apart, as cavities do; other characteristics are of another size.
    let near = |[from, to]: [f64; 2]| {
        let ratio = (from + to) / (low + high);
        (from <= high && to >= low) || (0.5..=2.0).contains(&ratio)
    };
    let alike = |column: &&Column| {
        let same = numbered(&column.name).is_some_and(|(other, _)| other == stem) && column.info.unit == measured.info.unit;
        same && column.kind.is_numeric() && reach(column).is_some_and(near)
    };
    let mut found: Vec<&Column> = columns.iter().filter(alike).collect();
    found.sort_by_key(|column| numbered(&column.name).map(|(_, number)| number));
    let running = found.windows(2).all(|pair| numbered(&pair[1].name).map(|(_, k)| k) == numbered(&pair[0].name).map(|(_, k)| k + 1));
    if running && (2..=SIDE_UP_TO).contains(&found.len()) { found } else { Vec::new() }
}

fn all_distinct(column: &Column) -> bool {
    let Values::Label { codes, .. } = &column.values else { return false };
    let mut seen = HashSet::new();
    codes.iter().all(|code| *code != NO_CODE && seen.insert(*code))
}

/// A column whose equal values stand together in small blocks that never come back: the mean size of its blocks.
fn sample_size(column: &Column) -> Option<(&Column, f64)> {
    let keys: Vec<u64> = match &column.values {
        Values::Label { codes, .. } => codes.iter().map(|code| (*code).into()).collect(),
        Values::Number(values) if column.kind == Kind::WholeNumber => values.iter().map(|value| value.to_bits()).collect(),
        Values::Time(times) => times.iter().map(|time| time.cast_unsigned()).collect(),
        Values::Number(_) => return None,
    };
    let mut seen = HashSet::new();
    let starts = keys.iter().enumerate().filter(|(row, key)| *row == 0 || keys[row - 1] != **key);
    let mut blocks = 0.0;
    for (_, key) in starts {
        if !seen.insert(*key) {
            return None;
        }
        blocks += 1.0;
    }
    let size = keys.len() as f64 / blocks;
    (blocks > 1.0 && (2.0..=SAMPLE_UP_TO).contains(&size)).then_some((column, size))
}
