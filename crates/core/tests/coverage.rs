//! How often 95 % intervals hold what is true, simulated: the tables in the pages of `docs/methods`.
//!
//! Each run holds the tables against a few dozen seeded data sets, `cargo xtask fuzz` against 2,000;
//! `ACORN_COVERAGE=2000 cargo test -p acorn-core --test all coverage` writes them from as many.

use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::PathBuf;

use acorn_study::View;
use acorn_testing::{ask, frame};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use regex::Regex;
use serde_json::{Value, json};

const SIZES: [usize; 3] = [10, 30, 100];
const MARK: &str = "## How often its intervals hold";

/// Scores of a data set: normal, or lognormal with 0.5 as the sd of the logarithms, brought to mean 0 and sd 1.
struct Draw {
    random: Xoshiro256PlusPlus,
    skewed: bool,
}

impl Draw {
    fn normal(&mut self) -> f64 {
        StandardNormal.sample(&mut self.random)
    }

    fn score(&mut self) -> f64 {
        let z = self.normal();
        let mean = 0.125_f64.exp();
        if self.skewed { ((0.5 * z).exp() - mean) / (mean * (0.25_f64.exp() - 1.0).sqrt()) } else { z }
    }

    fn scores(&mut self, n: usize) -> Vec<f64> {
        (0..n).map(|_| self.score()).collect()
    }

    fn coins(&mut self, n: usize, share: f64) -> Vec<&'static str> {
        (0..n).map(|_| if acorn_maths::normal::below(self.normal()) < share { "fail" } else { "pass" }).collect()
    }
}

/// What an interval is to hold.
enum Truth {
    Value(f64),
    /// So large a share of all normal values.
    Share(f64),
    /// The next normal value with this mean and sd.
    Next(f64, f64),
}

impl Truth {
    /// 1 when it lies between two ends, and of a value to come the chance that it does.
    fn held(&self, low: f64, high: f64) -> f64 {
        match self {
            Truth::Value(value) => f64::from(u8::from((low..=high).contains(value))),
            Truth::Share(share) => f64::from(u8::from(within(low, high) >= *share)),
            Truth::Next(mean, sd) => within((low - mean) / sd, (high - mean) / sd),
        }
    }
}

/// A data set, limits on its column "gap", and the question.
type Made = (Value, [Option<f64>; 2], Value);

/// The share of a normal with mean 0 and sd 1 between two ends.
fn within(low: f64, high: f64) -> f64 {
    acorn_maths::normal::below(high) - acorn_maths::normal::below(low)
}

/// An interval that a page shows.
struct Interval {
    page: &'static str,
    name: &'static str,
    /// Where its ends stand among the numbers; or the words of a note before "likely … to …".
    place: &'static str,
    made: fn(&mut Draw, usize) -> Made,
    /// What is true, of normal or of skewed data; `None` where nobody knows.
    truth: fn(bool) -> Option<Truth>,
    /// What is to be said where it holds less often than 93 times in a hundred.
    word: &'static str,
}

fn asked(method: &str, draw: &mut Draw, n: usize, limits: [Option<f64>; 2], options: Value) -> Made {
    (json!({ "gap": draw.scores(n) }), limits, json!({"method": method, "roles": {"measure": "gap"}, "options": options}))
}

fn capability(draw: &mut Draw, n: usize) -> Made {
    asked("capability", draw, n, [Some(-4.0), Some(4.0)], json!({}))
}

fn fitted(draw: &mut Draw, n: usize) -> Made {
    let (shape, usl) = if draw.skewed { ("fit:lognormal", 1.0 + 4.0 / 3.0 * (1.5_f64.exp() - 1.0)) } else { ("fit:normal", 4.0) };
    let skewed = draw.skewed;
    let values: Vec<f64> = (0..n).map(|_| draw.normal()).map(|z| if skewed { (0.5 * z).exp() } else { z }).collect();
    let spec = json!({"method": "capability", "roles": {"measure": "gap"}, "options": {"shape": shape}});
    (json!({ "gap": values }), [None, Some(usl)], spec)
}

fn look(draw: &mut Draw, n: usize) -> Made {
    asked("distribution", draw, n, [None; 2], json!({}))
}

fn level(draw: &mut Draw, n: usize) -> Made {
    asked("sigma-level", draw, n, [None, Some(2.0)], json!({"from": "measurement", "shift": 0}))
}

