//! Counts against their definitions, worked out by looking at every table or every count, and what must not change them.

use acorn_maths::distributions::{Binomial, Law, Poisson, holm};
use acorn_study::View;
use acorn_testing::{ask, frame};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn numbers(method: &str, columns: &Value, roles: &Value, options: &Value) -> Value {
    let computed = ask(&frame(columns, &[]), &json!({"method": method, "roles": roles, "options": options})).unwrap();
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn of_table(counts: &[Vec<u32>]) -> Value {
    let names = |what: &str, n: usize| (0..n).map(|at| format!("{what} {at}")).collect::<Vec<_>>();
    let table = json!({"rows": names("r", counts.len()), "columns": names("c", counts[0].len()), "counts": counts});
    numbers("association", &json!({}), &json!({}), &json!({"table": table}))
}

fn judged(options: Value) -> Value {
    numbers("proportion", &json!({}), &json!({}), &options)
}

fn of(numbers: &Value, at: &str) -> f64 {
    numbers.pointer(at).and_then(Value::as_f64).unwrap_or_else(|| panic!("{at} of {numbers}"))
}

fn close(a: f64, b: f64, within: f64) -> bool {
    (a - b).abs() <= within * a.abs().max(b.abs()).max(1e-12)
}

fn factorial(n: u32) -> f64 {
    (1..=n).map(f64::from).product()
}

/// Every table with the totals of one, and its chance.
fn tables(rows: &[u32], columns: &[u32]) -> Vec<(Vec<Vec<u32>>, f64)> {
    fn fill(rows: &[u32], left: Vec<u32>, done: Vec<Vec<u32>>, out: &mut Vec<Vec<Vec<u32>>>) {
        let Some((first, rest)) = rows.split_first() else {
            if left.iter().all(|count| *count == 0) {
                out.push(done);
            }
            return;
        };
        let mut rows_of: Vec<Vec<u32>> = vec![Vec::new()];
        for most in &left {
            rows_of = rows_of.into_iter().flat_map(|row| (0..=*most).map(move |count| [row.clone(), vec![count]].concat())).collect();
        }
        for row in rows_of.into_iter().filter(|row| row.iter().sum::<u32>() == *first) {
            let left = left.iter().zip(&row).map(|(left, count)| left - count).collect();
            fill(rest, left, [done.clone(), vec![row]].concat(), out);
        }
    }
    let mut all = Vec::new();
    fill(rows, columns.to_vec(), Vec::new(), &mut all);
    let held: f64 = rows.iter().chain(columns).map(|sum| factorial(*sum)).product::<f64>() / factorial(rows.iter().sum());
    let chance = |table: &Vec<Vec<u32>>| held / table.iter().flatten().map(|count| factorial(*count)).product::<f64>();
    all.into_iter().map(|table| (table.clone(), chance(&table))).collect()
}

#[test]
fn the_exact_chance_of_small_tables_is_that_of_every_table_no_likelier() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(5);
    for (rows, columns) in [(2, 2), (2, 3), (3, 2), (3, 3), (2, 4)] {
        for _ in 0..6 {
            let counts: Vec<Vec<u32>> = (0..rows).map(|_| (0..columns).map(|_| random.random_range(0..4)).collect()).collect();
            let row_sums: Vec<u32> = counts.iter().map(|row| row.iter().sum()).collect();
            let column_sums: Vec<u32> = (0..columns).map(|column| counts.iter().map(|row| row[column]).sum()).collect();
            if row_sums.iter().chain(&column_sums).any(|sum| *sum == 0) {
                continue;
            }
            let all = tables(&row_sums, &column_sums);
            assert!(close(all.iter().map(|(_, chance)| chance).sum(), 1.0, 1e-9));
            let seen = all.iter().find(|(table, _)| *table == counts).unwrap().1;
            let want: f64 = all.iter().map(|(_, chance)| *chance).filter(|chance| *chance <= seen * (1.0 + 1e-7)).sum();
            let found = of_table(&counts);
            assert_eq!(found["valid"], false, "so few expect fewer than 5");
            assert!(close(of(&found, "/exact_p"), want, 1e-9), "{counts:?}: {} {want}", found["exact_p"]);
        }
    }
}

