//! Work that is shared among the cores is joined in the order of its pieces: the same to the last bit as one after the other,
//! which is how it is done inside shared work.

use acorn_maths::describe;
use acorn_maths::shape::anderson_darling;
use acorn_maths::sorting::Sorted;
use acorn_maths::{MANY, is_shared};
use serde_json::json;

#[test]
fn shared_work_gives_what_work_in_one_place_gives() {
    let values: Vec<f64> = (0..3 * MANY).map(|i| if i % 997 == 5 { f64::NAN } else { 1e6 + (i as f64 * 0.7).sin() * 3.0 }).collect();
    assert!(is_shared(values.len()) && !is_shared(MANY - 1));
    let of = |values: &[f64]| {
        let moments = describe::moments(values);
        let sorted = Sorted::of(values);
        let test = anderson_darling(&sorted, moments.mean.unwrap(), moments.sd.unwrap()).unwrap();
        (moments, describe::lag_one_correlation(values, &moments), test.a2, sorted.quantile(0.37))
    };
    let shared = of(&values);
    let (alone, _) = rayon::join(
        || {
            assert!(!is_shared(values.len()), "a piece of shared work is not split");
            of(&values)
        },
        || (),
    );
    assert_eq!(shared, alone);
    // Against the plain definition, in one sum after the other.
    let kept: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    let mean = 1e6 + kept.iter().map(|value| value - 1e6).sum::<f64>() / kept.len() as f64;
    let sd = (kept.iter().map(|value| (value - mean).powi(2)).sum::<f64>() / (kept.len() - 1) as f64).sqrt();
    assert!((shared.0.mean.unwrap() / mean - 1.0).abs() < 1e-14);
    assert!((shared.0.sd.unwrap() / sd - 1.0).abs() < 1e-11);
    assert_eq!(shared.0.n, kept.len());
}

#[test]
fn a_long_chart_signals_where_its_pieces_taken_one_by_one_do() {
    // Signals across the edges of pieces: a run, a trend and far values every so often, alone between quiet stretches.
    let n = 80_000;
    let value = |i: usize| match i % 4096 {
        4090..=4095 | 0..=5 => 10.6 + 0.01 * (i % 3) as f64,
        2000 => 14.0,
        _ => 10.0 + [0.3, -0.3, 0.1, -0.2, 0.25, -0.15][i % 6],
    };
    let whole: Vec<f64> = (0..n).map(value).collect();
    let ask = |values: &[f64]| {
        let options = json!({"limits": {"from": "known", "center": 10.0, "sigma": 1.0}});
        let frame = acorn_testing::frame(&json!({"x": values}), &[]);
        let computed =
            acorn_testing::ask(&frame, &json!({"method": "control-chart", "roles": {"measure": "x"}, "options": options})).unwrap();
        computed
            .answer
            .signals(usize::MAX)
            .0
            .into_iter()
            .filter(|signal| signal.panel == 0)
            .map(|signal| (signal.first, signal.last))
            .collect::<Vec<_>>()
    };
    assert!(is_shared(whole.len()));
    // Cut between quiet points, so that no signal is cut.
    let cuts: Vec<usize> = (0..n).step_by(20_000).map(|at| at / 4096 * 4096 + 1000).collect();
    let mut apart = Vec::new();
    for (place, start) in std::iter::once(&0).chain(&cuts[1..]).enumerate() {
        let end = cuts.get(place + 1).copied().unwrap_or(n);
        apart.extend(ask(&whole[*start..end]).into_iter().map(|(first, last)| (first + start, last + start)));
    }
    let together = ask(&whole);
    assert!(together.len() > 30, "{} signals", together.len());
    assert_eq!(together, apart);
}
