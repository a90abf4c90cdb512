//! A gauge study before it is made: the sheet to fill, in an order that nobody can learn, and what such a plan can tell.

use rand::SeedableRng;
use rand::seq::SliceRandom;
use rand_xoshiro::Xoshiro256PlusPlus;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};

use super::interval::generalised;
use super::notes::CARRIES;
use crate::frame::{Column, ColumnInfo, Kind, NO_CODE, Values};
use crate::numeric::tails::{chi_square_upper, share_interval, t_two_sided};
use crate::study::filled::bad;
use crate::study::words::{counted, grouped, percent};
use crate::study::{RoleColumns, Spec, StudyError};

/// Which study.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugeStudyKind))]
#[serde(rename_all = "kebab-case")]
pub enum StudyKind {
    /// Every operator reads every part.
    Crossed,
    /// Each operator has parts of their own.
    Nested,
    /// One piece of known value.
    Single,
    /// Pieces of known value over the range.
    Linearity,
    /// Judgements.
    Attribute,
}

impl StudyKind {
    /// The method that answers it.
    pub fn method(self) -> &'static str {
        match self {
            StudyKind::Crossed => "gauge-crossed",
            StudyKind::Nested => "gauge-nested",
            StudyKind::Single => "gauge-single",
            StudyKind::Linearity => "gauge-linearity",
            StudyKind::Attribute => "gauge-attribute",
        }
    }

    fn has_operators(self) -> bool {
        matches!(self, StudyKind::Crossed | StudyKind::Nested | StudyKind::Attribute)
    }
}

/// What is planned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugePlan))]
#[serde(deny_unknown_fields)]
pub struct Plan {
    /// Which study.
    pub kind: StudyKind,
    /// What is read or judged: "groove depth".
    pub characteristic: String,
    /// Its unit, decimals and limits.
    #[serde(default)]
    pub info: ColumnInfo,
    /// Who reads; none for studies of known pieces.
    #[serde(default)]
    pub operators: Vec<String>,
    /// How many parts; of a nested study, of each operator.
    pub parts: usize,
    /// How often each is read.
    pub trials: usize,
    /// Known values of the pieces, one a piece; the first alone for one piece.
    #[serde(default)]
    pub references: Vec<f64>,
    /// Labels that a piece is judged by; the first is bad.
    #[serde(default)]
    pub labels: Vec<String>,
    /// The known label of each piece, where it is known.
    #[serde(default)]
    pub known: Vec<String>,
    /// Who plans it.
    #[serde(default)]
    pub planned_by: String,
    /// From which the order is drawn.
    #[serde(default)]
    pub seed: u64,
}

/// The sheet to fill.
pub struct Sheet {
    /// Order, who, what, which time, the cell to fill, and what is known.
    pub columns: Vec<Column>,
    /// The question that the filled sheet answers, without its data.
    pub spec: Spec,
    /// The column to fill.
    pub measure: String,
}

/// Most rows of a sheet, most operators, most trials.
const ROWS_MOST: usize = 10_000;
const OPERATORS_MOST: usize = 50;
const TRIALS_MOST: usize = 1000;

