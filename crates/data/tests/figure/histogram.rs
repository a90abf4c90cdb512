//! `figure::histogram`.

use acorn_data::figure::histogram::*;

#[test]
fn steps_are_round_and_edges_exact() {
    assert_eq!(round_step(0.049), 0.05);
    assert_eq!(round_step(0.0016), 0.002);
    assert_eq!(round_step(340.0), 500.0);
    let scale = Scale { start: 47.0, width: 0.05, multiples: true };
    let bins = scale.fill(&[2.35, 2.4, 2.45], 2.45);
    assert_eq!(bins.iter().map(|bin| bin.count).collect::<Vec<_>>(), [1, 2]);
    assert_eq!((bins[0].from, bins[1].to), (47.0 * 0.05, 49.0 * 0.05));
}

#[test]
fn round_bars_cover_every_value_once() {
    let values = [2.34, 2.4, 2.401, f64::NAN, 2.46];
    let bins = round_bins(&values, 8);
    assert_eq!(bins.iter().map(|bin| bin.count).sum::<usize>(), 4);
    assert!(bins.len() <= 10 && bins[0].from <= 2.34 && bins.last().unwrap().to >= 2.46);
    assert_eq!(round_bins(&[f64::NAN], 8).len(), 0);
    for far in [1e15, 1e300, -1e300, 0.0] {
        assert_eq!(round_bins(&[far, far], 8).iter().map(|bin| bin.count).sum::<usize>(), 2, "{far}");
    }
    assert_eq!(round_bins(&[f64::MIN, f64::MAX], 8).iter().map(|bin| bin.count).sum::<usize>(), 2);
}
