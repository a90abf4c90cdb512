//! Kappa of many and of two, with standard errors.

use super::numbers::{Kappa, PairKappa};
use acorn_maths::normal;

/// Kappa of all judgements: `counts[i][j]` of part i are of label j, `m` of each part. Of all labels together, then of each; the
/// standard errors hold under no agreement (Fleiss, Nee and Landis 1979).
pub fn fleiss(counts: &[Vec<f64>], m: f64) -> (Kappa, Vec<Kappa>) {
    let n = counts.len() as f64;
    let labels = counts.first().map_or(0, Vec::len);
    let shares: Vec<f64> = (0..labels).map(|j| counts.iter().map(|of| of[j]).sum::<f64>() / (n * m)).collect();
    let wide: Vec<f64> = shares.iter().map(|p| p * (1.0 - p)).collect();
    let all: f64 = wide.iter().sum();
    let enough = m > 1.0;
    let apart = |j: usize| counts.iter().map(|of| of[j] * (m - of[j])).sum::<f64>();
    let own = |j: usize| (enough && wide[j] > 0.0).then(|| 1.0 - apart(j) / (n * m * (m - 1.0) * wide[j]));
    let each_se = (2.0 / (n * m * (m - 1.0))).sqrt();
    let each = (0..labels).map(|j| tested(own(j), each_se)).collect();
    let left: f64 = (0..labels).map(apart).sum::<f64>() / (n * m * (m - 1.0));
    let kappa = (enough && all > 0.0).then(|| 1.0 - left / all);
    let skew: f64 = shares.iter().zip(&wide).map(|(p, wide)| wide * (1.0 - 2.0 * p)).sum();
    let se = (2.0 * (all * all - skew).max(0.0) / (n * m * (m - 1.0))).sqrt() / all;
    (tested(kappa, se), each)
}

fn tested(kappa: Option<f64>, se: f64) -> Kappa {
    let se = kappa.map(|_| se).filter(|se| se.is_finite() && *se > 0.0);
    let z = kappa.zip(se).map(|(kappa, se)| kappa / se);
    Kappa { kappa, se, z, p: z.map(normal::above) }
}

/// Kappa of two: `table[a][b]` times one said a and the other b (Cohen 1960), its large-sample standard error (Fleiss, Cohen
/// and Everitt 1969).
pub fn cohen(table: &[Vec<f64>]) -> PairKappa {
    let k = table.len();
    let n: f64 = table.iter().flatten().sum();
    let p = |a: usize, b: usize| table[a][b] / n;
    let row: Vec<f64> = (0..k).map(|a| (0..k).map(|b| p(a, b)).sum()).collect();
    let column: Vec<f64> = (0..k).map(|b| (0..k).map(|a| p(a, b)).sum()).collect();
    let observed: f64 = (0..k).map(|a| p(a, a)).sum();
    let chance: f64 = (0..k).map(|a| row[a] * column[a]).sum();
    let room = 1.0 - chance;
    // Both gave one and the same label throughout: 0/0.
    if n <= 0.0 || room <= 1e-14 {
        return PairKappa { kappa: None, se: None, ci95: None };
    }
    let kappa = (observed - chance) / room;
    let own: f64 = (0..k).map(|a| p(a, a) * (1.0 - (row[a] + column[a]) * (1.0 - kappa)).powi(2)).sum();
    let apart = |a: usize| (0..k).filter(move |b| *b != a).map(move |b| (a, b));
    let cross: f64 = (0..k).flat_map(apart).map(|(a, b)| p(a, b) * (column[a] + row[b]).powi(2)).sum();
    let variance = own + (1.0 - kappa).powi(2) * cross - (kappa - chance * (1.0 - kappa)).powi(2);
    let se = (variance.max(0.0) / (n * room * room)).sqrt();
    let reach = normal::quantile(0.975) * se;
    PairKappa { kappa: Some(kappa), se: Some(se), ci95: Some([kappa - reach, kappa + reach]) }
}
