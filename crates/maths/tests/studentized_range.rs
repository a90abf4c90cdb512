//! `studentized_range`.

use acorn_maths::studentized_range::*;
use acorn_maths::tails::t_beyond;

#[test]
fn of_two_means_it_is_student_s_t_and_of_more_the_published_points() {
    let two = StudentizedRange::of(2);
    for (q, df) in [(1.0_f64, 3.0), (3.5, 8.0), (6.0, 60.0), (9.0, 2.0)] {
        let t = t_beyond(q / 2.0_f64.sqrt(), df);
        assert!((two.above(q, df) / t - 1.0).abs() < 1e-6, "{q} {df}: {} {t}", two.above(q, df));
    }
    // To the digits of Pearson and Hartley (1966), table 29, and on by SciPy.
    for (k, df, q) in [(3, 10.0, 3.876_776_75), (10, 30.0, 4.824_141_29), (20, 120.0, 5.125_942_77), (5, 5.0, 5.673_124_44)] {
        let range = StudentizedRange::of(k);
        assert!((range.above(q, df) - 0.05).abs() < 1e-8, "{k} {df}: {}", range.above(q, df));
        assert!((range.upper(0.05, df) - q).abs() < 1e-6);
    }
}
