//! How many to inspect, before anything is counted.

use super::numbers::{Planned, PlannedPoint, Wanted};
use super::one::{Z, p};
use super::sample::{Alternative, PLANS};
use acorn_maths::distributions::{Binomial, Law};
use acorn_maths::judgement::UNLIKELY;
use acorn_maths::normal;
use acorn_study::reading::bad;
use acorn_study::{Cancel, StudyError, ValidatedSpec};

/// What is to be reached.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Plan {
    /// A share known to ± `margin`, when it is as expected.
    Margin { margin: f64, expected: f64 },
    /// That a claim does not hold, found with a chance, when the share is another one.
    Power { claim: f64, share: f64, power: f64, alternative: Alternative },
    /// A share of at most so much, so sure, with so many failures.
    Passes { at_most: f64, confidence: f64, failures: f64 },
}

/// Points of the curve.
const POINTS: usize = 61;
/// Beyond so many pieces steps of the exact chance are too small to matter, and the normal will do.
const EXACT_MOST: f64 = 50_000.0;
/// More than anybody inspects.
const MOST: f64 = 1e12;

impl Plan {
    /// Reads what is wanted; `None` where something was counted.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for shares that are none, or a difference that is none.
    pub fn read(asked: &ValidatedSpec) -> Result<Option<Plan>, StudyError> {
        let from: Option<String> = asked.option("from")?;
        let meant = |name: &str, told: &str| from.as_deref().map_or_else(|| asked.is_given(told), |from| from == name);
        let share = |option: &'static str, usual: Option<f64>| {
            let given: Option<f64> = asked.option(option)?;
            let share = given.or(usual).ok_or_else(|| bad(option, "type a share between 0 and 1"))?;
            if share > 0.0 && share < 1.0 { Ok(share) } else { Err(bad(option, format!("{share} is no share between 0 and 1"))) }
        };
        let [margin, power, passes] = PLANS;
        if meant(margin, "margin") {
            let expected: Option<f64> = asked.option("expected")?;
            let expected = expected.unwrap_or(0.5);
            if !(0.0..=1.0).contains(&expected) {
                return Err(bad("expected", format!("{expected} is no share from 0 to 1")));
            }
            return Ok(Some(Plan::Margin { margin: share("margin", None)?, expected }));
        }
        if meant(power, "claimed") {
            let (claim, wanted) = (share("claimed", None)?, share("share", None)?);
            let alternative = asked.option("alternative")?.unwrap_or_default();
            let hidden = match alternative {
                Alternative::NotEqual => wanted == claim,
                Alternative::Less => wanted >= claim,
                Alternative::Greater => wanted <= claim,
            };
            if hidden {
                return Err(bad("share", format!("{wanted} is not on the side of {claim} that is asked about")));
            }
            return Ok(Some(Plan::Power { claim, share: wanted, power: share("power", Some(0.9))?, alternative }));
        }
        if meant(passes, "at_most") {
            let failures: f64 = asked.option("failures")?.unwrap_or(0.0);
            if failures.fract() != 0.0 || !(0.0..=1e6).contains(&failures) {
                return Err(bad("failures", format!("{failures} is no count from 0 to 1,000,000")));
            }
            return Ok(Some(Plan::Passes { at_most: share("at_most", None)?, confidence: share("confidence", Some(0.95))?, failures }));
        }
        Ok(None)
    }

    /// How many, and what other numbers would reach.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when it takes more than anybody inspects; [`StudyError::Stopped`].
    pub fn answer(&self, cancel: &Cancel) -> Result<Planned, StudyError> {
        let n = match self {
            Plan::Power { .. } => self.for_power(cancel)?,
            _ => self.fewest()?,
        };
        let (wanted, goal) = match *self {
            Plan::Margin { margin, .. } => (Wanted::Margin, margin),
            Plan::Power { power, .. } => (Wanted::Power, power),
            Plan::Passes { confidence, .. } => (Wanted::Confidence, confidence),
        };
        let failures = if let Plan::Passes { failures, .. } = *self { Some(failures) } else { None };
        let (low, high) = ((n / 8.0).max(failures.unwrap_or(0.0) + 1.0).max(2.0), (n * 4.0).max(12.0));
        let place = |k: usize| (low * (high / low).powf(k as f64 / (POINTS - 1) as f64)).round();
        let mut counts: Vec<f64> = (0..POINTS).map(place).chain([n]).collect();
        counts.sort_by(f64::total_cmp);
        counts.dedup();
        let curve = counts.into_iter().map(|n| PlannedPoint { n, value: self.reached(n) }).collect();
        Ok(Planned { inspect: n, wanted, goal, reached: self.reached(n), failures, curve })
    }

    /// What so many pieces reach: a margin, a chance or a confidence.
    fn reached(&self, n: f64) -> f64 {
        match *self {
            Plan::Margin { expected, .. } => Z * (expected * (1.0 - expected) / n + Z * Z / (4.0 * n * n)).sqrt() / (1.0 + Z * Z / n),
            Plan::Power { claim, share, alternative, .. } => {
                if n > EXACT_MOST {
                    normal_power(n, claim, share, alternative)
                } else {
                    Region::of(n, claim, alternative).chance(n, share)
                }
            }
            Plan::Passes { at_most, failures, .. } => 1.0 - Binomial { n, p: at_most }.at_most(failures),
        }
    }

    fn is_enough(&self, n: f64) -> bool {
        match *self {
            Plan::Margin { margin, .. } => self.reached(n) <= margin,
            Plan::Power { power, .. } => self.reached(n) >= power,
            Plan::Passes { at_most, confidence, failures } => Binomial { n, p: at_most }.at_most(failures) <= 1.0 - confidence,
        }
    }

    /// The fewest that are enough, where more are always better.
    fn fewest(&self) -> Result<f64, StudyError> {
        let mut enough = 1.0;
        while !self.is_enough(enough) {
            enough *= 2.0;
            if enough > MOST {
                return Err(bad("from", "it takes more than anybody can inspect; ask for less"));
            }
        }
        let mut low = (enough / 2.0_f64).floor();
        while enough - low > 1.0 {
            let middle = ((low + enough) / 2.0).floor();
            if self.is_enough(middle) { enough = middle } else { low = middle }
        }
        Ok(enough)
    }

    /// The fewest from which on the chance is reached: it rises in steps that fall back a little.
    fn for_power(&self, cancel: &Cancel) -> Result<f64, StudyError> {
        let Plan::Power { claim, share, power, alternative } = *self else { return self.fewest() };
        let sides = if alternative == Alternative::NotEqual { 2.0 } else { 1.0 };
        let z = normal::quantile(1.0 - UNLIKELY / sides) * (claim * (1.0 - claim)).sqrt();
        let reach = z + normal::quantile(power) * (share * (1.0 - share)).sqrt();
        let about = (reach / (share - claim)).powi(2).ceil().max(1.0);
        if about > MOST {
            return Err(bad("share", "it takes more than anybody can inspect; ask for a larger difference"));
        }
        if about > EXACT_MOST {
            return Ok(about);
        }
        let mut n = (1.3 * about + 60.0).ceil();
        let mut region = Region::of(n, claim, alternative);
        while region.chance(n, share) < power {
            n = (1.5 * n).ceil();
            region = Region::of(n, claim, alternative);
        }
        while n > 1.0 {
            cancel.check()?;
            let next = region.moved(n - 1.0, claim, alternative);
            if next.chance(n - 1.0, share) < power {
                break;
            }
            (n, region) = (n - 1.0, next);
        }
        Ok(n)
    }
}

