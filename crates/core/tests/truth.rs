//! Verdicts on processes whose truth is known: how often each is right, as `docs/honesty.md` says.
//!
//! Each run asks 20 data sets of every process, `cargo xtask fuzz` 200; `ACORN_TRUTH=200 cargo test -p acorn-core --test all truth` writes
//! the page. `ACORN_TRUTH_OF=overdispersed` asks only the processes with that word, and prints each wrong answer with its seed;
//! `ACORN_TRUTH=1000` beside it asks as many.

mod compared;
mod gauged;
mod moving;
mod steady;
mod streams;

use std::fmt::Write;
use std::path::PathBuf;

use acorn_core::methods;
use acorn_testing::{ask, frame};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use serde_json::{Value, json};

type Random = Xoshiro256PlusPlus;
type Limits = (Option<f64>, Option<f64>);

/// What is asked of made-up columns.
struct Asked {
    columns: Value,
    spec: Value,
    /// Limits of the columns called x, and of those that are dimensions.
    limits: Limits,
}

impl Asked {
    fn of(columns: Value, spec: Value) -> Asked {
        Asked { columns, spec, limits: (None, None) }
    }

    /// What the program proposes for these columns.
    fn proposed(columns: Value, method: &str) -> Asked {
        Asked::of(columns, json!({"method": method, "roles": null, "options": {}}))
    }

    fn within(self, lsl: impl Into<Option<f64>>, usl: impl Into<Option<f64>>) -> Asked {
        Asked { limits: (lsl.into(), usl.into()), ..self }
    }

    /// The title of the verdict, and its sentence.
    fn answered(&self) -> (String, String) {
        let names = self.columns.as_object().unwrap().keys().filter(|name| ["x", "d"].iter().any(|first| name.starts_with(first)));
        let limits: Vec<_> = names.map(|name| (name.as_str(), self.limits.0, self.limits.1)).collect();
        let frame = frame(&self.columns, &limits);
        let mut spec = self.spec.clone();
        if spec["roles"].is_null() {
            let method = methods::named(spec["method"].as_str().unwrap()).unwrap();
            let proposal = method.advise(&frame, &Default::default()).proposal.expect("something is proposed");
            spec["roles"] = serde_json::to_value(proposal.roles).unwrap();
            spec["options"] = Value::Object(proposal.options);
        }
        let verdict = ask(&frame, &spec).unwrap().verdict;
        (verdict.title, verdict.sentence)
    }
}

/// Which verdicts are right.
enum Right {
    /// Those whose title begins so.
    Titles(&'static [&'static str]),
    /// Those whose title does not.
    NotTitles(&'static [&'static str]),
    /// Those whose sentence says one thing and not the others.
    Says(&'static str, &'static [&'static str]),
}

/// A process and what is right to say of it.
struct Process {
    name: String,
    draw: Box<dyn Fn(&mut Random) -> Asked + Sync>,
    right: Right,
    /// The share of data sets in which the verdict has to be right.
    least: f64,
}

impl Process {
    fn new(name: impl Into<String>, right: Right, least: f64, draw: impl Fn(&mut Random) -> Asked + Sync + 'static) -> Process {
        Process { name: name.into(), draw: Box::new(draw), right, least }
    }

    fn is_right(&self, seed: u64, tell: bool) -> bool {
        let (title, sentence) = (self.draw)(&mut Random::seed_from_u64(7_000 + seed)).answered();
        let begins = |titles: &[&str]| titles.iter().any(|one| title.starts_with(one));
        let right = match &self.right {
            Right::Titles(titles) => begins(titles),
            Right::NotTitles(titles) => !begins(titles),
            Right::Says(words, but) => sentence.contains(words) && !but.iter().any(|other| sentence.contains(other)),
        };
        if tell && !right {
            eprintln!("seed {seed}: {sentence}");
        }
        right
    }

    /// How often the verdict is right.
    fn rate(&self, sets: u64, tell: bool) -> f64 {
        (0..sets).into_par_iter().filter(|seed| self.is_right(*seed, tell)).count() as f64 / sets as f64
    }
}

fn normal(random: &mut Random, n: usize) -> Vec<f64> {
    (0..n).map(|_| StandardNormal.sample(random)).collect()
}

/// Values as they are read, with so many decimals.
fn read(values: impl IntoIterator<Item = f64>, decimals: i32) -> Vec<f64> {
    let scale = 10f64.powi(decimals);
    values.into_iter().map(|value| (value * scale).round() / scale).collect()
}

fn chart(options: Value) -> Value {
    json!({"method": "control-chart", "roles": {"measure": "x"}, "options": options})
}

fn processes() -> Vec<Process> {
    [steady::all(), moving::all(), streams::all(), gauged::all(), compared::all()].into_iter().flatten().collect()
}

fn page() -> PathBuf {
    PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/honesty.md"))
}

const HEAD: &str = "# How often verdicts are right\n\n\
    Each line is a made-up process whose truth is known. The program was asked of 200 seeded data sets of it, mostly what it proposes itself,\n\
    and the verdict is right when it says what is in the second column. `crates/core/tests/truth.rs` draws the data, holds 20 of each at\n\
    every run and all 200 in `cargo xtask fuzz`, and writes this page.\n\n\
    | process | right when it says | right | at least |\n|---|---|---|---|\n";

fn quoted(titles: &[&str]) -> String {
    titles.iter().map(|title| format!("“{title}”")).collect::<Vec<_>>().join(" or ")
}

fn line(process: &Process, rate: f64) -> String {
    let says = match &process.right {
        Right::Titles(titles) => quoted(titles),
        Right::NotTitles(titles) => format!("anything but {}", quoted(titles)),
        Right::Says(words, []) => format!("“{words}”"),
        Right::Says(words, but) => format!("“{words}” and not {}", quoted(but)),
    };
    format!("| {} | {says} | {:.1} % | {:.0} % |\n", process.name, 100.0 * rate, 100.0 * process.least)
}

#[test]
fn verdicts_are_right_as_often_as_the_page_says() {
    const WHOLE: u64 = 200;
    let only = std::env::var("ACORN_TRUTH_OF").ok();
    let write = std::env::var_os("ACORN_TRUTH").is_some() && only.is_none();
    let all = std::env::var_os("ACORN_FUZZ").is_some() || write || only.is_some();
    let asked = std::env::var("ACORN_TRUTH").ok().and_then(|sets| sets.parse().ok()).filter(|_| only.is_some());
    let sets = asked.unwrap_or(if all { WHOLE } else { 20 });
    // Of twenty, one or two more may be wrong than of two hundred.
    let slack = if all { 0.02 } else { 0.1 };
    let mut found = HEAD.to_owned();
    let written = std::fs::read_to_string(page()).unwrap_or_default();
    let mut wrong = Vec::new();
    for process in processes().into_iter().filter(|process| only.as_ref().is_none_or(|words| process.name.contains(words))) {
        let rate = process.rate(sets, only.is_some());
        eprintln!("{rate:.3} of at least {:.2}: {}", process.least, process.name);
        if rate + slack < process.least {
            wrong.push(format!("{}: right in {rate}", process.name));
        }
        write!(found, "{}", line(&process, rate)).unwrap();
        assert!(write || only.is_some() || written.contains(&format!("| {} |", process.name)), "the page lacks {}", process.name);
    }
    if write {
        std::fs::write(page(), &found).unwrap();
    } else if all && only.is_none() {
        assert_eq!(written, found, "the page says otherwise; write it anew");
    }
    assert!(wrong.is_empty(), "{}", wrong.join("; "));
}
