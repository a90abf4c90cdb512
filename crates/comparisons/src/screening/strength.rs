//! How much of one column another explains.

use serde::Serialize;

use super::candidates::CandidateValues;
use super::params::Response;
use acorn_data::frame::NO_CODE;
use acorn_maths::tails::{chi_square_above, f_above};

/// What is measured.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningStrengthKind)]
#[serde(rename_all = "kebab-case")]
pub enum Kind {
    /// r² of two measurements.
    R2,
    /// η² of a measurement by labels.
    Eta2,
    /// V² of labels by labels.
    CramersV,
}

/// How much is explained, and by what chance as much.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Strength {
    pub kind: Kind,
    /// Rows with both.
    pub n: f64,
    pub explained: f64,
    /// Without what chance adds for each label: 1 − (1 − η²)(n − 1)/(n − k), not below 0; Bergsma's for V².
    pub adjusted: f64,
    pub p: f64,
}

/// The strength over rows that have both; `None` when either does not vary there, or no row is left over.
fn strength(response: &Response, held: &CandidateValues) -> Option<Strength> {
    match (response, held) {
        (Response::Number(y), CandidateValues::Numbers(x)) => of_numbers(y, x),
        (Response::Number(y), CandidateValues::Labels { codes, labels, .. }) => of_labels(y, codes, labels.len()),
        (Response::Labels(y), CandidateValues::Numbers(x)) => most(y).and_then(|labels| of_labels(x, y, labels)),
        (Response::Labels(y), CandidateValues::Labels { codes, labels, .. }) => {
            most(y).and_then(|own| of_tables(y, own, codes, labels.len()))
        }
    }
}

/// The look at a column by which it explains most surely, and its place among the looks.
pub fn best(response: &Response, looks: &[CandidateValues]) -> Option<(usize, Strength)> {
    let found = looks.iter().enumerate().filter_map(|(look, held)| Some((look, strength(response, held)?)));
    found.min_by(|a, b| a.1.p.total_cmp(&b.1.p).then(b.1.adjusted.total_cmp(&a.1.adjusted)))
}

/// Labels of a response: one more than the largest place.
fn most(codes: &[u32]) -> Option<usize> {
    codes.iter().filter(|code| **code != NO_CODE).max().map(|&code| code as usize + 1)
}

fn by_f(kind: Kind, explained: f64, n: f64, labels: f64) -> Option<Strength> {
    let (df1, df2) = (labels - 1.0, n - labels);
    if !(explained.is_finite() && df1 > 0.0 && df2 > 0.0) {
        return None;
    }
    let explained = explained.clamp(0.0, 1.0);
    let p = if explained < 1.0 { f_above(explained / df1 / ((1.0 - explained) / df2), df1, df2) } else { 0.0 };
    let adjusted = (1.0 - (1.0 - explained) * (n - 1.0) / df2).max(0.0);
    Some(Strength { kind, n, explained, adjusted, p })
}

fn of_numbers(y: &[f64], x: &[f64]) -> Option<Strength> {
    let (mut n, mut sx, mut sy, mut xx, mut yy, mut xy) = (0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
    for (&y, &x) in y.iter().zip(x) {
        if (x + y).is_nan() {
            continue;
        }
        n += 1.0;
        sx += x;
        sy += y;
        xx += x * x;
        yy += y * y;
        xy += x * y;
    }
    let (xx, yy, xy) = (xx - sx * sx / n, yy - sy * sy / n, xy - sx * sy / n);
    if xx > 0.0 && yy > 0.0 { by_f(Kind::R2, xy * xy / xx / yy, n, 2.0) } else { None }
}

fn of_labels(y: &[f64], codes: &[u32], labels: usize) -> Option<Strength> {
    let mut sums = vec![(0.0, 0.0); labels];
    let mut squares = 0.0;
    for (&y, &code) in y.iter().zip(codes) {
        if code == NO_CODE || y.is_nan() {
            continue;
        }
        let (n, sum) = &mut sums[code as usize];
        *n += 1.0;
        *sum += y;
        squares += y * y;
    }
    let (n, sum) = sums.iter().fold((0.0, 0.0), |(n, sum), (own_n, own)| (n + own_n, sum + own));
    let total = squares - sum * sum / n;
    let used = sums.iter().filter(|(n, _)| *n > 0.0);
    let between: f64 = used.clone().map(|(n, sum)| sum * sum / n).sum::<f64>() - sum * sum / n;
    if total > 0.0 { by_f(Kind::Eta2, between / total, n, used.count() as f64) } else { None }
}

fn of_tables(y: &[u32], own: usize, codes: &[u32], labels: usize) -> Option<Strength> {
    let mut counts = vec![0.0; own * labels];
    for (&y, &code) in y.iter().zip(codes) {
        if y != NO_CODE && code != NO_CODE {
            counts[code as usize * own + y as usize] += 1.0;
        }
    }
    let rows: Vec<f64> = counts.chunks(own).map(|row| row.iter().sum()).collect();
    let columns: Vec<f64> = (0..own).map(|column| counts.iter().skip(column).step_by(own).sum()).collect();
    let n: f64 = rows.iter().sum();
    let used = |sums: &[f64]| sums.iter().filter(|sum| **sum > 0.0).count() as f64;
    let (r, c) = (used(&rows), used(&columns));
    let df = (r - 1.0) * (c - 1.0);
    if !(df > 0.0 && n > 1.0) {
        return None;
    }
    // χ² = n (Σ o²/(row column) − 1).
    let part = |(place, count): (usize, &f64)| {
        let both = rows[place / own] * columns[place % own];
        if both > 0.0 { count * count / both } else { 0.0 }
    };
    let phi2 = (counts.iter().enumerate().map(part).sum::<f64>() - 1.0).max(0.0);
    let explained = (phi2 / (r.min(c) - 1.0)).min(1.0);
    let less = |k: f64| k - (k - 1.0).powi(2) / (n - 1.0);
    let adjusted = ((phi2 - df / (n - 1.0)).max(0.0) / (less(r).min(less(c)) - 1.0)).clamp(0.0, 1.0);
    let adjusted = if adjusted.is_finite() { adjusted } else { 0.0 };
    Some(Strength { kind: Kind::CramersV, n, explained, adjusted, p: chi_square_above(n * phi2, df) })
}