fn two(draw: &mut Draw, n: usize) -> Made {
    let values: Vec<f64> = draw.scores(n).into_iter().chain(draw.scores(n).into_iter().map(|z| 1.0 + 2.0 * z)).collect();
    let groups: Vec<&str> = (0..2 * n).map(|i| if i < n { "A" } else { "B" }).collect();
    let spec = json!({"method": "compare", "roles": {"measure": "gap", "group": "line"}, "options": {"test": "groups"}});
    (json!({"gap": values, "line": groups}), [None; 2], spec)
}

fn three(draw: &mut Draw, n: usize) -> Made {
    let values: Vec<f64> = [0.0, 1.0, 0.0].into_iter().flat_map(|shift| draw.scores(n).into_iter().map(move |z| z + shift)).collect();
    let groups: Vec<&str> = ["A", "B", "C"].into_iter().flat_map(|name| vec![name; n]).collect();
    let spec = json!({"method": "compare", "roles": {"measure": "gap", "group": "line"}, "options": {"test": "groups"}});
    (json!({"gap": values, "line": groups}), [None; 2], spec)
}

fn cards(draw: &mut Draw, n: usize) -> Made {
    let spec = json!({"method": "indices", "roles": {"measure": ["gap"]}, "options": {}});
    (json!({ "gap": draw.scores(n) }), [Some(-4.0), Some(4.0)], spec)
}

fn one(draw: &mut Draw, n: usize) -> Made {
    asked("compare", draw, n, [None; 2], json!({"test": "one-sample", "mean": 3.0}))
}

fn together(draw: &mut Draw, n: usize) -> Made {
    let (x, error) = (draw.scores(n), draw.scores(n));
    let y: Vec<f64> = x.iter().zip(&error).map(|(x, e)| 0.6 * x + 0.8 * e).collect();
    (json!({"x": x, "gap": y}), [None; 2], json!({"method": "relation", "roles": {"x": "x", "y": "gap"}, "options": {}}))
}

fn many_together(draw: &mut Draw, n: usize) -> Made {
    let (columns, limits, _) = together(draw, n);
    (columns, limits, json!({"method": "matrix", "roles": {"measure": ["x", "gap"]}, "options": {}}))
}

/// About a line over places from -1 to 1.
fn line(draw: &mut Draw, n: usize) -> Made {
    let x: Vec<f64> = (0..n).map(|i| 2.0 * i as f64 / (n - 1) as f64 - 1.0).collect();
    let y: Vec<f64> = x.iter().map(|x| 0.6 * x + 0.8 * draw.score()).collect();
    (json!({"x": x, "gap": y}), [None; 2], json!({"method": "relation", "roles": {"x": "x", "y": "gap"}, "options": {"fit": "linear"}}))
}

/// Defects over so many metres, counted for each.
fn two_rates(draw: &mut Draw, n: usize) -> Made {
    let [a, b] = if draw.skewed { [0.1, 0.05] } else { [0.5, 0.4] };
    let mut count = |rate: f64| {
        let (floor, mut product, mut events) = ((-rate * n as f64).exp(), 1.0, 0);
        loop {
            product *= acorn_maths::normal::below(draw.normal());
            if product < floor {
                return events;
            }
            events += 1;
        }
    };
    let (x1, x2) = (count(a), count(b));
    let options = json!({"counting": "defects", "x1": x1, "exposure1": n, "x2": x2, "exposure2": n});
    (json!({ "gap": [0.0] }), [None; 2], json!({"method": "proportion", "options": options}))
}

fn share(draw: &mut Draw, n: usize) -> Made {
    let share = if draw.skewed { 0.05 } else { 0.5 };
    let x = draw.coins(n, share).iter().filter(|label| **label == "fail").count();
    (json!({ "gap": [0.0] }), [None; 2], json!({"method": "proportion", "options": {"x": x, "n": n}}))
}

fn two_shares(draw: &mut Draw, n: usize) -> Made {
    let [a, b] = if draw.skewed { [0.1, 0.05] } else { [0.5, 0.4] };
    let mut count = |share: f64| draw.coins(n, share).iter().filter(|label| **label == "fail").count();
    let (x1, x2) = (count(a), count(b));
    let options = json!({"x1": x1, "n1": n, "x2": x2, "n2": n});
    (json!({ "gap": [0.0] }), [None; 2], json!({"method": "proportion", "options": options}))
}