#[test]
fn a_table_turned_or_reordered_is_the_same_and_twice_the_counts_are_twice_as_far_off() {
    let counts = vec![vec![31, 18, 12, 9], vec![22, 40, 9, 14], vec![17, 15, 28, 11]];
    let plain = of_table(&counts);
    let turned: Vec<Vec<u32>> = (0..4).map(|column| counts.iter().map(|row| row[column]).collect()).collect();
    let swapped = vec![counts[2].clone(), counts[0].clone(), counts[1].clone()];
    let double: Vec<Vec<u32>> = counts.iter().map(|row| row.iter().map(|count| 2 * count).collect()).collect();
    for other in [of_table(&turned), of_table(&swapped)] {
        for at in ["/chi2", "/p", "/g2", "/p_g2", "/cramers_v", "/min_expected"] {
            assert!(close(of(&plain, at), of(&other, at), 1e-12), "{at}");
        }
    }
    let twice = of_table(&double);
    assert!(close(of(&twice, "/chi2"), 2.0 * of(&plain, "/chi2"), 1e-12) && close(of(&twice, "/g2"), 2.0 * of(&plain, "/g2"), 1e-12));
    assert!(close(of(&twice, "/cramers_v"), of(&plain, "/cramers_v"), 1e-12), "strength does not grow with the counts");
    // Expected counts keep the totals, contributions add up, residuals are their roots, and profiles are shares.
    for row in 0..3 {
        let sum = |field: &str| (0..4).map(|column| of(&plain, &format!("/{field}/{row}/{column}"))).sum::<f64>();
        assert!(close(sum("expected"), sum("observed"), 1e-12) && close(sum("row_profile"), 1.0, 1e-12));
        for column in 0..4 {
            let cell = |field: &str| of(&plain, &format!("/{field}/{row}/{column}"));
            assert!(close(cell("residual").powi(2), cell("contribution"), 1e-12));
            assert!(close(cell("difference"), cell("observed") / cell("expected") - 1.0, 1e-9));
            assert!(cell("adjusted_residual").abs() > cell("residual").abs());
        }
    }
    let all = (0..3).flat_map(|row| (0..4).map(move |column| (row, column)));
    let sum: f64 = all.map(|(row, column)| of(&plain, &format!("/contribution/{row}/{column}"))).sum();
    assert!(close(sum, of(&plain, "/chi2"), 1e-12));
}

#[test]
fn cells_stand_out_about_as_seldom_as_they_should_when_nothing_depends() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(77);
    let (mut blamed, mut ringed) = (0, 0);
    let trials = 400;
    for _ in 0..trials {
        let mut counts = vec![vec![0_u32; 4]; 3];
        (0..240).for_each(|_| counts[random.random_range(0..3)][random.random_range(0..4)] += 1);
        let found = of_table(&counts);
        blamed += u32::from(found["depends"] == true);
        ringed += u32::from(found["stands_out"].as_array().unwrap().iter().flat_map(|row| row.as_array().unwrap()).any(|side| *side != 0));
    }
    // 5 of 100, and by Holm no more for all cells together.
    assert!((8..=34).contains(&blamed), "{blamed} of {trials}");
    assert!(ringed <= 34, "{ringed} of {trials}");
}

#[test]
fn ends_of_exact_intervals_leave_a_fortieth_beyond_them() {
    for (x, n) in [(0.0, 12.0), (3.0, 40.0), (17.0, 18.0), (250.0, 1000.0), (9.0, 9.0)] {
        let found = judged(json!({"x": x, "n": n}));
        let [low, high] = [0, 1].map(|end| of(&found, &format!("/ci95/{end}")));
        assert!(x == 0.0 && low == 0.0 || close(Binomial { n, p: low }.at_least(x), 0.025, 1e-9), "{x} of {n}");
        assert!(x == n && high == 1.0 || close(Binomial { n, p: high }.at_most(x), 0.025, 1e-9), "{x} of {n}");
        // Wilson's ends are the shares that lie 1.96 of their own sds from the one seen.
        for end in 0..2 {
            let share = of(&found, &format!("/wilson_ci95/{end}"));
            let z = (x / n - share).abs() / (share * (1.0 - share) / n).sqrt();
            assert!(share == 0.0 || share == 1.0 || close(z, 1.959_963_984_540_054, 1e-6), "{x} of {n}: {share} {z}");
        }
    }
    for (x, exposure) in [(0.0, 3.0), (4.0, 2.5), (61.0, 120.0)] {
        let found = judged(json!({"x": x, "exposure": exposure}));
        let [low, high] = [0, 1].map(|end| of(&found, &format!("/ci95/{end}")) * exposure);
        assert!(x == 0.0 && low == 0.0 || close(Poisson { mean: low }.at_least(x), 0.025, 1e-9));
        assert!(close(Poisson { mean: high }.at_most(x), 0.025, 1e-9));
    }
}

