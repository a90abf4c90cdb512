//! Sentences over data that vary: nothing that is no number, no grammar by chance, nothing said thrice, nothing too long.
//!
//! A few thousand small data sets in every run, seeded; `ACORN_FUZZ=1000000` asks as many (`cargo xtask fuzz`).

mod common;

use acorn_core::study::View;
use common::{ask, frame};

use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use regex::Regex;
use serde_json::{Map, Value, json};

/// Draws with which a data set and its question are made up.
struct Draw(Xoshiro256PlusPlus);

impl Draw {
    fn one<T: Copy>(&mut self, of: &[T]) -> T {
        of[self.0.random_range(0..of.len())]
    }

    fn often(&mut self, share: f64) -> bool {
        self.0.random_bool(share)
    }

    /// Values of a shape, a size and a coarseness that come about by chance.
    fn values(&mut self, n: usize) -> Vec<Value> {
        let kind = self.0.random_range(0..9);
        let (place, scale) = (self.one(&[0.0, 1.0, -3.0, 800.0, 1e7]), self.one(&[1.0, 0.01, 40.0, 1e-6, 1e6]));
        let decimals = self.one(&[0, 1, 2, 3, 6]);
        let missing = self.one(&[0.0, 0.0, 0.1, 0.6]);
        let value = |draw: &mut Draw, i: usize| {
            let even = draw.0.random::<f64>();
            let bell = (0..6).map(|_| draw.0.random::<f64>()).sum::<f64>() - 3.0;
            match kind {
                0 => bell,
                1 => -even.max(1e-12).ln(),
                2 => f64::from(u8::from(even < 0.5)),
                3 => 0.0,
                4 => (even * 4.0).floor(),
                5 => bell + if i > n / 2 { 4.0 } else { 0.0 },
                6 => bell + 8.0 * (i % 2) as f64,
                7 => {
                    if even < 0.04 {
                        40.0
                    } else {
                        bell
                    }
                }
                _ => i as f64,
            }
        };
        let power = 10_f64.powi(decimals);
        (0..n)
            .map(|i| {
                let value = value(self, i);
                if self.often(missing) {
                    return Value::Null;
                }
                json!(((place + scale * value) * power).round() / power)
            })
            .collect()
    }

    fn counts(&mut self, n: usize, most: u32) -> Vec<Value> {
        let most = self.one(&[0, 1, most / 4, most]);
        (0..n).map(|_| json!(self.0.random_range(0..=most))).collect()
    }

    fn labels(&mut self, n: usize, kinds: usize) -> Vec<Value> {
        let kinds = self.0.random_range(1..=kinds);
        (0..n).map(|_| json!(["Ada", "Bea", "Cal", "Dee"][self.0.random_range(0..kinds)])).collect()
    }

    /// A column for each place of an order: the same label so many times in a row.
    fn blocks(&mut self, n: usize, size: usize, name: &str) -> Vec<Value> {
        (0..n).map(|i| json!(format!("{name} {}", char::from(b'A' + (i / size % 26) as u8)))).collect()
    }

    fn limits(&mut self, values: &[Value]) -> [Option<f64>; 2] {
        let known: Vec<f64> = values.iter().filter_map(Value::as_f64).collect();
        let (low, high) = known.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), x| (low.min(*x), high.max(*x)));
        if !low.is_finite() {
            return [None, Some(1.0)];
        }
        let room = (high - low).max(high.abs() * 1e-3).max(1e-3) * self.one(&[0.1, 0.5, 1.0, 3.0]);
        let [lower, upper] = self.one(&[[true, true], [true, false], [false, true], [false, false]]);
        [lower.then_some(low - room + 0.3 * (high - low)), upper.then_some(high + room - 0.3 * (high - low))]
    }
}