impl Plan {
    /// Checks that a study can be made of it.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] names what is wrong and what to do; [`StudyError::OutOfRange`].
    pub fn check(&self) -> Result<(), StudyError> {
        if self.characteristic.trim().is_empty() {
            return Err(bad("characteristic", "name what is read, such as groove depth"));
        }
        if let Some(taken) = OWN.iter().find(|own| self.characteristic.trim().eq_ignore_ascii_case(own)) {
            return Err(bad("characteristic", format!("“{taken}” is a column of every sheet; call it something else")));
        }
        let range = |option, value: usize, low: usize, high: usize| crate::study::in_range(option, value as f64, low as f64, high as f64);
        if self.kind.has_operators() {
            let least = usize::from(self.kind == StudyKind::Nested) + 1;
            range("operators", self.operators.len(), least, OPERATORS_MOST)?;
            let mut names: Vec<&str> = self.operators.iter().map(|name| name.trim()).collect();
            if names.iter().any(|name| name.is_empty()) {
                return Err(bad("operators", "an operator has no name"));
            }
            names.sort_unstable();
            if let Some(twice) = names.windows(2).find(|pair| pair[0] == pair[1]) {
                return Err(bad("operators", format!("{} stands there twice", twice[0])));
            }
        }
        let (parts, trials) = match self.kind {
            StudyKind::Single => (1, 2),
            StudyKind::Linearity => (2, 2),
            StudyKind::Attribute => (2, 1),
            StudyKind::Crossed | StudyKind::Nested => (2, 2),
        };
        range("parts", self.parts, parts, ROWS_MOST)?;
        range("trials", self.trials, trials, TRIALS_MOST)?;
        let rows = self.rows();
        if rows > ROWS_MOST {
            return Err(bad("parts", format!("{} readings are more than a sheet takes, {}", grouped(rows), grouped(ROWS_MOST))));
        }
        if let (Some(lsl), Some(usl)) = (self.info.lsl, self.info.usl)
            && lsl >= usl
        {
            return Err(bad("usl", format!("USL {usl} must lie above LSL {lsl}")));
        }
        let known = self.references.len();
        match self.kind {
            StudyKind::Single if known != 1 => Err(bad("references", "give the known value of the piece")),
            StudyKind::Linearity if known != self.parts => {
                Err(bad("references", format!("give the known value of each of the {} pieces", self.parts)))
            }
            StudyKind::Attribute if self.labels.len() < 2 => Err(bad("labels", "give two labels or more, the bad one first")),
            StudyKind::Attribute if !self.known.is_empty() && self.known.len() != self.parts => {
                Err(bad("known", format!("give what each of the {} pieces is, or nothing", self.parts)))
            }
            StudyKind::Attribute => match self.known.iter().find(|label| !self.labels.contains(label)) {
                Some(odd) => Err(bad("known", format!("“{odd}” is none of the labels {}", self.labels.join(", ")))),
                None => Ok(()),
            },
            _ => Ok(()),
        }
    }

    /// How many readings it takes.
    pub fn rows(&self) -> usize {
        let people = if self.kind.has_operators() { self.operators.len() } else { 1 };
        self.parts.saturating_mul(self.trials).saturating_mul(people)
    }

