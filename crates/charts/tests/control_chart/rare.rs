//! `control_chart::rare`.

use acorn_charts::control_chart::rare::*;
use std::sync::Arc;
use acorn_charts::control_chart::individuals::used;
use acorn_charts::control_chart::kind::ChartKind;
use acorn_charts::control_chart::panel::{Lines, PanelSpec, PhaseLimits};
use acorn_charts::control_chart::params::{LimitSource, Params, Tails, TimeShape};
use acorn_charts::control_chart::parts::ChartParts;
use acorn_charts::control_chart::plotted::Plotted;
use acorn_charts::control_chart::points::Points;
use acorn_charts::control_chart::process::{Process, bases};
use acorn_maths::describe;
use acorn_maths::normal;
use acorn_maths::shapes::{self, Family};
use acorn_maths::sorting::Sorted;
use acorn_maths::words::typed;
use acorn_study::StudyError;

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
