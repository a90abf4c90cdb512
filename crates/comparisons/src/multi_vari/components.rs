//! Nested components of variance from unbalanced data.
//!
//! SSⱼ = Σ n_g(x̄_g − x̄ of its parent)² over the groups of level j; E[MSⱼ] = σ² + Σ over m ≥ j of c_jm σ²_m, with
//! c_jm = (A(m, j) − A(m, j − 1))/dfⱼ and A(m, i) = Σ n_h²/n of the ancestor of h at level i, over the groups h of level m:
//! Searle, Casella and McCulloch (1992), ch. 5. Solved from the innermost level outwards; a level without df is 0.

use super::card::FACTORS_MOST;
use super::cells::Nest;
use acorn_maths::mean_squares::{drawn, ends};
use acorn_maths::tails::f_above;

/// Factors and what is left within.
pub const FAMILIES_MOST: usize = FACTORS_MOST + 1;

/// One number a family: factors outermost first, then within, then nothing.
pub type Each = [f64; FAMILIES_MOST];

/// A sum of squares with its df, and what became of it.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Family {
    pub df: f64,
    pub ss: f64,
    /// Its component, not below 0.
    pub variance: f64,
    pub share: f64,
    /// 95 % interval of the share.
    pub share_ci95: Option<[f64; 2]>,
    /// The chance of so large a mean square when it adds nothing to those within.
    pub p: Option<f64>,
    /// How often it would come out as the largest.
    pub largest: f64,
}

/// All families of a nest, and whether any component came out below 0; `taken` is the df of what was taken out of a level.
pub fn families(tree: &Nest, taken: Option<(usize, f64)>) -> (Vec<Family>, bool) {
    let k = tree.levels.len();
    let parent_mean = |level: usize, parent: usize| if level == 0 { tree.mean } else { tree.levels[level - 1][parent].mean };
    let mut families: Vec<Family> = Vec::with_capacity(k + 1);
    let mut before = 1.0_f64.min(tree.n as f64);
    for (level, groups) in tree.levels.iter().enumerate() {
        let ss = groups.iter().map(|group| group.n * (group.mean - parent_mean(level, group.parent)).powi(2)).sum();
        families.push(Family { df: groups.len() as f64 - before, ss, ..Family::default() });
        before = groups.len() as f64;
    }
    // What is taken out of a level takes squares and df alike: what a mean square expects stays.
    let spans: Vec<f64> = families.iter().map(|family| family.df).collect();
    if let Some((level, df)) = taken {
        families[level].df = (families[level].df - df).max(0.0);
    }
    let within = tree.cells.iter().map(|cell| cell.squares).sum();
    families.push(Family { df: tree.n as f64 - before, ss: within, ..Family::default() });
    let shared = shared(tree);
    let coefficient = |j: usize, m: usize| {
        let outside = if j == 0 { shared[m].0 } else { shared[m].1[j - 1] };
        (shared[m].1[j] - outside) / spans[j]
    };
    let mut table = [[0.0; FAMILIES_MOST]; FAMILIES_MOST];
    for j in (0..k).filter(|&j| families[j].df > 0.0) {
        (j..k).for_each(|m| table[j][m] = coefficient(j, m));
    }
    let dfs: Vec<f64> = families.iter().map(|family| family.df).collect();
    let solve = |squares: Each| -> Each {
        let mut raw = Each::default();
        raw[k] = squares[k];
        for j in (0..k).rev().filter(|&j| dfs[j] > 0.0) {
            let inside: f64 = (j + 1..k).map(|m| table[j][m] * raw[m]).sum();
            raw[j] = (squares[j] - raw[k] - inside) / table[j][j];
        }
        raw
    };
    let mut with_df = [(0.0, 1.0); FAMILIES_MOST];
    for (place, family) in families.iter().enumerate().filter(|(_, family)| family.df > 0.0) {
        with_df[place] = (family.ss / family.df, family.df);
    }
    let raw = solve(with_df.map(|(square, _)| square));
    let kept = |raw: Each| raw.map(|variance| variance.max(0.0));
    let total: f64 = kept(raw).iter().sum();
    let draws: Vec<Each> = drawn(with_df).into_iter().map(|squares| kept(solve(squares))).collect();
    for (place, variance) in kept(raw).into_iter().take(k + 1).enumerate() {
        let inner = (place + 1..=k).find(|&inner| families[inner].df > 0.0);
        let p = inner.filter(|_| families[place].df > 0.0).and_then(|inner| {
            let f = with_df[place].0 / with_df[inner].0;
            f.is_finite().then(|| f_above(f, families[place].df, families[inner].df))
        });
        let told = families[place].df > 0.0;
        let share_of = |variances: &Each| Some(variances[place] / variances.iter().sum::<f64>());
        let is_largest = |variances: &&Each| variances.iter().all(|other| *other <= variances[place]);
        let family = &mut families[place];
        family.variance = variance;
        family.share = if total > 0.0 { variance / total } else { 0.0 };
        family.share_ci95 = (total > 0.0 && told).then(|| ends(&draws, |variances| share_of(&variances))).flatten();
        family.p = p;
        family.largest = draws.iter().filter(is_largest).count() as f64 / draws.len().max(1) as f64;
    }
    (families, raw.iter().any(|variance| *variance < 0.0))
}

/// A(m, 0) and A(m, 1..) of each level m.
fn shared(tree: &Nest) -> Vec<(f64, Each)> {
    let of = |level: usize| {
        let mut sums = Each::default();
        let mut whole = 0.0;
        for group in &tree.levels[level] {
            let square = group.n * group.n;
            whole += square / tree.n as f64;
            sums[level] += group.n;
            let mut parent = group.parent;
            for outer in (0..level).rev() {
                let ancestor = &tree.levels[outer][parent];
                sums[outer] += square / ancestor.n;
                parent = ancestor.parent;
            }
        }
        (whole, sums)
    };
    (0..tree.levels.len()).map(of).collect()
}
