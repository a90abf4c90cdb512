//! The mathematics of gauge studies against other ways of reaching the same numbers: dense matrices, counting, simulation.

use acorn_data::frame::Frame;
use acorn_study::View;
use acorn_testing::{ask, frame};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn numbers(frame: &Frame, method: &str, roles: &Value, options: &Value) -> Value {
    let computed = ask(frame, &json!({"method": method, "roles": roles, "options": options})).unwrap();
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn normal(random: &mut Xoshiro256PlusPlus) -> f64 {
    acorn_maths::normal::quantile(random.random_range(1e-12..1.0 - 1e-12))
}

/// Readings of parts by operators as rows.
struct Rows(Vec<(usize, usize, f64)>);

impl Rows {
    /// Every operator's readings of every part, sds of part, operator, interaction and repeating as given.
    fn drawn(random: &mut Xoshiro256PlusPlus, [p, o, r]: [usize; 3], sds: [f64; 4]) -> Rows {
        let of = |random: &mut Xoshiro256PlusPlus, n: usize, sd: f64| (0..n).map(|_| sd * normal(random)).collect::<Vec<f64>>();
        let (parts, operators, both) = (of(random, p, sds[0]), of(random, o, sds[1]), of(random, p * o, sds[2]));
        let mut rows = Vec::new();
        for _ in 0..r {
            for operator in 0..o {
                for part in 0..p {
                    rows.push((part, operator, parts[part] + operators[operator] + both[part * o + operator] + sds[3] * normal(random)));
                }
            }
        }
        Rows(rows)
    }

    /// Without about a share of the readings.
    fn thinned(self, random: &mut Xoshiro256PlusPlus, share: f64) -> Rows {
        Rows(self.0.into_iter().filter(|_| random.random_range(0.0..1.0) > share).collect())
    }

    fn frame(&self) -> Frame {
        let columns = json!({
            "part": self.0.iter().map(|(part, ..)| format!("P{part}")).collect::<Vec<_>>(),
            "who": self.0.iter().map(|(_, who, _)| format!("W{who}")).collect::<Vec<_>>(),
            "y": self.0.iter().map(|(.., y)| *y).collect::<Vec<_>>(),
        });
        frame(&columns, &[])
    }

    fn crossed(&self, options: &Value) -> Value {
        numbers(&self.frame(), "gauge-crossed", &json!({"measure": "y", "part": "part", "operator": "who"}), options)
    }

    /// Minus twice the restricted log likelihood by dense matrices, of variances of repeating, operators, interaction, parts.
    fn deviance(&self, [repeat, operator, both, part]: [f64; 4]) -> f64 {
        let n = self.0.len();
        let mut v = vec![vec![0.0; n]; n];
        for (i, a) in self.0.iter().enumerate() {
            for (j, b) in self.0.iter().enumerate() {
                let same = |yes: bool, variance: f64| if yes { variance } else { 0.0 };
                v[i][j] = same(i == j, repeat) + same(a.0 == b.0, part) + same(a.1 == b.1, operator) + same((a.0, a.1) == (b.0, b.1), both);
            }
        }
        // Gauss and Jordan on [V | 1 | y].
        let (mut one, mut y): (Vec<f64>, Vec<f64>) = (vec![1.0; n], self.0.iter().map(|row| row.2).collect());
        let (ones, ys) = (one.clone(), y.clone());
        let mut ln_det = 0.0;
        for k in 0..n {
            let pivot = v[k][k];
            ln_det += pivot.ln();
            let (above, below) = v.split_at_mut(k + 1);
            for (i, row) in (k + 1..n).zip(below) {
                let factor = row[k] / pivot;
                if factor != 0.0 {
                    row.iter_mut().zip(&above[k]).for_each(|(cell, of)| *cell -= factor * of);
                    one[i] -= factor * one[k];
                    y[i] -= factor * y[k];
                }
            }
        }
        for k in (0..n).rev() {
            for j in k + 1..n {
                one[k] -= v[k][j] * one[j];
                y[k] -= v[k][j] * y[j];
            }
            one[k] /= v[k][k];
            y[k] /= v[k][k];
        }
        let dot = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| a * b).sum::<f64>();
        let (xx, xy, yy) = (dot(&ones, &one), dot(&ones, &y), dot(&ys, &y));
        ln_det + xx.ln() + yy - xy * xy / xx
    }
}

