//! From judgements to agreement.

use super::kappa::{cohen, fleiss};
use super::numbers::{Agreement, CohenPair, CohenReference, Errors, Fleiss, FleissCategory, GridPart, Numbers, OperatorAgreement};
use super::ratings::Ratings;
use super::tables;
use acorn_maths::tails::share_interval;
use acorn_maths::words::{grouped, hundredths, percent};
use acorn_study::reading::bad;
use acorn_study::{Brief, Cancel, GaugeFinding, StoredAnswer, StudyError, Table, ToNumbers, ValidatedSpec, View};

/// A finished study.
pub struct Answer {
    pub(super) numbers: Numbers,
    pub(super) ratings: Ratings,
    ids: Vec<i64>,
    pub(super) rating: String,
    pub(super) part: String,
}

/// Parts drawn at most.
const DRAWN_MOST: usize = 400;

/// Answers a statement.
///
/// # Errors
/// [`StudyError::BadOption`] for a bad label that nobody gave; [`StudyError::Stopped`].
pub fn answer(asked: &ValidatedSpec<'_>, ratings: Ratings, cancel: &Cancel) -> Result<Answer, StudyError> {
    let bad_label: Option<String> = asked.option("bad")?;
    let bad_code = bad_label.as_ref().map(|label| ratings.labels.iter().position(|known| known == label));
    if let (Some(label), Some(None)) = (&bad_label, bad_code) {
        return Err(bad("bad", format!("nobody said “{label}”; the labels are {}", ratings.labels.join(", "))));
    }
    let (p, o, r) = (ratings.parts.len(), ratings.operators.len(), ratings.trials);
    let same = |codes: &[u16]| codes.iter().all(|code| *code == codes[0]);
    let agreement = |agrees: &dyn Fn(usize) -> bool| {
        let matched = (0..p).filter(|part| agrees(*part)).count();
        let ci95 = share_interval(matched as f64, p as f64);
        Agreement { inspected: p, matched, share: matched as f64 / p as f64, ci95 }
    };
    let by_operator = |agrees: &dyn Fn(usize, usize) -> bool| -> Vec<OperatorAgreement> {
        let one = |operator: usize| OperatorAgreement {
            operator: ratings.operators[operator].clone(),
            agreement: agreement(&|part| agrees(part, operator)),
        };
        (0..o).map(one).collect()
    };
    let known = ratings.reference.as_deref();
    let is = |codes: &[u16], label: u16| codes.iter().all(|code| *code == label);
    let within = (r > 1).then(|| by_operator(&|part, operator| same(ratings.cell(part, operator))));
    let against = known.map(|known| by_operator(&|part, operator| is(ratings.cell(part, operator), known[part])));
    cancel.check()?;
    let counts: Vec<Vec<f64>> = (0..p)
        .map(|part| {
            let mut of = vec![0.0; ratings.judged];
            ratings.of_part(part).iter().for_each(|&code| of[code as usize] += 1.0);
            of
        })
        .collect();
    let (all, each) = fleiss(&counts, (o * r) as f64);
    let categories =
        each.into_iter().zip(&ratings.labels).map(|(kappa, label)| FleissCategory { category: label.clone(), kappa }).collect();
    let k = ratings.labels.len();
    let table = |pairs: &mut dyn Iterator<Item = (u16, u16)>| {
        let mut table = vec![vec![0.0; k]; k];
        pairs.for_each(|(a, b)| table[a as usize][b as usize] += 1.0);
        cohen(&table)
    };
    let two = |a: usize, b: usize| {
        let mut pairs = (0..p).flat_map(|part| ratings.cell(part, a).iter().copied().zip(ratings.cell(part, b).iter().copied()));
        CohenPair { a: ratings.operators[a].clone(), b: ratings.operators[b].clone(), kappa: table(&mut pairs) }
    };
    let pairs =
        if o <= PAIRED_MOST { (0..o).flat_map(|a| (a + 1..o).map(move |b| (a, b))).map(|(a, b)| two(a, b)).collect() } else { Vec::new() };
    cancel.check()?;
    let cohen_reference = known.map(|known| {
        let one = |operator: usize| {
            let mut pairs = (0..p).flat_map(|part| ratings.cell(part, operator).iter().map(move |code| (*code, known[part])));
            CohenReference { operator: ratings.operators[operator].clone(), kappa: table(&mut pairs) }
        };
        (0..o).map(one).collect()
    });
    let errors = known.zip(bad_code.flatten()).filter(|_| k == 2).map(|(known, bad)| {
        let one = |operator: usize| {
            // How often each bad piece, and each good one, was judged wrongly.
            let [mut of_bad, mut of_good] = [Vec::new(), Vec::new()];
            for (part, &label) in known.iter().enumerate() {
                let side = if label as usize == bad { &mut of_bad } else { &mut of_good };
                side.push(ratings.cell(part, operator).iter().filter(|code| **code != label).count() as f64);
            }
            let sum = |wrong: &[f64]| wrong.iter().sum::<f64>();
            let rate = |wrong: &[f64]| (!wrong.is_empty()).then(|| sum(wrong) / (wrong.len() * r) as f64);
            Errors {
                operator: ratings.operators[operator].clone(),
                misses: sum(&of_bad) as usize,
                miss_rate: rate(&of_bad),
                miss_ci95: rate(&of_bad).map(|rate| of_pieces(&of_bad, r as f64, rate)),
                false_alarms: sum(&of_good) as usize,
                false_alarm_rate: rate(&of_good),
            }
        };
        (0..o).map(one).collect()
    });
    let numbers = Numbers {
        n: ratings.codes.len(),
        missing: ratings.missing,
        trials: r,
        operators: ratings.operators.clone(),
        labels: ratings.labels.clone(),
        bad: bad_label,
        within,
        against,
        between: agreement(&|part| same(ratings.of_part(part))),
        all_against: known.map(|known| agreement(&|part| is(ratings.of_part(part), known[part]))),
        fleiss: Fleiss { all, categories },
        cohen: pairs,
        cohen_reference,
        errors,
        grid: grid(&ratings, &counts),
        parts: p,
    };
    let name = |role: &'static str| asked.needed(role).map(|column| column.name.clone());
    Ok(Answer {
        ids: ratings.rows.iter().map(|&row| asked.frame().row_id(row)).collect(),
        rating: name("rating")?,
        part: name("part")?,
        numbers,
        ratings,
    })
}

