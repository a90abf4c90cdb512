//! From readings of one piece to bias and capability.

use super::card::SHARE;
use super::numbers::{Numbers, Reading};
use acorn_maths::describe::{self, moments};
use acorn_maths::judgement::coarse;
use acorn_maths::tails::{chi_square_upper, t_beyond, t_two_sided};
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::gauge::against::Against;
use acorn_study::view::kept_points;
use acorn_study::{Brief, GaugeFinding, StoredAnswer, StudyError, Table, Term, ToNumbers, ValidatedSpec, View};

/// A finished study.
pub struct Answer {
    /// Without readings, which depend on the view.
    pub(super) numbers: Numbers,
    pub(super) values: Vec<f64>,
    ids: Vec<i64>,
    pub(super) measure: String,
    /// Different values, when they are few.
    pub(super) coarse: Option<usize>,
    /// Correlation of each reading with the one before.
    pub(super) lag: Option<f64>,
}

/// Readings sent at most.
const DRAWN_MOST: usize = 2000;

/// Answers a statement.
///
/// # Errors
/// [`StudyError::TooFewValues`] without a reading; [`StudyError::MissingRole`] without a reference.
pub fn answer(asked: &ValidatedSpec<'_>) -> Result<Answer, StudyError> {
    let measure = asked.needed("measure")?;
    let all = asked.numbers("measure")?;
    let against = Against::read(asked, measure)?;
    let reference =
        asked.number("reference").ok_or(StudyError::MissingRole { role: "reference", choose: "the known value of the piece" })?;
    let rows: Vec<usize> = (0..all.len()).filter(|&row| !all[row].is_nan()).collect();
    let values: Vec<f64> = rows.iter().map(|&row| all[row]).collect();
    let of = moments(&values);
    let mean = of.mean.ok_or_else(|| StudyError::TooFewValues { column: measure.name.clone(), have: 0, need: 1 })?;
    let n = values.len() as f64;
    let bias = mean - reference;
    let sd = of.sd;
    let varies = sd.filter(|sd| *sd > 0.0);
    let error = varies.map(|sd| sd / n.sqrt());
    let bias_t = error.map(|error| bias / error);
    let share = asked.number("share").unwrap_or(SHARE);
    let tolerance = against.tolerance.or(against.usl.zip(against.lsl).map(|(usl, lsl)| usl - lsl));
    let k = against.multiplier;
    let cg = tolerance.zip(varies).map(|(room, sd)| share * room / (k * sd));
    let cgk = tolerance.zip(varies).map(|(room, sd)| (0.5 * share * room - bias.abs()) / (0.5 * k * sd));
    let numbers = Numbers {
        n: values.len(),
        missing: all.len() - values.len(),
        mean,
        sd,
        reference,
        bias,
        bias_t,
        bias_p: bias_t.map(|t| t_beyond(t.abs(), n - 1.0)),
        bias_ci95: error.map(|error| {
            let reach = t_two_sided(0.05, n - 1.0) * error;
            [bias - reach, bias + reach]
        }),
        tolerance,
        share,
        multiplier: k,
        cg,
        cg_ci95: cg.map(|cg| [0.975, 0.025].map(|above| cg * (chi_square_upper(above, n - 1.0) / (n - 1.0)).sqrt())),
        cgk,
        pct_repeatability: cg.map(|cg| share / cg),
        pct_repeatability_bias: cgk.filter(|cgk| *cgk > 0.0).map(|cgk| share / cgk),
        pct_resolution: asked.number("resolution").zip(tolerance).map(|(step, room)| step / room),
        readings: Vec::new(),
        writer: measure.info.writer(describe::decimals(&values)),
    };
    Ok(Answer {
        coarse: coarse(&values),
        lag: describe::lag_one_correlation(&values, &of),
        ids: rows.iter().map(|&row| asked.frame().row_id(row)).collect(),
        measure: measure.name.clone(),
        numbers,
        values,
    })
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, view: &View) -> Numbers {
        let (stretch, bucket) = view.stretch(self.values.len());
        let bucket = bucket.max(stretch.len().div_ceil(DRAWN_MOST / 4));
        let places = if stretch.len() <= DRAWN_MOST && view.points.is_none() {
            stretch.collect()
        } else {
            kept_points(&self.values, stretch, bucket)
        };
        Numbers { readings: places.into_iter().map(|i| Reading { i, value: self.values[i] }).collect(), ..self.numbers.clone() }
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        size_of_val(&self.values[..]) + size_of_val(&self.ids[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let index = ValueFormat::fixed(2);
        let all = [
            ("bias", Some(of.writer.signed(of.bias))),
            ("gauge sd", of.sd.map(|sd| of.writer.computed(sd))),
            ("Cgk", of.cgk.map(|cgk| index.value(cgk))),
            ("values", Some(grouped(of.n))),
        ];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn gauge(&self) -> Option<GaugeFinding> {
        Some(GaugeFinding {
            sd: self.numbers.sd.filter(|sd| *sd > 0.0),
            share: self.numbers.pct_repeatability,
            waiting: self.numbers.missing,
        })
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        let (fine, percent, two) = (of.writer.finer(), ValueFormat::percent(1), ValueFormat::fixed(2));
        let ends = |ci: Option<[f64; 2]>| [ci.map(|[low, _]| low), ci.map(|[_, high]| high)];
        let [bias_low, bias_high] = ends(of.bias_ci95);
        let [cg_low, cg_high] = ends(of.cg_ci95);
        let terms = vec![
            Term::new("reference", &fine, "bias", [Some(of.reference), None, None]),
            Term::new("mean", &fine, "bias", [Some(of.mean), None, None]),
            Term::new("sd", &fine, "cg", [of.sd, None, None]),
            Term::new("bias", &fine, "bias", [Some(of.bias), bias_low, bias_high]),
            Term::new("p", &ValueFormat::fixed(4), "bias", [of.bias_p, None, None]),
            Term::new("Cg", &two, "cg", [of.cg, cg_low, cg_high]),
            Term::new("Cgk", &two, "cgk", [of.cgk, None, None]),
            Term::new("% tolerance", &percent, "cg", [of.pct_repeatability, None, None]),
            Term::new("bias / tolerance", &percent, "bias", [of.tolerance.map(|room| of.bias / room), None, None]),
            Term::new("resolution / tolerance", &percent, "resolution", [of.pct_resolution, None, None]),
        ];
        vec![Table::of_terms("gauge", "The gauge on this piece", &["", "value", "95 % from", "95 % to"], terms)]
    }

    fn points(&self, view: &View) -> Table {
        let fine = self.numbers.writer.finer();
        let all = || view.stretch(self.values.len()).0;
        Table::new("points", "Readings")
            .numbers("reading", Some(&self.numbers.writer), None, all().map(|place| Some(self.values[place])))
            .numbers("bias", Some(&fine), Some("bias"), all().map(|place| Some(self.values[place] - self.numbers.reference)))
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.ids.get(first..=last.min(self.ids.len().saturating_sub(1))).unwrap_or_default().to_vec()
    }
}