fn variances(of: &Value) -> [f64; 4] {
    [1, 3, 4, 5].map(|place: usize| of["anova"]["components"][place]["variance"].as_f64().unwrap())
}

#[test]
fn no_other_components_of_an_uneven_study_are_likelier() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(4);
    for (sizes, sds, gone) in [
        ([7, 3, 3], [2.0, 0.5, 0.4, 0.5], 0.1),
        ([7, 3, 3], [2.0, 0.0, 0.0, 0.5], 0.2),
        ([6, 2, 4], [0.3, 1.0, 0.6, 0.3], 0.3),
        ([5, 4, 2], [1.0, 0.3, 0.0, 1.0], 0.25),
    ] {
        let rows = Rows::drawn(&mut random, sizes, sds).thinned(&mut random, gone);
        let of = rows.crossed(&json!({"alpha_pool": 1.0}));
        assert_eq!(of["balanced"], json!(false));
        let found = variances(&of);
        // Without an interaction in the model none is looked for.
        let kept = of["anova"]["pooled"] == false;
        let best = rows.deviance(found);
        for axis in (0..4).filter(|axis| kept || *axis != 2) {
            for factor in [0.7, 0.97, 1.03, 1.4] {
                let mut other = found;
                other[axis] = if found[axis] > 0.0 { found[axis] * factor } else { 0.02 * (factor - 0.5).abs() * found[0] };
                assert!(rows.deviance(other) >= best - 1e-7, "{sizes:?}: {other:?} is likelier than {found:?}");
            }
        }
    }
}

#[test]
fn likelihood_is_the_analysis_on_balanced_readings_and_labels_or_order_change_nothing() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(5);
    let rows = Rows::drawn(&mut random, [8, 4, 3], [2.0, 1.5, 0.8, 0.4]);
    let of = rows.crossed(&json!({"alpha_pool": 1.0}));
    assert_eq!(of["anova"]["set_to_zero"], json!([]));
    let whole = variances(&of);
    for axis in 0..4 {
        for factor in [0.95, 1.05] {
            let mut other = whole;
            other[axis] *= factor;
            assert!(rows.deviance(other) > rows.deviance(whole));
        }
    }
    // The same readings in another order, parts and operators called otherwise.
    let uneven = rows.thinned(&mut random, 0.15);
    let turned = Rows(uneven.0.iter().rev().map(|(part, who, y)| (9 - part, 6 - who, *y)).collect());
    let [one, other] = [&uneven, &turned].map(|rows| variances(&rows.crossed(&json!({}))));
    for (one, other) in one.iter().zip(other) {
        assert!((one - other).abs() <= 2e-5 * one.max(0.01), "{one} {other}");
    }
    // Another unit.
    let inches = Rows(uneven.0.iter().map(|(part, who, y)| (*part, *who, 1000.0 + y / 25.4)).collect());
    for (one, other) in one.iter().zip(variances(&inches.crossed(&json!({})))) {
        assert!((one / 25.4_f64.powi(2) - other).abs() <= 2e-5 * other.max(1e-5), "{one} {other}");
    }
}

#[test]
fn an_uneven_study_shows_an_interaction_about_as_often_as_it_says() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(6);
    let (mut below, mut sum) = (0, 0.0);
    for _ in 0..300 {
        let rows = Rows::drawn(&mut random, [6, 3, 2], [1.0, 0.4, 0.0, 0.5]).thinned(&mut random, 0.12);
        let of = rows.crossed(&json!({"method": "anova"}));
        let p = of["anova"]["p_interaction"].as_f64().unwrap();
        below += usize::from(p < 0.1);
        sum += p;
    }
    // A tenth of 300 give or take three sds; a mean of one half.
    assert!((14..=46).contains(&below) && (sum / 300.0 - 0.5).abs() < 0.06, "{below} {}", sum / 300.0);
}

