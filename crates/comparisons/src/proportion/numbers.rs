//! What a claim consists of, in the shape of its contract.

use serde::Serialize;

use acorn_maths::words::{ValueFormat, grouped, small};
use acorn_study::{Brief, StoredAnswer, Table, Term, ToNumbers, View};

/// What a claim consists of: of one sample, of two, or of none yet.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionNumbers)]
#[serde(tag = "samples_taken", rename_all = "kebab-case")]
pub enum Numbers {
    /// One sample, with or without a claim.
    One(One),
    /// Two against each other.
    Two(Two),
    /// None: how many to inspect.
    Planned(Planned),
}

/// One sample.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionOne)]
pub struct One {
    /// What it is called; empty of the only one.
    pub label: String,
    /// How many counted.
    pub x: f64,
    /// Of pieces: out of how many.
    pub n: Option<f64>,
    /// Of defects: in how much.
    pub exposure: Option<f64>,
    /// Rows without a label or a number.
    pub missing: usize,
    /// The share or the rate.
    pub estimate: f64,
    /// The claim.
    pub claim: Option<f64>,
    /// The chance of such a count if the claim holds; null without a claim.
    pub p: Option<f64>,
    /// Exact 95 % interval.
    pub ci95: [f64; 2],
    /// Wilson's 95 % interval of a share.
    pub wilson_ci95: Option<[f64; 2]>,
    /// What such samples would show if the claim held; empty without a claim.
    pub outcomes: Vec<Outcome>,
}

impl One {
    /// Out of how many, or in how much.
    pub fn of(&self) -> f64 {
        self.n.or(self.exposure).unwrap_or(1.0)
    }
}

/// One count that could have been seen.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionOutcome)]
pub struct Outcome {
    /// The count.
    pub count: f64,
    /// Its chance.
    pub chance: f64,
    /// Whether it adds to p.
    pub in_tail: bool,
}

/// Two samples.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionTwo)]
pub struct Two {
    /// Whether pieces are counted, else defects.
    pub counting_pieces: bool,
    /// Share or rate of the first.
    pub estimate_1: f64,
    /// Share or rate of the second.
    pub estimate_2: f64,
    /// The first less the second.
    pub difference: f64,
    /// Of shares: Newcombe's 95 % interval of the difference.
    pub difference_ci95: Option<[f64; 2]>,
    /// Of rates: the first over the second; null when the second is 0.
    pub ratio: Option<f64>,
    /// Of rates: the exact 95 % interval of the ratio; without an upper end when nothing rules a larger one out.
    pub ratio_ci95: Option<[Option<f64>; 2]>,
    /// The chance of samples as unlike when both are alike: Fisher's, or the conditional one of rates.
    pub p: f64,
    /// Of shares: pooled z.
    pub z: Option<f64>,
    /// Its chance.
    pub p_z: Option<f64>,
    /// Rows without a label or a number.
    pub missing: usize,
    /// Both, each by itself.
    pub samples: Vec<One>,
}

/// What is to be reached by inspecting.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionWanted)]
#[serde(rename_all = "kebab-case")]
pub enum Wanted {
    /// Half the width of the interval.
    Margin,
    /// The chance to find a difference.
    Power,
    /// The confidence that a share is no larger.
    Confidence,
}

/// How many to inspect.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionPlanned)]
pub struct Planned {
    /// How many pieces.
    pub inspect: f64,
    /// What they are for.
    pub wanted: Wanted,
    /// The value wanted.
    pub goal: f64,
    /// The value that so many reach.
    pub reached: f64,
    /// Failures allowed, where there are any to be allowed.
    pub failures: Option<f64>,
    /// What other numbers reach.
    pub curve: Vec<PlannedPoint>,
}

/// What a number of pieces reaches.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ProportionPlannedPoint)]
pub struct PlannedPoint {
    /// How many.
    pub n: f64,
    /// Margin, chance or confidence.
    pub value: f64,
}

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

