//! What models rest on: distributions that are what they say, draws that know nothing of each other, copulas, shares, tightening
//! and searches, each held against the same thing worked out another way.

mod slices;

use acorn_core::methods::Computed;
use acorn_data::frame::Frame;
use acorn_maths::cancel::Cancel;
use acorn_models::model::run::{Tally, run};
use acorn_models::model::search::{Plan, search};
use acorn_models::model::shares::shares;
use acorn_models::model::summary::{Cells, SHARES};
use acorn_models::model::tightening::lines;
use acorn_models::model::{Bench, Control, Correlation, Distribution, Input, Model, Response, Sampling, Search, Source};
use acorn_study::View;
use acorn_testing::{ask, frame};
use serde_json::{Map, Value, json};

fn nothing() -> Frame {
    Frame::from_json(&Map::new()).unwrap()
}

fn model_on(frame: &Frame, inputs: Value, controls: Value, responses: Value, correlations: Value) -> Model {
    let inputs: Vec<Input> = serde_json::from_value(inputs).unwrap();
    let controls: Vec<Control> = serde_json::from_value(controls).unwrap();
    let responses: Vec<Response> = serde_json::from_value(responses).unwrap();
    let correlations: Vec<Correlation> = serde_json::from_value(correlations).unwrap();
    Model::read(inputs, controls, responses, &correlations, frame).unwrap()
}

fn model(inputs: Value, responses: Value) -> Model {
    model_on(&nothing(), inputs, json!([]), responses, json!([]))
}

fn input(name: &str, distribution: &str, parameters: Value) -> Value {
    json!({"name": name, "distribution": distribution, "parameters": parameters})
}

/// Distributions with parameters that lean, whose moments exist.
fn distributions() -> Vec<(&'static str, Value)> {
    vec![
        ("normal", json!({"mean": -2, "sd": 3})),
        ("uniform", json!({"low": -1, "high": 5})),
        ("triangular", json!({"low": 0, "mode": 0.5, "high": 4})),
        ("triangular", json!({"low": 0, "mode": 4, "high": 4})),
        ("lognormal", json!({"mu": 0.2, "sigma": 0.5, "threshold": 3})),
        ("weibull", json!({"shape": 1.4, "scale": 2})),
        ("gamma", json!({"shape": 2.7, "scale": 3, "threshold": -1})),
        ("exponential", json!({"scale": 2, "threshold": 5})),
        ("beta", json!({"alpha": 1.6, "beta": 3, "low": 1, "high": 9})),
        ("logistic", json!({"location": 5, "scale": 0.5})),
        ("loglogistic", json!({"location": 1, "scale": 0.1})),
        ("smallest-extreme-value", json!({"location": 5, "scale": 1})),
        ("largest-extreme-value", json!({"location": 5, "scale": 1})),
    ]
}

fn read(name: &str, parameters: &Value) -> Distribution {
    Distribution::read(name, parameters.as_object().unwrap()).unwrap()
}

/// Mean, sd and share of the whole by the density, in steps of equal share below.
fn integrated(distribution: &Distribution) -> (f64, f64, f64) {
    const STEPS: usize = 40_000;
    let at = |place: usize| {
        // Even in the tails, by the normal scale.
        let z = -8.0 + 16.0 * place as f64 / STEPS as f64;
        distribution.quantile(acorn_maths::normal::below(z), acorn_maths::normal::above(z))
    };
    let (mut mass, mut first, mut second) = (0.0, 0.0, 0.0);
    let mut left = at(0);
    for place in 1..=STEPS {
        let right = at(place);
        let middle = (left + right) / 2.0;
        let weight = distribution.density(middle).unwrap() * (right - left);
        mass += weight;
        first += weight * middle;
        second += weight * middle * middle;
        left = right;
    }
    (mass, first / mass, (second / mass - (first / mass).powi(2)).sqrt())
}

