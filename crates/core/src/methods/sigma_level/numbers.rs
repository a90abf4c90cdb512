//! What a sigma level consists of, in the shape of its contract.

use serde::Serialize;

use crate::figure::heap::CurvePoint;
use crate::frame::Values;
use crate::methods::Numbers as MethodNumbers;
use crate::methods::control_chart::{self, Chart};
use crate::study::words::Writer;
use crate::study::{View, ViewNumbers};

/// What a sigma level consists of. Null is what the source does not tell: nothing per unit from a measurement, no sigma
/// level with no defects or nothing but defects.
#[derive(Clone, Debug, Default, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = SigmaLevelNumbers))]
pub struct Numbers {
    /// Units inspected.
    pub units: Option<f64>,
    /// Defects found.
    pub defects: Option<f64>,
    /// Chances for a defect, of all units together.
    pub chances: Option<f64>,
    /// Defects per unit.
    pub dpu: Option<f64>,
    /// Defects per chance.
    pub dpo: Option<f64>,
    /// Defects per million chances; out of a measurement, values out per million.
    pub dpmo: Option<f64>,
    /// The share of chances, or of values, without a defect.
    #[serde(rename = "yield")]
    pub yield_share: Option<f64>,
    /// The normal quantile of the yield.
    pub z: Option<f64>,
    /// z and the shift.
    pub sigma_level: Option<f64>,
    /// The shift that is added.
    pub shift: f64,
    /// The level asked for.
    pub goal: Option<f64>,
    /// The share of units without any defect, e^-dpu; of several steps, through all of them.
    pub first_time_yield: Option<f64>,
    /// 95 % interval of the defects per million, exact; of a measurement, from its z.
    pub dpmo_ci95: Option<[f64; 2]>,
    /// 95 % interval of the sigma level; an end beyond what the counts can tell is null.
    pub sigma_level_ci95: Option<[Option<f64>; 2]>,
    /// Steps one after the other; one for a single count, none for a measurement.
    pub steps: Vec<Step>,
    /// The share of units without a defect in any step.
    pub rolled_yield: Option<f64>,
    /// The yield that each step would have if all were alike.
    pub normalised_yield: Option<f64>,
    /// The normal behind it.
    pub normal: Option<NormalNumbers>,
    /// Whether the samples are steady; null when nothing is charted.
    pub steady: Option<bool>,
    /// Signals on the chart.
    pub signals: usize,
    /// As many would come by chance.
    pub signals_expected: f64,
    /// Whether chance explains them, so that the process counts as steady.
    pub signals_by_chance: bool,
    /// What the levels from 1 to 6 and more mean at this shift.
    pub ladder: Vec<Rung>,
    /// Samples in order, for the view.
    pub chart: Option<control_chart::Numbers>,
}

/// One step.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = YieldStep))]
pub struct Step {
    /// Its name.
    pub name: String,
    /// Units that went through.
    pub units: f64,
    /// Defects found.
    pub defects: f64,
    /// Defects per unit.
    pub dpu: f64,
    /// Defects per million chances.
    pub dpmo: f64,
    /// The share of units without a defect, e^-dpu.
    pub first_time_yield: f64,
    /// Through this step and all before it.
    pub rolled_yield: f64,
    /// Its own sigma level.
    pub sigma_level: Option<f64>,
}

/// A level of the ladder.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Rung {
    /// Sigma level.
    pub level: f64,
    /// Defects per million at it.
    pub dpmo: f64,
}

/// The normal that a measurement is taken for.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct NormalNumbers {
    /// Values; null when typed.
    pub n: Option<usize>,
    /// Mean.
    pub mean: f64,
    /// Sd.
    pub sd: f64,
    /// Lower limit.
    pub lsl: Option<f64>,
    /// Upper limit.
    pub usl: Option<f64>,
    /// The share below.
    pub below: Option<f64>,
    /// The share above.
    pub above: Option<f64>,
    /// The chance of so odd a shape from a normal; null when typed or below eight values.
    pub ad_p: Option<f64>,
    /// The share of values really out; null when typed.
    pub seen: Option<f64>,
    /// The bell, its top at 1.
    pub curve: Vec<CurvePoint>,
    /// How values are written.
    pub writer: Writer,
}

/// A finished answer.
pub struct Answer {
    /// What was computed.
    pub numbers: Numbers,
    /// The chart of the samples or values.
    pub chart: Option<Chart>,
}

impl ViewNumbers for Answer {
    fn numbers(&self, view: &View) -> MethodNumbers {
        let chart = self.chart.as_ref().map(|chart| chart.of_view(view));
        MethodNumbers::SigmaLevel(Box::new(Numbers { chart, ..self.numbers.clone() }))
    }

    fn bytes(&self) -> usize {
        self.chart.as_ref().map_or(0, ViewNumbers::bytes)
    }

    fn point_columns(&self) -> Vec<(String, Values)> {
        match &self.chart {
            Some(chart) => ViewNumbers::point_columns(chart),
            None => {
                let steps = &self.numbers.steps;
                let of = |get: fn(&Step) -> f64| Values::Number(steps.iter().map(get).collect());
                let names = steps.iter().map(|step| step.name.clone()).collect();
                let codes = (0u32..).take(steps.len()).collect();
                vec![
                    ("step".to_owned(), Values::Label { codes, labels: names }),
                    ("units".to_owned(), of(|step| step.units)),
                    ("defects".to_owned(), of(|step| step.defects)),
                    ("first-time yield".to_owned(), of(|step| step.first_time_yield)),
                    ("rolled yield".to_owned(), of(|step| step.rolled_yield)),
                ]
            }
        }
    }
}
