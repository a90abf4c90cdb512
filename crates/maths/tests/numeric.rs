//! The mathematics against values worked out elsewhere: mpmath 1.3 at 18 to 40 digits (sums of binomial and Poisson terms,
//! adaptive quadrature, root finding on the likelihood equations) and SciPy 1.17 (`levene`, `ttest_ind`, `skew`).

// Reference values stand as they were printed.
#![allow(clippy::approx_constant, clippy::excessive_precision, clippy::inconsistent_digit_grouping)]

use acorn_maths::describe::{lag_one_correlation, median, moments};
use acorn_maths::equal_means::{Sample, difference, welch};
use acorn_maths::equal_variance::brown_forsythe;
use acorn_maths::shape::{anderson_darling, skewness_and_kurtosis};
use acorn_maths::shapes::{BoxCox, Family, Johnson, fit, judge};
use acorn_maths::sorting::Sorted;
use acorn_maths::{bias, normal, tails, tolerance};

#[track_caller]
fn near(got: f64, want: f64, relative: f64, what: &str) {
    let close = got == want || (got - want).abs() <= relative * want.abs();
    assert!(close, "{what}: {got:e} instead of {want:e}");
}

/// z, Φ(z), 1 - Φ(z), ln Φ(z).
const NORMAL: &[(f64, f64, f64, f64)] = &[
    (-36.5, 5.5447257130748446e-292, 1.0, -670.6420000003137),
    (-20.0, 2.7536241186062337e-89, 1.0, -203.91715537109726),
    (-8.05, 4.1397018162731703e-16, 0.99999999999999959, -35.420737727716227),
    (-7.95, 9.3255757716812416e-16, 0.99999999999999907, -34.608600779328581),
    (-3.0, 0.0013498980316300945, 0.99865010196836991, -6.6077262215103495),
    (-0.7, 0.24196365222307301, 0.75803634777692699, -1.4189677615315316),
    (0.0, 0.5, 0.5, -0.69314718055994531),
    (0.31, 0.62171952182201928, 0.37828047817798072, -0.47526621748885237),
    (2.0, 0.97724986805182079, 0.022750131948179207, -0.023012909328963488),
    (7.99, 0.99999999999999933, 6.7469376867535714e-16, -6.7469376867535737e-16),
    (8.01, 0.99999999999999943, 5.7354221802580498e-16, -5.7354221802580515e-16),
];

/// x, degrees of freedom, the share above.
const CHI_SQUARE: &[(f64, f64, f64)] = &[
    (0.5, 1.0, 0.47950012218695346),
    (3.8399999999999999, 1.0, 0.050043521248705103),
    (80.0, 1.0, 3.7440973842028988e-19),
    (1.0e-4, 3.0, 0.99999973404645844),
    (2.5, 7.0, 0.92709706501347377),
    (40.0, 12.0, 7.1908840528428926e-5),
    (90.0, 100.0, 0.75319796559982973),
    (150.0, 100.0, 9.0393204235400909e-4),
    (980.0, 1000.0, 0.66832673631122118),
    (1300.0, 1000.0, 3.8897364994868525e-10),
];

/// t, degrees of freedom, the share beyond ±t.
const STUDENT: &[(f64, f64, f64)] = &[
    (0.29999999999999999, 1.0, 0.81445284184451532),
    (12.699999999999999, 1.0, 0.05002432768934416),
    (2.1000000000000001, 2.7000000000000002, 0.13658137085036652),
    (4.0, 8.0, 0.0039497728034453258),
    (25.0, 8.0, 7.0114937133198837e-9),
    (1.96, 400.0, 0.050689670300027575),
    (3.0, 5000.0, 0.0027131090242857939),
];

/// F, its two degrees of freedom, the share above.
const F: &[(f64, f64, f64, f64)] = &[
    (0.20000000000000001, 1.0, 3.0, 0.68503764247429255),
    (4.0999999999999996, 2.0, 9.0, 0.054226713162630331),
    (60.0, 2.0, 9.0, 6.2580293569917227e-6),
    (1.0, 7.5, 11.25, 0.48202681157543773),
    (2.5, 30.0, 4.0, 0.19295028128443443),
    (1.1000000000000001, 400.0, 900.0, 0.12742442584620297),
    (1.3999999999999999, 400.0, 900.0, 2.5922302907684499e-5),
];

