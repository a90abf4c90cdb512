//! Least squares of every single bias on its reference.

use super::numbers::{AverageBias, BandPoint, LinearityFit, LinearityPart, Numbers};
use super::params::{Params, Piece};
use acorn_maths::describe::{self, moments};
use acorn_maths::tails::{t_beyond, t_two_sided};
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, GaugeFinding, StoredAnswer, StudyError, Table, Term, ToNumbers, View};

/// A finished study.
pub struct Answer {
    pub(super) numbers: Numbers,
    /// Part and bias of every reading.
    readings: Vec<(usize, f64)>,
    ids: Vec<i64>,
    pub(super) measure: String,
}

/// Single biases are sent up to so many.
const DRAWN_MOST: usize = 4000;
/// Places at which the band is drawn.
const BAND: usize = 41;

/// Answers a statement.
///
/// # Errors
/// None beyond what [`Params::read`] refuses.
pub fn answer(params: &Params) -> Result<Answer, StudyError> {
    let pieces = &params.pieces;
    let n: usize = pieces.iter().map(|piece| piece.biases.len()).sum();
    let all: Vec<f64> = pieces.iter().flat_map(|piece| piece.biases.iter().copied()).collect();
    let parts: Vec<LinearityPart> = pieces.iter().map(|piece| part(piece, n <= DRAWN_MOST)).collect();
    let line = Line::of(pieces, n);
    let grand = moments(&all).mean.unwrap_or(f64::NAN);
    let within: f64 = parts.iter().map(|part| part.sd.map_or(0.0, |sd| sd * sd * (part.n - 1) as f64)).sum();
    let within_df = (n - parts.len()) as f64;
    let error = (within_df > 0.0 && within > 0.0).then(|| (within / within_df / n as f64).sqrt());
    let average_t = error.map(|error| grand / error);
    let average = AverageBias { bias: grand, t: average_t, p: average_t.map(|t| t_beyond(t.abs(), within_df)) };
    let process = params.process_sd.map(|sd| params.multiplier * sd);
    let slope = line.as_ref().map(|line| line.fit.slope.abs());
    let readings: Vec<f64> = pieces.iter().flat_map(|piece| piece.biases.iter().map(|bias| bias + piece.reference)).collect();
    let references: Vec<f64> = pieces.iter().map(|piece| piece.reference).collect();
    let numbers = Numbers {
        n,
        missing: params.missing,
        linearity: slope.zip(process).map(|(slope, process)| slope * process),
        pct_linearity: slope,
        pct_bias: process.map(|process| grand.abs() / process),
        band: line.as_ref().map(|line| line.band(&references)).unwrap_or_default(),
        fit: line.map(|line| line.fit),
        parts,
        average,
        writer: params.measure.info.writer(describe::decimals(&readings)),
        reference_writer: params.reference.info.writer(describe::decimals(&references)),
    };
    Ok(Answer {
        readings: pieces.iter().enumerate().flat_map(|(part, piece)| piece.biases.iter().map(move |bias| (part, *bias))).collect(),
        ids: pieces.iter().flat_map(|piece| piece.rows.iter().map(|&row| params.frame.row_id(row))).collect(),
        measure: params.measure.name.clone(),
        numbers,
    })
}

fn part(piece: &Piece, drawn: bool) -> LinearityPart {
    let of = moments(&piece.biases);
    let bias = of.mean.unwrap_or(f64::NAN);
    let n = piece.biases.len();
    let error = of.sd.filter(|sd| *sd > 0.0).map(|sd| sd / (n as f64).sqrt());
    let t = error.map(|error| bias / error);
    LinearityPart {
        label: piece.label.clone(),
        reference: piece.reference,
        n,
        mean: bias + piece.reference,
        bias,
        sd: of.sd,
        t,
        p: t.map(|t| t_beyond(t.abs(), n as f64 - 1.0)),
        bias_ci95: error.map(|error| {
            let reach = t_two_sided(0.05, n as f64 - 1.0) * error;
            [bias - reach, bias + reach]
        }),
        biases: if drawn { piece.biases.clone() } else { Vec::new() },
    }
}

/// A fitted line with what its band needs.
struct Line {
    fit: LinearityFit,
    n: f64,
    middle: f64,
    /// The fit at the middle.
    level: f64,
    /// Σ(reference − middle)².
    spread: f64,
}