/// A hundred times as many draws as there are values elsewhere.
fn model(draw: &mut Draw, n: usize) -> Made {
    let options = json!({
        "inputs": [{"name": "x", "distribution": "normal", "parameters": {"mean": 0, "sd": 1}}],
        "responses": [{"name": "y", "formula": "x", "lsl": -2}],
        "draws": 100 * n,
        "seed": (draw.normal().abs() * 1e6) as u64,
    });
    (json!({ "gap": [0.0] }), [None; 2], json!({"method": "simulation", "options": options}))
}

fn gauge(draw: &mut Draw, n: usize) -> Made {
    let parts = draw.scores(n);
    let (mut values, mut part, mut operator) = (Vec::new(), Vec::new(), Vec::new());
    for (i, of) in parts.iter().enumerate() {
        for name in ["Bo", "Cy", "Di"] {
            for _ in 0..2 {
                values.push(of + 0.3 * draw.score());
                part.push(format!("P{i}"));
                operator.push(name);
            }
        }
    }
    let spec = json!({"method": "gauge-crossed", "roles": {"measure": "gap", "part": "part", "operator": "operator"}, "options": {}});
    (json!({"gap": values, "part": part, "operator": operator}), [None; 2], spec)
}

fn nested(draw: &mut Draw, n: usize) -> Made {
    let (mut values, mut part, mut operator) = (Vec::new(), Vec::new(), Vec::new());
    for i in 0..n {
        let of = draw.score();
        for _ in 0..2 {
            values.push(of + 0.3 * draw.score());
            part.push(format!("P{i}"));
            operator.push(["Bo", "Cy"][i % 2]);
        }
    }
    let spec = json!({"method": "gauge-nested", "roles": {"measure": "gap", "part": "part", "operator": "operator"}, "options": {}});
    (json!({"gap": values, "part": part, "operator": operator}), [None; 2], spec)
}

fn masters(draw: &mut Draw, n: usize) -> Made {
    let (mut values, mut part, mut known) = (Vec::new(), Vec::new(), Vec::new());
    for (i, reference) in [2.0, 4.0, 6.0].into_iter().enumerate() {
        for _ in 0..n {
            values.push(reference + 0.2 + 0.1 * draw.score());
            part.push(format!("M{i}"));
            known.push(reference);
        }
    }
    let spec = json!({"method": "gauge-linearity", "roles": {"measure": "gap", "part": "part", "reference": "known"}, "options": {}});
    (json!({"gap": values, "part": part, "known": known}), [None; 2], spec)
}

fn one_piece(draw: &mut Draw, n: usize) -> Made {
    asked("gauge-single", draw, n, [None; 2], json!({"reference": 0.0, "tolerance": 60.0}))
}

fn families(draw: &mut Draw, n: usize) -> Made {
    let (mut values, mut batch) = (Vec::new(), Vec::new());
    for i in 0..n {
        let of = draw.score();
        for _ in 0..3 {
            values.push(of + draw.score());
            batch.push(format!("b{i}"));
        }
    }
    let spec = json!({"method": "multi-vari", "roles": {"measure": "gap", "factors": ["batch"]}, "options": {}});
    (json!({"gap": values, "batch": batch}), [None; 2], spec)
}

fn phases(draw: &mut Draw, n: usize) -> Made {
    let phase: Vec<&str> = (0..2 * n).map(|i| if i < n { "before" } else { "after" }).collect();
    let spec = json!({"method": "control-chart", "roles": {"measure": "gap", "phase": "phase"}, "options": {"chart": "individuals"}});
    (json!({"gap": draw.scores(2 * n), "phase": phase}), [None; 2], spec)
}

/// Weibull times with shape 1.5.
fn events(draw: &mut Draw, n: usize) -> Made {
    let times: Vec<f64> = (0..n).map(|_| (-acorn_maths::normal::below(draw.normal()).ln()).powf(1.0 / 1.5)).collect();
    (json!({ "gap": times }), [None; 2], json!({"method": "control-chart", "roles": {"measure": "gap"}, "options": {"chart": "t"}}))
}