#[test]
fn mean_sd_density_and_quantiles_of_a_distribution_are_of_one_piece() {
    for (name, parameters) in distributions() {
        let distribution = read(name, &parameters);
        let (mass, mean, sd) = integrated(&distribution);
        assert!((mass - 1.0).abs() < 2e-4, "{name}: {mass}");
        assert!((distribution.mean().unwrap() - mean).abs() < 2e-3 * sd, "{name}: {mean}");
        assert!((distribution.sd().unwrap() / sd - 1.0).abs() < 2e-3, "{name}: {sd}");
        // Quantiles rise, and from either side they are the same.
        let quantiles: Vec<f64> = (1..200).map(|i| f64::from(i) / 200.0).map(|share| distribution.quantile(share, 1.0 - share)).collect();
        assert!(quantiles.is_sorted(), "{name}");
        assert!((distribution.quantile(0.4999999, 0.5000001) - distribution.quantile(0.5000001, 0.4999999)).abs() < 1e-5, "{name}");
    }
    // Tails too heavy for a moment have none, and are told without it.
    assert_eq!(read("loglogistic", &json!({"location": 1, "scale": 1.5})).mean(), None);
    assert_eq!(read("loglogistic", &json!({"location": 1, "scale": 0.6})).sd(), None);
}

#[test]
fn a_spread_is_scaled_about_the_mean_whatever_the_shape() {
    for (name, parameters) in distributions() {
        let distribution = read(name, &parameters);
        for by in [0.25, 0.5, 2.0] {
            let scaled = distribution.spread(by);
            assert!((scaled.mean().unwrap() - distribution.mean().unwrap()).abs() < 1e-9, "{name} × {by}");
            assert!((scaled.sd().unwrap() / distribution.sd().unwrap() - by).abs() < 1e-9, "{name} × {by}");
            let mean = distribution.mean().unwrap();
            for share in [0.01, 0.3, 0.9] {
                let expected = mean + by * (distribution.quantile(share, 1.0 - share) - mean);
                assert!(
                    (scaled.quantile(share, 1.0 - share) - expected).abs() < 1e-9 * expected.abs().max(1.0),
                    "{name} × {by} at {share}"
                );
            }
        }
        assert_eq!(distribution.spread(0.0).sd(), Some(0.0), "{name}");
    }
    let data = Distribution::of_data(vec![1.0, f64::NAN, 5.0, 3.0]).unwrap();
    assert_eq!((data.mean(), data.spread(0.5).quantile(0.0, 1.0), data.spread(0.5).quantile(1.0, 0.0)), (Some(3.0), 2.0, 4.0));
    assert!(Distribution::of_data(vec![f64::NAN]).is_err());
    assert_eq!(Distribution::of_data(vec![2.0, 2.0]).unwrap(), Distribution::Constant(2.0));
}

fn drawn(model: &Model, source: Source, blocks: u64) -> Vec<Vec<f64>> {
    let mut bench = Bench::of(model);
    let mut columns = vec![Vec::new(); model.drawn.len()];
    for block in 0..blocks {
        bench.draw(model, source, block, 1024);
        columns.iter_mut().zip(&bench.columns).for_each(|(all, column)| all.extend_from_slice(column));
    }
    columns
}

fn correlation(a: &[f64], b: &[f64]) -> f64 {
    let n = a.len() as f64;
    let mean = |values: &[f64]| values.iter().sum::<f64>() / n;
    let (ma, mb) = (mean(a), mean(b));
    let product = |x: &[f64], mx: f64, y: &[f64], my: f64| x.iter().zip(y).map(|(x, y)| (x - mx) * (y - my)).sum::<f64>();
    product(a, ma, b, mb) / (product(a, ma, a, ma) * product(b, mb, b, mb)).sqrt()
}

fn ranks(values: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..values.len()).collect();
    order.sort_by(|a, b| values[*a].total_cmp(&values[*b]));
    let mut ranks = vec![0.0; values.len()];
    order.into_iter().enumerate().for_each(|(rank, place)| ranks[place] = rank as f64);
    ranks
}

