//! From rows to ranked kinds.

use std::collections::{HashMap, HashSet};
use std::sync::Arc;

use super::numbers::{Numbers, Other, ParetoBar, Ranking};
use super::params::{Coded, Fold, Params, reaching};
use crate::frame::{NO_CODE, Values};
use crate::numeric::describe;
use crate::numeric::tails::{binomial_from, chi_square_above};
use crate::study::words::{ValueFormat, grouped, percent};
use crate::study::{Brief, Cancel, Kept, Numbered, StudyError, Table, View};

/// A finished ranking.
pub struct Answer {
    pub(super) numbers: Numbers,
    /// Every kind of the whole, the largest first: its code and its count.
    ranked: Vec<(u32, f64)>,
    labels: Vec<String>,
    codes: Arc<[u32]>,
    row_ids: Option<Arc<[i64]>>,
    pub(super) category: String,
}

/// What each row counts for; `None` when each is one.
struct Worth<'f> {
    count: Option<&'f [f64]>,
    weight: Option<&'f [f64]>,
}

impl Worth<'_> {
    fn of(&self, row: usize) -> f64 {
        self.count.map_or(1.0, |counts| counts[row]) * self.weight.map_or(1.0, |weights| weights[row])
    }
}

/// Sums by group and kind, and the row at which each kind first comes.
struct Tally {
    sums: Vec<f64>,
    first: Vec<usize>,
    rows: usize,
}

/// Answers a statement.
///
/// # Errors
/// [`StudyError::BadValue`] for a count or a weight below 0; [`StudyError::TooFewValues`] without a defect; [`StudyError::Stopped`].
pub fn answer(params: &Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let worth = Worth { count: column_numbers(params.count)?, weight: column_numbers(params.weight)? };
    let groups = params.group.as_ref().map(|(_, coded)| coded);
    let tally = tally(&params.kinds, groups, &worth, cancel)?;
    let k = params.kinds.labels.len();
    let group_count = groups.map_or(1, |groups| groups.labels.len());
    let of_kind = |kind: usize| (0..group_count).map(|group| tally.sums[group * k + kind]).sum::<f64>();
    let mut ranked: Vec<(u32, f64)> =
        (0..k).filter(|kind| tally.first[*kind] != usize::MAX).map(|kind| (kind as u32, of_kind(kind))).collect();
    if ranked.is_empty() {
        return Err(StudyError::TooFewValues { column: params.category.name.clone(), have: 0, need: 1 });
    }
    rank(&mut ranked, &tally.first);
    let weighted = params.weight.is_some();
    let labels = &params.kinds.labels;
    let overall = ranking(String::new(), &ranked, labels, params.fold, weighted);
    let lead: Vec<u32> = ranked.iter().take(overall.bars.len()).map(|(kind, _)| *kind).collect();
    let aligned = |all: &[(u32, f64)], total: f64| {
        let by_kind: HashMap<u32, f64> = all.iter().copied().collect();
        let mut counts: Vec<f64> = lead.iter().map(|kind| by_kind.get(kind).copied().unwrap_or(0.0)).collect();
        counts.push(total - counts.iter().sum::<f64>());
        counts
    };
    let mut of_groups = Vec::new();
    if let Some(groups) = groups {
        for (group, label) in groups.labels.iter().enumerate() {
            cancel.check()?;
            let of = |kind: &(u32, f64)| (kind.0, tally.sums[group * k + kind.0 as usize]);
            let mut own: Vec<(u32, f64)> = ranked.iter().map(of).filter(|(_, count)| *count > 0.0).collect();
            if own.is_empty() {
                continue;
            }
            rank(&mut own, &tally.first);
            let one = ranking(label.clone(), &own, labels, params.fold, weighted);
            of_groups.push(Ranking { aligned: aligned(&own, one.total), ..one });
        }
    }
    let counts: Vec<f64> = ranked.iter().map(|(_, count)| *count).collect();
    let info = params.weight.or(params.count).map(|column| column.info.clone()).unwrap_or_default();
    let numbers = Numbers {
        overall: Ranking { aligned: aligned(&ranked, overall.total), ..overall },
        groups: of_groups,
        from_log: params.count.is_none(),
        weighted,
        rows: tally.rows,
        missing: params.frame.rows() - tally.rows,
        writer: ValueFormat::of(
            &info,
            if weighted { describe::decimals(&counts).max(info.decimals.unwrap_or(0)) } else { describe::decimals(&counts) },
        ),
    };
    Ok(Answer {
        numbers,
        ranked,
        labels: labels.clone(),
        codes: params.kinds.codes.clone(),
        row_ids: params.frame.row_ids().cloned(),
        category: params.category.name.clone(),
    })
}

/// The numbers of a column that none may be below 0.
fn column_numbers(column: Option<&crate::frame::Column>) -> Result<Option<&[f64]>, StudyError> {
    let Some(column) = column else { return Ok(None) };
    let Values::Number(values) = &column.values else { return Ok(None) };
    match values.iter().position(|value| *value < 0.0) {
        Some(row) => {
            let problem = format!("{} is below 0; nothing counts for less than nothing", values[row]);
            Err(StudyError::BadValue { column: column.name.clone(), row, problem })
        }
        None => Ok(Some(values)),
    }
}

fn tally(kinds: &Coded, groups: Option<&Coded>, worth: &Worth, cancel: &Cancel) -> Result<Tally, StudyError> {
    let k = kinds.labels.len();
    let mut tally = Tally { sums: vec![0.0; k * groups.map_or(1, |groups| groups.labels.len())], first: vec![usize::MAX; k], rows: 0 };
    let plain = worth.count.is_none() && worth.weight.is_none();
    for (row, &kind) in kinds.codes.iter().enumerate() {
        if row.is_multiple_of(1 << 18) {
            cancel.check()?;
        }
        let group = groups.map_or(0, |groups| groups.codes[row]);
        if kind == NO_CODE || group == NO_CODE {
            continue;
        }
        let value = if plain { 1.0 } else { worth.of(row) };
        if value.is_nan() {
            continue;
        }
        tally.rows += 1;
        tally.sums[group as usize * k + kind as usize] += value;
        let first = &mut tally.first[kind as usize];
        *first = (*first).min(row);
    }
    Ok(tally)
}

/// The largest first, equal ones as they first come.
fn rank(kinds: &mut [(u32, f64)], first: &[usize]) {
    kinds.sort_by(|a, b| b.1.total_cmp(&a.1).then(first[a.0 as usize].cmp(&first[b.0 as usize])));
}

fn ranking(label: String, ranked: &[(u32, f64)], labels: &[String], fold: Fold, weighted: bool) -> Ranking {
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
    let led = match counts[..] {
        [_] => true,
        [first, second, ..] if !weighted => 2.0 * binomial_from(first, first + second, 0.5) < 0.05,
        [first, second, ..] => first > 1.5 * second,
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

impl Numbered for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl Kept for Answer {
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
        vec![summary]
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