fn judged(draw: &mut Draw, n: usize) -> Made {
    let (mut rating, mut part, mut operator, mut known) = (Vec::new(), Vec::new(), Vec::new(), Vec::new());
    for i in 0..n {
        for name in ["Bo", "Cy"] {
            let twice = draw.coins(1, 0.9)[0] == "fail";
            let first = if i % 2 == 0 { "pass" } else { "fail" };
            let second = if twice {
                first
            } else if first == "pass" {
                "fail"
            } else {
                "pass"
            };
            rating.extend([first, second]);
            part.extend([format!("P{i}"), format!("P{i}")]);
            operator.extend([name, name]);
            known.extend([if i % 2 == 0 { "pass" } else { "fail" }; 2]);
        }
    }
    let roles = json!({"rating": "rating", "part": "part", "operator": "operator", "reference": "known"});
    let spec = json!({"method": "gauge-attribute", "roles": roles, "options": {"bad": "fail"}});
    let columns = json!({"gap": vec![0.0; rating.len()], "rating": rating, "part": part, "operator": operator, "known": known});
    (columns, [None; 2], spec)
}

const SHAPE: &str = "the page says that the values are not normal and offers a shape that fits";
const FEW: &str = "the page says that so few values are few";
const KAPPA: &str = "the usual interval is one for many pieces; a study takes 30 or more";
const VARIANCE: &str = "an interval of a variance rests on normal values, whatever their number";

fn value(value: f64) -> Option<Truth> {
    Some(Truth::Value(value))
}

fn intervals() -> Vec<Interval> {
    let four_thirds: fn(bool) -> Option<Truth> = |_| value(4.0 / 3.0);
    let zero: fn(bool) -> Option<Truth> = |_| value(0.0);
    let new = |page, name, place, made, truth, word| Interval { page, name, place, made, truth, word };
    let by_chance: fn(bool) -> Option<Truth> = |skewed| value(if skewed { 0.05 } else { 0.5 });
    vec![
        new("capability", "Pp", "/pp_ci95", capability, four_thirds, SHAPE),
        new("capability", "Ppk", "/ppk_ci95", capability, four_thirds, SHAPE),
        new("capability", "Cp", "/cp_ci95", capability, four_thirds, SHAPE),
        new("capability", "Cpk", "/cpk_ci95", capability, four_thirds, SHAPE),
        new("capability", "Ppk of the fitted shape", "/ppk_ci95", fitted, four_thirds, FEW),
        new(
            "capability",
            "where 95 % of all values lie",
            "/tolerance/0/normal",
            capability,
            |skewed| (!skewed).then_some(Truth::Share(0.95)),
            "",
        ),
        new("distribution", "mean", "/groups/0/mean_ci95", look, zero, FEW),
        new("distribution", "sd", "/groups/0/sd_ci95", look, |_| value(1.0), VARIANCE),
        new(
            "sigma-level",
            "defects in a million, of values",
            "/dpmo_ci95",
            level,
            |skewed| (!skewed).then_some(Truth::Value(22_750.131_948)),
            SHAPE,
        ),
        new(
            "capability",
            "where 95 % of all values lie, whatever their shape",
            "/tolerance/0/any_shape",
            capability,
            |skewed| (!skewed).then_some(Truth::Share(0.95)),
            "the page names how sure it is of the smallest and the largest value",
        ),
        new("indices", "Ppk", "/rows/0/ppk_ci95", cards, four_thirds, SHAPE),
        new("compare", "difference of two means", "/two_sample/welch/ci95", two, |_| value(-1.0), FEW),
        new("compare", "mean of a group", "/groups/0/ci95", two, zero, FEW),
        new("compare", "difference of a pair among three", "/tukey/0/ci95", three, |_| value(-1.0), FEW),
        new("compare", "one mean", "/one_sample/ci95", one, zero, FEW),
        new(
            "relation",
            "correlation",
            "/ci95",
            together,
            |_| value(0.6),
            "a lopsided pair loosens r; the rank correlation stands beside it",
        ),
        new(
            "relation",
            "rank correlation",
            "/spearman_ci95",
            together,
            |skewed| (!skewed).then(|| Truth::Value(6.0 / std::f64::consts::PI * 0.3_f64.asin())),
            FEW,
        ),
        new("relation", "mean on the line", "/fit/curve/0", line, |_| value(-0.6), FEW),
        new("relation", "one more point", "/fit/curve/0", line, |skewed| (!skewed).then_some(Truth::Next(-0.6, 0.8)), FEW),
        new(
            "matrix",
            "correlation",
            "/ci95/0/1",
            many_together,
            |_| value(0.6),
            "a lopsided pair loosens r; the picture of the pair shows it",
        ),
        new("proportion", "share (exact)", "/ci95", share, by_chance, ""),
        new("proportion", "share (Wilson)", "/wilson_ci95", share, by_chance, "the exact one stands beside it"),
        new("proportion", "ratio of two rates", "/ratio_ci95", two_rates, |skewed| value(if skewed { 2.0 } else { 1.25 }), ""),
        new("proportion", "difference of two shares", "/difference_ci95", two_shares, |skewed| value(if skewed { 0.05 } else { 0.1 }), FEW),
        new(
            "simulation",
            "share out of the limits",
            "/responses/0/out/ci95",
            model,
            |skewed| (!skewed).then_some(Truth::Value(0.022_750_131_948)),
            "",
        ),
        new("gauge-crossed", "variance of the gauge", "/anova/ci95", gauge, |_| value(0.09), VARIANCE),
        new("gauge-crossed", "share of the gauge", "/share_ci95", gauge, |_| value(0.3 / 1.09_f64.sqrt()), VARIANCE),
        new("gauge-nested", "share of the gauge", "/share_ci95", nested, |_| value(0.3 / 1.09_f64.sqrt()), VARIANCE),
        new("gauge-linearity", "bias of a piece", "/parts/0/bias_ci95", masters, |_| value(0.2), FEW),
        new("gauge-linearity", "bias on the line", "/band/0", masters, |_| value(0.2), FEW),
        new("gauge-single", "bias", "/bias_ci95", one_piece, zero, FEW),
        new("gauge-single", "Cg", "/cg_ci95", one_piece, |_| value(2.0), VARIANCE),
        new("gauge-attribute", "agreement with oneself", "/within/0/ci95", judged, |skewed| (!skewed).then_some(Truth::Value(0.9)), ""),
        new("gauge-attribute", "bad pieces passed", "/errors/0/miss_ci95", judged, |skewed| (!skewed).then_some(Truth::Value(0.05)), ""),
        new("gauge-attribute", "kappa of two operators", "/cohen/0/ci95", judged, |skewed| (!skewed).then_some(Truth::Value(0.82)), KAPPA),
        new("multi-vari", "share of a family", "/families/0/share_ci95", families, |_| value(0.5), VARIANCE),
        new("control-chart", "shift between phases", "/comparison/shift_ci95", phases, zero, FEW),
        new(
            "control-chart",
            "shape of times between events",
            "Weibull shape",
            events,
            |skewed| (!skewed).then_some(Truth::Value(1.5)),
            "so few times leave it loose; the page judges no shape that lies near 1",
        ),
        new("control-chart", "ratio of spreads between phases", "/comparison/spread_ratio_ci95", phases, |_| value(1.0), VARIANCE),
    ]
}

