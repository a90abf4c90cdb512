//! Whether the labels of a factor are its parents' own or the same ones everywhere, and whether they do the same everywhere.

use serde::Serialize;

use super::cells::Tree;
use acorn_maths::tails::f_above;

/// From this share of all possible combinations on, two factors are crossed.
const CROSSED_LEAST: f64 = 0.8;

/// How a factor lies to those before it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariArrangement)]
#[serde(rename_all = "kebab-case")]
pub enum Arrangement {
    /// The outermost one.
    First,
    /// Each label stands under one parent only.
    Nested,
    /// The same labels stand under every parent.
    Crossed,
    /// Some labels stand under several parents.
    Partly,
}

/// How far the labels of a crossed factor do the same under every parent.
#[derive(Clone, Debug, PartialEq)]
pub struct Alike {
    /// The part of the sum of squares of the factor.
    pub share: f64,
    /// Its chance, when labels mean nothing.
    pub p: f64,
    /// Each label that has a group: how far its groups lie from their parents, on average.
    pub effects: Vec<(usize, f64)>,
}

/// How a level lies to those before it.
pub fn arrangement(tree: &Tree, level: usize) -> Arrangement {
    if level == 0 {
        return Arrangement::First;
    }
    let (groups, parents) = (tree.levels[level].len(), tree.levels[level - 1].len());
    let labels = tree.used(level);
    match () {
        () if groups == labels => Arrangement::Nested,
        () if groups as f64 >= CROSSED_LEAST * parents as f64 * labels as f64 => Arrangement::Crossed,
        () => Arrangement::Partly,
    }
}

/// The effect of each label over all parents: e = Σ n_h d_h/Σ n_h, d_h the distance of its group from its parent;
/// F = (SS of labels/(L − 1))/(rest of the SS/rest of the df).
pub fn alike(tree: &Tree, level: usize, df: f64, ss: f64) -> Option<Alike> {
    let arrangement = arrangement(tree, level);
    if !matches!(arrangement, Arrangement::Crossed | Arrangement::Partly) {
        return None;
    }
    let labels = tree.factors[level].labels.len();
    let mut sums = vec![(0.0, 0.0); labels];
    for group in &tree.levels[level] {
        let (n, sum) = &mut sums[group.label as usize];
        *n += group.n;
        *sum += group.n * (group.mean - tree.levels[level - 1][group.parent].mean);
    }
    let used = || sums.iter().enumerate().filter(|(_, (n, _))| *n > 0.0);
    let effects: Vec<(usize, f64)> = used().map(|(label, (n, sum))| (label, sum / n)).collect();
    let of_labels: f64 = used().map(|(_, (n, sum))| sum * sum / n).sum();
    let of_labels = of_labels.min(ss);
    let df_labels = effects.len() as f64 - 1.0;
    let df_rest = df - df_labels;
    if !(df_labels > 0.0 && df_rest > 0.0 && ss > 0.0) {
        return None;
    }
    let rest = (ss - of_labels) / df_rest;
    let p = if rest > 0.0 { f_above(of_labels / df_labels / rest, df_labels, df_rest) } else { 0.0 };
    Some(Alike { share: of_labels / ss, p, effects })
}