/// a, b, x, the share of beta(a, b) below x.
const BETA: &[(f64, f64, f64, f64)] = &[
    (0.5, 0.5, 0.01, 0.063768560858519849),
    (2.0, 3.0, 0.90000000000000002, 0.9963),
    (30.0, 0.5, 0.999, 0.80723730615953703),
    (0.02, 40.0, 0.001, 0.94727795008576454),
    (1200.0, 900.0, 0.55000000000000004, 0.023914529053079642),
    (1200.0, 900.0, 0.59999999999999998, 0.99609796916041342),
    (5000.0, 8000.0, 0.38, 0.13964658999141796),
];

/// Events, trials, the share at which as many or more, or as few or fewer, have a chance of 2.5 %.
const SHARE_INTERVALS: &[(f64, f64, f64, f64)] = &[
    (0.0, 7.0, 0.0, 0.40961639722500346),
    (1.0, 7.0, 0.0036102968619005833, 0.57872319704319523),
    (3.0, 20.0, 0.032070937185463706, 0.37892682654531394),
    (17.0, 20.0, 0.62107317345468606, 0.96792906281453629),
    (7.0, 7.0, 0.59038360277499654, 1.0),
    (12.0, 400.0, 0.01559555299989434, 0.051817215430583591),
];

/// Events, the Poisson means at which as many or more, or as few or fewer, have a chance of 2.5 %.
const COUNT_INTERVALS: &[(f64, f64, f64)] = &[
    (0.0, 0.0, 3.6888794541139363),
    (1.0, 0.025317807984289875, 5.5716433909388986),
    (4.0, 1.0898653736263249, 10.241588675403698),
    (25.0, 16.178681847829327, 36.904931697530372),
];

/// Values, share, confidence, k = t'/√n from the noncentral t.
const ONE_SIDED: &[(usize, f64, f64, f64)] = &[
    (2, 0.90000000000000002, 0.94999999999999996, 20.5814676242),
    (2, 0.94999999999999996, 0.94999999999999996, 26.259673983),
    (2, 0.98999999999999999, 0.94999999999999996, 37.0935814562),
    (3, 0.98999999999999999, 0.98999999999999999, 23.8955633494),
    (5, 0.90000000000000002, 0.94999999999999996, 3.4066332628),
    (10, 0.94999999999999996, 0.90000000000000002, 2.56837320589),
    (30, 0.98999999999999999, 0.94999999999999996, 3.06390112624),
    (300, 0.94999999999999996, 0.94999999999999996, 1.79964193047),
];

/// Values, share, confidence, k by 60-point Gauss-Legendre quadrature.
const TWO_SIDED: &[(usize, f64, f64, f64)] = &[
    (2, 0.95, 0.95, 36.5192146),
    (3, 0.9, 0.99, 18.782449),
    (5, 0.99, 0.95, 6.59797674),
    (10, 0.95, 0.95, 3.39342948),
    (50, 0.99, 0.9, 3.00264665),
];

/// Values, share, confidence, sides, the rank and its confidence by summing binomial terms.
const RANKS: &[(usize, f64, f64, usize, usize, f64)] = &[
    (2, 0.90000000000000002, 0.94999999999999996, 2, 1, 0.01),
    (46, 0.90000000000000002, 0.94999999999999996, 2, 1, 0.95199620037551758),
    (93, 0.94999999999999996, 0.94999999999999996, 2, 1, 0.95002420475738346),
    (300, 0.94999999999999996, 0.98999999999999999, 2, 3, 0.99766786134989914),
    (59, 0.94999999999999996, 0.94999999999999996, 1, 1, 0.95150547475057676),
    (22, 0.90000000000000002, 0.90000000000000002, 1, 1, 0.90152290978163888),
    (500, 0.98999999999999999, 0.94999999999999996, 1, 2, 0.96024525916761247),
];