/// The ends of an interval; one that is open lies without end.
fn ends(outcome: &Value, place: &str, next: bool) -> Option<[f64; 2]> {
    if !place.starts_with('/') {
        let likely = Regex::new(r"likely ([\d.]+) to ([\d.]+)").unwrap();
        let notes = outcome["notes"].as_array().into_iter().flatten().filter_map(|note| note["sentence"].as_str());
        let found = likely.captures(notes.into_iter().find(|sentence| sentence.contains(place))?)?;
        return Some([1, 2].map(|end| found[end].parse().unwrap()));
    }
    match outcome["numbers"].pointer(place)? {
        Value::Array(two) => Some([two[0].as_f64().unwrap_or(f64::NEG_INFINITY), two[1].as_f64().unwrap_or(f64::INFINITY)]),
        Value::Object(band) if band.contains_key("low") => Some([band["low"].as_f64()?, band["high"].as_f64()?]),
        Value::Object(curve) => {
            let (y, reach) = (curve["y"].as_f64()?, curve[if next { "point_reach" } else { "mean_reach" }].as_f64()?);
            Some([y - reach, y + reach])
        }
        _ => None,
    }
}

/// How often an interval holds, of seeded data sets; `None` where it is never given.
fn held(interval: &Interval, n: usize, skewed: bool, many: u64) -> Option<f64> {
    let truth = &(interval.truth)(skewed)?;
    let one = |seed: u64| {
        let mut draw = Draw { random: Xoshiro256PlusPlus::seed_from_u64(seed * 7 + n as u64), skewed };
        let (columns, [lsl, usl], spec) = (interval.made)(&mut draw, n);
        let outcome = ask(&frame(&columns, &[("gap", lsl, usl)]), &spec)
            .unwrap_or_else(|error| panic!("{}: {error}", interval.name))
            .outcome(&View::ALL);
        let [low, high] = ends(&serde_json::to_value(outcome).unwrap(), interval.place, matches!(truth, Truth::Next(..)))?;
        Some(truth.held(low, high))
    };
    let all: Vec<f64> = (0..many).into_par_iter().filter_map(one).collect();
    (!all.is_empty()).then(|| all.iter().sum::<f64>() / all.len() as f64)
}

