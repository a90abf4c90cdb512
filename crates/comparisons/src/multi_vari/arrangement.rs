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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::multi_vari::factors::factors;
    use acorn_data::frame::Frame;
    use acorn_study::Cancel;

    #[test]
    fn labels_that_do_the_same_everywhere_are_told_from_labels_that_mean_nothing() {
        let (mut piece, mut spot, mut own) = (Vec::new(), Vec::new(), Vec::new());
        let (mut same, mut each) = (Vec::new(), Vec::new());
        for p in 0..8_i32 {
            for s in 0..3_i32 {
                piece.push(p);
                spot.push(s);
                own.push(10 * p + s);
                let noise = f64::from((7 * p + 5 * s) % 4);
                same.push(f64::from(20 * s) + noise);
                each.push(f64::from(20 * ((s + p) % 3)) + noise);
            }
        }
        let columns = serde_json::json!({"piece": piece, "spot": spot, "own": own, "same": same, "each": each});
        let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
        let column = |name: &str| frame.column(name).unwrap();
        let tree = |inner: &str, values: &[f64]| {
            Tree::of(factors(&frame, &[column("piece"), column(inner)]).unwrap(), values, &Cancel::default()).unwrap()
        };
        let ss = |tree: &Tree| tree.levels[1].iter().map(|group| (group.mean - tree.levels[0][group.parent].mean).powi(2)).sum::<f64>();
        let found = |values: &[f64]| {
            let tree = tree("spot", values);
            alike(&tree, 1, 16.0, ss(&tree)).unwrap()
        };
        assert_eq!(arrangement(&tree("spot", &same), 1), Arrangement::Crossed);
        assert_eq!((arrangement(&tree("own", &same), 1), arrangement(&tree("own", &same), 0)), (Arrangement::Nested, Arrangement::First));
        assert!(alike(&tree("own", &same), 1, 16.0, 1.0).is_none());
        let of_same = found(&same);
        assert!(
            of_same.share > 0.95 && of_same.p < 1e-6 && (of_same.effects[2].1 - of_same.effects[0].1 - 40.0).abs() < 2.0,
            "{of_same:?}"
        );
        assert!(found(&each).share < 0.2 && found(&each).p > 0.1);
    }
}