#[test]
fn the_interval_of_the_share_holds_the_true_share_about_as_often_as_it_says() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(7);
    for (sds, nested) in [([1.0, 0.15, 0.0, 0.2], false), ([1.0, 0.3, 0.15, 0.3], false), ([1.0, 0.2, 0.0, 0.3], true)] {
        let part = sds[0] * sds[0];
        let gauge: f64 = sds[1..].iter().map(|sd| sd * sd).sum();
        let truth = (gauge / (gauge + part)).sqrt();
        let mut held = 0;
        for _ in 0..300 {
            let rows = Rows::drawn(&mut random, [10, 4, 2], sds);
            let of = if nested {
                // Each operator's parts are their own.
                let mut own = Rows::drawn(&mut random, [40, 1, 2], [sds[0], 0.0, 0.0, sds[3]]);
                let off: Vec<f64> = (0..4).map(|_| sds[1] * normal(&mut random)).collect();
                own.0.iter_mut().for_each(|row| *row = (row.0, row.0 / 10, row.2 + off[row.0 / 10]));
                numbers(&own.frame(), "gauge-nested", &json!({"measure": "y", "part": "part", "operator": "who"}), &json!({}))
            } else {
                rows.crossed(&json!({"method": "anova"}))
            };
            let ends = if nested { &of["share_ci95"] } else { &of["study_ci95"] };
            let [low, high] = [0, 1].map(|end: usize| ends[end].as_f64().unwrap());
            held += usize::from(low <= truth && truth <= high);
        }
        // 95 % of 300 are 285, give or take; a generalised interval may hold more, hardly less.
        assert!(held >= 270, "{sds:?}: {held} of 300");
    }
}

/// Kappas and agreement by counting pairs instead of by formula.
#[test]
fn agreement_and_kappa_are_those_of_counting() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(8);
    let (pieces, people, looks) = (25, 3, 2);
    let labels = ["accept", "mend", "reject"];
    let truth: Vec<usize> = (0..pieces).map(|_| random.random_range(0..3)).collect();
    let said: Vec<Vec<Vec<usize>>> = truth
        .iter()
        .map(|&label| {
            let mut look = || if random.random_range(0.0..1.0) < 0.75 { label } else { random.random_range(0..3) };
            (0..people).map(|_| (0..looks).map(|_| look()).collect()).collect()
        })
        .collect();
    let rows: Vec<(usize, usize, usize)> =
        (0..looks).flat_map(|t| (0..people).flat_map(move |o| (0..pieces).map(move |p| (p, o, t)))).collect();
    let columns = json!({
        "piece": rows.iter().map(|(p, ..)| format!("P{p}")).collect::<Vec<_>>(),
        "who": rows.iter().map(|(_, o, _)| format!("W{o}")).collect::<Vec<_>>(),
        "said": rows.iter().map(|&(p, o, t)| labels[said[p][o][t]]).collect::<Vec<_>>(),
        "true": rows.iter().map(|&(p, ..)| labels[truth[p]]).collect::<Vec<_>>(),
    });
    let roles = json!({"rating": "said", "part": "piece", "operator": "who", "reference": "true"});
    let of = numbers(&frame(&columns, &[]), "gauge-attribute", &roles, &json!({}));
    // Fleiss: the share of agreeing pairs of judgements of a piece, beyond that of pairs taken from anywhere.
    let all: Vec<Vec<usize>> = said.iter().map(|people| people.concat()).collect();
    let pairs = |of: &[usize]| {
        let agree = (0..of.len()).flat_map(|a| (0..of.len()).map(move |b| (a, b))).filter(|(a, b)| a != b && of[*a] == of[*b]).count();
        agree as f64 / (of.len() * (of.len() - 1)) as f64
    };
    let observed = all.iter().map(|of| pairs(of)).sum::<f64>() / pieces as f64;
    let share = |label: usize| all.iter().flatten().filter(|one| **one == label).count() as f64 / (pieces * people * looks) as f64;
    let chance: f64 = (0..3).map(|label| share(label).powi(2)).sum();
    let close = |got: &Value, want: f64, what: &str| assert!((got.as_f64().unwrap() - want).abs() < 1e-12, "{what}: {got} {want}");
    close(&of["fleiss"]["kappa"], (observed - chance) / (1.0 - chance), "fleiss");
    // Cohen: pairs of the same piece and look.
    for (place, (a, b)) in [(0, 1), (0, 2), (1, 2)].into_iter().enumerate() {
        let both: Vec<(usize, usize)> = said.iter().flat_map(|piece| piece[a].iter().copied().zip(piece[b].iter().copied())).collect();
        let n = both.len() as f64;
        let part = |yes: &dyn Fn(&(usize, usize)) -> bool| both.iter().filter(|pair| yes(pair)).count() as f64 / n;
        let agree = part(&|(a, b)| a == b);
        let by_chance: f64 = (0..3).map(|label| part(&|(a, _)| *a == label) * part(&|(_, b)| *b == label)).sum();
        close(&of["cohen"][place]["kappa"], (agree - by_chance) / (1.0 - by_chance), "cohen");
    }
    for operator in 0..people {
        let same = said.iter().filter(|piece| piece[operator].iter().all(|label| *label == piece[operator][0])).count();
        assert_eq!(of["within"][operator]["matched"], json!(same));
        let right = said.iter().zip(&truth).filter(|(piece, truth)| piece[operator].iter().all(|label| label == *truth)).count();
        assert_eq!(of["against"][operator]["matched"], json!(right));
    }
    let all_right = said.iter().zip(&truth).filter(|(piece, truth)| piece.iter().flatten().all(|label| label == *truth)).count();
    assert_eq!(of["all_against"]["matched"], json!(all_right));
    // Three labels: misses and false alarms are not told apart.
    assert!(of["errors"].is_null());
    let odd: u64 = of["grid"].as_array().unwrap().iter().map(|piece| piece["odd"].as_u64().unwrap()).sum();
    let wrong = said.iter().zip(&truth).flat_map(|(piece, truth)| piece.iter().flatten().filter(move |label| *label != truth)).count();
    assert_eq!(odd, wrong as u64, "every ring of the grid is a wrong judgement");
}

