//! Decisions on data in which there is nothing to find: how often each is made all the same, against the rate on its card.
//!
//! Each run asks 60 data sets of every row at its middle size, `cargo xtask fuzz` 1,000 at all three; `ACORN_DECISIONS=1000` asks as
//! many and writes the table into `docs/decisions.md`, with `ACORN_DECISIONS_OF=compare` only the lines with that word.

mod charts;
mod comparisons;
mod gauges;
mod models;

use std::collections::BTreeMap;
use std::path::PathBuf;

use acorn_core::methods::{self, Computed};
use acorn_study::Decision;
use acorn_testing::{ask, frame};
use rand::distr::Distribution;
use rand::{RngExt, SeedableRng};
use rand_distr::{Exp1, LogNormal, StandardNormal, StudentT};
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use serde_json::Value;

type Random = Xoshiro256PlusPlus;

/// What values are drawn from.
#[derive(Clone, Copy, PartialEq)]
enum Shape {
    Normal,
    Exponential,
    Lognormal,
    HeavyTailed,
    Rounded,
    /// Labels or counts, drawn by the row itself.
    Counted,
}

const MEASURED: &[Shape] = &[Shape::Normal, Shape::Exponential, Shape::Lognormal, Shape::HeavyTailed, Shape::Rounded];
const NORMAL: &[Shape] = &[Shape::Normal];
const COUNTED: &[Shape] = &[Shape::Counted];

impl Shape {
    fn name(self) -> &'static str {
        match self {
            Shape::Normal => "normal",
            Shape::Exponential => "exponential",
            Shape::Lognormal => "lognormal",
            Shape::HeavyTailed => "t, 4 df",
            Shape::Rounded => "read in steps of sd/2",
            Shape::Counted => "counts",
        }
    }

    fn one(self, random: &mut Random) -> f64 {
        match self {
            Shape::Normal | Shape::Counted => StandardNormal.sample(random),
            Shape::Exponential => Exp1.sample(random),
            Shape::Lognormal => LogNormal::new(0.0, 0.7).unwrap().sample(random),
            Shape::HeavyTailed => StudentT::new(4.0).unwrap().sample(random),
            Shape::Rounded => {
                let value: f64 = StandardNormal.sample(random);
                (2.0 * value).round() / 2.0
            }
        }
    }

    fn values(self, random: &mut Random, n: usize) -> Vec<f64> {
        (0..n).map(|_| (self.one(random) * 1e4).round() / 1e4).collect()
    }
}

/// Data of one kind, and the decisions that are asked of them.
struct Row {
    of: &'static str,
    sizes: [usize; 3],
    shapes: &'static [Shape],
    ask: fn(&mut Random, Shape, usize) -> Asked,
    claims: Vec<Claim>,
    /// One data set of so many is asked, where an answer takes long.
    one_of: u64,
}

/// Columns, the limits of each, and the question.
type Asked = (Value, [Option<f64>; 2], Value);

/// A decision, asked of data of one kind.
struct Claim {
    id: &'static str,
    /// Where it stands in the numbers, for a decision that stays silent beside another.
    made: Option<fn(&Computed) -> bool>,
    /// Words that stand beside it where it is made more often than it states.
    says: Option<&'static str>,
}

impl Row {
    fn new(of: &'static str, sizes: [usize; 3], shapes: &'static [Shape], ask: fn(&mut Random, Shape, usize) -> Asked) -> Row {
        Row { of, sizes, shapes, ask, claims: Vec::new(), one_of: 1 }
    }

    /// Asked of a sixth of the data sets: an answer takes long.
    fn costly(self) -> Row {
        Row { one_of: 6, ..self }
    }

