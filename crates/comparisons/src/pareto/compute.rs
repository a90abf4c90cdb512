//! From rows to ranked kinds.

use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::Arc;

use super::alike::alike;
use super::change::change;
use super::decisions::LEADS;
use super::names;
use super::numbers::{Change, Numbers, Other, ParetoBar, Ranking, Unweighed};
use super::params::{Fold, Params, reaching};
use super::tally::Tally;
use acorn_maths::tails::{binomial_from, chi_square_above};
use acorn_maths::words::{ValueFormat, grouped, percent};
use acorn_maths::{describe, normal};
use acorn_study::{Brief, Cancel, StoredAnswer, StudyError, Table, ToNumbers, View};

/// A finished ranking.
pub struct Answer {
    pub(super) numbers: Numbers,
    /// Every kind of the whole, the largest first: its code and its count.
    ranked: Vec<(u32, f64)>,
    labels: Arc<[String]>,
    codes: Arc<[u32]>,
    row_ids: Option<Arc<[i64]>>,
    pub(super) category: String,
    /// Names that go by another already.
    pub(super) renames: BTreeMap<String, String>,
}

/// Most names that are told to look like one.
const SAME_MOST: usize = 20;

/// Answers a statement.
///
/// # Errors
/// [`StudyError::BadValue`] for a count or a weight below 0; [`StudyError::TooFewValues`] without a defect; [`StudyError::Stopped`].
pub fn answer(params: &Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let groups = params.group.as_ref().map(|(_, coded)| coded);
    let tally = Tally::of(params, &params.kinds, groups, cancel)?;
    let mut ranked = tally.all();
    if ranked.is_empty() {
        return Err(StudyError::TooFewValues { column: params.category.name.clone(), have: 0, need: 1 });
    }
    tally.rank(&mut ranked);
    let weighted = params.weight.is_some();
    let labels = &params.kinds.labels;
    let of = |label: &str, own: &[(u32, f64)], group| {
        let leads = |first: &(u32, f64), second: &(u32, f64)| leads(&tally, *first, *second, group, weighted);
        ranking(label.to_owned(), own, labels, params.fold, weighted, leads)
    };
    let overall = of("", &ranked, None);
    let lead: Vec<u32> = ranked.iter().take(overall.bars.len()).map(|(kind, _)| *kind).collect();
    let aligned = |all: &[(u32, f64)], total: f64| {
        let by_kind: HashMap<u32, f64> = all.iter().copied().collect();
        let mut counts: Vec<f64> = lead.iter().map(|kind| by_kind.get(kind).copied().unwrap_or(0.0)).collect();
        counts.push(total - counts.iter().sum::<f64>());
        counts
    };
    let mut of_groups = Vec::new();
    for (group, label) in groups.into_iter().flat_map(|groups| groups.labels.iter().enumerate()) {
        cancel.check()?;
        let of_kind = |kind: &(u32, f64)| (kind.0, tally.sum(group, kind.0 as usize));
        let mut own: Vec<(u32, f64)> = ranked.iter().map(of_kind).filter(|(_, count)| *count > 0.0).collect();
        if own.is_empty() {
            continue;
        }
        tally.rank(&mut own);
        let one = of(label, &own, Some(group));
        of_groups.push(Ranking { aligned: aligned(&own, one.total), ..one });
    }
    let unweighed = tally.unweighed().map(|mut counts| {
        tally.rank(&mut counts);
        let (total, first) = (counts.iter().map(|(_, count)| count).sum::<f64>(), counts[0]);
        let leader_share = (total > 0.0).then(|| first.1 / total);
        Unweighed { aligned: aligned(&counts, total), total, leader: labels[first.0 as usize].clone(), leader_share }
    });
    let change = params.stage.as_ref().map(|stage| change(params, stage, &params.kinds, &ranked, cancel)).transpose()?;
    let names: Vec<&str> = ranked.iter().map(|(kind, _)| labels[*kind as usize].as_str()).collect();
    let counts: Vec<f64> = ranked.iter().map(|(_, count)| *count).collect();
    let info = params.weight.or(params.count).map(|column| column.info.clone()).unwrap_or_default();
    let found = describe::decimals(&counts);
    let numbers = Numbers {
        alike: (!weighted && overall.kinds > 1 && overall.total > 0.0).then(|| folded(alike(overall.total, overall.kinds), lead.len())),
        same_names: names::alike(&names).into_iter().take(SAME_MOST).map(|one| [one.name, one.as_name]).collect(),
        merged: names::merged(&params.renames),
        unweighed,
        change,
        overall: Ranking { aligned: aligned(&ranked, overall.total), ..overall },
        groups: of_groups,
        from_log: params.count.is_none(),
        weighted,
        rows: tally.rows,
        missing: params.frame.rows() - tally.rows,
        writer: info.writer(if weighted { found.max(info.decimals.unwrap_or(0)) } else { found }),
    };
    Ok(Answer {
        numbers,
        ranked,
        labels: labels.clone(),
        codes: params.kinds.codes.clone(),
        row_ids: params.frame.row_ids().cloned(),
        category: params.category.name.clone(),
        renames: params.renames.clone(),
    })
}