#[test]
fn draws_know_nothing_of_other_inputs_blocks_sets_and_seeds() {
    let model = model(
        json!([
            input("a", "normal", json!({"mean": 0, "sd": 1})),
            input("b", "uniform", json!({"low": 0, "high": 1})),
            input("c", "gamma", json!({"shape": 2, "scale": 1}))
        ]),
        json!([]),
    );
    let source = |seed, set| Source { seed, set, slices: None };
    let first = drawn(&model, source(1, 0), 64);
    let limit = 4.5 / (64.0f64 * 1024.0).sqrt();
    let near_zero = |what: &str, r: f64| assert!(r.abs() < limit, "{what}: {r}");
    near_zero("a with b", correlation(&first[0], &first[1]));
    near_zero("a with c", correlation(&first[0], &first[2]));
    for lag in [1, 2, 7, 8, 512, 1024] {
        near_zero(&format!("a with itself {lag} on"), correlation(&first[0][lag..], &first[0][..first[0].len() - lag]));
    }
    // Of squares too: pairs of normals share a radius.
    let squares: Vec<f64> = first[0].iter().map(|x| x * x).collect();
    near_zero("squares 512 on", correlation(&squares[512..], &squares[..squares.len() - 512]));
    for (what, other) in [("another set", source(1, 1)), ("another seed", source(2, 0))] {
        near_zero(what, correlation(&first[0], &drawn(&model, other, 64)[0]));
    }
    assert_eq!(first, drawn(&model, source(1, 0), 64));
    // A shorter block has the first draws of a whole one.
    let mut bench = Bench::of(&model);
    bench.draw(&model, source(1, 0), 3, 100);
    assert_eq!(bench.columns[0][..], first[0][3 * 1024..3 * 1024 + 100]);
}

#[test]
fn a_copula_gives_normals_their_correlation_and_others_their_own_ranks() {
    let pairs = json!([{"a": "x", "b": "y", "r": 0.7}, {"a": "y", "b": "z", "r": -0.5}]);
    let normal = |name: &str| input(name, "normal", json!({"mean": 1, "sd": 2}));
    let with =
        |third: Value| model_on(&nothing(), json!([normal("x"), normal("y"), third, normal("free")]), json!([]), json!([]), pairs.clone());
    let source = Source { seed: 9, set: 0, slices: None };
    let found = drawn(&with(normal("z")), source, 100);
    let near = |what: &str, got: f64, wanted: f64| assert!((got - wanted).abs() < 0.012, "{what}: {got}, not {wanted}");
    near("x with y", correlation(&found[0], &found[1]), 0.7);
    near("y with z", correlation(&found[1], &found[2]), -0.5);
    near("x with z", correlation(&found[0], &found[2]), 0.0);
    near("free", correlation(&found[0], &found[3]), 0.0);
    // Spearman's rho of a normal copula is 6/π asin(r/2), whatever the shapes (Kruskal 1958).
    for (name, parameters) in distributions() {
        let found = drawn(&with(input("z", name, parameters.clone())), source, 100);
        near(name, correlation(&ranks(&found[1]), &ranks(&found[2])), 6.0 / std::f64::consts::PI * (-0.25f64).asin());
        let mean = found[2].iter().sum::<f64>() / found[2].len() as f64;
        let distribution = read(name, &parameters);
        assert!((mean - distribution.mean().unwrap()).abs() < 5.0 * distribution.sd().unwrap() / (found[2].len() as f64).sqrt(), "{name}");
    }
}

#[test]
fn sums_of_blocks_are_those_of_all_draws_whatever_is_missing() {
    let wave = |i: usize| 1e6 + (i * 37 % 101) as f64 / 50.0;
    let values: Vec<f64> = (0..5000)
        .map(|i| {
            if i % 97 == 0 {
                f64::NAN
            } else if i % 101 == 0 {
                f64::INFINITY
            } else {
                wave(i)
            }
        })
        .collect();
    let there: Vec<f64> = values.iter().copied().filter(|value| value.is_finite()).collect();
    let n = there.len() as f64;
    let mean = there.iter().map(|value| value - 1e6).sum::<f64>() / n;
    let squares = there.iter().map(|value| (value - 1e6 - mean).powi(2)).sum::<f64>();
    let limits = [1e6 + 0.3, 1e6 + 1.5];
    for length in [1, 3, 8, 100, 5000] {
        let tally = values.chunks(length).map(|chunk| Tally::of(chunk, limits)).fold(Tally::NONE, Tally::and);
        assert_eq!((tally.n, tally.undefined), (n, 5000.0 - n), "{length}");
        assert!((tally.mean - 1e6 - mean).abs() < 1e-7 && (tally.variance() - squares / (n - 1.0)).abs() < 1e-7, "{length}");
        assert_eq!(tally.below, there.iter().filter(|value| **value < limits[0]).count() as f64);
        assert_eq!(tally.above, there.iter().filter(|value| **value > limits[1]).count() as f64);
        assert_eq!(
            (tally.low, tally.high),
            (there.iter().copied().fold(f64::INFINITY, f64::min), there.iter().copied().fold(f64::MIN, f64::max))
        );
    }
    let none = Tally::of(&[f64::NAN; 9], limits);
    assert_eq!((none.n, none.undefined, none.sd(), none.out()), (0.0, 9.0, 0.0, 0.0));
}

