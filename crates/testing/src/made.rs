//! Made-up data sets and questions about them, each from a seed.

use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Map, Value, json};

/// Draws with which a data set and its question are made up.
pub struct Draw(pub Xoshiro256PlusPlus);

impl Draw {
    /// One of several.
    pub fn one<T: Copy>(&mut self, of: &[T]) -> T {
        of[self.0.random_range(0..of.len())]
    }

    /// Whether something happens that happens in this share of cases.
    pub fn often(&mut self, share: f64) -> bool {
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
pub fn made(seed: u64) -> (Value, [Option<f64>; 2], Value) {
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
                options["patterns"] = acorn_charts::control_chart::Pattern::ALL.iter().map(|one| json!({"pattern": one.name()})).collect();
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
