//! Distributions that fit, columns that stay, settings that are all alike.

use serde_json::{Value, json};

use super::{Asked, MEASURED, NORMAL, Random, Row, Shape};

fn of(columns: Value, input: Value) -> Asked {
    let options =
        json!({"inputs": [input], "responses": [{"name": "y", "formula": "2 * x", "usl": 8}], "draws": 1000, "sensitivity": false});
    (columns, [None; 2], json!({"method": "simulation", "options": options}))
}

/// An input that follows its column.
fn follows(random: &mut Random, shape: Shape, n: usize) -> Asked {
    of(json!({"x": shape.values(random, n)}), json!({"name": "x", "distribution": "data", "column": "x"}))
}

/// An input accepted from the true mean and sd of its column.
fn accepted(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let (mean, sd) = match shape {
        Shape::Exponential => (1.0, 1.0),
        Shape::Lognormal => (0.245_f64.exp(), 0.245_f64.exp() * (0.49_f64.exp() - 1.0).sqrt()),
        Shape::HeavyTailed => (0.0, 2.0_f64.sqrt()),
        // Rounding adds a twelfth of the square of its step.
        Shape::Rounded => (0.0, (1.0 + 0.25 / 12.0_f64).sqrt()),
        Shape::Normal | Shape::Counted => (0.0, 1.0),
    };
    let input = json!({"name": "x", "distribution": "normal", "column": "x", "parameters": {"mean": mean, "sd": sd}});
    of(json!({"x": shape.values(random, n)}), input)
}

/// A setting that the formula does not hang on.
fn searched(random: &mut Random, _: Shape, n: usize) -> Asked {
    let seed: u32 = rand::RngExt::random_range(random, 0..1_000_000);
    let options = json!({
        "inputs": [{"name": "x", "distribution": "normal", "parameters": {"mean": 0, "sd": 1}}],
        "controls": [{"name": "c", "value": 1}, {"name": "d", "value": 1}],
        "responses": [{"name": "y", "formula": "x + 0 * c + 0 * d", "usl": 1}],
        "draws": 100 * n, "seed": seed, "sensitivity": false, "search": {"goal": "least-out", "response": "y", "controls": [{"name": "c", "low": 0, "high": 2}, {"name": "d", "low": 0, "high": 2}]},
    });
    (json!({"x": [0.0]}), [None; 2], json!({"method": "simulation", "options": options}))
}

fn fitted(random: &mut Random, shape: Shape, n: usize) -> Asked {
    (json!({"x": shape.values(random, n)}), [None; 2], json!({"method": "fit-distribution", "roles": {"measure": "x"}, "options": {}}))
}

pub fn rows() -> Vec<Row> {
    const NEAR_NORMAL: &str = "supposes values near normal";
    const OF_FAMILIES: &[Shape] = &[Shape::Normal, Shape::Exponential, Shape::Lognormal];
    vec![
        Row::new("an input that follows its column", [30, 100, 400], MEASURED, follows)
            .claims(&["simulation-newest-differ"])
            .beside(NEAR_NORMAL),
        Row::new("an input accepted as it is", [30, 100, 400], MEASURED, accepted).claims(&["simulation-moved"]).beside(NEAR_NORMAL),
        Row::new("settings that do nothing", [10, 30, 100], NORMAL, searched).claims(&["simulation-better"]),
        Row::new("one column, every distribution", [20, 50, 200], OF_FAMILIES, fitted).claims(&["fit-none"]).costly(),
    ]
}
