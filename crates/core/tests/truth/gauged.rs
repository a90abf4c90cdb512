//! Gauges of known worth.

use serde_json::{Value, json};

use super::{Asked, Process, Random, Right, normal, read};

const READ_BY: [&str; 3] = ["Ann", "Bob", "Cy"];

/// Ten parts read three times by three operators, with what the operators add.
struct Study {
    parts: f64,
    gauge: f64,
    bias: [f64; 3],
    interaction: f64,
}

impl Study {
    fn read(&self, random: &mut Random) -> Value {
        let parts = normal(random, 10);
        let both = normal(random, 30);
        let (mut x, mut part, mut operator) = (Vec::new(), Vec::new(), Vec::new());
        for at in 0..90 {
            let (p, o) = (at / 3 % 10, at % 3);
            let noise = normal(random, 1)[0];
            x.push(self.parts * parts[p] + self.bias[o] + self.interaction * both[3 * p + o] + self.gauge * noise);
            part.push(format!("P{p}"));
            operator.push(READ_BY[o]);
        }
        json!({"x": read(x, 4), "part": part, "operator": operator})
    }

    fn asked(&self, random: &mut Random) -> Asked {
        let roles = json!({"measure": "x", "part": "part", "operator": "operator"});
        Asked::of(self.read(random), json!({"method": "gauge-crossed", "roles": roles, "options": {}}))
    }
}

const GOOD: Study = Study { parts: 1.0, gauge: 0.1, bias: [0.0; 3], interaction: 0.0 };

pub fn all() -> Vec<Process> {
    vec![
        Process::new("one operator of three reads 0.6 high", Right::Says("Cy reads", &["Ann reads", "Bob reads"]), 0.95, |random| {
            Study { bias: [0.0, 0.0, 0.6], ..GOOD }.asked(random).within(-5.0, 5.0)
        }),
        Process::new(
            "operators alike, but parts read differently by each",
            Right::Says("the gauge takes", &[" reads 0", "reads 1"]),
            0.9,
            |random| Study { interaction: 0.5, ..GOOD }.asked(random).within(-5.0, 5.0),
        ),
        Process::new(
            "a gauge of 5 % of the tolerance, parts alike",
            Right::Titles(&["Fit for the tolerance", "Fit for use"]),
            0.95,
            |random| Study { parts: 0.05, ..GOOD }.asked(random).within(-6.0, 6.0),
        ),
        Process::new("a gauge of 6 % of the tolerance", Right::Titles(&["Fit for use"]), 0.95, |random| {
            GOOD.asked(random).within(-5.0, 5.0)
        }),
        Process::new("a good gauge that destroys the piece", Right::NotTitles(&["Not usable"]), 0.95, |random| {
            let pieces = normal(random, 15);
            let x = normal(random, 30).into_iter().enumerate().map(|(at, value)| pieces[at / 2] + 0.1 * value);
            let columns = json!({
                "x": read(x, 4),
                "part": (0..30).map(|at| format!("P{}", at / 2)).collect::<Vec<_>>(),
                "operator": (0..30).map(|at| READ_BY[at / 10]).collect::<Vec<_>>(),
            });
            let roles = json!({"measure": "x", "part": "part", "operator": "operator"});
            Asked::of(columns, json!({"method": "gauge-nested", "roles": roles, "options": {}}))
        }),
        Process::new("a right gauge on one reference piece", Right::NotTitles(&["Set it right", "Reads off"]), 0.95, |random| {
            let x = read(normal(random, 50).into_iter().map(|value| 10.0 + 0.01 * value), 4);
            let options = json!({"reference": 10.0});
            Asked::of(json!({ "x": x }), json!({"method": "gauge-single", "roles": {"measure": "x"}, "options": options})).within(9.5, 10.5)
        }),
        Process::new("a bias that bends over the range", Right::Titles(&["Not linear"]), 0.95, |random| {
            let known: Vec<f64> = (0..60).map(|at| 2.0 * (at / 12 + 1) as f64).collect();
            let bias = |known: f64| 0.05 * ((known - 6.0).powi(2) / 16.0 - 0.5);
            let x = known.iter().zip(normal(random, 60)).map(|(known, value)| known + bias(*known) + 0.01 * value);
            let parts: Vec<String> = known.iter().map(|known| format!("P{known}")).collect();
            let roles = json!({"measure": "x", "part": "part", "reference": "known"});
            let columns = json!({"x": read(x, 4), "part": parts, "known": known});
            Asked::of(columns, json!({"method": "gauge-linearity", "roles": roles, "options": {}}))
        }),
    ]
}