/// A data set with limits on its measurement, and a question about it.
fn made(seed: u64) -> (Value, [Option<f64>; 2], Value) {
    let mut draw = Draw(Xoshiro256PlusPlus::seed_from_u64(seed));
    let n = draw.one(&[1, 2, 3, 5, 8, 12, 20, 30, 45, 60]);
    let mut columns = Map::new();
    columns.insert("gap".into(), json!(draw.values(n)));
    columns.insert("flux".into(), json!(draw.values(n)));
    columns.insert("bench".into(), json!(draw.labels(n, 4)));
    columns.insert("shift".into(), json!(draw.labels(n, 3)));
    let size = draw.one(&[2, 3, 5]);
    columns.insert("hour".into(), json!(draw.blocks(n, size, "hour")));
    columns.insert("bad".into(), json!(draw.counts(n, 12)));
    let looked = draw.one(&[20, 50, 400]);
    columns.insert("looked".into(), (0..n).map(|i| json!(looked + i * usize::from(n.is_multiple_of(2)))).collect());
    columns.insert("verdict".into(), (0..n).map(|_| json!(draw.one(&["pass", "pass", "fail"]))).collect());
    let measure = json!({"measure": "gap"});
    let counted = json!({"count": "bad", "size": "looked"});
    let (method, roles, options) = match draw.0.random_range(0..22) {
        0 | 1 => {
            let chart = draw.one(&["individuals", "ewma", "cusum", "run", "t", "g"]);
            let measure = if chart == "g" { json!({"measure": "bad"}) } else { measure };
            let limits = draw.one(&[None, Some((0, n / 2))]);
            let mut options = json!({"chart": chart});
            if let Some((first, last)) = limits {
                options["limits"] = json!({"from": "baseline", "first": first, "last": last});
            }
            if draw.often(0.2) && chart == "individuals" {
                options["patterns"] =
                    acorn_core::methods::control_chart::Pattern::ALL.iter().map(|one| json!({"pattern": one.name()})).collect();
                options["sigma"] = json!(draw.one(&["mr-mean", "mr-median"]));
            }
            ("control-chart", measure, options)
        }
        2 => {
            let roles = json!({"measure": "gap", "subgroup": "hour"});
            ("control-chart", roles, json!({"chart": draw.one(&["xbar-r", "xbar-s", "xbar-between", "ewma", "cusum"])}))
        }
        3 => ("control-chart", counted, json!({"chart": draw.one(&["p", "u", "p-prime", "u-prime", "np"])})),
        4 => ("control-chart", json!({"count": "bad"}), json!({"chart": "c"})),
        5 => ("control-chart", json!({"measure": "gap", "phase": "shift"}), json!({"chart": "individuals"})),
        6 | 7 => {
            let shape = draw.one(&["normal", "normal", "percentile", "box-cox", "johnson", "fit:weibull", "fit:lognormal"]);
            let roles = if draw.often(0.3) { json!({"measure": "gap", "subgroup": "hour"}) } else { measure };
            ("capability", roles, json!({"shape": shape, "goal": draw.one(&[1.0, 1.33, 1.67])}))
        }
        8 => ("distribution", if draw.often(0.5) { json!({"measure": "gap", "group": "bench"}) } else { measure }, json!({})),
        9 if draw.often(0.5) => ("compare", json!({"measure": "gap", "group": "bench"}), json!({"test": "groups"})),
        9 => ("compare", measure, json!({"test": "one-sample", "mean": draw.one(&[0.0, 1.0, 800.0])})),
        10 => ("relation", json!({"y": "gap", "x": "flux"}), json!({"fit": draw.one(&["linear", "quadratic", "none"])})),
        11 => ("matrix", json!({"measure": ["gap", "flux", "bad"]}), json!({})),
        12 => ("pareto", json!({"category": "bench", "count": "bad"}), json!({})),
        13 => ("association", json!({"row": "bench", "column": "verdict"}), json!({})),
        14 => {
            let group = if draw.often(0.5) { json!({"category": "verdict", "group": "bench"}) } else { json!({"category": "verdict"}) };
            ("proportion", group, json!({"value": "fail", "p0": draw.one(&[0.01, 0.3])}))
        }
        15 if draw.often(0.3) => {
            let mean = draw.one(&[0.0, 1.0, 40.0, -9.0]);
            ("sigma-level", json!({}), json!({"from": "normal", "mean": mean, "sd": 1.0, "lsl": -1.0, "usl": draw.one(&[2.0, 0.0, 4.0])}))
        }
        15 => {
            let (units, chances) = (draw.one(&[1, 7, 100, 2000]), draw.one(&[1, 4]));
            let step = |draw: &mut Draw, name: &str| json!({"name": name, "units": units, "opportunities": chances, "defects": draw.one(&[0, 1, units / 3, units])});
            let steps = ["press", "seal", "solder"].map(|name| step(&mut draw, name));
            ("sigma-level", json!({}), json!({"from": "steps", "steps": steps[..draw.one(&[1, 2, 3])]}))
        }
        16 => ("sigma-level", if draw.often(0.5) { measure } else { counted }, json!({})),
        17 => ("multi-vari", json!({"measure": "gap", "factors": ["hour", "bench"]}), json!({})),
        18 => ("screening", json!({"measure": draw.one(&["gap", "verdict"])}), json!({})),
        19 => (
            "indices",
            if draw.often(0.5) { json!({"measure": ["gap", "flux"], "group": "bench"}) } else { json!({"measure": ["gap", "flux"]}) },
            json!({}),
        ),
        20 => match draw.0.random_range(0..4) {
            0 => ("gauge-single", measure, json!({"reference": draw.one(&[0.0, 1.0, 800.0]), "tolerance": draw.one(&[0.5, 20.0])})),
            1 => ("gauge-linearity", json!({"measure": "gap", "part": "hour", "reference": "flux"}), json!({})),
            2 => ("gauge-nested", json!({"measure": "gap", "part": "hour", "operator": "shift"}), json!({"tolerance": 4.0})),
            _ => ("gauge-attribute", json!({"rating": "verdict", "part": "hour", "operator": "bench"}), json!({})),
        },
        _ => {
            // Each operator reads each part as often.
            let parts = n.div_ceil(6).max(1);
            columns = Map::new();
            columns.insert("gap".into(), json!(draw.values(parts * 6)));
            columns.insert("part".into(), (0..parts * 6).map(|i| json!(format!("P{}", i / 6 + 1))).collect());
            columns.insert("operator".into(), (0..parts * 6).map(|i| json!(["Bo", "Cy", "Di"][i / 2 % 3])).collect());
            let tolerance = draw.one(&[None, Some(4.0)]);
            ("gauge-crossed", json!({"measure": "gap", "part": "part", "operator": "operator"}), json!({"tolerance": tolerance}))
        }
    };
    let values = columns["gap"].as_array().unwrap();
    let limits = draw.limits(values);
    (Value::Object(columns), limits, json!({"method": method, "roles": roles, "options": options}))
}