#[test]
fn percentiles_and_bars_are_those_of_sorting_for_whatever_values() {
    let wave = |i: usize| (i * 7919 % 10_007) as f64 / 10_007.0;
    let sets: Vec<(&str, Vec<f64>)> = vec![
        ("even", (0..9000).map(wave).collect()),
        ("two", vec![1.0, 2.0]),
        ("few whole numbers", (0..9000).map(|i| (i % 7) as f64).collect()),
        ("far tail", (0..9000).map(|i| 1.0 / (wave(i) + 1e-7)).collect()),
        ("large offset", (0..9000).map(|i| 1e9 + wave(i)).collect()),
        ("negative", (0..9000).map(|i| -5.0 - wave(i)).collect()),
        ("missing", (0..9000).map(|i| if i % 3 == 0 { f64::NAN } else { wave(i) }).collect()),
        ("tiny", (0..9000).map(|i| wave(i) * 1e-200).collect()),
        ("alike", vec![4.2; 500]),
    ];
    for (what, values) in sets {
        let mut sorted: Vec<f64> = values.iter().copied().filter(|value| value.is_finite()).collect();
        sorted.sort_by(f64::total_cmp);
        let extent = [sorted[0], sorted[sorted.len() - 1]];
        let pieces: Vec<&[f64]> = values.chunks(2000).collect();
        let cells = Cells::of(&pieces, extent);
        let found = cells.percentiles(&pieces, &SHARES);
        for (share, got) in SHARES.iter().zip(&found) {
            let place = share * (sorted.len() - 1) as f64;
            let (left, right) = (sorted[place as usize], sorted[(place as usize + 1).min(sorted.len() - 1)]);
            let wanted = left + place.fract() * (right - left);
            assert!((got - wanted).abs() <= 1e-12 * wanted.abs().max(extent[1] - extent[0]), "{what} at {share}: {got}, not {wanted}");
        }
        let (bars, beyond) = cells.bars(&pieces, extent, [found[0], found[6], found[12]]);
        assert!(bars.len() <= 192, "{what}: {} bars", bars.len());
        assert_eq!(bars.iter().map(|bar| bar.count).sum::<usize>() + beyond[0] + beyond[1], sorted.len(), "{what}");
        for bar in &bars {
            // But for values that lie on an edge within rounding.
            let slack = 1e-6 * (bar.to - bar.from) + 1e-15 * bar.to.abs();
            let inside = sorted.iter().filter(|value| **value >= bar.from + slack && **value < bar.to - slack).count();
            let around = sorted.iter().filter(|value| **value >= bar.from - slack && **value < bar.to + slack).count();
            assert!(
                (inside..=around).contains(&bar.count),
                "{what}: {} in {} to {}, not {inside} to {around}",
                bar.count,
                bar.from,
                bar.to
            );
        }
    }
}

fn two(formula: &str) -> Model {
    model(
        json!([
            input("x", "normal", json!({"mean": 1, "sd": 1})),
            input("y", "normal", json!({"mean": 0, "sd": 2})),
            input("idle", "normal", json!({"mean": 0, "sd": 5}))
        ]),
        json!([{"name": "r", "formula": formula}]),
    )
}