/// Counts at which the claim is given up: `low` and below, `high` and above.
#[derive(Clone, Copy, Debug)]
pub struct Region {
    /// The most that is too few.
    pub low: f64,
    /// The fewest that are too many.
    pub high: f64,
}

impl Region {
    pub fn of(n: f64, claim: f64, alternative: Alternative) -> Region {
        let law = Binomial { n, p: claim };
        let likeliest = law.likeliest();
        let rejects = |count: f64| p(&law, count, alternative) < UNLIKELY;
        let halved = |mut kept: f64, mut beyond: f64| {
            while (beyond - kept).abs() > 1.0 {
                let middle = ((kept + beyond) / 2.0).floor();
                if rejects(middle) { beyond = middle } else { kept = middle }
            }
            beyond
        };
        let low = if alternative == Alternative::Greater { -1.0 } else { halved(likeliest, -1.0) };
        let high = if alternative == Alternative::Less { n + 1.0 } else { halved(likeliest, n + 1.0) };
        Region { low, high }
    }

    /// For another number of pieces near by.
    pub fn moved(self, n: f64, claim: f64, alternative: Alternative) -> Region {
        let law = Binomial { n, p: claim };
        let rejects = |count: f64| p(&law, count, alternative) < UNLIKELY;
        let Region { mut low, mut high } = self;
        if alternative != Alternative::Greater {
            while low >= 0.0 && !rejects(low) {
                low -= 1.0;
            }
            while low + 1.0 < law.likeliest() && rejects(low + 1.0) {
                low += 1.0;
            }
        }
        if alternative == Alternative::Less {
            return Region { low, high: n + 1.0 };
        }
        high = high.min(n + 1.0);
        while high <= n && !rejects(high) {
            high += 1.0;
        }
        while high - 1.0 > law.likeliest() && rejects(high - 1.0) {
            high -= 1.0;
        }
        Region { low, high }
    }

    /// The chance to land there.
    fn chance(self, n: f64, share: f64) -> f64 {
        let law = Binomial { n, p: share };
        (law.at_most(self.low) + law.at_least(self.high)).min(1.0)
    }
}

fn normal_power(n: f64, claim: f64, share: f64, alternative: Alternative) -> f64 {
    let (wide, sd) = ((claim * (1.0 - claim) / n).sqrt(), (share * (1.0 - share) / n).sqrt());
    let sides = if alternative == Alternative::NotEqual { 2.0 } else { 1.0 };
    let reach = normal::quantile(1.0 - UNLIKELY / sides) * wide;
    normal::above((reach - (share - claim).abs()) / sd)
}
