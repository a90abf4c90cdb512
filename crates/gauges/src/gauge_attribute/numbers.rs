//! What a study of judgements computes, in the shape of its contract.

use serde::Serialize;

/// What a study of judgements computes; null where there is nothing to tell.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeAttributeNumbers)]
pub struct Numbers {
    /// Judgements.
    pub n: usize,
    /// Rows left out for want of a judgement, a part, an operator or a reference.
    pub missing: usize,
    /// Judgements of a part by an operator.
    pub trials: usize,
    /// The operators.
    pub operators: Vec<String>,
    /// Labels, those of the judgements first.
    pub labels: Vec<String>,
    /// The label that means bad.
    pub bad: Option<String>,
    /// Of each operator, parts on which all own trials agree; null with one trial.
    pub within: Option<Vec<OperatorAgreement>>,
    /// Of each operator, parts on which all own trials agree with the reference; null without one.
    pub against: Option<Vec<OperatorAgreement>>,
    /// Parts on which all judgements agree.
    pub between: Agreement,
    /// Parts on which all judgements agree with the reference; null without one.
    pub all_against: Option<Agreement>,
    /// Kappa of all judgements of a part.
    pub fleiss: Fleiss,
    /// Kappa of pairs of operators, judgements paired by part and trial.
    pub cohen: Vec<CohenPair>,
    /// Kappa of each operator with the reference; null without one.
    pub cohen_reference: Option<Vec<CohenReference>>,
    /// Wrong judgements by kind; null without two labels, a bad one and a reference.
    pub errors: Option<Vec<Errors>>,
    /// The parts with their judgements, those with most disagreement first; of very many only these.
    pub grid: Vec<GridPart>,
    /// Parts in all.
    pub parts: usize,
}

/// Pieces that agree.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Agreement {
    /// Pieces.
    pub inspected: usize,
    /// Those that agree.
    pub matched: usize,
    /// Their share.
    pub share: f64,
    /// Its exact 95 % interval.
    pub ci95: [f64; 2],
}

/// Pieces on which an operator agrees.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct OperatorAgreement {
    /// Who.
    pub operator: String,
    /// How many.
    #[serde(flatten)]
    pub agreement: Agreement,
}

/// A kappa with its test against no agreement.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Kappa {
    /// Kappa; null when it is 0/0.
    pub kappa: Option<f64>,
    /// Standard error under no agreement.
    pub se: Option<f64>,
    /// Kappa over that.
    pub z: Option<f64>,
    /// One-sided chance.
    pub p: Option<f64>,
}

/// Kappa of all judgements.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Fleiss {
    /// Of all labels.
    #[serde(flatten)]
    pub all: Kappa,
    /// Of each label.
    pub categories: Vec<FleissCategory>,
}

/// Kappa of one label against all others.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct FleissCategory {
    /// The label.
    pub category: String,
    /// Its kappa.
    #[serde(flatten)]
    pub kappa: Kappa,
}

/// A kappa of two with its interval.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PairKappa {
    /// Kappa; null when it is 0/0.
    pub kappa: Option<f64>,
    /// Large-sample standard error.
    pub se: Option<f64>,
    /// 95 % interval, not clipped.
    pub ci95: Option<[f64; 2]>,
}

/// Kappa of two operators.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct CohenPair {
    /// One.
    pub a: String,
    /// The other.
    pub b: String,
    /// Their kappa.
    #[serde(flatten)]
    pub kappa: PairKappa,
}

/// Kappa of an operator with the reference.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct CohenReference {
    /// Who.
    pub operator: String,
    /// The kappa.
    #[serde(flatten)]
    pub kappa: PairKappa,
}

/// Wrong judgements of an operator.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = JudgementErrors)]
pub struct Errors {
    /// Who.
    pub operator: String,
    /// Judgements "good" of bad pieces.
    pub misses: usize,
    /// Over all judgements of bad pieces; null without one.
    pub miss_rate: Option<f64>,
    /// Its exact 95 % interval.
    pub miss_ci95: Option<[f64; 2]>,
    /// Judgements "bad" of good pieces.
    pub false_alarms: usize,
    /// Over all judgements of good pieces; null without one.
    pub false_alarm_rate: Option<f64>,
}

/// A part with its judgements.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct GridPart {
    /// Its place among all parts.
    pub part: usize,
    /// The name.
    pub label: String,
    /// Its known label, by place among the labels.
    pub reference: Option<u16>,
    /// Labels of each operator's trials.
    pub ratings: Vec<Vec<u16>>,
    /// Judgements that differ from the reference, or without one from what most said.
    pub odd: usize,
}