#[test]
fn shares_tell_sums_from_what_inputs_do_together() {
    let of = |formula: &str, draws: usize| shares(&two(formula), draws, 3, &Cancel::default()).unwrap().remove(0);
    // A sum: 1 and 4 parts of 5, each by itself.
    let sum = of("x + y", 300_000).unwrap();
    for (share, wanted) in sum.iter().zip([0.2, 0.8, 0.0]) {
        assert!(
            (share.first - wanted).abs() <= 4.0 * share.first_error && (share.total - wanted).abs() <= 4.0 * share.total_error,
            "{share:?}"
        );
    }
    assert_eq!((sum[2].first, sum[2].total, sum[2].total_error), (0.0, 0.0, 0.0), "what no formula names makes nothing");
    // A product with one mean at 0: y by itself 4 of 8 parts, x nothing by itself, together the rest.
    let product = of("x * y", 300_000).unwrap();
    let near = |got: f64, wanted: f64, error: f64| assert!((got - wanted).abs() < 4.0 * error.max(1e-3), "{got}, not {wanted}");
    near(product[0].first, 0.0, product[0].first_error);
    near(product[1].first, 0.5, product[1].first_error);
    near(product[0].total, 0.5, product[0].total_error);
    near(product[1].total, 1.0, product[1].total_error);
    // Errors shrink as the root of the draws.
    let ratio = of("x * y", 18_750).unwrap()[1].first_error / product[1].first_error;
    assert!((3.0..5.3).contains(&ratio), "{ratio}");
    assert!(of("2 + 3", 1000).is_none() && of("x - x", 1000).is_none());
}

/// The line of an input at a scale is the run of a model whose input has that spread, draw for draw.
#[test]
fn a_tightening_line_is_a_run_with_that_spread() {
    let at = |spread: [f64; 2]| {
        let with = |name: &str, distribution: &str, parameters: Value, spread: f64| json!({"name": name, "distribution": distribution, "parameters": parameters, "spread": spread});
        model(
            json!([
                with("x", "normal", json!({"mean": 1, "sd": 0.3}), spread[0]),
                with("y", "uniform", json!({"low": 2, "high": 3}), spread[1])
            ]),
            json!([{"name": "r", "formula": "x * y^2", "lsl": 3, "usl": 9}, {"name": "only y", "formula": "y"}]),
        )
    };
    let cancel = Cancel::default();
    let tallies = |spread: [f64; 2]| run(&at(spread), 30_000, 4, Sampling::Plain, &cancel).unwrap().tallies;
    let ran = run(&at([1.0; 2]), 30_000, 4, Sampling::Plain, &cancel).unwrap();
    let found = lines(&at([1.0; 2]), &[0.0, 0.5, 1.7], &ran, Source { seed: 4, set: 0, slices: None }, &cancel).unwrap();
    for (step, scale) in [0.0, 0.5, 1.7].into_iter().enumerate() {
        for (input, spread) in [[scale, 1.0], [1.0, scale]].into_iter().enumerate() {
            let wanted = tallies(spread);
            for response in 0..2 {
                let line = &found[response][input];
                assert!((line.sd[step] - wanted[response].sd()).abs() < 1e-9, "{response} by {input} at {scale}");
                assert!((line.out[step] - wanted[response].out()).abs() < 1e-3, "{response} by {input} at {scale}");
            }
        }
    }
}