/// n, d2, d3, the median range, c4, by adaptive quadrature at 18 digits.
const RANGES: &[(usize, f64, f64, f64, f64)] = &[
    (2, 1.128379167096, 0.85250246643, 0.95387255241, 0.797884560802865),
    (3, 1.692568750643, 0.88836800405, 1.5877877504, 0.886226925452758),
    (5, 2.325928947281, 0.8640819411, 2.256882493, 0.939985602986625),
];

#[test]
fn the_normal_keeps_its_digits_in_both_tails_and_its_quantile_undoes_it() {
    for &(z, below, above, ln_below) in NORMAL {
        near(normal::below(z), below, 1e-13, &format!("below {z}"));
        near(normal::above(z), above, 1e-13, &format!("above {z}"));
        near(normal::ln_below(z), ln_below, 1e-12, &format!("ln below {z}"));
        let back = if below < 0.5 { normal::quantile(below) } else { -normal::quantile(above) };
        assert!((back - z).abs() < 1e-12 * z.abs().max(1.0), "quantile at {z}: {back}");
    }
    assert_eq!((normal::quantile(0.0), normal::quantile(1.0)), (f64::NEG_INFINITY, f64::INFINITY));
    assert!(normal::quantile(-1e-9).is_nan() && normal::quantile(f64::NAN).is_nan());
    // On both sides of every border between two approximations.
    for p in [0.075, 0.925, (-25.0_f64).exp()] {
        let (a, b) = (normal::quantile(p * (1.0 - 1e-12)), normal::quantile(p * (1.0 + 1e-12)));
        assert!((a - b).abs() < 1e-10, "{p}");
        near(normal::below(normal::quantile(p)), p, 1e-13, "there and back");
    }
}

#[test]
fn shares_of_chi_square_t_f_and_beta_and_their_quantiles() {
    for &(x, df, above) in CHI_SQUARE {
        near(tails::chi_square_above(x, df), above, 1e-10, &format!("chi-square {x} on {df}"));
        near(tails::chi_square_upper(above, df), x, 1e-9, &format!("its quantile at {above}"));
        near(tails::gamma_below(0.5 * df, 0.5 * x), 1.0 - above, 1e-9, "the share below");
    }
    for &(t, df, beyond) in STUDENT {
        near(tails::t_beyond(t, df), beyond, 1e-11, &format!("t {t} on {df}"));
        near(tails::t_two_sided(beyond, df), t, 1e-10, "its quantile");
    }
    for &(f, df1, df2, above) in F {
        near(tails::f_above(f, df1, df2), above, 1e-10, &format!("F {f} on {df1} and {df2}"));
        near(tails::f_upper(above, df1, df2), f, 1e-9, "its quantile");
    }
    for &(a, b, x, below) in BETA {
        near(tails::beta_below(a, b, x), below, 1e-10, &format!("beta({a}, {b}) below {x}"));
        near(tails::beta_below(b, a, 1.0 - x), 1.0 - below, 1e-9, "from the other side");
    }
    assert_eq!((tails::f_above(0.0, 3.0, 4.0), tails::f_above(-1.0, 3.0, 4.0)), (1.0, 1.0));
    assert_eq!((tails::beta_below(2.0, 3.0, -0.1), tails::beta_below(2.0, 3.0, 1.1)), (0.0, 1.0));
    assert_eq!((tails::gamma_below(2.0, -1.0), tails::gamma_above(2.0, -1.0)), (0.0, 1.0));
    assert_eq!((tails::gamma_below(2.0, f64::INFINITY), tails::chi_square_above(f64::INFINITY, 3.0)), (1.0, 0.0));
}

#[test]
fn vast_degrees_of_freedom_join_the_exact_ones_without_a_step() {
    // The approximations begin at k = 1e6, and are good to 1e-7 there.
    for z in [-4.0, -1.0, 0.0, 2.5] {
        let at = |k: f64| tails::gamma_above(k, k + z * k.sqrt());
        near(at(1.000_001e6), at(0.999_999e6), 1e-5, &format!("gamma at {z}"));
        let share = |a: f64| tails::beta_below(a, a, 0.5 + z / (8.0 * a).sqrt());
        near(share(1.000_001e6), share(0.999_999e6), 1e-5, &format!("beta at {z}"));
    }
}