    fn claims(self, ids: &[&'static str]) -> Row {
        ids.iter().fold(self, |row, id| row.claim(Claim { id, made: None, says: None }))
    }

    /// The decision named last, with words beside it.
    fn beside(mut self, words: &'static str) -> Row {
        if let Some(claim) = self.claims.last_mut() {
            claim.says = Some(words);
        }
        self
    }

    /// A decision that is found in the numbers.
    fn made(self, id: &'static str, made: fn(&Computed) -> bool) -> Row {
        self.claim(Claim { id, made: Some(made), says: None })
    }

    fn claim(mut self, claim: Claim) -> Row {
        self.claims.push(claim);
        self
    }

    /// Of each claim whether it is made, and whether without the words beside it.
    fn made_of(&self, shape: Shape, n: usize, seed: u64) -> Vec<[bool; 2]> {
        let (columns, [lsl, usl], spec) = (self.ask)(&mut Random::seed_from_u64(91_000 + seed), shape, n);
        let limits: Vec<_> = columns.as_object().unwrap().keys().map(|name| (name.as_str(), lsl, usl)).collect();
        let computed = ask(&frame(&columns, &limits), &spec).unwrap();
        let said = |words: &str| {
            let has = |text: &str| text.contains(words);
            computed.notes.iter().any(|note| has(&note.sentence) || note.detail.as_deref().is_some_and(has))
        };
        let of_claim = |claim: &Claim| {
            let names = |id: Option<&str>| id == Some(claim.id);
            let made = match claim.made {
                Some(made) => made(&computed),
                None => names(computed.verdict.decision.as_deref()) || computed.notes.iter().any(|note| names(note.decision)),
            };
            [made, made && !claim.says.is_some_and(said)]
        };
        self.claims.iter().map(of_claim).collect()
    }

    /// How often each claim is made, and how often without the words beside it.
    fn rates(&self, shape: Shape, n: usize, sets: u64) -> Vec<[f64; 2]> {
        let made: Vec<Vec<[bool; 2]>> = (0..sets).into_par_iter().map(|seed| self.made_of(shape, n, seed)).collect();
        let share = |claim: usize, place: usize| made.iter().filter(|made| made[claim][place]).count() as f64 / sets as f64;
        (0..self.claims.len()).map(|claim| [share(claim, 0), share(claim, 1)]).collect()
    }
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&acorn_study::View::ALL).numbers).unwrap()
}

/// Labels in stretches of so many.
fn labels(n: usize, each: usize, name: &str) -> Vec<String> {
    (0..n).map(|at| format!("{name}{}", at / each)).collect()
}

/// Labels drawn at random.
fn drawn(random: &mut Random, n: usize, of: usize, name: &str) -> Vec<String> {
    (0..n).map(|_| format!("{name}{}", random.random_range(0..of))).collect()
}

fn rows() -> Vec<Row> {
    [charts::rows(), comparisons::rows(), gauges::rows(), models::rows()].into_iter().flatten().collect()
}

/// Every decision of every card, by its id.
fn decisions() -> BTreeMap<&'static str, Decision> {
    methods::cards().flat_map(|card| card.decisions).map(|decision| (decision.id, *decision)).collect()
}

fn page() -> PathBuf {
    PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/decisions.md"))
}

const HEAD: &str = "# How often decisions are made where there is nothing\n\n\
    Every claim that a verdict or a note makes has a rate at which chance alone may make it. Each line below asks one claim of so many\n\
    seeded data sets in which there is nothing to find. `crates/core/tests/decisions.rs` draws them, holds 60 of each at every run and\n\
    1,000 in `cargo xtask fuzz`, and writes this page. Lines with a star are made more than 1.5 times as often as they state, and the\n\
    answer says so beside them.\n\n\
    | claim | data | values | size | asked | states | made |\n|---|---|---|---|---|---|---|\n";

/// What a line of the page is about: the claim, the data, the values and their number.
fn key(row: &Row, claim: &Claim, shape: Shape, n: usize, decisions: &BTreeMap<&str, Decision>) -> String {
    format!("| {} | {} | {} | {n} |", decisions[claim.id].claim, row.of, shape.name())
}