#[test]
fn a_search_finds_the_optimum_of_each_goal() {
    let found = |goal: &str, response: &str, target: Value| {
        let model = model_on(
            &nothing(),
            json!([input("noise", "normal", json!({"mean": 0, "sd": 0.5}))]),
            json!([{"name": "k", "value": 8, "low": 0, "high": 10}, {"name": "fixed", "value": 1}]),
            // Wide noise on one side, so that the middle is not the place with the fewest out.
            json!([{"name": "r", "formula": "k + noise*(1 + k/5) + fixed - 1", "lsl": 2, "usl": 8, "target": 3}, {"name": "flat", "formula": "k*0 + 1"}]),
            json!([]),
        );
        let wanted: Search = serde_json::from_value(json!({"goal": goal, "response": response, "target": target})).unwrap();
        let plan = Plan::read(&wanted, &model)?;
        let best = search(&model, &plan, 30_000, 2, &Cancel::default()).unwrap();
        Ok::<_, acorn_study::StudyError>((best.found[0].value, best))
    };
    // sd(k) = 0.5 (1 + k/5): as much room on both sides, in sds, where (k − 2) = (8 − k).
    let (ppk, best) = found("largest-ppk", "r", json!(null)).unwrap();
    assert!((ppk - 5.0).abs() < 0.05 && best.better, "{ppk}");
    // The fewest out: the density at both limits is the same.
    let (least, best) = found("least-out", "r", json!(null)).unwrap();
    let out = |k: f64| {
        let sd = 0.5 * (1.0 + k / 5.0);
        acorn_maths::normal::above((8.0 - k) / sd) + acorn_maths::normal::above((k - 2.0) / sd)
    };
    let exact = (0..=1000).map(|i| f64::from(i) / 100.0).min_by(|a, b| out(*a).total_cmp(&out(*b))).unwrap();
    assert!(out(least) < 1.05 * out(exact) + 1e-4, "{least}, not {exact}");
    assert_eq!(best.found[0].border, 0);
    // The target costs spread: least at 3 + what the spread gains, (k − t)² + sd².
    let (hit, _) = found("target", "r", json!(6)).unwrap();
    let missed = |k: f64| (k - 6.0f64).powi(2) + (0.5 * (1.0 + k / 5.0)).powi(2);
    let exact = (0..=10_000).map(|i| f64::from(i) / 1000.0).min_by(|a, b| missed(*a).total_cmp(&missed(*b))).unwrap();
    assert!((hit - exact).abs() < 0.03, "{hit}, not {exact}");
    // Its own target when none is given; none at all is refused, and a response without limits too.
    assert!((found("target", "r", json!(null)).unwrap().0 - 3.0).abs() < 0.1);
    assert!(found("target", "flat", json!(null)).err().unwrap().to_string().contains("“flat” has no target to hit"));
    assert!(found("least-out", "flat", json!(null)).err().unwrap().to_string().contains("“flat” has no limit to stay within"));
    assert!(found("least-out", "gone", json!(null)).err().unwrap().to_string().contains("there is no response “gone”"));
    // Nine tenths of the gain remain inside the slack, and less beyond.
    let (_, best) = found("target", "r", json!(6)).unwrap();
    let (low, high) = (best.found[0].slack[0], best.found[0].slack[1]);
    let most = missed(hit) + 0.1 * (missed(8.0) - missed(hit));
    for end in [low, high] {
        assert!((missed(end) / most - 1.0).abs() < 0.05, "{end}: {} is not {most}", missed(end));
    }
}

/// A turned round cloud is the same cloud: no angle is better, though on the draws that chose it one always is.
#[test]
fn settings_that_are_all_equal_are_seldom_called_better() {
    let inputs = json!([input("x", "normal", json!({"mean": 0, "sd": 1})), input("z", "normal", json!({"mean": 0, "sd": 1}))]);
    let controls = json!([{"name": "k", "value": 0, "low": -3, "high": 3}]);
    let responses = json!([{"name": "y", "formula": "x * cos(k) + z * sin(k)", "lsl": -2, "usl": 2}]);
    let model = model_on(&nothing(), inputs, controls, responses, json!([]));
    let plan = Plan::read(&serde_json::from_value::<Search>(json!({"goal": "largest-ppk"})).unwrap(), &model).unwrap();
    let better = (1..=12).filter(|seed| search(&model, &plan, 4000, *seed, &Cancel::default()).unwrap().better).count();
    assert!(better <= 1, "{better} of 12");
}

#[test]
fn a_search_tells_the_best_so_far_as_what_it_finds_in_the_end() {
    let inputs = json!([input("x", "normal", json!({"mean": 0, "sd": 1.6}))]);
    let controls = json!([{"name": "k", "value": 4, "low": -5, "high": 5}]);
    let responses = json!([
        {"name": "y", "formula": "x + k", "lsl": -4, "usl": 4.5, "target": 1},
        {"name": "z", "formula": "x - k", "lsl": -9, "usl": 9, "target": 1},
    ]);
    let model = model_on(&nothing(), inputs, controls, responses, json!([]));
    let told = |search_for: Value| {
        let cancel = Cancel::default();
        let plan = Plan::read(&serde_json::from_value::<Search>(search_for).unwrap(), &model).unwrap();
        // So few draws that first and last comparisons are made by the same.
        let best = search(&model, &plan, 4000, 1, &cancel).unwrap();
        (cancel.so_far().unwrap(), best)
    };
    let (said, best) = told(json!({"goal": "largest-ppk", "response": "y"}));
    let tally = &best.after[0];
    assert_eq!(said, format!("Ppk {:.2}", (4.5 - tally.mean).min(tally.mean + 4.0) / (3.0 * tally.sd())));
    let (said, _) = told(json!({"goal": "largest-ppk"}));
    assert!(said.ends_with(" of the worst"), "{said}");
    let (said, best) = told(json!({"goal": "target", "response": "y"}));
    let off = (best.after[0].variance() + (best.after[0].mean - 1.0).powi(2)).sqrt();
    assert_eq!(said, format!("{off:.1} off target"));
    let (said, best) = told(json!({"goal": "least-out"}));
    assert!(said.ends_with(" out, weighed together") && best.after[0].out() < 0.02, "{said}");
}

