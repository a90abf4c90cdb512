//! Sentences over data that vary: nothing that is no number, no grammar by chance, nothing said thrice, nothing too long.
//!
//! A thousand small data sets in every run, seeded; `ACORN_FUZZ=1000000` asks as many (`cargo xtask fuzz`).

use acorn_study::View;
use acorn_testing::made::made;
use acorn_testing::{ask, frame};

use rayon::prelude::*;
use regex::Regex;
use serde_json::{Value, json};

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
    let many: u64 = std::env::var("ACORN_FUZZ").ok().and_then(|many| many.parse().ok()).unwrap_or(1000);
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
    // Said as it is found, so that a long run that is stopped has told something (`--nocapture`).
    let found: Vec<String> = (0..many).into_par_iter().filter_map(wrong).inspect(|one| eprintln!("{one}")).collect();
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
    let bell: Vec<f64> = (0..200).map(|i| acorn_maths::normal::quantile((f64::from(i * 77 % 200) + 0.5) / 200.0)).collect();
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