    /// The sheet: trial after trial, in it operator after operator, each with the parts in an order of their own.
    ///
    /// # Errors
    /// What [`Plan::check`] refuses.
    pub fn sheet(&self) -> Result<Sheet, StudyError> {
        self.check()?;
        let mut random = Xoshiro256PlusPlus::seed_from_u64(self.seed);
        let nobody = [String::new()];
        let people = if self.kind.has_operators() { &self.operators[..] } else { &nobody };
        let mut rows: Vec<(usize, usize, usize)> = Vec::with_capacity(self.rows());
        for trial in 0..self.trials {
            let mut order: Vec<usize> = (0..people.len()).collect();
            order.shuffle(&mut random);
            // Pieces of one person who reads on are mixed over all trials, else the order of a trial could be learnt.
            for operator in order {
                let mut parts: Vec<usize> = (0..self.parts).collect();
                parts.shuffle(&mut random);
                rows.extend(parts.into_iter().map(|part| (trial, operator, part)));
            }
        }
        let n = rows.len();
        let wide = self.parts.to_string().len();
        let part_name = |&(_, operator, part): &(usize, usize, usize)| match self.kind {
            StudyKind::Nested => format!("{}-{:0wide$}", people[operator].trim(), part + 1),
            _ => format!("{:0wide$}", part + 1),
        };
        let label = |name: &str, texts: Vec<String>| column(name, Kind::Category, labels(texts));
        let whole = |name: &str, numbers: Vec<f64>| column(name, Kind::WholeNumber, Values::Number(numbers.into()));
        let mut columns = vec![whole("order", (1..=n).map(|place| place as f64).collect())];
        if self.kind.has_operators() {
            columns.push(label("operator", rows.iter().map(|&(_, operator, _)| people[operator].trim().to_owned()).collect()));
        }
        if self.kind != StudyKind::Single {
            columns.push(label("part", rows.iter().map(part_name).collect()));
            columns.push(whole("trial", rows.iter().map(|&(trial, ..)| (trial + 1) as f64).collect()));
        }
        let measure = self.characteristic.split_whitespace().collect::<Vec<_>>().join(" ");
        let empty = match self.kind {
            StudyKind::Attribute => Values::Label { codes: vec![NO_CODE; n].into(), labels: self.labels.clone().into() },
            _ => Values::Number(vec![f64::NAN; n].into()),
        };
        let kind = if self.kind == StudyKind::Attribute { Kind::Category } else { Kind::Number };
        columns.push(Column { info: self.info.clone(), ..column(&measure, kind, empty) });
        match self.kind {
            StudyKind::Linearity => {
                let info = ColumnInfo { unit: self.info.unit.clone(), ..ColumnInfo::default() };
                let known = rows.iter().map(|&(.., part)| self.references[part]).collect::<Vec<f64>>();
                columns.push(Column { info, ..column("reference", Kind::Number, Values::Number(known.into())) });
            }
            StudyKind::Attribute if !self.known.is_empty() => {
                columns.push(label("reference", rows.iter().map(|&(.., part)| self.known[part].clone()).collect()));
            }
            _ => {}
        }
        Ok(Sheet { spec: self.question(&measure), columns, measure })
    }

    fn question(&self, measure: &str) -> Spec {
        let role = |name: &str, column: &str| (name.to_owned(), RoleColumns::One(column.to_owned()));
        let mut options = Map::new();
        let mut roles = vec![role(if self.kind == StudyKind::Attribute { "rating" } else { "measure" }, measure)];
        match self.kind {
            StudyKind::Single => {
                options.insert("reference".to_owned(), json!(self.references[0]));
            }
            StudyKind::Linearity => roles.extend([role("part", "part"), role("reference", "reference")]),
            StudyKind::Nested => roles.extend([role("part", "part"), role("operator", "operator")]),
            StudyKind::Crossed => roles.extend([role("part", "part"), role("operator", "operator"), role("trial", "trial")]),
            StudyKind::Attribute => {
                roles.extend([role("part", "part"), role("operator", "operator"), role("trial", "trial")]);
                if !self.known.is_empty() {
                    roles.push(role("reference", "reference"));
                    options.insert("bad".to_owned(), Value::String(self.labels[0].clone()));
                }
            }
        }
        Spec { method: self.kind.method().to_owned(), roles: roles.into_iter().collect(), options, omit: Vec::new(), data: None }
    }

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

/// Columns of every sheet.
const OWN: [&str; 5] = ["order", "operator", "part", "trial", "reference"];

fn column(name: &str, kind: Kind, values: Values) -> Column {
    Column { name: name.to_owned(), kind, info: ColumnInfo::default(), measuring: None, values }
}

fn labels(texts: Vec<String>) -> Values {
    let mut known: Vec<String> = Vec::new();
    let code = |text: String| {
        let place = known.iter().position(|label| *label == text).unwrap_or_else(|| {
            known.push(text);
            known.len() - 1
        });
        place as u32
    };
    let codes: Vec<u32> = texts.into_iter().map(code).collect();
    Values::Label { codes: codes.into(), labels: known.into() }
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
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugePlanTells))]
pub struct Tells {
    /// Readings that it takes.
    pub rows: usize,
    /// How surely typical gauges would be told.
    pub expected: Vec<Expected>,
    /// What to see to before it is begun.
    pub advice: String,
}

/// How surely a gauge would be told: its 95 % interval as it would typically come out.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugePlanExpected))]
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
