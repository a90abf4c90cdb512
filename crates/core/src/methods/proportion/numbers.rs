//! What a share consists of, in the shape of its contract.

use serde::Serialize;

use crate::study::words::{ValueFormat, grouped};
use crate::study::{Brief, Kept, Numbered, Table, Term, View};

/// What a share consists of.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ProportionNumbers))]
pub struct Numbers {
    /// How many counted.
    pub x: f64,
    /// Out of how many.
    pub n: f64,
    /// Rows without a label.
    pub missing: usize,
    /// The share.
    pub estimate: f64,
    /// The claim.
    pub claim: Option<f64>,
    /// The chance of such a count if the claim holds; null without a claim.
    pub p: Option<f64>,
    /// Exact 95 % interval.
    pub ci95: [f64; 2],
    /// Wilson's 95 % interval.
    pub wilson_ci95: [f64; 2],
    /// What samples of that size would show if the claim held; empty without a claim.
    pub outcomes: Vec<Outcome>,
}

/// One count that could have been seen.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ProportionOutcome))]
pub struct Outcome {
    /// The count.
    pub count: f64,
    /// Its chance.
    pub chance: f64,
    /// Whether it adds to p.
    pub in_tail: bool,
}

impl Numbered for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl Kept for Numbers {
    fn bytes(&self) -> usize {
        size_of::<Numbers>() + size_of_val(&self.outcomes[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let whole = |term, count: f64| Brief { term, words: grouped(count as usize) };
        vec![whole("counted", self.x), whole("out of", self.n)]
    }

    fn tables(&self) -> Vec<Table> {
        let percent = ValueFormat::percent(2);
        let share = |words: &str, formula, numbers: [Option<f64>; 3]| Term::new(words, &percent, formula, numbers);
        let with = |ends: [f64; 2]| [Some(self.estimate), Some(ends[0]), Some(ends[1])];
        let terms = vec![
            share("share, exact interval", "exact-interval", with(self.ci95)),
            share("share, Wilson's interval", "wilson-interval", with(self.wilson_ci95)),
            share("claim", "share", [self.claim, None, None]),
            Term::new("p of the claim", &ValueFormat::fixed(4), "exact-p", [self.p, None, None]),
        ];
        vec![Table::of_terms("share", "Share", &["", "value", "95 % from", "to"], terms)]
    }

    fn points(&self, view: &View) -> Table {
        Table::new("points", "Counts under the claim")
            .numbers("count", Some(&ValueFormat::whole()), None, self.outcomes.iter().map(|one| Some(one.count)))
            .numbers("chance", Some(&ValueFormat::percent(3)), Some("exact-p"), self.outcomes.iter().map(|one| Some(one.chance)))
            .texts("adds to p", self.outcomes.iter().map(|one| one.in_tail.then(|| "yes".to_owned())))
            .in_view(view)
    }
}