/// The 95 % interval of a share of judgements. Those of one piece go with each other, so that they are worth between one a piece and all of
/// them: p(1 − p) over the variance of the mean of the pieces' own shares (Kish 1965, Survey Sampling, ch. 5).
fn of_pieces(wrong: &[f64], looks: f64, share: f64) -> [f64; 2] {
    let pieces = wrong.len() as f64;
    let variance = wrong.iter().map(|wrong| (wrong / looks - share).powi(2)).sum::<f64>() / (pieces * (pieces - 1.0));
    let worth = share * (1.0 - share) / variance;
    let worth = if worth.is_finite() { worth.clamp(pieces, pieces * looks) } else { pieces };
    share_interval(share * worth, worth)
}

/// Pairs of more operators than these are too many to look at.
const PAIRED_MOST: usize = 30;

/// The parts, those with most disagreement first.
fn grid(ratings: &Ratings, counts: &[Vec<f64>]) -> Vec<GridPart> {
    let expected = |part: usize| match &ratings.reference {
        Some(known) => known[part],
        None => (0..ratings.judged).max_by(|&a, &b| counts[part][a].total_cmp(&counts[part][b]).then(b.cmp(&a))).unwrap_or(0) as u16,
    };
    let odd = |part: usize| {
        let label = expected(part);
        ratings.of_part(part).iter().filter(|code| **code != label).count()
    };
    let mut order: Vec<(usize, usize)> = (0..ratings.parts.len()).map(|part| (part, odd(part))).collect();
    order.sort_by_key(|(_, odd)| std::cmp::Reverse(*odd));
    order.truncate(DRAWN_MOST);
    let one = |(part, odd): (usize, usize)| GridPart {
        part,
        label: ratings.parts[part].clone(),
        reference: ratings.reference.as_ref().map(|known| known[part]),
        ratings: (0..ratings.operators.len()).map(|operator| ratings.cell(part, operator).to_vec()).collect(),
        odd,
    };
    order.into_iter().map(one).collect()
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        size_of_val(&self.ratings.codes[..]) + size_of_val(&self.ratings.rows[..]) + size_of_val(&self.ids[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let kappa = of.fleiss.all.kappa.map(hundredths);
        let agreed = of.all_against.unwrap_or(of.between);
        let all = [("agreed", Some(percent(agreed.share))), ("kappa", kappa), ("values", Some(grouped(of.n)))];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn gauge(&self) -> Option<GaugeFinding> {
        Some(GaugeFinding { sd: None, share: None, waiting: self.numbers.missing })
    }

    fn tables(&self) -> Vec<Table> {
        tables::all(&self.numbers)
    }

    fn points(&self, view: &View) -> Table {
        tables::judgements(&self.ratings, view)
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.ids.get(first..=last.min(self.ids.len().saturating_sub(1))).unwrap_or_default().to_vec()
    }
}
