//! What a planned study can tell.

use serde::Serialize;

use super::{Plan, StudyKind};
use crate::StudyError;
use crate::gauge::notes::CARRIES;
use acorn_maths::mean_squares::generalised;
use acorn_maths::tails::{chi_square_upper, share_interval, t_two_sided};
use acorn_maths::words::{counted, percent};

impl Plan {
    /// What such a plan can tell.
    ///
    /// # Errors
    /// What [`Plan::check`] refuses.
    pub fn tells(&self) -> Result<Tells, StudyError> {
        self.check()?;
        let rows = self.rows();
        let (expected, advice) = match self.kind {
            StudyKind::Crossed | StudyKind::Nested => (self.share_intervals(), spread_advice(self)),
            StudyKind::Single => (
                self.single_intervals(),
                "Read the piece without looking at the reading before; take it off and put it back each time.".to_owned(),
            ),
            StudyKind::Linearity => {
                let reach = t_two_sided(0.05, self.trials as f64 - 1.0) / (self.trials as f64).sqrt();
                let words = format!("Each piece's bias will be known to about ± {reach:.1} sds of one reading.");
                (Vec::new(), format!("{words} Choose pieces over the whole range that the gauge serves, at least five."))
            }
            StudyKind::Attribute => (self.agreement_intervals(), attribute_advice(self)),
        };
        Ok(Tells { rows, expected, advice })
    }

    /// Intervals on the share of the study for gauges that really take 10, 20 and 30 % of it, half of their variance operators'.
    fn share_intervals(&self) -> Vec<Expected> {
        let (o, p, r) = (self.operators.len() as f64, self.parts as f64, self.trials as f64);
        let several = self.operators.len() > 1;
        let one = |share: f64| {
            let gauge = share * share;
            let (repeat, operator) = if several { (0.5 * gauge, 0.5 * gauge) } else { (gauge, 0.0) };
            let part = 1.0 - gauge;
            let of = |[part_ms, operator_ms, repeat_ms]: [f64; 3], operator_over: f64, part_over: f64, nested: bool| {
                let operator =
                    if several { (operator_ms - if nested { part_ms } else { repeat_ms }).max(0.0) / operator_over } else { 0.0 };
                let part = (part_ms - repeat_ms).max(0.0) / part_over;
                let gauge = repeat_ms + operator;
                (gauge + part > 0.0).then(|| (gauge / (gauge + part)).sqrt())
            };
            let ends = if self.kind == StudyKind::Nested {
                let part_ms = repeat + r * part;
                let squares = [(part_ms, o * (p - 1.0)), (part_ms + p * r * operator, (o - 1.0).max(1.0)), (repeat, o * p * (r - 1.0))];
                generalised(squares, |squares| of(squares, p * r, r, true))
            } else {
                let squares =
                    [(repeat + o * r * part, p - 1.0), (repeat + p * r * operator, (o - 1.0).max(1.0)), (repeat, p * o * r - p - o + 1.0)];
                generalised(squares, |squares| of(squares, p * r, o * r, false))
            };
            ends.map(|[low, high]| Expected {
                words: format!("A gauge that takes {} of the study", percent(share)),
                really: share,
                low,
                high,
            })
        };
        [0.1, 0.2, 0.3].into_iter().filter_map(one).collect()
    }

    /// Intervals on Cg for a gauge whose Cg is really 1.33 and 2.
    fn single_intervals(&self) -> Vec<Expected> {
        let df = self.trials as f64 - 1.0;
        let end = |above: f64| (chi_square_upper(above, df) / df).sqrt();
        let one =
            |cg: f64| Expected { words: format!("A gauge with a Cg of {cg}"), really: cg, low: cg * end(0.975), high: cg * end(0.025) };
        [1.33, 2.0].map(one).to_vec()
    }

    /// Intervals on the agreement of an operator who is right about 80, 90 and 100 % of the pieces.
    fn agreement_intervals(&self) -> Vec<Expected> {
        let n = self.parts as f64;
        let one = |share: f64| {
            let [low, high] = share_interval((share * n).round(), n);
            Expected { words: format!("Somebody who is right about {} of the pieces", percent(share)), really: share, low, high }
        };
        [0.8, 0.9, 1.0].map(one).to_vec()
    }
}

fn spread_advice(plan: &Plan) -> String {
    let few = plan.parts * plan.operators.len() < CARRIES;
    let more = if few { " Parts times operators should be 15 or more, so that the spread of the parts is known." } else { "" };
    format!("Choose parts from the whole range, bad ones too: parts that are alike make any gauge look bad.{more}")
}

fn attribute_advice(plan: &Plan) -> String {
    let first = "Take a third to a half bad pieces, and border pieces among them.";
    let count = |label: &String| plan.known.iter().filter(|known| *known == label).count();
    let rare = plan.labels.iter().find(|label| !plan.known.is_empty() && 5 * count(label) < plan.known.len());
    let rare = rare.map(|label| format!(" Only {} “{label}” so far.", counted(count(label), "piece is", "pieces are"))).unwrap_or_default();
    let known =
        if plan.known.is_empty() { " Without known pieces the study tells whether people agree, not whether they are right." } else { "" };
    format!("{first}{rare}{known}")
}

/// What a plan can tell.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugePlanTells)]
pub struct Tells {
    /// Readings that it takes.
    pub rows: usize,
    /// How surely typical gauges would be told.
    pub expected: Vec<Expected>,
    /// What to see to before it is begun.
    pub advice: String,
}

/// How surely a gauge would be told: its 95 % interval as it would typically come out.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugePlanExpected)]
pub struct Expected {
    /// What it is really like: "A gauge that takes 20 % of the study".
    pub words: String,
    /// The true number.
    pub really: f64,
    /// Lower end.
    pub low: f64,
    /// Upper end.
    pub high: f64,
}
