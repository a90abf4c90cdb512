//! `control_chart::search`.

use acorn_charts::control_chart::patterns::{Pattern, RunRule, Signal};
use acorn_charts::control_chart::search::*;

/// Searched with even lines and with lines of each point its own, which must agree.
fn found(values: &[f64], rule: RunRule) -> Vec<Signal> {
    let (center, sd) = (vec![0.0; values.len()], vec![1.0; values.len()]);
    let [even, each] = [Zones::about(0.0, 1.0, 3.0), Zones::Each { center: &center, sd: &sd, width: 3.0 }].map(|zones| {
        let mut found = Vec::new();
        Search::of(values, zones, &[rule]).find(rule, 0, &mut found);
        found
    });
    assert_eq!(even, each);
    even
}

fn signals(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
    found(values, RunRule::usual(pattern)).iter().map(|signal| (signal.first, signal.last, signal.side)).collect()
}

#[test]
fn exactly_on_a_limit_is_not_beyond_and_neighbours_are_one_signal() {
    assert_eq!(signals(Pattern::BeyondLimits, &[3.0, -3.0, 3.1, 4.0, -3.1]), [(2, 3, 1), (4, 4, -1)]);
}

#[test]
fn a_missing_point_breaks_a_run_but_not_the_next_one() {
    let mut values = vec![0.5; 20];
    values[8] = f64::NAN;
    assert_eq!(signals(Pattern::RunOneSide, &values), [(9, 19, 1)]);
}

#[test]
fn outer_points_on_both_sides_of_one_gap_are_found_on_each_side() {
    assert_eq!(signals(Pattern::TwoOfThreeOuter, &[2.5, -2.5, 2.5, -2.5]), [(0, 2, 1), (1, 3, -1)]);
    assert_eq!(signals(Pattern::TwoOfThreeOuter, &[2.5, 0.0, 0.0, 2.5]), []);
    assert_eq!(signals(Pattern::FourOfFiveOuter, &[1.5, 1.5, 0.0, 1.5, 1.5, 1.5]), [(0, 5, 1)]);
}

#[test]
fn equal_neighbours_break_a_trend_and_a_turn_starts_the_next_one() {
    let up_down: Vec<f64> = [0, 1, 2, 3, 4, 5, 4, 3, 2, 1, 0].map(f64::from).to_vec();
    assert_eq!(signals(Pattern::Trend, &up_down), [(0, 5, 1), (5, 10, -1)]);
    assert_eq!(signals(Pattern::Trend, &[0.0, 1.0, 2.0, 2.0, 3.0, 4.0]), []);
}

/// Whether the points of a window make the pattern, on a side: the definition, word by word.
fn makes(pattern: Pattern, window: &[f64], side: f64) -> bool {
    let beyond = |z: f64| window.iter().filter(|&&v| v * side > z).count();
    let edges = |z: f64| window.first().is_some_and(|&v| v * side > z) && window.last().is_some_and(|&v| v * side > z);
    let steps: Vec<f64> = window.windows(2).map(|pair| pair[1] - pair[0]).collect();
    let outer = |z: f64, length: usize| edges(z) && beyond(z) >= length && window.len() <= length + 1;
    match pattern {
        Pattern::BeyondLimits => beyond(3.0) == 1,
        Pattern::RunOneSide => beyond(0.0) == window.len(),
        Pattern::Trend => steps.iter().all(|step| step * side > 0.0),
        Pattern::Alternating => steps.iter().all(|step| *step != 0.0) && steps.windows(2).all(|pair| pair[0] * pair[1] < 0.0),
        Pattern::TwoOfThreeOuter => outer(2.0, 2),
        Pattern::FourOfFiveOuter => outer(1.0, 4),
        Pattern::HuggingCentre => window.iter().all(|v| v.abs() <= 1.0),
        Pattern::AvoidingCentre => window.iter().all(|v| v.abs() > 1.0),
    }
}

fn by_definition(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
    let usual = RunRule::usual(pattern).length;
    let outer = matches!(pattern, Pattern::TwoOfThreeOuter | Pattern::FourOfFiveOuter);
    let sided = !matches!(pattern, Pattern::Alternating | Pattern::HuggingCentre | Pattern::AvoidingCentre);
    let near = usize::from(pattern == Pattern::BeyondLimits);
    let mut all = Vec::new();
    for side in if sided { vec![1, -1] } else { vec![0] } {
        let mut merged: Vec<(usize, usize, i8)> = Vec::new();
        for last in 0..values.len() {
            for length in usual..=usual + usize::from(outer) {
                let Some(first) = (last + 1).checked_sub(length) else { continue };
                let window = &values[first..=last];
                if window.iter().any(|v| v.is_nan()) || !makes(pattern, window, f64::from(side)) {
                    continue;
                }
                match merged.last_mut() {
                    Some(signal) if signal.1 + near >= first => (signal.0, signal.1) = (signal.0.min(first), last),
                    _ => merged.push((first, last, side)),
                }
            }
        }
        all.append(&mut merged);
    }
    all
}

proptest::proptest! {
    #[test]
    fn the_search_finds_what_the_definition_says(
        steps in proptest::collection::vec(proptest::option::weighted(0.98, -7i32..=7), 1..300),
    ) {
        // Halves of an sd, so that ties and values exactly on a line occur.
        let values: Vec<f64> = steps.iter().map(|step| step.map_or(f64::NAN, |step| f64::from(step) / 2.0)).collect();
        // A calmer stretch lets the long patterns appear too.
        let calm: Vec<f64> = values.iter().map(|value| value / 4.0).collect();
        for pattern in Pattern::ALL {
            proptest::prop_assert_eq!(signals(pattern, &values), by_definition(pattern, &values));
            proptest::prop_assert_eq!(signals(pattern, &calm), by_definition(pattern, &calm));
        }
    }
}
