//! From values to cells, families and what stands out.

use std::sync::Arc;

use super::arrangement::{alike, arrangement};
use super::cells::Tree;
use super::components::{self, families};
use super::decisions::SAME_EVERYWHERE;
use super::factors::{NO_CELL, factors};
use super::numbers::{Band, Cell, Factor, Family, Group, LabelEffect, Measured, Numbers, Standout, Without};
use super::standouts::{TOLD, confirmed, standouts};
use acorn_data::frame::Kind;
use acorn_maths::describe::decimals;
use acorn_maths::kurtosis::excess_within;
use acorn_maths::normal;
use acorn_maths::ranks::ranks;
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError, ToNumbers, ValidatedSpec, View};

/// Values that are drawn one by one.
const DRAWN_MOST: usize = 2500;
/// Groups of a factor that are sent.
const GROUPS_MOST: usize = 400;
/// What is left when all factors are taken away.
pub const WITHIN: &str = "within";

/// A finished study.
pub struct Answer {
    /// All but what a view shows.
    pub(super) whole: Numbers,
    pub(super) tree: Tree,
    pub(super) values: Arc<[f64]>,
    pub(super) row_ids: Option<Arc<[i64]>>,
    pub(super) measure: String,
    /// Whether a component came out below 0.
    pub(super) set_to_zero: bool,
    /// What holds the variation that no factor tells.
    pub(super) innermost: usize,
}