/// The page with new lines in place of old ones, claim by claim.
fn renewed(written: &str, found: &BTreeMap<String, String>) -> String {
    let decisions = decisions();
    let mut lines = Vec::new();
    for row in &rows() {
        for (&shape, n) in row.shapes.iter().flat_map(|shape| row.sizes.iter().map(move |n| (shape, *n))) {
            lines.extend(row.claims.iter().map(|claim| (claim.id, key(row, claim, shape, n, &decisions))));
        }
    }
    lines.sort_by_key(|(id, _)| *id);
    let line = |(_, key): (&str, String)| {
        let before = || written.lines().find(|line| line.starts_with(&key)).map(|line| format!("{line}\n"));
        found.get(&key).map(|rest| format!("{key}{rest}")).or_else(before)
    };
    HEAD.to_owned() + &lines.into_iter().filter_map(line).collect::<String>()
}

/// So many times what it states a decision may be made of nothing, unless the answer says so beside it.
const SLACK: f64 = 1.5;

#[test]
fn every_decision_has_a_row() {
    let (rows, decisions) = (rows(), decisions());
    let asked: Vec<&str> = rows.iter().flat_map(|row| row.claims.iter().map(|claim| claim.id)).collect();
    let without: Vec<_> = decisions.keys().filter(|id| !asked.contains(id)).collect();
    assert!(without.is_empty(), "decisions without a row: {without:?}");
    let unknown: Vec<_> = asked.iter().filter(|id| !decisions.contains_key(**id)).collect();
    assert!(unknown.is_empty(), "rows of no decision: {unknown:?}");
}

#[test]
fn decisions_are_made_of_nothing_no_more_often_than_they_state() {
    let only = std::env::var("ACORN_DECISIONS_OF").ok();
    let write = std::env::var_os("ACORN_DECISIONS").is_some();
    let whole = write || std::env::var_os("ACORN_FUZZ").is_some();
    let asked = std::env::var("ACORN_DECISIONS").ok().and_then(|sets| sets.parse().ok()).filter(|_| whole);
    let sets: u64 = asked.unwrap_or(if whole { 1000 } else { 60 });
    let written = std::fs::read_to_string(page()).unwrap_or_default();
    let decisions = decisions();
    let (mut found, mut wrong) = (BTreeMap::new(), Vec::new());
    let mut told = |row: &Row, claim: &Claim, shape: Shape, n: usize, sets: u64, [rate, plain]: [f64; 2]| {
        let states = decisions[claim.id].rate;
        // Of few data sets some more may be made by chance: five standard errors of sixty, three of more.
        let errors = if !whole { 5.0 } else { f64::from(u8::from(sets < 1000)) * 3.0 };
        let most = SLACK * states + errors * (states / sets as f64).sqrt();
        let key = key(row, claim, shape, n, &decisions);
        eprintln!("{rate:.3} of {states:.2}: {} {key}", claim.id);
        if plain > most {
            wrong.push(format!("{key} {rate}"));
        }
        assert!(write || written.contains(&key), "the page lacks {key}");
        let star = if rate > SLACK * states && plain <= most { " *" } else { "" };
        found.insert(key, format!(" {sets} | {:.0} % | {:.1} %{star} |\n", 100.0 * states, 100.0 * rate));
    };
    let is_asked =
        |row: &Row| only.as_ref().is_none_or(|words| row.of.contains(words) || row.claims.iter().any(|claim| claim.id.contains(words)));
    for row in rows().into_iter().filter(is_asked) {
        let sizes = if whole { &row.sizes[..] } else { &row.sizes[1..2] };
        for (&shape, &n) in row.shapes.iter().flat_map(|shape| sizes.iter().map(move |n| (shape, n))) {
            let sets = sets.div_ceil(row.one_of);
            for (claim, rates) in row.claims.iter().zip(row.rates(shape, n, sets)) {
                told(&row, claim, shape, n, sets, rates);
            }
        }
    }
    if write {
        std::fs::write(page(), renewed(&written, &found)).unwrap();
    }
    assert!(wrong.is_empty(), "made too often:\n{}", wrong.join("\n"));
}