#[test]
fn exact_intervals_are_where_the_binomial_and_the_poisson_sums_say() {
    for &(events, trials, low, high) in SHARE_INTERVALS {
        let got = tails::share_interval(events, trials);
        near(got[0], low, 1e-10, &format!("{events} of {trials}, low"));
        near(got[1], high, 1e-10, &format!("{events} of {trials}, high"));
    }
    for &(events, low, high) in COUNT_INTERVALS {
        let got = tails::count_interval(events);
        near(got[0], low, 1e-10, &format!("{events} events, low"));
        near(got[1], high, 1e-10, &format!("{events} events, high"));
    }
    assert_eq!((tails::binomial_from(0.0, 5.0, 0.2), tails::binomial_from(6.0, 5.0, 0.2)), (1.0, 0.0));
    near(tails::binomial_from(4.0, 5.0, 0.2), 5.0 * 0.2_f64.powi(4) * 0.8 + 0.2_f64.powi(5), 1e-13, "four or five of five");
}

#[test]
fn tolerance_factors_hold_from_two_values_on() {
    for &(n, share, confidence, k) in ONE_SIDED {
        near(tolerance::one_sided(n, share, confidence).unwrap(), k, 2e-6, &format!("one-sided, n = {n}, {share}, {confidence}"));
    }
    for &(n, share, confidence, k) in TWO_SIDED {
        near(tolerance::two_sided(n, share, confidence).unwrap(), k, 2e-6, &format!("two-sided, n = {n}, {share}, {confidence}"));
    }
    for &(n, share, confidence, sides, rank, reached) in RANKS {
        let (got, with) = tolerance::ranks(n, share, confidence, sides).unwrap();
        assert_eq!(got, rank, "rank of {n}");
        near(with, reached, 1e-11, &format!("confidence of rank {rank} of {n}"));
    }
    assert_eq!((tolerance::one_sided(1, 0.9, 0.9), tolerance::ranks(1, 0.9, 0.9, 2)), (None, None));
}

#[test]
fn constants_of_the_range_and_the_sd() {
    for &(n, d2, d3, median, c4) in RANGES {
        let got = bias::range_constants(n).unwrap();
        near(got.d2, d2, 1e-12, &format!("d2 of {n}"));
        near(got.d3, d3, 1e-9, &format!("d3 of {n}"));
        near(got.median, median, 1e-9, &format!("median range of {n}"));
        near(bias::c4(n as f64).unwrap(), c4, 1e-13, &format!("c4 of {n}"));
        near(bias::range_above(n, median), 0.5, 1e-9, "half of the ranges lie above their median");
    }
    // Tippett (1925), Biometrika 17, table X, and Harter (1960): d2 of 10, 20 and 100.
    for (n, d2) in [(10, 3.07751), (20, 3.73495), (100, 5.01519)] {
        near(bias::range_constants(n).unwrap().d2, d2, 2e-6, &format!("d2 of {n}"));
    }
    assert_eq!((bias::range_constants(1), bias::c4(1.5)), (None, None));
    assert_eq!((bias::range_above(3, 1e9), bias::range_above(3, 0.0)), (0.0, 1.0));
    // The series takes over from the logarithms without a step.
    near(bias::c4(1001.000_001).unwrap(), bias::c4(1000.999_999).unwrap(), 1e-11, "c4 of many");
}

/// Seal leak rates of twelve lamps, mL/min.
const LEAK: [f64; 12] = [0.42, 0.55, 0.61, 0.68, 0.74, 0.79, 0.85, 0.93, 1.02, 1.16, 1.38, 1.97];

