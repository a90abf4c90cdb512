//! From groups of values to means, tests and pairs.

use super::numbers::{Anom, Chosen, Group, Needed, Numbers, OneMean, Pair, TTest, TwoSample};
use super::params::{Params, Test};
use acorn_maths::anom;
use acorn_maths::describe::{self, moments};
use acorn_maths::equal_means::{Sample, anova, welch};
use acorn_maths::equal_variance::brown_forsythe;
use acorn_maths::judgement::misfits;
use acorn_maths::ranks::kruskal;
use acorn_maths::shape::anderson_darling;
use acorn_maths::sorting::Sorted;
use acorn_maths::studentized_range::StudentizedRange;
use acorn_maths::tails::{t_beyond, t_two_sided};
use acorn_study::{Cancel, StudyError};

/// Groups of fewer values are judged by ranks when they are far from normal: means of more are normal enough.
const FEW: usize = 15;
/// Values of a group that are drawn one by one.
const DRAWN_MOST: usize = 200;
/// The chance to find a difference: t of 0.9.
const MISSED: f64 = 0.2;
/// More than anybody measures.
const NEEDED_MOST: f64 = 1e9;

/// Works it out.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn compute(params: &Params, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let groups: Vec<Group> = params.groups.iter().map(|(label, values)| group(label, values)).collect();
    cancel.check()?;
    let samples: Vec<Sample> =
        groups.iter().map(|group| Sample { n: group.n as f64, mean: group.mean, sd: group.sd.unwrap_or(0.0) }).collect();
    let n: f64 = samples.iter().map(|sample| sample.n).sum();
    let pivot = samples.first().map_or(0.0, |sample| sample.mean);
    let mean = pivot + samples.iter().map(|sample| sample.n * (sample.mean - pivot)).sum::<f64>() / n;
    let df = n - samples.len() as f64;
    let squares: f64 = samples.iter().map(|sample| (sample.n - 1.0) * sample.sd * sample.sd).sum();
    let sd_within = (df > 0.0).then(|| (squares / df).sqrt());
    let all: Vec<&[f64]> = params.groups.iter().map(|(_, values)| &values[..]).collect();
    let in_groups = params.test == Test::Groups;
    let spread = in_groups.then(|| brown_forsythe(&all)).flatten();
    cancel.check()?;
    let normal = normality(&params.groups, &groups, sd_within);
    let by_ranks = in_groups.then(|| kruskal(&all)).flatten();
    let (by_anova, by_welch) = if in_groups { (anova(samples.iter().copied()), welch(samples.iter().copied())) } else { (None, None) };
    let least = groups.iter().map(|group| group.n).min().unwrap_or(0);
    let odd = normal.is_some_and(|(p, a2)| misfits(n as usize, Some(p), Some(a2))) && least < FEW;
    let one = (!in_groups).then(|| one_mean(&samples[0], params.against.unwrap_or_default())).flatten();
    // Where each group shows its own spread no common one is assumed. To test the spreads first, and pool where they look alike, errs more
    // often than it states (Zimmerman 2004, British J. of Mathematical and Statistical Psychology 57).
    let varied = groups.iter().all(|group| group.sd.is_some_and(|sd| sd > 0.0));
    // Of two values a group shows next to nothing of its own spread, and several of them pass for unlike.
    let pairs_only = groups.len() > 2 && groups.iter().all(|group| group.n <= 2);
    let test = match params.test {
        Test::Groups if odd && by_ranks.is_some() => Chosen::Kruskal,
        Test::Groups if varied && !pairs_only && by_welch.is_some() => Chosen::Welch,
        Test::Groups if by_anova.is_some() => Chosen::Anova,
        Test::Groups => Chosen::None,
        _ if one.is_some() => Chosen::T,
        _ => Chosen::None,
    };
    let several = in_groups && groups.len() > 2;
    let range = several.then(|| StudentizedRange::of(groups.len()));
    let tukey = match (&range, sd_within.filter(|sd| *sd > 0.0)) {
        (Some(range), Some(sd)) => {
            let point = range.upper(0.05, df);
            pairs(&groups, cancel, |a, b| {
                let error = sd * (0.5 * (1.0 / a.n as f64 + 1.0 / b.n as f64)).sqrt();
                (error, df, range.above((a.mean - b.mean).abs() / error, df), point)
            })?
        }
        _ => Vec::new(),
    };
    let games_howell = match range.as_ref().filter(|_| varied) {
        Some(range) => pairs(&groups, cancel, |a, b| {
            let part = |group: &Group| group.sd.unwrap_or_default().powi(2) / group.n as f64;
            let (va, vb) = (part(a), part(b));
            let df = (va + vb).powi(2) / (va * va / (a.n as f64 - 1.0) + vb * vb / (b.n as f64 - 1.0));
            let error = (0.5 * (va + vb)).sqrt();
            (error, df, range.above((a.mean - b.mean).abs() / error, df), range.upper(0.05, df))
        })?,
        None => Vec::new(),
    };
    let info = &params.measure.info;
    let found = params.groups.iter().map(|(_, values)| describe::decimals(values)).max().unwrap_or(0);
    Ok(Numbers {
        mean,
        anom: if in_groups { decide(&groups, mean, sd_within, df) } else { None },
        two_sample: (in_groups && groups.len() == 2).then(|| two_sample(&samples, sd_within, df)).flatten(),
        needed: params.delta.and_then(|delta| needed(delta, sd_within, in_groups)),
        groups,
        sd_within,
        test,
        anova: by_anova,
        welch: by_welch,
        kruskal: by_ranks,
        brown_forsythe: spread,
        normal_p: normal.map(|(p, _)| p),
        tukey,
        games_howell,
        paired: one.filter(|_| params.test == Test::Paired),
        one_sample: one.filter(|_| params.test == Test::OneSample),
        against: params.against,
        missing: params.missing,
        tolerance: info.lsl.zip(info.usl).map(|(lsl, usl)| usl - lsl).filter(|room| *room > 0.0),
        writer: info.writer(found),
    })
}

