//! `control_chart::alarms`.

use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;

use acorn_charts::control_chart::{Alarms, ChartKind, Params, compute};
use acorn_data::frame::Frame;
use acorn_study::Cancel;

/// Normal values drawn at random, one of them moved.
fn alarms(n: usize, moved: f64) -> Alarms {
    let random = Xoshiro256PlusPlus::seed_from_u64(5);
    let mut values: Vec<f64> = StandardNormal.sample_iter(random).take(n).collect();
    values[n / 2] += moved;
    let columns = serde_json::json!({ "gap": values });
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let params = Params::plain(&frame, ChartKind::Individuals, frame.columns().iter().collect());
    compute(&params, &Cancel::default()).unwrap().alarms()
}

#[test]
fn a_long_steady_chart_has_signals_by_chance_and_a_far_point_is_none() {
    let long = alarms(20_000, 0.0);
    assert!(long.seen > 20 && long.by_chance, "{long:?}");
    // One point far beyond the limits is no chance among 40, one just beyond them is one of a few among 200.
    assert!(alarms(40, 9.0).seen > 0 && !alarms(40, 9.0).by_chance);
    let few = alarms(200, 0.0);
    assert!(few.seen > 0 && few.by_chance && few.are_few(), "{few:?}");
    assert!(!alarms(100, 8.0).by_chance);
    assert!(!alarms(20_000, 9.0).by_chance);
}