/// Everything that is said in an answer.
fn said(outcome: &Value) -> Vec<String> {
    let text = |value: &Value| value.as_str().map(str::to_owned);
    let mut all: Vec<String> = ["title", "sentence"].iter().filter_map(|field| text(&outcome["verdict"][field])).collect();
    for note in outcome["notes"].as_array().into_iter().flatten() {
        all.extend(["sentence", "detail"].iter().filter_map(|field| text(&note[field])));
    }
    for next in outcome["next"].as_array().into_iter().flatten() {
        all.extend(["question", "why"].iter().filter_map(|field| text(&next[field])));
    }
    all
}

/// What no sentence may hold, each with why.
fn forbidden() -> Vec<(Regex, &'static str)> {
    let nouns = "values|subgroups|groups|signals|parts|pieces|kinds|rows|units|defects|readings|operators|averages|columns|steps|points|samples|shapes|ranges|pairs|levels|classes|entries|judgements|boards|defectives|decimals";
    let does = "are|lie|have|were|do|stand|differ|lose|spread|need|say|pass|scatter|rise|fall|sit|read";
    let is = "is|lies|has|was|does|stands|differs|loses|needs|says|passes";
    [
        (r"NaN|\binf\b|-inf|∞|Some\(|None\b.*\)|undefined|\bnull\b".to_owned(), "what is no number"),
        (r"(^|[^\w-])-\d".to_owned(), "a hyphen for a minus sign"),
        (r"[−-]0(\.0+)?([^\d.]|\.?$)".to_owned(), "a minus before nothing"),
        (format!(r"(^|[^\d.,])1 (more |of them )?({nouns})\b"), "one of many"),
        (format!(r"(^|[^\d.,])1 \w+ ({does})\b"), "one that does as many"),
        (format!(r"(^|[^\d.,\w])(all|no) ({nouns}) ({is})\b"), "many that do as one"),
        (r"\d{16,}|0\.0{9,}".to_owned(), "digits that nobody reads"),
        (r"  |\.\.|,,| \.| ,".to_owned(), "loose signs"),
    ]
    .into_iter()
    .map(|(pattern, why)| (Regex::new(&pattern).unwrap(), why))
    .collect()
}

