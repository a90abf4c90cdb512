//! The order of rows by what stands in a column.

use std::cmp::Ordering;

use rayon::prelude::*;

use super::{NO_TIME, Values};

impl Values {
    /// Puts rows in the order of their values; those with equal ones stay as they stand, those without one come last.
    pub fn order(&self, rows: &mut [u32], descending: bool) {
        match self {
            Values::Number(values) => sort(rows, descending, |row| Some(values[row]).filter(|value| !value.is_nan()), f64::total_cmp),
            Values::Time(values) => sort(rows, descending, |row| Some(values[row]).filter(|time| *time != NO_TIME), i64::cmp),
            Values::Label { codes, labels } => {
                let mut by_words: Vec<usize> = (0..labels.len()).collect();
                let keys: Vec<Vec<u8>> = labels.par_iter().map(|label| as_people_sort(label)).collect();
                by_words.par_sort_by(|&a, &b| keys[a].cmp(&keys[b]).then_with(|| labels[a].cmp(&labels[b])));
                let mut ranks = vec![0_u32; labels.len()];
                (0..).zip(by_words).for_each(|(rank, place)| ranks[place] = rank);
                sort(rows, descending, |row| ranks.get(codes[row] as usize).copied(), u32::cmp);
            }
        }
    }
}

fn sort<K: Send>(rows: &mut [u32], descending: bool, key: impl Fn(usize) -> Option<K> + Sync, compare: impl Fn(&K, &K) -> Ordering + Sync) {
    rows.par_sort_by(|&a, &b| match (key(a as usize), key(b as usize)) {
        (Some(a), Some(b)) if descending => compare(&b, &a),
        (Some(a), Some(b)) => compare(&a, &b),
        (a, b) => a.is_none().cmp(&b.is_none()),
    });
}

/// A key by whose bytes labels stand as people sort them: "bench 2" before "bench 10", capitals aside, numbers before letters.
fn as_people_sort(label: &str) -> Vec<u8> {
    /// Before every letter.
    const NUMBER: u8 = 1;
    let mut key = Vec::with_capacity(label.len() + 4);
    let mut rest = label;
    while let Some(first) = rest.chars().next() {
        let digits = rest.len() - rest.trim_start_matches(|sign: char| sign.is_ascii_digit()).len();
        let used = if digits > 0 {
            // The longer one is the larger: its length goes before it, in bytes that grow with it.
            let number = rest[..digits].trim_start_matches('0');
            key.push(NUMBER);
            key.extend((number.len() as u32).to_be_bytes());
            key.extend(number.bytes());
            digits
        } else {
            key.extend(first.to_lowercase().collect::<String>().bytes());
            first.len_utf8()
        };
        rest = &rest[used..];
    }
    key
}