type FitRow = (Family, &'static [f64], f64, f64, [f64; 4]);

/// A family, its likeliest parameters for the leak rates, ln L, Anderson and Darling's statistic, and of the fitted shape
/// the share below 0.3, the share above 2.5, the 0.1 % point and the value that 0.135 % exceed.
const FITS: &[FitRow] = &[
    (
        Family::Normal,
        &[0.925, 0.4058222106620911],
        -6.20518095771358,
        0.4924425880613299,
        [0.06177002778974865, 5.201181203241356e-05, -0.329084905948434, 2.142457295114303],
    ),
    (
        Family::Lognormal,
        &[-0.16240614544927057, 0.40314572997580456],
        -4.176902618363627,
        0.11422456849326323,
        [0.004888778714723601, 0.003728672410589516, 0.2445782196858661, 2.8491530343529248],
    ),
    (
        Family::Weibull,
        &[2.4050759167403575, 1.0464658148977477],
        -5.518159997111445,
        0.3687333127361061,
        [0.04833732642582521, 0.00029708575707599894, 0.05921796752962665, 2.294511284414648],
    ),
    (
        Family::Gamma,
        &[6.082841897537539, 0.15206707910236156],
        -4.573764591713948,
        0.19660554955769705,
        [0.01407035705452265, 0.0011127800965658222, 0.1733168837518903, 2.4586657325125842],
    ),
    (
        Family::Exponential,
        &[0.925],
        -11.064461502363459,
        2.0717228902502853,
        [0.27698428723245, 0.06702412145260844, 0.0009254628085647686, 6.1120768850419145],
    ),
    (
        Family::Logistic,
        &[0.8691811274369655, 0.21408495112381293],
        -5.768381839275574,
        0.3148854769072127,
        [0.06545667658441415, 0.0004914666017964475, -0.6094511317741714, 2.2834904917616714],
    ),
    (
        Family::Loglogistic,
        &[-0.17857283277050134, 0.23001665756133902],
        -4.306360867533321,
        0.09230770129226151,
        [0.011453527614375448, 0.008493438563942798, 0.17080350418183263, 3.8228115517136727],
    ),
    (
        Family::SmallestExtremeValue,
        &[1.1496559133927915, 0.49397165156185247],
        -8.99421606187462,
        0.9850323527245504,
        [0.16394192801046942, 2.0733976637989433e-07, -2.262332281552789, 2.082387102344431],
    ),
    (
        Family::LargestExtremeValue,
        &[0.7493860023334223, 0.2835267713208451],
        -4.3073101006803185,
        0.13757983186288136,
        [0.007602913553147405, 0.0020798426302485336, 0.20142948081596657, 2.6226403791922563],
    ),
];

#[test]
fn the_likeliest_member_of_each_family_its_likelihood_and_its_tails() {
    let sorted = Sorted::of(&LEAK);
    for &(family, parameters, ln_likelihood, statistic, [below, above, low, high]) in FITS {
        let what = |of: &str| format!("{of} of {}", family.name());
        let shape = fit(family, &sorted).unwrap();
        for ((name, got), want) in shape.parameters().into_iter().zip(parameters) {
            near(got, *want, 1e-8, &what(name));
        }
        near(shape.ln_likelihood(&sorted), ln_likelihood, 1e-9, &what("ln L"));
        near(shape.anderson_darling(&sorted), statistic, 1e-7, &what("A2"));
        near(shape.below(0.3), below, 1e-7, &what("share below"));
        near(shape.above(2.5), above, 1e-7, &what("share above"));
        near(shape.quantile(0.001, 0.999), low, 1e-7, &what("low point"));
        near(shape.quantile(0.998_65, 0.001_35), high, 1e-7, &what("high point"));
        let judged = judge(shape, &sorted, 0, &Default::default()).unwrap();
        near(judged.aic, 2.0 * parameters.len() as f64 - 2.0 * ln_likelihood, 1e-9, &what("AIC"));
        assert!(judged.p.is_some_and(|p| (0.0..=1.0).contains(&p)), "{}", what("p"));
    }
}

#[test]
fn a_fit_follows_its_values_when_their_unit_changes() {
    let sorted = Sorted::of(&LEAK);
    for family in Family::ALL {
        let Some(shape) = fit(family, &sorted) else { continue };
        for scale in [1e-4, 250.0] {
            let scaled = fit(family, &sorted.on_scale(|x| scale * x)).unwrap();
            near(scaled.anderson_darling(&sorted.on_scale(|x| scale * x)), shape.anderson_darling(&sorted), 1e-5, family.name());
            near(scaled.above(2.5 * scale), shape.above(2.5), 1e-4, family.name());
        }
        let shifted = fit(family, &sorted.on_scale(|x| x + 40.0)).unwrap();
        if family.has_threshold() {
            assert!((shifted.threshold - 40.0 - shape.threshold).abs() < 1e-3, "the threshold of {} moves along", family.name());
        }
    }
    for (x, name) in [(0.0, "at"), (-1.0, "below")] {
        let shape = fit(Family::Weibull, &sorted).unwrap();
        assert_eq!((shape.below(x), shape.ln_density(x)), (0.0, f64::NEG_INFINITY), "{name} the bound");
    }
}

type Map<'a> = &'a dyn Fn(f64) -> f64;

#[test]
fn transformations_are_monotone_undone_by_their_inverse_and_make_values_normal() {
    let sorted = Sorted::of(&(0..80).map(|i| (normal::quantile((f64::from(i) + 0.5) / 80.0) * 0.5).exp()).collect::<Vec<_>>());
    let normality = |scores: &Sorted| {
        let of = moments(scores);
        anderson_darling(scores, of.mean.unwrap(), of.sd.unwrap()).unwrap().p
    };
    assert!(normality(&sorted) < 0.01, "lognormal values are not normal as they are");
    let power = BoxCox::fit(&sorted).unwrap();
    assert!(power.lambda.abs() < 0.05, "the logarithm is the power 0: {}", power.lambda);
    let system = Johnson::fit(&sorted).unwrap();
    let maps: [(&str, Map, Map); 2] =
        [("power", &|x| power.score(x), &|y| power.value_at(y)), ("system", &|x| system.score(x), &|y| system.value_at(y))];
    for (name, score, value_at) in maps {
        let scores = sorted.on_scale(score);
        assert!(scores.windows(2).all(|pair| pair[0] < pair[1]), "{name} rises");
        assert!(normality(&scores) > 0.5, "{name} makes them normal");
        sorted.iter().for_each(|&x| near(value_at(score(x)), x, 1e-9, name));
    }
    let (low, high) = system.bounds();
    assert!(low.is_none_or(|low| low < sorted[0]) && high.is_none_or(|high| high > sorted[79]));
}

#[test]
fn groups_are_compared_as_published_tests_compare_them() {
    let groups = [vec![2.1, 2.4, 2.2, 2.6, 2.3], vec![2.9, 3.4, 2.2, 3.8, 3.1, 2.7], vec![2.5, 2.5, f64::NAN, 2.6, 2.4]];
    let spread = brown_forsythe(&groups).unwrap();
    near(spread.f, 3.987_142_022_209_233_5, 1e-12, "Brown and Forsythe's F");
    near(spread.p, 0.047_017_566_497_367_644, 1e-10, "its p");
    assert_eq!((spread.df1, spread.df2), (2.0, 12.0));
    let sample = |values: &Vec<f64>| {
        let of = moments(values);
        Sample { n: of.n as f64, mean: of.mean.unwrap(), sd: of.sd.unwrap() }
    };
    let means = welch(groups.iter().map(sample)).unwrap();
    near(means.f, 4.244_473_164_463_404, 1e-12, "Welch's F");
    near(means.df2, 7.162_555_133_666_018, 1e-12, "its df");
    near(means.p, 0.060_841_391_817_067_964, 1e-10, "its p");
    let two = difference(sample(&groups[0]), sample(&groups[1])).unwrap();
    near(two.p, 0.026_659_876_375_052_512, 1e-10, "p of the difference");
    near(two.ci95[0], 0.110_586_357_302_663_86, 1e-9, "its interval, low");
    near(two.ci95[1], 1.282_746_976_030_669_6, 1e-9, "its interval, high");
    assert_eq!(brown_forsythe(&[vec![1.0, 2.0], vec![3.0]]), None, "one group of two");
}

#[test]
fn moments_skewness_kurtosis_percentiles_and_order() {
    let sorted = Sorted::of(&LEAK);
    let of = moments(&LEAK);
    near(of.mean.unwrap(), 0.925, 1e-15, "mean");
    near(of.sd.unwrap(), 0.423_867_475_000_897_33, 1e-14, "sd");
    assert_eq!((of.min, of.max), (Some(0.42), Some(1.97)));
    near(median(&LEAK).unwrap(), 0.82, 1e-15, "median");
    let (skewness, kurtosis) = skewness_and_kurtosis(&LEAK);
    near(skewness.unwrap(), 1.450_418_446_647_981_5, 1e-12, "skewness");
    near(kurtosis.unwrap(), 2.499_844_595_485_292_6, 1e-12, "kurtosis");
    // An offset leaves them alone; turning the values over changes the sign of one.
    let far = LEAK.map(|x| 1e6 - x);
    near(skewness_and_kurtosis(&far).0.unwrap(), -1.450_418_446_647_981_5, 1e-7, "skewness, turned over");
    near(skewness_and_kurtosis(&far).1.unwrap(), 2.499_844_595_485_292_6, 1e-7, "kurtosis, turned over");
    assert_eq!(skewness_and_kurtosis(&LEAK[..2]), (None, None));
    assert_eq!(skewness_and_kurtosis(&LEAK[..3]).1, None);
    let test = anderson_darling(&sorted, of.mean.unwrap(), of.sd.unwrap()).unwrap();
    near(test.a2, 0.495_316_558_055_902_7, 1e-11, "A2");
    near(test.a2_star, 0.534_013_164_154_020_1, 1e-11, "A2 adjusted");
    // Table 4.9 of D'Agostino and Stephens, third piece.
    near(test.p, (0.9177_f64 - 4.279 * test.a2_star - 1.38 * test.a2_star * test.a2_star).exp(), 1e-12, "its p");
    for (p, want) in [(0.0, 0.42), (0.05, 0.4915), (0.37, 0.7435), (0.5, 0.82), (0.99, 1.9051), (1.0, 1.97)] {
        near(sorted.quantile(p).unwrap(), want, 1e-14, &format!("{p} point"));
    }
    let order = [5.0, 3.0, 8.0, 1.0, 9.0, 2.0, 7.0, 7.0, 4.0, 6.0];
    near(lag_one_correlation(&order, &moments(&order)).unwrap(), -0.805_660_377_358_490_7, 1e-14, "lag one");
}

#[test]
fn johnsons_functions_are_found_again_from_what_they_make() {
    let scores: Vec<f64> = (0..400).map(|i| normal::quantile((f64::from(i) + 0.5) / 400.0)).collect();
    let bounded = |z: f64| 1.0 + 4.0 / (1.0 + (-(z - 0.5) / 1.2).exp());
    let one_ended = |z: f64| 2.0 + ((z - 0.3) / 1.6).exp();
    let unbounded = |z: f64| 10.0 + 3.0 * ((z + 0.4) / 1.5).sinh();
    let made: [(&str, Map); 3] = [("bounded", &bounded), ("lognormal", &one_ended), ("unbounded", &unbounded)];
    for (name, make) in made {
        let found = Johnson::fit(&Sorted::of(&scores.iter().map(|&z| make(z)).collect::<Vec<_>>())).unwrap();
        for z in [-2.0, -0.7, 0.0, 1.1, 2.0] {
            assert!((found.score(make(z)) - z).abs() < 0.03, "{name} at {z}: {}", found.score(make(z)));
        }
    }
}

#[test]
fn a_gamma_that_is_nearly_normal_keeps_the_mean_and_the_spread() {
    for sd in [1e-3, 2e-3, 4e-3, 0.05] {
        let values = Sorted::of(&(0..200).map(|i| 1.0 + sd * normal::quantile((f64::from(i) + 0.5) / 200.0)).collect::<Vec<_>>());
        let [(_, shape), (_, scale)] = fit(Family::Gamma, &values).unwrap().parameters()[..] else { panic!("two parameters") };
        near(shape * scale, moments(&values).mean.unwrap(), 1e-9, "its mean");
        near(shape.sqrt() * scale, moments(&values).sd.unwrap(), 0.01, &format!("its sd at {sd}"));
    }
}