#[test]
fn nobody_agrees_beyond_chance_when_all_guess() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(9);
    let (mut low, mut sum) = (0, 0.0);
    for _ in 0..200 {
        let rows: Vec<(usize, usize)> = (0..3).flat_map(|o| (0..30).map(move |p| (p, o))).collect();
        let columns = json!({
            "piece": rows.iter().map(|(p, _)| format!("P{p}")).collect::<Vec<_>>(),
            "who": rows.iter().map(|(_, o)| format!("W{o}")).collect::<Vec<_>>(),
            "said": rows.iter().map(|_| if random.random_range(0.0..1.0) < 0.3 { "bad" } else { "good" }).collect::<Vec<_>>(),
        });
        let of =
            numbers(&frame(&columns, &[]), "gauge-attribute", &json!({"rating": "said", "part": "piece", "operator": "who"}), &json!({}));
        low += usize::from(of["fleiss"]["p"].as_f64().unwrap() < 0.05);
        sum += of["fleiss"]["kappa"].as_f64().unwrap();
    }
    assert!((2..=20).contains(&low) && (sum / 200.0).abs() < 0.03, "{low} {}", sum / 200.0);
}

#[test]
fn a_linearity_study_is_least_squares_whatever_the_unit_and_the_offset() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(10);
    let known: Vec<f64> = (0..48).map(|i| 200.0 * (1 + i / 12) as f64).collect();
    let reading: Vec<f64> = known.iter().map(|known| known + 3.0 - 0.01 * known + 1.5 * normal(&mut random)).collect();
    let fit = |scale: f64, offset: f64| {
        let columns = json!({
            "piece": (0..48).map(|i| format!("R{}", i / 12)).collect::<Vec<_>>(),
            "known": known.iter().map(|known| scale * known + offset).collect::<Vec<_>>(),
            "reading": reading.iter().map(|reading| scale * reading + offset).collect::<Vec<_>>(),
        });
        let roles = json!({"measure": "reading", "part": "piece", "reference": "known"});
        numbers(&frame(&columns, &[]), "gauge-linearity", &roles, &json!({"process_sd": scale * 20.0}))
    };
    let (plain, scaled, far) = (fit(1.0, 0.0), fit(0.001, 0.0), fit(1.0, 1e7));
    let at = |of: &Value, pointer: &str| of.pointer(pointer).unwrap().as_f64().unwrap();
    for pointer in ["/fit/slope", "/fit/slope_t", "/fit/r2", "/average/p", "/parts/2/t", "/pct_bias"] {
        assert!((at(&plain, pointer) / at(&scaled, pointer) - 1.0).abs() < 1e-8, "{pointer}");
        assert!((at(&plain, pointer) / at(&far, pointer) - 1.0).abs() < 1e-5, "{pointer} far off");
    }
    // The normal equations, written out.
    let n = 48.0;
    let bias: Vec<f64> = known.iter().zip(&reading).map(|(known, reading)| reading - known).collect();
    let sum = |of: &dyn Fn(usize) -> f64| (0..48).map(of).sum::<f64>();
    let (sx, sy) = (sum(&|i| known[i]), sum(&|i| bias[i]));
    let (sxx, sxy) = (sum(&|i| known[i] * known[i]), sum(&|i| known[i] * bias[i]));
    let slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
    assert!((at(&plain, "/fit/slope") - slope).abs() < 1e-12 && (at(&plain, "/fit/intercept") - (sy - slope * sx) / n).abs() < 1e-9);
    // The band passes through the mean of all at its narrowest.
    let middle = sx / n;
    let band = plain["band"].as_array().unwrap();
    let wide = |point: &Value| point["high"].as_f64().unwrap() - point["low"].as_f64().unwrap();
    let narrowest = band.iter().min_by(|a, b| wide(a).total_cmp(&wide(b))).unwrap();
    assert!((narrowest["reference"].as_f64().unwrap() - middle).abs() <= 600.0 / 40.0);
}