/// A rate with three digits or so, in no unit.
pub fn rate_format(rates: &[f64]) -> ValueFormat {
    let largest = rates.iter().copied().fold(0.0, f64::max);
    ValueFormat::fine("", 1.0, largest / 10.0)
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        let drawn = match self {
            Numbers::One(one) => one.outcomes.len(),
            Numbers::Two(two) => two.samples.len(),
            Numbers::Planned(planned) => planned.curve.len(),
        };
        size_of::<Numbers>() + drawn * size_of::<One>()
    }

    fn brief(&self) -> Vec<Brief> {
        let whole = |term, count: f64| Brief { term, words: grouped(count as usize) };
        match self {
            Numbers::One(one) => std::iter::once(whole("counted", one.x)).chain(one.n.map(|n| whole("out of", n))).collect(),
            Numbers::Two(two) => vec![Brief { term: "p", words: small(two.p) }],
            Numbers::Planned(planned) => vec![whole("to inspect", planned.inspect)],
        }
    }

    fn tables(&self) -> Vec<Table> {
        match self {
            Numbers::One(one) => vec![Table::of_terms("share", "The claim", HEADS, terms(one))],
            Numbers::Two(two) => vec![of_two(two)],
            Numbers::Planned(planned) => {
                let formula = planned.formula();
                let terms = vec![
                    Term::new("to inspect", &ValueFormat::whole(), formula, [Some(planned.inspect)]),
                    Term::new("wanted", &ValueFormat::percent(2), formula, [Some(planned.goal)]),
                    Term::new("reached", &ValueFormat::percent(2), formula, [Some(planned.reached)]),
                ];
                vec![Table::of_terms("plan", "How many to inspect", &["", "value"], terms)]
            }
        }
    }

    fn points(&self, view: &View) -> Table {
        let percent = ValueFormat::percent(3);
        match self {
            Numbers::One(one) => Table::new("points", "Counts under the claim")
                .numbers("count", Some(&ValueFormat::whole()), None, one.outcomes.iter().map(|one| Some(one.count)))
                .numbers("chance", Some(&percent), Some("exact-p"), one.outcomes.iter().map(|one| Some(one.chance)))
                .texts("adds to p", one.outcomes.iter().map(|one| one.in_tail.then(|| "yes".to_owned()))),
            Numbers::Two(two) => {
                let sides = || two.samples.iter();
                Table::new("points", "Samples")
                    .texts("sample", sides().map(|one| Some(one.label.clone())))
                    .numbers("count", Some(&ValueFormat::whole()), None, sides().map(|one| Some(one.x)))
                    .numbers("out of", Some(&ValueFormat::whole()), None, sides().map(|one| Some(one.of())))
            }
            Numbers::Planned(planned) => Table::new("points", "How much each number reaches")
                .numbers("to inspect", Some(&ValueFormat::whole()), None, planned.curve.iter().map(|point| Some(point.n)))
                .numbers("reached", Some(&percent), Some(planned.formula()), planned.curve.iter().map(|point| Some(point.value))),
        }
        .in_view(view)
    }
}

impl Planned {
    fn formula(&self) -> &'static str {
        match self.wanted {
            Wanted::Margin => "for-margin",
            Wanted::Power => "for-power",
            Wanted::Confidence => "for-passes",
        }
    }
}

const HEADS: &[&str] = &["", "value", "95 % from", "to"];

fn terms(one: &One) -> Vec<Term> {
    let with = |ends: [f64; 2]| [Some(one.estimate), Some(ends[0]), Some(ends[1])];
    let (format, share) = match one.n {
        Some(_) => (ValueFormat::percent(2), "share"),
        None => (rate_format(&[one.estimate, one.ci95[1]]), "rate"),
    };
    let own = |words: &str| if one.label.is_empty() { words.to_owned() } else { format!("{}, {words}", one.label) };
    let mut terms = match one.wilson_ci95 {
        Some(wilson) => vec![
            Term::new(own("share, exact interval"), &format, "exact-interval", with(one.ci95)),
            Term::new(own("share, Wilson's interval"), &format, "wilson-interval", with(wilson)),
        ],
        None => vec![Term::new(own("rate, exact interval"), &format, "rate-interval", with(one.ci95))],
    };
    terms.push(Term::new("claim", &format, share, [one.claim, None, None]));
    terms.push(Term::new("p of the claim", &ValueFormat::fixed(4), "exact-p", [one.p, None, None]));
    terms
}

fn of_two(two: &Two) -> Table {
    let (two_digits, four) = (ValueFormat::percent(2), ValueFormat::fixed(4));
    let mut all: Vec<Term> = two.samples.iter().flat_map(terms).collect();
    if two.counting_pieces {
        let [low, high] = two.difference_ci95.map_or([None; 2], |ends| ends.map(Some));
        all.push(Term::new("difference", &two_digits, "newcombe", [Some(two.difference), low, high]));
        all.push(Term::new("p of two shares", &four, "fisher", [Some(two.p), None, None]));
        all.push(Term::new("z, pooled", &ValueFormat::fixed(3), "pooled-z", [two.z, None, None]));
        all.push(Term::new("p of z", &four, "pooled-z", [two.p_z, None, None]));
    } else {
        let [low, high] = two.ratio_ci95.unwrap_or_default();
        all.push(Term::new("ratio", &ValueFormat::fixed(3), "ratio", [two.ratio, low, high]));
        all.push(Term::new("p of two rates", &four, "ratio", [Some(two.p), None, None]));
    }
    Table::of_terms("share", "The two samples", HEADS, all)
}
