//! Recommended shapes, in the shape of their contract.

use serde::Serialize;

use acorn_data::figure::histogram::{Bin, CurvePoint};
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, StoredAnswer, Table, ToNumbers, Tone, View};

/// Shapes that may stand for a measurement.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = FitDistributionNumbers)]
pub struct Numbers {
    /// The column.
    pub column: String,
    /// Its unit.
    pub unit: String,
    /// Values.
    pub n: usize,
    /// Mean of the values.
    pub mean: Option<f64>,
    /// Their sd.
    pub sd: Option<f64>,
    /// Bars of the values.
    pub bars: Vec<Bin>,
    /// Up to three shapes, the best first; empty when none can be fitted.
    pub fits: Vec<Fit>,
    /// How many shapes were tried.
    pub tried: usize,
    /// Whether every tested shape is refuted.
    pub none_fits: bool,
    /// How its values are written.
    pub writer: ValueFormat,
}

/// A fitted shape.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = RecommendedFit)]
pub struct Fit {
    /// The name of the distribution, as an input of a model takes it.
    pub distribution: String,
    /// In words.
    pub words: String,
    /// Its parameters, by the names that an input takes.
    pub parameters: Vec<Parameter>,
    /// The chance of values so far from it; null when it was not tested.
    pub p: Option<f64>,
    /// Anderson and Darling's statistic.
    pub ad: f64,
    /// Akaike's criterion.
    pub aic: f64,
    /// How far it is to be trusted.
    pub tone: Tone,
    /// Why.
    pub why: String,
    /// Its curve over the bars, on the scale of their counts.
    pub curve: Vec<CurvePoint>,
}

/// A parameter.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = FittedParameter)]
pub struct Parameter {
    /// Its name.
    pub name: &'static str,
    /// Its value.
    pub value: f64,
}

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        size_of::<Numbers>() + 24 * self.bars.len() + self.fits.iter().map(|fit| 400 + 16 * fit.curve.len()).sum::<usize>()
    }

    fn brief(&self) -> Vec<Brief> {
        vec![Brief { term: "n", words: grouped(self.n) }, Brief { term: "shapes tried", words: grouped(self.tried) }]
    }

    fn tables(&self) -> Vec<Table> {
        let id = Some("fit");
        let rows: Vec<_> = self.fits.iter().flat_map(|fit| fit.parameters.iter().map(move |parameter| (fit, parameter))).collect();
        vec![
            Table::new("parameters", "Parameters")
                .texts("shape", rows.iter().map(|(fit, _)| Some(fit.words.clone())))
                .texts("parameter", rows.iter().map(|(_, parameter)| Some(parameter.name.to_owned())))
                .numbers("value", Some(&ValueFormat::fixed(5)), id, rows.iter().map(|(_, parameter)| Some(parameter.value))),
        ]
    }

    fn points(&self, view: &View) -> Table {
        let id = Some("fit");
        Table::new("points", "Shapes")
            .texts("shape", self.fits.iter().map(|fit| Some(fit.words.clone())))
            .numbers("its p", Some(&ValueFormat::fixed(3)), id, self.fits.iter().map(|fit| fit.p))
            .numbers("ad", Some(&ValueFormat::fixed(3)), id, self.fits.iter().map(|fit| Some(fit.ad)))
            .numbers("aic", Some(&ValueFormat::fixed(1)), id, self.fits.iter().map(|fit| Some(fit.aic)))
            .texts("why", self.fits.iter().map(|fit| Some(fit.why.clone())))
            .in_view(view)
    }
}