/// Three equal numbers in a row, one soon after the other, and no list of things that have the same.
fn thrice(sentence: &str, number: &Regex) -> bool {
    let found: Vec<_> = number.find_iter(sentence).collect();
    found.windows(3).any(|three| {
        let near = three.windows(2).all(|two| {
            two[1].start() - two[0].end() < 14
                && !sentence[two[0].end()..two[1].start()].contains(|sign: char| sign == '(' || sign.is_uppercase())
        });
        near && three.iter().all(|one| one.as_str() == three[0].as_str())
    })
}

#[test]
fn no_sentence_says_what_nobody_would_write() {
    let (rules, number) = (forbidden(), Regex::new(r"\d+(\.\d+)?").unwrap());
    let many: u64 = std::env::var("ACORN_FUZZ").ok().and_then(|many| many.parse().ok()).unwrap_or(4000);
    let wrong = |seed: u64| {
        let (columns, [lsl, usl], spec) = made(seed);
        let frame = frame(&columns, &[("gap", lsl, usl)]);
        let texts =
            match std::panic::catch_unwind(|| ask(&frame, &spec).map(|computed| computed.outcome(&View { points: Some(20), ..View::ALL })))
            {
                Err(_) => vec!["NaN: it panicked".to_owned()],
                Ok(Err(error)) => vec![error.to_string()],
                Ok(Ok(outcome)) => said(&serde_json::to_value(outcome).unwrap()),
            };
        let problem = |text: &String| {
            let why = rules.iter().find(|(rule, _)| rule.is_match(text)).map(|(_, why)| *why);
            let why = why.or(thrice(text, &number).then_some("the same number thrice"));
            why.or((text.chars().count() > 240).then_some("too long"))
        };
        texts.into_iter().find_map(|text| problem(&text).map(|why| format!("{seed} {} {}: {why}: {text}", spec["method"], spec["options"])))
    };
    let found: Vec<String> = (0..many).into_par_iter().filter_map(wrong).collect();
    assert!(found.is_empty(), "{} of {many}:\n{}", found.len(), found[..found.len().min(60)].join("\n"));
}

/// Values with a spread in an order that shows nothing.
fn plain(n: u32) -> Vec<f64> {
    (0..n).map(|i| f64::from(i * 7 % 11) / 10.0).collect()
}