#[test]
fn an_input_of_another_dataset_is_read_there_and_not_narrowed() {
    let column = |values: Value| frame(&json!({"flux": values}), &[]).columns()[0].clone();
    let own = frame(&json!({"flux": [1, 2, 3, 9], "bench": ["A", "A", "B", "B"]}), &[]);
    let both = own.with_foreign_columns(vec![(7, column(json!([10, 20, 30, 40, 50]))), (8, column(json!([5, 5])))]);
    let ask = |dataset: Value, only: Value| {
        let spec = json!({"method": "simulation", "only": only, "options": {"draws": 1000,
            "inputs": [{"name": "a", "distribution": "data", "column": "flux"}, {"name": "b", "distribution": "data", "column": "flux", "dataset": dataset}],
            "responses": [{"name": "y", "formula": "a + b"}]}});
        acorn_core::methods::compute(&both, &serde_json::from_value(spec).unwrap(), &Cancel::default())
    };
    let means = |dataset: Value, only: Value| {
        let numbers = ask(dataset, only).unwrap().outcome(&View::default());
        let numbers = serde_json::to_value(&numbers).unwrap()["numbers"]["inputs"].clone();
        [numbers[0]["mean"].as_f64().unwrap(), numbers[1]["mean"].as_f64().unwrap()]
    };
    assert_eq!(means(json!(7), json!([])), [3.75, 30.0]);
    assert_eq!(means(json!(8), json!([])), [3.75, 5.0]);
    assert_eq!(means(json!(null), json!([])), [3.75, 3.75]);
    assert_eq!(means(json!(7), json!([{"column": "bench", "labels": ["A"]}])), [1.5, 30.0], "narrowing is about the own rows");
    let refused = ask(json!(9), json!([])).err().unwrap().to_string();
    assert!(refused.contains("is taken from “flux” of another dataset, which is not here"), "{refused}");
}

#[test]
fn a_setting_that_is_not_held_exactly_is_drawn_about_what_it_is_set_to() {
    let held = |value: f64| {
        let model = model_on(
            &nothing(),
            json!([]),
            json!([{"name": "k", "value": value, "sd": 0.2, "low": 0, "high": 4}]),
            json!([{"name": "r", "formula": "k^2", "target": 4}]),
            json!([]),
        );
        let plan = Plan::read(&serde_json::from_value(json!({"goal": "target"})).unwrap(), &model).unwrap();
        (
            run(&model, 40_000, 1, Sampling::Plain, &Cancel::default()).unwrap().tallies[0],
            search(&model, &plan, 40_000, 1, &Cancel::default()).unwrap(),
        )
    };
    let (tally, best) = held(3.0);
    // E k² = value² + sd², and its variance 4 value² sd² + 2 sd⁴.
    assert!((tally.mean - 9.04).abs() < 0.03 && (tally.sd() - (4.0 * 9.0 * 0.04 + 2.0 * 0.0016f64).sqrt()).abs() < 0.02);
    // Found where (k² + sd² − 4)² + 4 k² sd² + 2 sd⁴ is least, wherever the search starts from.
    let missed = |k: f64| (k * k + 0.04 - 4.0).powi(2) + 4.0 * k * k * 0.04;
    let exact = (0..=4000).map(|i| f64::from(i) / 1000.0).min_by(|a, b| missed(*a).total_cmp(&missed(*b))).unwrap();
    assert!((best.found[0].value - exact).abs() < 0.02, "{} not {exact}", best.found[0].value);
    assert!((held(1.0).1.found[0].value - exact).abs() < 0.02);
}

fn answered(frame: &Frame, input: Value) -> Result<Computed, acorn_study::StudyError> {
    let name = input["name"].as_str().unwrap().to_owned();
    ask(
        frame,
        &json!({"method": "simulation", "options": {"inputs": [input], "responses": [{"name": "y", "formula": name}], "draws": 1000}}),
    )
}

