//! Lines of a variance analysis.

use serde::Serialize;

use crate::Table;
use acorn_maths::tails::f_above;
use acorn_maths::words::ValueFormat;

/// A line of the table of a variance analysis; null where there is nothing to tell.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = AnovaLine)]
pub struct Line {
    /// What it is about.
    pub source: &'static str,
    /// Degrees of freedom.
    pub df: f64,
    /// Sum of squares.
    pub ss: f64,
    /// Mean square.
    pub ms: Option<f64>,
    /// Over what it is tested against.
    pub f: Option<f64>,
    /// The chance of so large an F.
    pub p: Option<f64>,
}

impl Line {
    /// An untested line.
    pub fn new(source: &'static str, df: f64, ss: f64) -> Line {
        Line { source, df, ss, ms: (df > 0.0).then(|| ss / df), f: None, p: None }
    }

    /// The sum of lines.
    pub fn total(lines: &[Line]) -> Line {
        Line { ms: None, ..Line::new("total", lines.iter().map(|line| line.df).sum(), lines.iter().map(|line| line.ss).sum()) }
    }

    /// Tested against another line.
    pub fn tested(self, against: &Line) -> Line {
        let f = self.ms.zip(against.ms.filter(|ms| *ms > 0.0)).map(|(ms, against)| ms / against);
        let p = f.map(|f| f_above(f, self.df, against.df));
        Line { f, p, ..self }
    }

    /// Its mean square, 0 where it has none.
    pub fn mean_square(&self) -> f64 {
        self.ms.unwrap_or(0.0)
    }
}

/// What a source is called.
pub fn display_text(source: &str) -> &'static str {
    match source {
        "total-gauge" => "gauge",
        "operator-part" => "part × operator",
        "repeatability" => "repeatability",
        "reproducibility" => "reproducibility",
        "operator" => "operator",
        "part" => "parts",
        _ => "total",
    }
}

/// The lines as a person reads them; numbers are explained by the formula `anova`.
pub fn table(id: &'static str, title: &str, lines: &[Line]) -> Table {
    // The smallest mean square with three digits.
    let least = lines.iter().filter_map(|line| line.ms).filter(|ms| *ms > 0.0).fold(f64::INFINITY, f64::min);
    let decimals = if least.is_finite() { (2.0 - least.log10().floor()).clamp(0.0, 12.0) } else { 2.0 };
    let (short, four) = (ValueFormat::fixed(decimals as usize), ValueFormat::fixed(4));
    let each = || lines.iter();
    Table::new(id, title)
        .texts("source", each().map(|line| Some(display_text(line.source).to_owned())))
        .numbers("df", Some(&ValueFormat::whole()), Some("anova"), each().map(|line| Some(line.df)))
        .numbers("ss", Some(&short), Some("anova"), each().map(|line| Some(line.ss)))
        .numbers("ms", Some(&short), Some("anova"), each().map(|line| line.ms))
        .numbers("F", Some(&ValueFormat::fixed(2)), Some("anova"), each().map(|line| line.f))
        .numbers("p", Some(&four), Some("anova"), each().map(|line| line.p))
}
