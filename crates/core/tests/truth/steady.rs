//! Processes that are steady, some of them in ways that look otherwise.

use rand::RngExt;
use rand::distr::Distribution;
use rand_distr::{Beta, Binomial, Exp, Geometric, LogNormal, Poisson, StudentT};
use serde_json::{Value, json};

use super::{Asked, Process, Random, Right, chart, normal, read};

/// Titles that call a process moved.
const MOVED: &[&str] = &["Not steady", "Not random"];

/// A steady process: not one in twenty is called moved.
fn steady(name: impl Into<String>, draw: impl Fn(&mut Random) -> Asked + Sync + 'static) -> Process {
    Process::new(name, Right::NotTitles(MOVED), 0.95, draw)
}

fn counts(name: &str, n: usize, options: Value, draw: impl Fn(&mut Random, usize) -> (f64, f64) + Sync + 'static) -> Process {
    let spec = json!({"method": "control-chart", "roles": {"count": "x", "size": "n"}, "options": options});
    steady(format!("{name}, {n} subgroups"), move |random| {
        let (x, sizes): (Vec<f64>, Vec<f64>) = (0..n).map(|at| draw(random, at)).unzip();
        Asked::of(json!({"x": x, "n": sizes}), spec.clone())
    })
}

/// The same values asked of a chart or of capability.
fn shaped(name: &str, method: &'static str, right: Right, least: f64, sample: fn(&mut Random) -> f64) -> Process {
    Process::new(name, right, least, move |random| {
        let values = read((0..200).map(|_| sample(random)), 3);
        Asked::of(json!({ "x": values }), json!({"method": method, "roles": {"measure": "x"}, "options": {}})).within(None, 50.0)
    })
}