#[test]
fn claims_are_given_up_no_more_often_than_alpha_and_their_outcomes_add_up() {
    for (n, claim) in [(20, 0.1), (45, 0.5), (60, 0.97)] {
        let law = Binomial { n: f64::from(n), p: claim };
        for alternative in ["not-equal", "less", "greater"] {
            let p = |x: i32| of(&judged(json!({"x": x, "n": n, "p0": claim, "alternative": alternative})), "/p");
            let wrongly: f64 = (0..=n).filter(|x| p(*x) < 0.05).map(|x| law.ln_chance(f64::from(x)).exp()).sum();
            assert!(wrongly < 0.05, "{n} {claim} {alternative}: {wrongly}");
        }
        let found = judged(json!({"x": n / 3, "n": n, "p0": claim}));
        let outcomes = found["outcomes"].as_array().unwrap();
        let sum = |tail: bool| {
            outcomes.iter().filter(|one| !tail || one["in_tail"] == true).map(|one| one["chance"].as_f64().unwrap()).sum::<f64>()
        };
        assert!(sum(false) > 0.999 && sum(false) < 1.0 + 1e-9);
        // What is drawn leaves out what is rarer than one in a hundred thousand of the likeliest.
        assert!((sum(true) - of(&found, "/p")).abs() < 1e-3, "{} {}", sum(true), found["p"]);
    }
}

#[test]
fn two_samples_alike_are_told_apart_no_more_often_than_alpha_and_intervals_hold_the_truth() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(31);
    let (mut apart, mut held, trials) = (0, 0, 300);
    for _ in 0..trials {
        let mut count = |n: u32, share: f64| (0..n).filter(|_| random.random::<f64>() < share).count();
        let alike = judged(json!({"x1": count(80, 0.2), "n1": 80, "x2": count(60, 0.2), "n2": 60}));
        apart += u32::from(of(&alike, "/p") < 0.05);
        let differ = judged(json!({"x1": count(80, 0.3), "n1": 80, "x2": count(60, 0.12), "n2": 60}));
        let [low, high] = [0, 1].map(|end| of(&differ, &format!("/difference_ci95/{end}")));
        held += u32::from(low <= 0.18 && 0.18 <= high);
    }
    // Fisher's test is exact and so rather careful; Newcombe's interval is right on average.
    assert!(apart <= 20, "{apart} of {trials}");
    assert!((272..=297).contains(&held), "{held} of {trials}");
}

#[test]
fn chances_for_many_together_keep_their_order_and_are_never_smaller() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(8);
    for many in [1, 2, 7, 40] {
        let chances: Vec<f64> = (0..many).map(|_| random.random::<f64>().powi(3)).collect();
        let adjusted = holm(&chances);
        assert!(chances.iter().zip(&adjusted).all(|(one, all)| one <= all && *all <= 1.0));
        let by = |values: &[f64]| {
            let mut order: Vec<usize> = (0..values.len()).collect();
            order.sort_by(|&a, &b| chances[a].total_cmp(&chances[b]));
            order.windows(2).all(|pair| values[pair[0]] <= values[pair[1]])
        };
        assert!(by(&adjusted));
        // By the definition: the k-th smallest times what is left, and no less than those before.
        let mut sorted = chances.clone();
        sorted.sort_by(f64::total_cmp);
        let mut largest: f64 = 0.0;
        for (place, chance) in sorted.iter().enumerate() {
            largest = largest.max(chance * (many - place) as f64).min(1.0);
            let at = chances.iter().position(|one| one == chance).unwrap();
            assert!((adjusted[at] - largest).abs() < 1e-15);
        }
    }
    assert!(holm(&[]).is_empty());
}
