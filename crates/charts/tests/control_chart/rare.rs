//! `control_chart::rare`.

use acorn_charts::control_chart::rare::*;
use acorn_maths::normal;

#[test]
fn a_geometric_quantile_is_the_first_count_to_reach_its_share() {
    let mean = 99.0;
    let below = |y: f64| 1.0 - 0.99_f64.powf(y + 1.0);
    for z in [-3.0, -1.0, 0.0, 2.0, 3.0] {
        let y = geometric(mean, z);
        assert!(below(y) >= normal::below(z) && (y == 0.0 || below(y - 1.0) < normal::below(z)), "{z}: {y}");
    }
    assert_eq!(geometric(0.0, 3.0), 0.0);
}
