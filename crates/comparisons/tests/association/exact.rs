//! `association::exact`.

use acorn_comparisons::association::exact::*;
use acorn_comparisons::association::tally::Cross;
use acorn_maths::distributions::AS_LIKELY;
use acorn_study::Cancel;
use statrs::function::gamma::ln_gamma;

fn cross(counts: &[&[u32]]) -> Cross {
    Cross {
        rows: counts.iter().map(|_| String::new()).collect(),
        columns: counts[0].iter().map(|_| String::new()).collect(),
        counts: counts.iter().flat_map(|row| row.iter().map(|count| f64::from(*count))).collect(),
        folded: [0, 0],
    }
}

#[test]
fn every_table_and_random_ones_agree() {
    let table = cross(&[&[3, 1, 4], &[2, 6, 1], &[5, 2, 3]]);
    let every = exact(&table, &Cancel::default()).unwrap();
    assert_eq!(every.draws, 0);
    let (rows, columns) = table.totals();
    let seen = table.counts.iter().map(|count| ln_gamma(count + 1.0)).sum::<f64>() - AS_LIKELY;
    let drawn = random(&rows, &columns, seen, &[], &Cancel::default()).unwrap();
    assert!((drawn.p - every.p).abs() < 4.0 * (every.p * (1.0 - every.p) / drawn.draws as f64).sqrt(), "{drawn:?} {every:?}");
    // A table of two rows by the law of one cell, found by looking at every one.
    let wide = cross(&[&[7, 4, 0], &[1, 9, 0]]);
    let two = cross(&[&[7, 4], &[1, 9]]);
    let [wide, two] = [wide, two].map(|table| exact(&table, &Cancel::default()).unwrap().p);
    assert!((wide / two - 1.0).abs() < 1e-9, "{wide} {two}");
}