#[test]
fn each_of_these_data_sets_gets_the_sentence_that_it_bears() {
    let chart = |kind: &str| json!({"method": "control-chart", "roles": {"measure": "gap"}, "options": {"chart": kind}});
    let of = |method: &str, options: Value| json!({"method": method, "roles": {"measure": "gap"}, "options": options});
    let grouped =
        |method: &str, options: Value| json!({"method": method, "roles": {"measure": "gap", "group": "bench"}, "options": options});
    let steps = |steps: Value| json!({"method": "sigma-level", "options": {"from": "steps", "steps": steps}});
    let step = |name: &str, defects: u32| json!({"name": name, "units": 100, "opportunities": 1, "defects": defects});
    let shifted: Vec<f64> = plain(30)
        .iter()
        .enumerate()
        .map(|(i, x)| {
            x + if (8..14).contains(&i) {
                3.0
            } else if i > 22 {
                -3.0
            } else {
                0.0
            }
        })
        .collect();
    let bell: Vec<f64> = (0..200).map(|i| acorn_core::numeric::normal::quantile((f64::from(i * 77 % 200) + 0.5) / 200.0)).collect();
    let times = [3.0, 40.0, 11.0, 2.0, 77.0, 25.0, 9.0, 14.0, 51.0, 6.0];
    let drifting: Vec<f64> = (0..40).map(|i| f64::from(i) + f64::from(i * 7 % 5)).collect();
    let mut one_apart = plain(20);
    one_apart.push(99.0);
    let benches = |sizes: &[(&'static str, usize)]| sizes.iter().flat_map(|(name, n)| vec![*name; *n]).collect::<Vec<_>>();
    let limits = [Some(-1.0), Some(2.0)];
    for (columns, limits, spec, says, never) in [
        (
            json!({"gap": one_apart, "bench": benches(&[("A", 10), ("B", 10), ("C", 1)])}),
            [None; 2],
            grouped("distribution", json!({})),
            "No difference of the centres can be shown",
            "C at 99",
        ),
        (
            json!({"gap": plain(12), "bench": benches(&[("A", 6), ("B", 6)])}),
            [None; 2],
            grouped("distribution", json!({})),
            "No group has the eight values",
            "departs",
        ),
        (
            json!({"gap": plain(20), "bench": benches(&[("A", 10), ("B", 10)])}),
            [None; 2],
            grouped("compare", json!({"test": "groups"})),
            "times apart would mostly have been found",
            "spread alike",
        ),
        (json!({"gap": bell}), limits, of("capability", json!({"shape": "johnson"})), "which tests nothing", "so few values"),
        (json!({"gap": [0.5, 0.6]}), limits, of("capability", json!({})), "May meet the limits", "Meets the limits"),
        (json!({"gap": [0.5]}), limits, of("capability", json!({})), "The one value lies within the limits", "1 value lie"),
        (json!({"gap": times}), [None; 2], chart("t"), "cannot be told", "events come"),
        (
            json!({"gap": times}),
            [None; 2],
            of("control-chart", json!({"chart": "t", "time_shape": "exponential"})),
            "It was asked for, not found",
            "events come",
        ),
        (json!({"gap": drifting}), [None; 2], chart("run"), "Neighbours are alike beyond chance. Look", "limits may be"),
        (
            json!({"gap": shifted}),
            [None; 2],
            chart("cusum"),
            "the sum above passes its limit at value 10 and the sum below passes its limit at value",
            "again",
        ),
        (json!({"gap": plain(30)}), [None; 2], chart("ewma"), "none of 30 averages is a signal", "30 values"),
        (json!({"gap": [0.5]}), [None; 2], chart("individuals"), "Too few to say: 1 value", "1 value are"),
        (
            json!({"gap": plain(30).iter().map(|x| x * 1e-7).collect::<Vec<_>>()}),
            [None; 2],
            chart("individuals"),
            "Steady: none of 30 values is a signal; expect",
            "expect 0.0 ",
        ),
        (json!({"gap": [0.0]}), [None; 2], steps(json!([step("press", 100)])), "0.0 % of units have none", "36.8"),
        (json!({"gap": [0.0]}), [None; 2], steps(json!([step("press", 0), step("seal", 0)])), "No defect seen", "loses most"),
        (
            json!({"gap": [0.0]}),
            [None; 2],
            steps(json!([step("press", 5), step("seal", 5), step("solder", 1)])),
            "Press and seal lose most, and alike",
            "loses most",
        ),
        (
            json!({"gap": [0.0]}),
            [None; 2],
            json!({"method": "sigma-level", "options": {"from": "normal", "mean": 0, "sd": 1, "lsl": -9, "usl": 9}}),
            "fewer than 0.1 values in a million",
            "0.0 values",
        ),
    ] {
        let answer = ask(&frame(&columns, &[("gap", limits[0], limits[1])]), &spec).unwrap().outcome(&View::ALL);
        let said = said(&serde_json::to_value(answer).unwrap()).join("\n");
        assert!(said.contains(says) && !said.contains(never), "{spec}: “{says}”, never “{never}”:\n{said}");
    }
}