impl Line {
    /// By least squares about the middle; `None` when there is one reference only.
    fn of(pieces: &[Piece], n: usize) -> Option<Line> {
        let count = n as f64;
        let pivot = pieces.first()?.reference;
        let weigh = |of: &dyn Fn(&Piece) -> f64| pieces.iter().map(of).sum::<f64>();
        let middle = pivot + weigh(&|piece| piece.biases.len() as f64 * (piece.reference - pivot)) / count;
        let level = weigh(&|piece| piece.biases.iter().sum::<f64>()) / count;
        let spread = weigh(&|piece| piece.biases.len() as f64 * (piece.reference - middle).powi(2));
        if spread <= 0.0 {
            return None;
        }
        let along = |piece: &Piece| piece.biases.iter().map(|bias| (piece.reference - middle) * (bias - level)).sum::<f64>();
        let slope = weigh(&along) / spread;
        let square =
            |from: &dyn Fn(&Piece) -> f64| weigh(&|piece| piece.biases.iter().map(|bias| (bias - from(piece)).powi(2)).sum::<f64>());
        let left = square(&|piece| level + slope * (piece.reference - middle));
        let total = square(&|_| level);
        let df = count - 2.0;
        let s = (df > 0.0).then(|| (left / df).sqrt());
        let varies = s.filter(|s| *s > 0.0);
        let intercept = level - slope * middle;
        let t_of = |value: f64, factor: f64| varies.map(|s| value / (s * factor));
        let p_of = |t: Option<f64>| t.map(|t| t_beyond(t.abs(), df));
        let intercept_t = t_of(intercept, (1.0 / count + middle * middle / spread).sqrt());
        let slope_t = t_of(slope, 1.0 / spread.sqrt());
        let fit = LinearityFit {
            intercept,
            slope,
            s,
            r2: (total > 0.0).then(|| (1.0 - left / total).max(0.0)),
            intercept_t,
            intercept_p: p_of(intercept_t),
            slope_t,
            slope_p: p_of(slope_t),
        };
        Some(Line { fit, n: count, middle, level, spread })
    }

    fn band(&self, references: &[f64]) -> Vec<BandPoint> {
        let (Some(first), Some(last)) = (references.first(), references.last()) else { return Vec::new() };
        let reach = self.fit.s.map(|s| s * t_two_sided(0.05, self.n - 2.0));
        let at = |place: usize| {
            let reference = first + (last - first) * place as f64 / (BAND - 1) as f64;
            let fit = self.level + self.fit.slope * (reference - self.middle);
            let wide = reach.map(|reach| reach * (1.0 / self.n + (reference - self.middle).powi(2) / self.spread).sqrt());
            BandPoint { reference, fit, low: wide.map(|wide| fit - wide), high: wide.map(|wide| fit + wide) }
        };
        (0..BAND).map(at).collect()
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        size_of_val(&self.readings[..]) + size_of_val(&self.ids[..]) + size_of_val(&self.numbers.parts[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let slope = of.fit.map(|fit| ValueFormat::fixed(4).signed(fit.slope));
        let all = [("average bias", Some(of.writer.signed(of.average.bias))), ("slope", slope), ("values", Some(grouped(of.n)))];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn gauge(&self) -> Option<GaugeFinding> {
        Some(GaugeFinding { sd: None, share: None, waiting: self.numbers.missing })
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        let (fine, four, percent) = (of.writer.finer(), ValueFormat::fixed(4), ValueFormat::percent(1));
        let each = || of.parts.iter();
        let parts = Table::new("parts", "Bias of each piece")
            .texts("piece", each().map(|part| Some(part.label.clone())))
            .numbers("reference", Some(&of.reference_writer), None, each().map(|part| Some(part.reference)))
            .wholes("n", None, each().map(|part| part.n))
            .numbers("mean", Some(&fine), Some("bias"), each().map(|part| Some(part.mean)))
            .numbers("bias", Some(&fine), Some("bias"), each().map(|part| Some(part.bias)))
            .numbers("sd", Some(&fine), Some("bias"), each().map(|part| part.sd))
            .numbers("p", Some(&four), Some("bias"), each().map(|part| part.p));
        let fit = of.fit;
        let of_fit = |value: fn(&LinearityFit) -> Option<f64>| fit.as_ref().and_then(value);
        let terms = vec![
            Term::new("slope", &four, "fit", [of_fit(|fit| Some(fit.slope)), of_fit(|fit| fit.slope_t), of_fit(|fit| fit.slope_p)]),
            Term::new(
                "intercept",
                &four,
                "fit",
                [of_fit(|fit| Some(fit.intercept)), of_fit(|fit| fit.intercept_t), of_fit(|fit| fit.intercept_p)],
            ),
            Term::new("sd", &fine, "fit", [of_fit(|fit| fit.s), None, None]),
            Term::new("r²", &four, "fit", [of_fit(|fit| fit.r2), None, None]),
            Term::new("average bias", &four, "average", [Some(of.average.bias), of.average.t, of.average.p]),
            Term::new("linearity", &four, "linearity", [of.linearity, None, None]),
            Term::new("linearity / process", &percent, "linearity", [of.pct_linearity, None, None]),
            Term::new("average bias / process", &percent, "linearity", [of.pct_bias, None, None]),
        ];
        vec![parts, Table::of_terms("fit", "Over the range", &["", "value", "t", "p"], terms)]
    }

    fn points(&self, view: &View) -> Table {
        let of = &self.numbers;
        let all = || view.stretch(self.readings.len()).0.map(|place| self.readings[place]);
        Table::new("points", "Readings")
            .texts("piece", all().map(|(part, _)| Some(of.parts[part].label.clone())))
            .numbers("reference", Some(&of.reference_writer), None, all().map(|(part, _)| Some(of.parts[part].reference)))
            .numbers("reading", Some(&of.writer), None, all().map(|(part, bias)| Some(of.parts[part].reference + bias)))
            .numbers("bias", Some(&of.writer.finer()), Some("bias"), all().map(|(_, bias)| Some(bias)))
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.ids.get(first..=last.min(self.ids.len().saturating_sub(1))).unwrap_or_default().to_vec()
    }
}