fn page(name: &str) -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../docs/methods").join(format!("{name}.md"))
}

/// How often an interval held in each of its cells.
type Found<'i> = (&'i Interval, Vec<Option<f64>>);

/// The section of a page, from what was found for each of its intervals.
fn section(rows: &[Found], many: u64) -> String {
    let mut text = format!(
        "{MARK}\n\nIn percent of {many} simulated data sets, seeded, a 95 % interval holds what is true; n values, parts or pieces,\n\
        of a simulation 100 n draws. Skewed: logarithms\n\
        normal with sd 0.5; of shares, 5 % where else 50 %.\n\n| interval | n = 10 | 30 | 100 | skewed, n = 10 | 30 | 100 |\n|---|---|---|---|---|---|---|\n"
    );
    let mut words = BTreeMap::new();
    for (interval, found) in rows {
        write!(text, "| {} |", interval.name).unwrap();
        for share in found {
            match share {
                Some(share) => write!(text, " {:.1} |", 100.0 * share).unwrap(),
                None => text.push_str(" – |"),
            }
        }
        text.push('\n');
        if found.iter().flatten().any(|share| *share < 0.93) {
            words.insert(interval.name, interval.word);
        }
    }
    for (name, word) in words {
        write!(text, "\nBelow 93: {name}; {word}.\n").unwrap();
    }
    text
}

#[test]
fn intervals_hold_as_often_as_the_pages_say() {
    let write: Option<u64> = std::env::var("ACORN_COVERAGE").ok().and_then(|many| many.parse().ok());
    let many = write.unwrap_or(if std::env::var_os("ACORN_FUZZ").is_some() { 2000 } else { 40 });
    let all = intervals();
    let found = |interval: &Interval| {
        let cells = [false, true].into_iter().flat_map(|skewed| SIZES.map(|n| (n, skewed)));
        cells.map(|(n, skewed)| held(interval, n, skewed, many)).collect::<Vec<_>>()
    };
    let rows: Vec<_> = all.iter().map(|interval| (interval, found(interval))).collect();
    let mut pages: BTreeMap<&str, Vec<Found>> = BTreeMap::new();
    rows.into_iter().for_each(|row| pages.entry(row.0.page).or_default().push(row));
    let mut wrong = Vec::new();
    for (name, rows) in &pages {
        let text = std::fs::read_to_string(page(name)).unwrap();
        if let Some(many) = write {
            let before = text.split(MARK).next().unwrap().trim_end();
            std::fs::write(page(name), format!("{before}\n\n{}", section(rows, many))).unwrap();
            continue;
        }
        for (interval, shares) in rows {
            let line = text
                .lines()
                .find(|line| line.starts_with(&format!("| {} |", interval.name)))
                .unwrap_or_else(|| panic!("{name}: {}", interval.name));
            let told: Vec<Option<f64>> = line.split('|').skip(2).map(|cell| cell.trim().parse().ok()).collect();
            for (share, told) in shares.iter().zip(&told) {
                let apart = match (share, told) {
                    (Some(share), Some(told)) => {
                        let told = told / 100.0;
                        // Misses are few and come in whole ones.
                        let spread = (told.min(0.995) * (1.0 - told.min(0.995)) / many as f64).sqrt();
                        (share - told).abs() > 4.5 * spread + 3.0 / many as f64
                    }
                    (share, told) => share.is_some() != told.is_some(),
                };
                if apart {
                    wrong.push(format!("{name}, {}: {share:?}, told {told:?}", interval.name));
                }
            }
            let poor = told.iter().flatten().any(|told| *told < 93.0);
            assert!(
                !poor || text.contains(&format!("Below 93: {}; {}", interval.name, interval.word)) && !interval.word.is_empty(),
                "{}",
                interval.name
            );
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
