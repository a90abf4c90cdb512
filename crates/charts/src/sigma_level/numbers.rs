//! What a sigma level consists of, in the shape of its contract.

use serde::Serialize;

use crate::control_chart::{self, Chart};
use acorn_data::figure::histogram::CurvePoint;
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, StoredAnswer, Table, Term, ToNumbers, View};

/// What a sigma level consists of. Null is what the source does not tell: nothing per unit from a measurement, no sigma
/// level with no defects or nothing but defects.
#[derive(Clone, Debug, Default, Serialize, utoipa::ToSchema)]
#[schema(as = SigmaLevelNumbers)]
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
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = YieldStep)]
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
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Rung {
    /// Sigma level.
    pub level: f64,
    /// Defects per million at it.
    pub dpmo: f64,
}

/// The normal that a measurement is taken for.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
    /// Whether that makes a difference.
    pub misfits: bool,
    /// The share of values really out; null when typed.
    pub seen: Option<f64>,
    /// the normal curve, its top at 1.
    pub curve: Vec<CurvePoint>,
    /// How values are written.
    pub writer: ValueFormat,
}

/// A finished answer.
pub struct Answer {
    /// What was computed.
    pub numbers: Numbers,
    /// The chart of the samples or values.
    pub chart: Option<Chart>,
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, view: &View) -> Numbers {
        Numbers { chart: self.chart.as_ref().map(|chart| chart.of_view(view)), ..self.numbers.clone() }
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        let curve = self.numbers.normal.as_ref().map_or(0, |normal| size_of_val(&normal.curve[..]));
        self.chart.as_ref().map_or(0, StoredAnswer::bytes) + size_of_val(&self.numbers.steps[..]) + curve
    }

    fn brief(&self) -> Vec<Brief> {
        let whole = |term, number: Option<f64>| number.map(|number| Brief { term, words: grouped(number.round() as usize) });
        let of = &self.numbers;
        let known = [whole("defects", of.defects), whole("units", of.units), whole("chances", of.chances)];
        known.into_iter().flatten().chain([Brief { term: "shift", words: of.shift.to_string() }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        let (four, six, rate) = (ValueFormat::fixed(4), ValueFormat::fixed(6), ValueFormat::fixed(1));
        let share = ValueFormat::percent(4);
        let one = |words: &str, format: &ValueFormat, formula, number: Option<f64>| Term::new(words, format, formula, [number]);
        let with = |words: &str, format: &ValueFormat, formula, number: Option<f64>, ends: [Option<f64>; 2]| {
            Term::new(words, format, formula, [number, ends[0], ends[1]])
        };
        let interval = if of.normal.is_some() { "measured-interval" } else { "count-interval" };
        let dpmo = of.dpmo_ci95.map_or([None; 2], |ends| ends.map(Some));
        let level = of.sigma_level_ci95.unwrap_or([None; 2]);
        let terms = vec![
            one("defects per unit", &six, "per-unit", of.dpu),
            one("defects per chance", &ValueFormat::fixed(8), "per-unit", of.dpo),
            with("in a million", &rate, interval, of.dpmo, dpmo),
            one("yield", &share, "per-unit", of.yield_share),
            one("units without a defect", &share, "first-time-yield", of.first_time_yield),
            one("rolled yield", &share, "rolled-yield", of.rolled_yield),
            one("as if all steps were alike", &share, "rolled-yield", of.normalised_yield),
            one("z, without the shift", &four, "sigma-level", of.z),
            with(&format!("sigma level, shift {}", of.shift), &four, "sigma-level", of.sigma_level, level),
            one("p of a normal", &ValueFormat::fixed(3), "anderson-darling", of.normal.as_ref().and_then(|normal| normal.ad_p)),
        ];
        vec![Table::of_terms("levels", "Levels", &["", "value", "95 % from", "to"], terms)]
    }

    fn points(&self, view: &View) -> Table {
        if let Some(chart) = &self.chart {
            return chart.points(view);
        }
        let steps = &self.numbers.steps;
        let of = |get: fn(&Step) -> f64| steps.iter().map(move |step| Some(get(step)));
        let (four, share) = (ValueFormat::fixed(4), ValueFormat::percent(4));
        Table::new("points", "Steps")
            .texts("step", steps.iter().map(|step| Some(step.name.clone()).filter(|name| !name.is_empty())))
            .numbers("units", Some(&ValueFormat::whole()), None, of(|step| step.units))
            .numbers("defects", Some(&ValueFormat::whole()), None, of(|step| step.defects))
            .numbers("defects per unit", Some(&four), Some("per-unit"), of(|step| step.dpu))
            .numbers("in a million chances", Some(&ValueFormat::fixed(1)), Some("per-unit"), of(|step| step.dpmo))
            .numbers("first-time yield", Some(&share), Some("first-time-yield"), of(|step| step.first_time_yield))
            .numbers("rolled yield", Some(&share), Some("rolled-yield"), of(|step| step.rolled_yield))
            .numbers("sigma level", Some(&ValueFormat::fixed(2)), Some("sigma-level"), steps.iter().map(|step| step.sigma_level))
            .in_view(view)
    }
}