/// Answers a statement.
///
/// # Errors
/// [`StudyError::BadOption`] when a column stands twice; [`StudyError::TooManyGroups`]; [`StudyError::TooFewValues`] without
/// a value; [`StudyError::Stopped`].
pub fn answer(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Answer, StudyError> {
    let (measure, columns) = (asked.needed("measure")?, asked.columns("factors"));
    for (place, column) in columns.iter().enumerate() {
        if column.name == measure.name || columns[..place].iter().any(|before| before.name == column.name) {
            return Err(bad("factors", format!("{} stands twice; choose another column", column.name)));
        }
    }
    let values = numbers(measure, "measurement")?;
    let tree = Tree::of(factors(asked.frame(), &columns)?, values, cancel)?;
    if tree.n == 0 {
        return Err(StudyError::TooFewValues { column: measure.name.clone(), have: 0, need: 1 });
    }
    let (families, set_to_zero) = families(&tree, None);
    cancel.check()?;
    let names = || tree.factors.iter().map(|factor| factor.name.clone()).chain([WITHIN.to_owned()]);
    let total: f64 = families.iter().map(|family| family.variance).sum();
    let largest = families.iter().enumerate().max_by(|a, b| a.1.variance.total_cmp(&b.1.variance).then(b.0.cmp(&a.0)));
    let dominant = largest.filter(|(_, family)| family.variance > 0.0).map(|(place, _)| place);
    let innermost = families.iter().rposition(|family| family.df > 0.0).unwrap_or(families.len() - 1);
    let measuring = measure.measuring.as_ref().filter(|_| families[innermost].variance > 0.0).map(|measuring| Measured {
        gauge: measuring.gauge.clone(),
        day: measuring.day.clone(),
        sd: measuring.sd,
        family: names().nth(innermost).unwrap_or_default(),
        share: (measuring.sd * measuring.sd / families[innermost].variance).min(1.0),
        of_all: (measuring.sd * measuring.sd / total).min(1.0),
    });
    let step = 0.1_f64.powi(decimals(values).into());
    let mut found = standouts(&tree, &families, step);
    if !found.is_empty() && has_heavy_tails(&tree, values) {
        let ranked = Tree::of(self::factors(asked.frame(), &columns)?, &normal_scores(values), cancel)?;
        found = confirmed(found, &standouts(&ranked, &components::families(&ranked, None).0, 0.0));
    }
    found.truncate(TOLD);
    let single = tree.cells.iter().all(|cell| cell.n == 1) && tree.levels.len() > 1;
    let whole = Numbers {
        n: tree.n,
        missing: asked.frame().rows() - tree.n,
        mean: tree.mean,
        extent: tree.cells.iter().fold([f64::MAX, f64::MIN], |[low, high], cell| [low.min(cell.low), high.max(cell.high)]),
        widest: widest(&tree, single),
        single,
        total: tree.cells.len(),
        cells: Vec::new(),
        bands: Vec::new(),
        groups: Vec::new(),
        dominant: dominant.and_then(|place| names().nth(place)),
        without: without(&tree, &families, &names().collect::<Vec<_>>()),
        factors: (0..tree.factors.len()).map(|level| factor(&tree, level, &families[level])).collect(),
        standouts: found.into_iter().map(|one| standout(&tree, one)).collect(),
        families: families.iter().zip(names()).map(|(family, name)| told(family, &name)).collect(),
        measuring,
        writer: measure.info.writer(decimals(values)),
    };
    Ok(Answer {
        whole,
        tree,
        values: values.clone(),
        row_ids: asked.frame().row_ids().cloned(),
        measure: measure.name.clone(),
        set_to_zero,
        innermost,
    })
}

/// Whether values have heavy tails about the mean of the innermost group that holds several.
fn has_heavy_tails(tree: &Tree, values: &[f64]) -> bool {
    let singles = tree.cells.iter().all(|cell| cell.n == 1);
    let outer = tree.levels.iter().rev().find(|groups| groups.len() < tree.cells.len()).filter(|_| singles);
    let mut group_of: Vec<usize> = (0..tree.cells.len()).collect();
    for (place, group) in outer.into_iter().flatten().enumerate() {
        group_of[group.cells.clone()].fill(place);
    }
    let mut groups = vec![Vec::new(); tree.cells.len()];
    for (&cell, value) in tree.cell_of_row.iter().zip(values) {
        if let Some(&group) = group_of.get(cell as usize) {
            groups[group].push(*value);
        }
    }
    excess_within(groups.iter().map(|group| &group[..])) > 0.0
}

/// Φ⁻¹((rank − 3/8)/(n + 1/4)) of each value (Blom 1958); NaN stays.
fn normal_scores(values: &[f64]) -> Vec<f64> {
    let there: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    let n = there.len() as f64;
    let mut ranks = ranks(&there).0.into_iter();
    let score = |value: &f64| match value.is_nan() {
        true => f64::NAN,
        false => ranks.next().map_or(f64::NAN, |rank| normal::quantile((rank - 0.375) / (n + 0.25))),
    };
    values.iter().map(score).collect()
}

/// The largest reach of what spread is shown of.
fn widest(tree: &Tree, single: bool) -> f64 {
    let ranges: Vec<f64> = match single {
        true => tree.levels[tree.levels.len() - 2].iter().map(|group| reach(tree, group)).map(|[low, high]| high - low).collect(),
        false => tree.cells.iter().map(|cell| cell.high - cell.low).collect(),
    };
    ranges.into_iter().fold(0.0, f64::max)
}

/// The smallest and the largest value of a group.
fn reach(tree: &Tree, group: &super::cells::Group) -> [f64; 2] {
    tree.cells[group.cells.clone()].iter().fold([f64::MAX, f64::MIN], |[low, high], cell| [low.min(cell.low), high.max(cell.high)])
}

/// The families when what the labels of a crossed factor do everywhere is taken out of the values, with its df: it is fixed to
/// its place, and covers what lies outside it.
fn without(tree: &Tree, families: &[components::Family], names: &[String]) -> Option<Without> {
    let alike_of =
        |level: usize| alike(tree, level, families[level].df, families[level].ss).filter(|alike| SAME_EVERYWHERE.is_made(alike.p));
    let (level, alike) = (0..tree.levels.len()).rev().find_map(|level| Some((level, alike_of(level)?)))?;
    let rest = tree.without(level, &alike.effects);
    let (rest, _) = components::families(&rest, Some((level, alike.effects.len() as f64 - 1.0)));
    Some(Without { factor: names[level].clone(), families: rest.iter().zip(names).map(|(family, name)| told(family, name)).collect() })
}

fn told(family: &components::Family, name: &str) -> Family {
    Family {
        name: name.to_owned(),
        df: family.df,
        ss: family.ss,
        variance: family.variance,
        sd: family.variance.sqrt(),
        share: family.share,
        share_ci95: family.share_ci95,
        p: family.p,
        largest: family.largest,
    }
}

fn factor(tree: &Tree, level: usize, family: &components::Family) -> Factor {
    let own = &tree.factors[level];
    let alike = alike(tree, level, family.df, family.ss);
    let effect = |label: usize, effect: f64| LabelEffect { label: own.labels[label].clone(), effect };
    let ends = alike.as_ref().filter(|alike| SAME_EVERYWHERE.is_made(alike.p)).and_then(|alike| {
        let each = || alike.effects.iter().copied();
        let most = each().max_by(|a, b| a.1.total_cmp(&b.1))?;
        let least = each().min_by(|a, b| a.1.total_cmp(&b.1))?;
        Some([effect(most.0, most.1), effect(least.0, least.1)])
    });
    Factor {
        name: own.name.clone(),
        labels: tree.used(level),
        groups: tree.levels[level].len(),
        arrangement: arrangement(tree, level),
        alike: alike.as_ref().map(|alike| alike.share),
        alike_p: alike.map(|alike| alike.p),
        ends,
    }
}

fn standout(tree: &Tree, one: super::standouts::Standout) -> Standout {
    let cells = &tree.levels[one.level][one.group].cells;
    Standout {
        levels: tree.path(one.level, one.group),
        first: cells.start,
        last: cells.end - 1,
        apart: one.apart,
        spread: one.spread,
        p: one.p,
    }
}

impl Answer {
    /// Whether a factor is a moment, by its kind.
    pub(super) fn is_time(&self, level: usize) -> bool {
        self.tree.factors[level].kind == Kind::DateTime
    }

    /// One cell.
    pub(super) fn cell(&self, at: usize) -> Cell {
        let cell = &self.tree.cells[at];
        let sd = (cell.n > 1).then(|| (cell.squares / (cell.n as f64 - 1.0)).sqrt());
        let levels = self.tree.path(self.tree.levels.len() - 1, at);
        Cell { at, levels, n: cell.n, mean: cell.mean, sd, low: cell.low, high: cell.high, values: Vec::new() }
    }

    fn band(&self, first: usize, last: usize) -> Band {
        let cells = &self.tree.cells[first..=last];
        let n: f64 = cells.iter().map(|cell| cell.n as f64).sum();
        let ends = |of: fn(&super::cells::Cell) -> f64| {
            cells.iter().map(of).fold([f64::MAX, f64::MIN], |[low, high], one| [low.min(one), high.max(one)])
        };
        let [low_mean, high_mean] = ends(|cell| cell.mean);
        Band {
            first,
            last,
            mean: self.tree.mean + cells.iter().map(|cell| cell.n as f64 * (cell.mean - self.tree.mean)).sum::<f64>() / n,
            low_mean,
            high_mean,
            low: ends(|cell| cell.low)[0],
            high: ends(|cell| cell.high)[1],
            widest: ends(|cell| cell.high - cell.low)[1],
        }
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, view: &View) -> Numbers {
        let (stretch, bucket) = view.stretch(self.tree.cells.len());
        let mut numbers = self.whole.clone();
        if bucket > 1 {
            let starts = stretch.clone().step_by(bucket);
            numbers.bands = starts.map(|first| self.band(first, (first + bucket).min(stretch.end) - 1)).collect();
        } else {
            numbers.cells = stretch.clone().map(|at| self.cell(at)).collect();
            let inside: usize = self.tree.cells[stretch.clone()].iter().map(|cell| cell.n).sum();
            if inside <= DRAWN_MOST {
                for (&cell, &value) in self.tree.cell_of_row.iter().zip(&self.values[..]).filter(|(cell, _)| **cell != NO_CELL) {
                    if stretch.contains(&(cell as usize)) {
                        numbers.cells[cell as usize - stretch.start].values.push(value);
                    }
                }
            }
        }
        let outer = &self.tree.levels[..self.tree.levels.len() - 1];
        numbers.groups = outer
            .iter()
            .enumerate()
            .map(|(level, groups)| {
                let start = groups.partition_point(|group| group.cells.end <= stretch.start);
                let end = groups.partition_point(|group| group.cells.start < stretch.end);
                let shown = groups.get(start..end).filter(|shown| shown.len() <= GROUPS_MOST).unwrap_or_default();
                let one = |group: &super::cells::Group, [low, high]: [f64; 2]| Group {
                    label: self.tree.label(level, group).to_owned(),
                    first: group.cells.start,
                    last: group.cells.end - 1,
                    parent: group.parent,
                    mean: group.mean,
                    low,
                    high,
                };
                shown.iter().map(|group| one(group, reach(&self.tree, group))).collect()
            })
            .collect();
        numbers
    }
}