/// Ranked values, those after the first few as one.
fn folded(mut ranked: Vec<f64>, kept: usize) -> Vec<f64> {
    let rest = ranked.split_off(kept).into_iter().sum();
    ranked.push(rest);
    ranked
}

/// Whether the first of two kinds is ahead by more than chance: counts by the binomial at one half, weighed ones by the normal,
/// their counts taken for Poisson.
fn leads(tally: &Tally, first: (u32, f64), second: (u32, f64), group: Option<usize>, weighted: bool) -> bool {
    if !weighted {
        return LEADS.is_made((2.0 * binomial_from(first.1, first.1 + second.1, 0.5)).min(1.0));
    }
    let sd = (tally.variance(first.0, group) + tally.variance(second.0, group)).sqrt();
    sd > 0.0 && LEADS.is_made(2.0 * normal::above((first.1 - second.1) / sd))
}

fn ranking(
    label: String,
    ranked: &[(u32, f64)],
    labels: &[String],
    fold: Fold,
    weighted: bool,
    leads: impl Fn(&(u32, f64), &(u32, f64)) -> bool,
) -> Ranking {
    let counts: Vec<f64> = ranked.iter().map(|(_, count)| *count).collect();
    let (k, total) = (counts.len(), counts.iter().sum::<f64>());
    let of_all = |count: f64| (total > 0.0).then(|| count / total);
    let kept = fold.kept(&counts, total);
    let mut sum = 0.0;
    let bar = |(kind, count): &(u32, f64)| {
        sum += count;
        ParetoBar { category: labels[*kind as usize].clone(), count: *count, share: of_all(*count), cumulative: of_all(sum) }
    };
    let bars = ranked[..kept].iter().map(bar).collect();
    let rest: f64 = counts[kept..].iter().sum();
    let mean = total / k as f64;
    // Of values from the largest: Σᵢⱼ|xᵢ − xⱼ| = 2 Σ (k − 1 − 2 i) xᵢ.
    let apart: f64 = counts.iter().enumerate().map(|(place, count)| 2.0 * (k as f64 - 1.0 - 2.0 * place as f64) * count).sum();
    let even = (k > 1 && total > 0.0 && !weighted)
        .then(|| chi_square_above(counts.iter().map(|count| (count - mean).powi(2) / mean).sum(), k as f64 - 1.0));
    let led = match ranked {
        [_] => true,
        [first, second, ..] => leads(first, second),
        [] => false,
    };
    Ranking {
        label,
        total,
        kinds: k,
        vital: reaching(&counts, total, 0.8),
        top20_share: of_all(counts[..k.div_ceil(5)].iter().sum()),
        gini: (total > 0.0).then(|| apart / (2.0 * (k * k) as f64 * mean)),
        even_p: even,
        led,
        bars,
        other: (kept < k).then(|| Other { categories: k - kept, count: rest, share: of_all(rest) }),
        aligned: Vec::new(),
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        let bars = self.numbers.groups.iter().map(|group| group.bars.len()).sum::<usize>() + self.numbers.overall.bars.len();
        80 * (bars + self.ranked.len()) + size_of_val(&self.codes[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers.overall;
        let vital = format!("{} of {}", grouped(of.vital), grouped(of.kinds));
        let all = [
            ("vital few", Some(vital)),
            ("Gini's index", of.gini.map(|gini| format!("{gini:.2}"))),
            ("values", Some(grouped(self.numbers.rows))),
        ];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        let all: Vec<&Ranking> = std::iter::once(&of.overall).chain(&of.groups).collect();
        let name = |one: &Ranking| if one.label.is_empty() { "all".to_owned() } else { one.label.clone() };
        let (percent, two, four) = (ValueFormat::percent(1), ValueFormat::fixed(2), ValueFormat::fixed(4));
        let each = || all.iter();
        let summary = Table::new("ranking", "How much the leading kinds make")
            .texts("groups", each().map(|one| Some(name(one))))
            .numbers("total", Some(&of.writer), Some("ranking"), each().map(|one| Some(one.total)))
            .wholes("kinds of defects", Some("ranking"), each().map(|one| one.kinds))
            .wholes("vital few", Some("vital"), each().map(|one| one.vital))
            .numbers("the leading fifth", Some(&percent), Some("ranking"), each().map(|one| one.top20_share))
            .numbers("Gini's index", Some(&two), Some("gini"), each().map(|one| one.gini))
            .numbers("p", Some(&four), Some("even"), each().map(|one| one.even_p));
        std::iter::once(summary).chain(of.change.as_ref().map(change_table)).collect()
    }

    fn points(&self, view: &View) -> Table {
        let of = &self.numbers;
        let total = of.overall.total;
        let share = |count: f64| Some(count / total).filter(|_| total > 0.0);
        let mut sum = 0.0;
        let so_far: Vec<f64> = self
            .ranked
            .iter()
            .map(|(_, count)| {
                sum += count;
                sum
            })
            .collect();
        let percent = ValueFormat::percent(2);
        Table::new("points", "Kinds")
            .texts("kinds of defects", self.ranked.iter().map(|(kind, _)| Some(self.labels[*kind as usize].clone())))
            .numbers("counts", Some(&of.writer), Some("ranking"), self.ranked.iter().map(|(_, count)| Some(*count)))
            .numbers("share", Some(&percent), Some("ranking"), self.ranked.iter().map(|(_, count)| share(*count)))
            .numbers("cumulative", Some(&percent), Some("ranking"), so_far.into_iter().map(share))
            .in_view(view)
    }

    /// The rows of the kinds of a stretch.
    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        let Some(kinds) = self.ranked.get(first..=last.min(self.ranked.len().saturating_sub(1))) else { return Vec::new() };
        let wanted: HashSet<u32> = kinds.iter().map(|(kind, _)| *kind).collect();
        let id = |row: usize| self.row_ids.as_ref().map_or(row as i64, |ids| ids[row]);
        self.codes.iter().enumerate().filter(|(_, kind)| wanted.contains(kind)).map(|(row, _)| id(row)).collect()
    }
}

/// "31 %" of a bar.
pub fn share_words(bar: &ParetoBar) -> String {
    bar.share.map_or_else(|| "none".to_owned(), percent)
}

/// Before and after, kind by kind.
fn change_table(change: &Change) -> Table {
    let (whole, four) = (ValueFormat::whole(), ValueFormat::fixed(4));
    let (rate, formula) = if change.inspected.is_some() { (ValueFormat::percent(3), "rates") } else { (ValueFormat::percent(1), "mix") };
    let each = || change.kinds.iter();
    let [before, after] = &change.labels;
    Table::new("change", format!("Before and after: {before}, {after}"))
        .texts("kinds of defects", each().map(|kind| Some(kind.category.clone())))
        .numbers("before", Some(&whole), None, each().map(|kind| Some(kind.before)))
        .numbers("after", Some(&whole), None, each().map(|kind| Some(kind.after)))
        .numbers("rate before", Some(&rate), Some(formula), each().map(|kind| kind.rate_before))
        .numbers("rate after", Some(&rate), Some(formula), each().map(|kind| kind.rate_after))
        .numbers("p", Some(&four), Some(formula), each().map(|kind| kind.p))
        .numbers("p, all kinds", Some(&four), Some("holm"), each().map(|kind| kind.p_adjusted))
}