pub fn all() -> Vec<Process> {
    let mut all = Vec::new();
    for n in [25, 50, 100, 200, 1000] {
        all.push(steady(format!("steady, individuals, {n} values"), move |random| {
            Asked::of(json!({"x": normal(random, n)}), chart(json!({})))
        }));
    }
    for kind in ["xbar-r", "xbar-s", "xbar-between"] {
        all.push(steady(format!("steady, {kind}, 50 subgroups of 5"), move |random| {
            let subgroups: Vec<usize> = (0..250).map(|at| at / 5).collect();
            let spec = json!({"method": "control-chart", "roles": {"measure": "x", "subgroup": "s"}, "options": {"chart": kind}});
            Asked::of(json!({"x": normal(random, 250), "s": subgroups}), spec)
        }));
    }
    for kind in ["ewma", "cusum", "run"] {
        all.push(steady(format!("steady, {kind}, 100 values"), move |random| {
            Asked::of(json!({"x": normal(random, 100)}), chart(json!({"chart": kind})))
        }));
    }
    let defective = |share: f64| move |random: &mut Random, _: usize| (Binomial::new(200, share).unwrap().sample(random) as f64, 200.0);
    all.push(counts("steady, p chart, 2 % of 200", 50, json!({"chart": "p"}), defective(0.02)));
    all.push(counts("steady, np chart, 5 % of 200", 100, json!({"chart": "np"}), defective(0.05)));
    all.push(counts("steady, p′ chart, 2 % of 200", 50, json!({"chart": "p-prime"}), defective(0.02)));
    all.push(counts("steady, p chart, 0.1 % of 200", 60, json!({"chart": "p"}), defective(0.001)));
    all.push(counts("steady, u chart, unlike sizes", 100, json!({"chart": "u"}), |random, at| {
        let size = 20.0 + (at * 37 % 61) as f64;
        (Poisson::new(size * 0.1).unwrap().sample(random), size)
    }));
    all.push(counts("overdispersed but steady, p chart of 1,000", 60, json!({"chart": "p"}), |random, _| {
        let share = Beta::new(20.0, 980.0).unwrap().sample(random);
        (Binomial::new(1000, share).unwrap().sample(random) as f64, 1000.0)
    }));
    for (share, least) in [(0.13, 0.85), (0.2, 0.95)] {
        let odd = Process::new(
            format!("5 % of 200, and two odd days of {} %, 60 subgroups", 100.0 * share),
            Right::Titles(&["Not steady"]),
            least,
            move |random| {
                let own = |at: usize| if at == 20 || at == 41 { share } else { 0.05 };
                let x: Vec<f64> = (0..60).map(|at| Binomial::new(200, own(at)).unwrap().sample(random) as f64).collect();
                let spec = json!({"method": "control-chart", "roles": {"count": "x", "size": "n"}, "options": {"chart": "p"}});
                Asked::of(json!({"x": x, "n": vec![200; 60]}), spec)
            },
        );
        all.push(odd);
    }
    all.push(steady("steady, g chart, 50 counts", |random| {
        let pieces: Vec<f64> = (0..50).map(|_| Geometric::new(0.02).unwrap().sample(random) as f64).collect();
        Asked::of(json!({ "x": pieces }), chart(json!({"chart": "g"})))
    }));
    all.push(steady("steady, t chart, 50 times", |random| {
        let times: Vec<f64> = (0..50).map(|_| Exp::new(0.02).unwrap().sample(random)).collect();
        Asked::of(json!({ "x": times }), chart(json!({"chart": "t"})))
    }));
    all.push(steady("steady, read in steps of one sd, 100 values", |random| {
        Asked::of(json!({"x": read(normal(random, 100), 0)}), chart(json!({})))
    }));
    let lognormal = |random: &mut Random| LogNormal::new(0.0, 0.5).unwrap().sample(random);
    let exponential = |random: &mut Random| Exp::new(1.0).unwrap().sample(random);
    let heavy = |random: &mut Random| StudentT::new(3.0).unwrap().sample(random);
    for (method, asked) in [("control-chart", "chart"), ("capability", "capability")] {
        all.push(shaped(&format!("lognormal, {asked}, 200 values"), method, Right::NotTitles(MOVED), 0.95, lognormal));
        all.push(shaped(&format!("exponential, {asked}, 200 values"), method, Right::NotTitles(MOVED), 0.95, exponential));
        all.push(shaped(&format!("heavy tails (t, 3 df), {asked}, 200 values"), method, Right::NotTitles(MOVED), 0.8, heavy));
    }
    let capable = |sd: f64, titles: &'static [&'static str]| {
        Process::new(format!("normal, limits {sd} sd away, 100 values"), Right::Titles(titles), 0.95, move |random| {
            Asked::of(json!({"x": normal(random, 100)}), json!({"method": "capability", "roles": {"measure": "x"}, "options": {}}))
                .within(-sd, sd)
        })
    };
    all.push(capable(8.0, &["Meets the limits"]));
    all.push(capable(1.0, &["Does not meet the limits"]));
    all.push(Process::new("30 dimensions, each with limits 6 sd away", Right::Titles(&["All meet", "30 of", "29 of"]), 0.9, |random| {
        let columns: serde_json::Map<String, Value> = (0..30).map(|k| (format!("d{k}"), json!(normal(random, 100)))).collect();
        let names: Vec<String> = columns.keys().cloned().collect();
        Asked::of(json!(columns), json!({"method": "indices", "roles": {"measure": names}, "options": {}})).within(-6.0, 6.0)
    }));
    all.push(Process::new("sorted at the upper limit, 300 values", Right::Titles(&["Cut off at a limit"]), 0.9, |random| {
        let kept: Vec<f64> = normal(random, 2000).into_iter().filter(|value| *value < 1.0).take(300).collect();
        Asked::of(json!({"x": read(kept, 3)}), json!({"method": "capability", "roles": {"measure": "x"}, "options": {}})).within(-5.0, 1.0)
    }));
    all.push(Process::new("a slipped decimal point among 100 values", Right::Titles(&["Check row"]), 0.98, |random| {
        let mut x = read(normal(random, 100).into_iter().map(|value| 10.0 + 0.05 * value), 2);
        let place = random.random_range(0..100);
        x[place] *= 10.0;
        Asked::of(json!({ "x": x }), chart(json!({})))
    }));
    all.push(Process::new("all values in another unit than the limits", Right::Titles(&["Check unit"]), 0.98, |random| {
        let x = read(normal(random, 60).into_iter().map(|value| 25.4 * (10.0 + 0.1 * value)), 2);
        Asked::of(json!({ "x": x }), json!({"method": "capability", "roles": {"measure": "x"}, "options": {}})).within(9.0, 11.0)
    }));
    all
}
