//! Levels that stand out: higher or lower than the others of their kind by more than what lies inside them explains, or with a
//! spread inside that is unlike theirs.
//!
//! A group stands out in height when its mean lies apart from the others both by what lies inside them (t on the mean square of
//! the level inside) and by how the others lie to each other (t on their own sd): where all levels differ, none of them stands out. Its
//! spread is its inner means about its own mean, against those of all others, by F. All of it is beyond chance for both looks at all
//! groups of all levels together (Bonferroni). Where values have heavy tails, a group has to stand out among their normal scores too.
//! Sources: Nelson (1983), JQT 15, for the first; Grubbs (1950), Annals of Mathematical Statistics 21, for the second; Hald (1952),
//! Statistical Theory, for the third; Conover and Iman (1981), American Statistician 35, for the scores.

use std::collections::HashMap;

use super::cells::{Group, Tree};
use super::components::Family;
use super::decisions::STANDS_OUT;
use acorn_maths::judgement::UNLIKELY;
use acorn_maths::tails::{f_above, f_upper, t_beyond, t_two_sided};

/// Fewer groups have no others to stand out from.
const GROUPS_LEAST: usize = 3;
/// Most that are told.
pub const TOLD: usize = 6;

/// A level that stands out.
#[derive(Clone, Debug, PartialEq)]
pub struct Standout {
    pub level: usize,
    pub group: usize,
    /// Its mean less that of the others; none when it does not stand out in height.
    pub apart: Option<f64>,
    /// The sd of what lies inside over that of the others; none when it is like theirs.
    pub spread: Option<f64>,
    /// The smaller of both chances, for all groups together.
    pub p: f64,
}

/// Squares of what lies inside a group about its mean, with their df, each inner mean weighed by its values.
fn inside(tree: &Tree, level: usize, group: &Group) -> (f64, f64) {
    let cells = &tree.cells[group.cells.clone()];
    match tree.levels.get(level + 1) {
        None => (cells.iter().map(|cell| cell.squares).sum(), cells.iter().map(|cell| cell.n as f64 - 1.0).sum()),
        Some(inner) => {
            let start = inner.partition_point(|one| one.cells.start < group.cells.start);
            let own = inner[start..].iter().take_while(|one| one.cells.end <= group.cells.end);
            let squares = own.clone().map(|one| one.n * (one.mean - group.mean).powi(2)).sum();
            (squares, own.count() as f64 - 1.0)
        }
    }
}

/// The levels that stand out, the least likely first. Values are read in steps of `step`: what is equal may differ by that.
pub fn standouts(tree: &Tree, families: &[Family], step: f64) -> Vec<Standout> {
    let mut found: Vec<Standout> = Vec::new();
    let looked_at = || tree.levels.iter().enumerate().filter(|(_, groups)| groups.len() >= GROUPS_LEAST);
    let looks = 2.0 * looked_at().map(|(_, groups)| groups.len() as f64).sum::<f64>();
    for (level, groups) in looked_at() {
        let many = groups.len() as f64;
        let error = families[level + 1..].iter().find(|family| family.df > 0.0);
        let heights: f64 = groups.iter().map(|group| group.mean - tree.mean).sum();
        let squares: f64 = groups.iter().map(|group| (group.mean - tree.mean).powi(2)).sum();
        let spreads: Vec<(f64, f64)> =
            groups.iter().map(|group| inside(tree, level, group)).map(|(squares, df)| (squares + df * step * step / 12.0, df)).collect();
        // Nearly none lies so far out that its chance has to be worked out.
        let far = t_two_sided(UNLIKELY / looks, many - 2.0);
        // Groups mostly have the same df, and nearly none of them is far out.
        let mut bounds: HashMap<u64, [f64; 2]> = HashMap::new();
        let (all_squares, all_df) = spreads.iter().fold((0.0, 0.0), |(ss, df), (own, own_df)| (ss + own, df + own_df));
        for (place, group) in groups.iter().enumerate() {
            let own = group.mean - tree.mean;
            let others = (heights - own) / (many - 1.0);
            let sd = ((squares - own * own - (many - 1.0) * others * others).max(0.0) / (many - 2.0)).sqrt();
            let apart = own - others;
            let score = apart / (sd * (1.0 + 1.0 / (many - 1.0)).sqrt());
            let height = error.filter(|_| score.abs() > far).map(|error| {
                let outlying = t_beyond(score, many - 2.0) * looks;
                let noise = (error.ss / error.df * (1.0 / group.n + 1.0 / (tree.n as f64 - group.n))).sqrt();
                (t_beyond(apart / noise, error.df) * looks).max(outlying).min(1.0)
            });
            let (ss, df) = spreads[place];
            let (rest, rest_df) = (all_squares - ss, all_df - df);
            let ratio = (ss / df) / (rest / rest_df);
            let mut is_far = || {
                let bounds = bounds.entry(df.to_bits()).or_insert_with(|| {
                    let alpha = 0.5 * UNLIKELY / looks;
                    [1.0 / f_upper(alpha, rest_df, df), f_upper(alpha, df, rest_df)]
                });
                !(bounds[0]..=bounds[1]).contains(&ratio)
            };
            let spread = (df > 0.0 && rest_df > 0.0 && ratio.is_finite() && is_far()).then(|| {
                let above = f_above(ratio, df, rest_df);
                (2.0 * above.min(1.0 - above) * looks).min(1.0)
            });
            if STANDS_OUT.is_made(height) || STANDS_OUT.is_made(spread) {
                found.push(Standout {
                    level,
                    group: place,
                    apart: height.filter(|p| STANDS_OUT.is_made(*p)).map(|_| apart),
                    spread: spread.filter(|p| STANDS_OUT.is_made(*p)).map(|_| ratio.sqrt()),
                    p: height.unwrap_or(1.0).min(spread.unwrap_or(1.0)),
                });
            }
        }
    }
    found.sort_by(|a, b| a.p.total_cmp(&b.p));
    found
}

/// Those that stand out among normal scores too, in the ways in which they do.
pub fn confirmed(found: Vec<Standout>, among_scores: &[Standout]) -> Vec<Standout> {
    let kept = |one: Standout| {
        let other = among_scores.iter().find(|other| (other.level, other.group) == (one.level, one.group))?;
        let (apart, spread) = (one.apart.filter(|_| other.apart.is_some()), one.spread.filter(|_| other.spread.is_some()));
        (apart.is_some() || spread.is_some()).then_some(Standout { apart, spread, p: one.p.max(other.p), ..one })
    };
    found.into_iter().filter_map(kept).collect()
}