/// Numbers of a study that do not depend on the unit, by method.
const UNITLESS: [(&str, &[&str]); 4] = [
    (
        "gauge-crossed",
        &[
            "/anova/p_interaction",
            "/anova/components/0/pct_study",
            "/anova/components/5/contribution",
            "/ndc",
            "/study_ci95/0",
            "/range/grr/pct_study",
        ],
    ),
    ("gauge-nested", &["/anova/table/0/f", "/anova/components/0/pct_study", "/ndc", "/share_ci95/1"]),
    ("gauge-single", &["/bias_t", "/bias_p", "/cg", "/cgk", "/pct_repeatability_bias", "/cg_ci95/0"]),
    ("gauge-linearity", &["/fit/slope", "/fit/slope_p", "/fit/r2", "/parts/1/t", "/average/p", "/pct_bias"]),
];

/// 8 parts by 3 operators, 2 readings; parts of one operator's own; known values a part.
fn everything(random: &mut Xoshiro256PlusPlus) -> Vec<(usize, usize, f64, f64)> {
    let Rows(rows) = Rows::drawn(random, [8, 3, 2], [0.01, 0.4, 0.3, 0.3]);
    rows.into_iter().map(|(part, who, off)| (part, who, 10.0 + part as f64, 10.0 + part as f64 + off)).collect()
}

fn all_of(rows: &[(usize, usize, f64, f64)], scale: f64) -> Vec<(&'static str, Value)> {
    let columns = json!({
        "part": rows.iter().map(|(part, ..)| format!("P{part}")).collect::<Vec<_>>(),
        "who": rows.iter().map(|(_, who, ..)| format!("W{who}")).collect::<Vec<_>>(),
        "known": rows.iter().map(|(.., known, _)| scale * known).collect::<Vec<_>>(),
        "y": rows.iter().map(|(.., y)| scale * y).collect::<Vec<_>>(),
    });
    let frame = frame(&columns, &[("y", Some(scale * 5.0), Some(scale * 25.0))]);
    let roles = json!({"measure": "y", "part": "part", "operator": "who"});
    let of = |method: &'static str, roles: Value, options: Value| (method, numbers(&frame, method, &roles, &options));
    vec![
        of("gauge-crossed", roles.clone(), json!({})),
        of("gauge-nested", roles, json!({})),
        of("gauge-single", json!({"measure": "y"}), json!({"reference": scale * 13.0})),
        of("gauge-linearity", json!({"measure": "y", "part": "part", "reference": "known"}), json!({"process_sd": scale * 2.0})),
    ]
}

#[test]
fn no_study_depends_on_the_unit_or_on_the_order_of_its_rows() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(12);
    let rows = everything(&mut random);
    let turned: Vec<_> = rows.iter().rev().copied().collect();
    let plain = all_of(&rows, 1.0);
    for (other, what) in [(all_of(&rows, 25.4), "another unit"), (all_of(&turned, 1.0), "another order")] {
        for (((method, one), (_, other)), (_, pointers)) in plain.iter().zip(&other).zip(UNITLESS) {
            for pointer in pointers {
                let [one, other] =
                    [one, other].map(|of| of.pointer(pointer).and_then(Value::as_f64).unwrap_or_else(|| panic!("{method} {pointer}")));
                assert!((one - other).abs() <= 1e-7 * one.abs().max(1e-9), "{method}, {what}, {pointer}: {one} {other}");
            }
        }
    }
    // Readings with another sign: the same spread, biases turned round.
    let bias = |of: &[(&str, Value)]| of[2].1["bias"].as_f64().unwrap();
    let mirrored: Vec<_> = rows.iter().map(|&(part, who, known, y)| (part, who, known, 26.0 - y)).collect();
    assert!((bias(&plain) + bias(&all_of(&mirrored, 1.0))).abs() < 1e-9);
}