/// How often a steady column is said to have moved: about as often as its limit of 1 % says, counted in 600 columns.
#[test]
fn a_steady_column_is_seldom_said_to_have_moved() {
    use rand::{RngExt, SeedableRng};
    let mut random = rand_xoshiro::Xoshiro256PlusPlus::seed_from_u64(5);
    let mut normal = || acorn_maths::normal::quantile(random.random_range(1e-9..1.0));
    let (mut newest, mut accepted) = (0, 0);
    for _ in 0..600 {
        let values: Vec<f64> = (0..120).map(|_| 10.0 + normal()).collect();
        let frame = frame(&json!({"x": values}), &[]);
        let told = |input: Value, word: &str| answered(&frame, input).unwrap().notes.iter().any(|note| note.sentence.contains(word));
        newest += usize::from(told(json!({"name": "x", "distribution": "data", "column": "x"}), "the newest"));
        accepted += usize::from(told(
            json!({"name": "x", "distribution": "normal", "parameters": {"mean": 10, "sd": 1}, "column": "x"}),
            "moved away",
        ));
    }
    assert!(newest <= 15 && accepted <= 15, "{newest} and {accepted} of 600");
}

#[test]
fn an_input_follows_its_column_in_every_family_and_says_what_it_cannot_take() {
    let values: Vec<f64> = (0..200)
        .map(|i| f64::from(i * 37 % 200) + 0.5)
        .map(|place| read("weibull", &json!({"shape": 2, "scale": 30})).quantile(place / 200.0, 1.0 - place / 200.0))
        .collect();
    let labels: Vec<Value> = (0..200).map(|i| json!(["A", "B"][i % 2])).collect();
    let lonely: Vec<Option<f64>> = (0..200).map(|i| (i == 3).then_some(1.0)).collect();
    let frame = frame(&json!({"life": values, "bench": labels, "lonely": lonely}), &[]);
    for family in ["normal", "lognormal", "weibull", "gamma", "logistic", "loglogistic", "smallest-extreme-value", "largest-extreme-value"]
    {
        let computed = answered(&frame, json!({"name": "life", "distribution": family, "column": "life"})).unwrap();
        let found = serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap();
        let median = found.pointer("/inputs/0/percentiles/6/value").and_then(Value::as_f64).unwrap();
        assert!((median - 25.0).abs() < 4.0, "{family}: {median}");
        assert_eq!((&found["inputs"][0]["n"], &found["inputs"][0]["column"]), (&json!(200), &json!("life")));
    }
    for (input, words) in [
        (json!({"name": "x", "distribution": "data", "column": "bench"}), "“x” is taken from “bench”, which holds no numbers"),
        (json!({"name": "x", "distribution": "data", "column": "lonely"}), "“x” is taken from “lonely”, which has fewer than two values"),
        (json!({"name": "x", "distribution": "data", "column": null}), "“x” has neither parameters nor a column"),
        (json!({"name": "x", "distribution": "triangular", "column": "life"}), "“x” cannot be a triangular distribution fitted to “life”"),
        (
            json!({"name": "x", "distribution": "normal", "parameters": {"mean": 1, "sd": 1}, "spread": 1000}),
            "its spread multiplied by 1000",
        ),
        (json!({"name": "x", "distribution": "normal", "parameters": {"mean": 1, "sd": 1}, "cost": 0}), "a cost that is not above 0"),
    ] {
        let error = answered(&frame, input.clone()).err().unwrap_or_else(|| panic!("{input} was taken"));
        assert!(error.to_string().contains(words), "{input}: {error}");
    }
    let newest = answered(&frame, json!({"name": "life", "distribution": "data", "column": "life", "newest": 10})).unwrap();
    assert_eq!(serde_json::to_value(newest.outcome(&View::ALL).numbers).unwrap()["inputs"][0]["n"], 10);
}

#[test]
fn a_long_run_stops_when_it_is_asked_to() {
    let cancel = Cancel::default();
    cancel.stop();
    let model = two("x * y");
    assert!(run(&model, 1_000_000, 1, Sampling::Plain, &cancel).is_err());
    assert!(shares(&model, 1_000_000, 1, &cancel).is_err());
    let going = Cancel::default();
    run(&model, 100_000, 1, Sampling::Plain, &going).unwrap();
    assert_eq!(going.share(), Some(1.0), "its share done is told");
}