fn group(label: &str, values: &[f64]) -> Group {
    let of = moments(values);
    let sorted = Sorted::of(values);
    let (mean, n) = (of.mean.unwrap_or(0.0), of.n);
    let reach = of.sd.map(|sd| t_two_sided(0.05, n as f64 - 1.0) * sd / (n as f64).sqrt());
    Group {
        label: label.to_owned(),
        n,
        mean,
        sd: of.sd,
        ci95: reach.map(|reach| [mean - reach, mean + reach]),
        five: [0.0, 0.25, 0.5, 0.75, 1.0].map(|share| sorted.quantile(share).unwrap_or(mean)),
        values: if n <= DRAWN_MOST { values.to_vec() } else { Vec::new() },
    }
}

/// Whether values are normal about the mean of their group: p and A².
fn normality(values: &[(String, Vec<f64>)], groups: &[Group], sd: Option<f64>) -> Option<(f64, f64)> {
    let sd = sd.filter(|sd| *sd > 0.0)?;
    let about = |((_, values), group): (&(String, Vec<f64>), &Group)| values.iter().map(|value| value - group.mean).collect::<Vec<_>>();
    let residuals: Vec<f64> = values.iter().zip(groups).flat_map(about).collect();
    anderson_darling(&Sorted::of(&residuals), 0.0, sd).map(|test| (test.p, test.a2))
}

/// Each pair by its error, df, chance and the point of the studentized range.
fn pairs(groups: &[Group], cancel: &Cancel, of: impl Fn(&Group, &Group) -> (f64, f64, f64, f64)) -> Result<Vec<Pair>, StudyError> {
    let mut all = Vec::new();
    for (place, a) in groups.iter().enumerate() {
        cancel.check()?;
        for b in &groups[place + 1..] {
            let (error, df, p, point) = of(a, b);
            let difference = a.mean - b.mean;
            let ci95 = [difference - point * error, difference + point * error];
            all.push(Pair { a: a.label.clone(), b: b.label.clone(), difference, ci95, df, p });
        }
    }
    Ok(all)
}

fn t_test(difference: f64, error: f64, df: f64) -> Option<TTest> {
    let reach = t_two_sided(0.05, df) * error;
    let t = difference / error;
    (error > 0.0 && df > 0.0 && t.is_finite()).then(|| TTest { t, df, p: t_beyond(t, df), ci95: [difference - reach, difference + reach] })
}

fn two_sample(samples: &[Sample], sd: Option<f64>, df: f64) -> Option<TwoSample> {
    let [a, b] = samples else { return None };
    let difference = a.mean - b.mean;
    let part = |sample: &Sample| sample.sd * sample.sd / sample.n;
    let (va, vb) = (part(a), part(b));
    let own = (va + vb).powi(2) / (va * va / (a.n - 1.0) + vb * vb / (b.n - 1.0));
    let pooled = t_test(difference, sd? * (1.0 / a.n + 1.0 / b.n).sqrt(), df)?;
    let welch = t_test(difference, (va + vb).sqrt(), own);
    Some(TwoSample { difference, pooled, welch })
}

fn one_mean(sample: &Sample, against: f64) -> Option<OneMean> {
    let Sample { n, mean, sd } = *sample;
    let test = t_test(mean - against, sd / n.sqrt(), n - 1.0)?;
    let TTest { t, df, p, ci95 } = test;
    Some(OneMean { n: n as usize, mean, sd, t, df, p, ci95: ci95.map(|end| end + against) })
}

/// Decision limits about the mean of all, for groups of one size.
fn decide(groups: &[Group], mean: f64, sd: Option<f64>, df: f64) -> Option<Vec<Anom>> {
    let (k, each) = (groups.len(), groups.first()?.n);
    let sd = sd.filter(|sd| *sd > 0.0)?;
    if k < 2 || groups.iter().any(|group| group.n != each) {
        return None;
    }
    let reach = anom::decision(k, df, 0.05) * sd * ((k - 1) as f64 / (k * each) as f64).sqrt();
    let one = |group: &Group| Anom {
        label: group.label.clone(),
        mean: group.mean,
        lcl: mean - reach,
        ucl: mean + reach,
        outside: (group.mean - mean).abs() > reach,
    };
    Some(groups.iter().map(one).collect())
}

/// Values in each group that find a difference nine times in ten.
fn needed(delta: f64, sd: Option<f64>, in_groups: bool) -> Option<Needed> {
    let sd = sd.filter(|sd| *sd > 0.0)?;
    let times = if in_groups { 2.0 } else { 1.0 };
    let enough = |n: f64| {
        let df = times * (n - 1.0);
        let reach = t_two_sided(0.05, df) + t_two_sided(MISSED, df);
        n >= times * (reach * sd / delta).powi(2)
    };
    let mut high = 2.0;
    while !enough(high) {
        high *= 2.0;
        if high > NEEDED_MOST {
            return None;
        }
    }
    let mut low = (high / 2.0_f64).max(1.0);
    while high - low > 1.0 {
        let middle = ((low + high) / 2.0).floor();
        if enough(middle) { high = middle } else { low = middle }
    }
    Some(Needed { delta, each: high as usize })
}
