//! What a capability study takes.

use std::borrow::Cow;
use std::sync::Arc;

use serde::{Deserialize, Deserializer};

use crate::control_chart::{self, Chart, ChartKind, Params as Question, PatternChoice, Sampling, SigmaFrom, run_rules};
use acorn_data::figure::histogram::{BarWidth, Bars};
use acorn_data::frame::{Column, Frame, Values};
use acorn_maths::shapes::Family;
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError, ValidatedSpec, bars};

/// Which shape the values are assumed to have.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum ShapeChoice {
    /// Normal.
    #[default]
    Normal,
    /// Normal after a power.
    BoxCox,
    /// Normal after one of Johnson's functions.
    Johnson,
    /// A family, fitted.
    Fit(Family),
    /// The family that fits best.
    BestFit,
    /// None: percentiles of the values themselves.
    Percentile,
}

impl<'de> Deserialize<'de> for ShapeChoice {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let text = String::deserialize(deserializer)?;
        let fitted = || text.strip_prefix("fit:").and_then(Family::named).map(ShapeChoice::Fit);
        let bare = match text.as_str() {
            "normal" => Some(ShapeChoice::Normal),
            "box-cox" => Some(ShapeChoice::BoxCox),
            "johnson" => Some(ShapeChoice::Johnson),
            "best-fit" => Some(ShapeChoice::BestFit),
            "percentile" => Some(ShapeChoice::Percentile),
            _ => fitted(),
        };
        let known = "normal, box-cox, johnson, best-fit, percentile or fit: and the name of a family";
        bare.ok_or_else(|| serde::de::Error::custom(format!("“{text}” is not a shape; use {known}")))
    }
}

/// A mean and an sd known from before, for the short-term indices.
#[derive(Clone, Copy, Debug, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Historical {
    /// The mean.
    pub mean: f64,
    /// The sd.
    pub sigma: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct OneGroup {
    label: String,
}

/// A value, or a word that says there is none.
#[derive(Deserialize)]
#[serde(untagged)]
enum OrNone<T> {
    Some(T),
    None(NoneWord),
}

#[derive(Deserialize)]
#[serde(rename_all = "kebab-case")]
enum NoneWord {
    None,
    All,
}

impl<T> OrNone<T> {
    fn some(self) -> Option<T> {
        match self {
            OrNone::Some(value) => Some(value),
            OrNone::None(NoneWord::None | NoneWord::All) => None,
        }
    }
}

/// How values come in subgroups.
#[derive(Clone, Debug, PartialEq)]
pub enum Subgroups {
    /// One for each label of a column.
    Column(String),
    /// So many rows in a row.
    Consecutive(usize),
    /// One a row: its measurements side by side.
    SideBySide,
}

/// The statement, read.
pub struct Params {
    /// The data: all rows, or those of one group.
    pub frame: Frame,
    /// The measurement, with its limits and unit; of several side by side the first.
    pub measure: Column,
    /// Its further readings, side by side with it.
    pub further: Vec<Column>,
    /// How values come in subgroups; single values when absent.
    pub subgroups: Option<Subgroups>,
    /// The column that orders the rows.
    pub order: Option<String>,
    /// Lower specification limit, in the unit of the measurement.
    pub lsl: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// The aim.
    pub target: Option<f64>,
    /// The smallest value that nature allows.
    pub bound: Option<f64>,
    /// The shape that the values are assumed to have.
    pub shape: ShapeChoice,
    /// Mean and sd known from before.
    pub historical: Option<Historical>,
    /// How wide the bars are.
    pub bars: Bars,
    /// The Ppk asked for.
    pub goal: f64,
    /// Half the wanted width of the interval of Ppk.
    pub wanted: f64,
    /// How the short-term sd is estimated, when not as usual.
    pub sigma_from: Option<SigmaFrom>,
    /// The patterns that judge steadiness, when not the usual ones.
    pub patterns: Option<Vec<PatternChoice>>,
    /// What draws from a fitted shape start from.
    pub seed: u64,
    /// The group they are of, in words.
    pub of_group: Option<String>,
    /// How many columns and groups are judged at once: what is unlikely for one is not for one of many.
    pub among: usize,
}

/// The Ppk asked for unless said otherwise: four sds to the nearer limit (AIAG PPAP; ISO 22514-2).
pub const GOAL: f64 = 1.33;
/// Half the width of the interval of Ppk that values are counted for unless said otherwise.
pub const WANTED: f64 = 0.1;
/// The seed of draws unless said otherwise.
pub const SEED: usize = 0;

impl Params {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec) -> Result<Params, StudyError> {
        let shape: ShapeChoice = asked.option("shape")?.unwrap_or_default();
        let historical = asked.option::<OrNone<Historical>>("historical")?.and_then(OrNone::some);
        let only = asked.option::<OrNone<OneGroup>>("only")?.and_then(OrNone::some);
        let measure = asked.needed("measure")?;
        let further: Vec<&Column> = asked.columns("measure").into_iter().skip(1).collect();
        if historical.is_some() && shape != ShapeChoice::Normal {
            return Err(bad("historical", "a mean and sd from before go with the normal shape only"));
        }
        let subgroup = asked.column("subgroup");
        let subgroups = if further.is_empty() {
            subgroup.map(|column| Subgroups::Column(column.name.clone())).or(asked.whole("subgroup_size").map(Subgroups::Consecutive))
        } else {
            Some(Subgroups::SideBySide)
        };
        let (group, order) = (asked.column("group"), asked.column("order"));
        let read: Vec<&Column> = [Some(measure), subgroup, order].into_iter().flatten().chain(further.iter().copied()).collect();
        let frame = of_group(asked.frame(), &read, group, only.as_ref())?;
        // A group has limits of its own where they differ.
        let measure = frame.column(&measure.name).unwrap_or(measure).clone();
        let [lsl, usl] = asked.limits(&measure)?;
        Ok(Params {
            frame,
            subgroups,
            order: order.map(|order| order.name.clone()),
            target: asked.number("target").or(measure.info.target),
            lsl,
            usl,
            bound: asked.number("bound"),
            shape,
            historical,
            bars: bars::read(asked)?,
            goal: asked.number("goal").unwrap_or(GOAL),
            wanted: asked.number("wanted").unwrap_or(WANTED),
            sigma_from: asked.option("sigma")?,
            patterns: asked.option("patterns")?,
            seed: asked.whole("seed").unwrap_or(SEED) as u64,
            of_group: group.zip(only).map(|(group, only)| format!("{} {}", group.name, only.label)),
            among: 1,
            measure,
            further: further.into_iter().cloned().collect(),
        })
    }

    /// A column against its own limits with everything as usual.
    pub fn plain(frame: &Frame, measure: &Column) -> Params {
        let info = &measure.info;
        Params {
            frame: frame.clone(),
            subgroups: None,
            order: None,
            lsl: info.lsl,
            usl: info.usl,
            target: info.target,
            bound: None,
            shape: ShapeChoice::Normal,
            historical: None,
            bars: Bars { width: BarWidth::Auto, start: None },
            goal: GOAL,
            wanted: WANTED,
            sigma_from: None,
            patterns: None,
            seed: SEED as u64,
            of_group: None,
            among: 1,
            measure: measure.clone(),
            further: Vec::new(),
        }
    }

    /// The chart of the measured values, or of others in their place: single values, or means with ranges or sds by the way
    /// the spread is taken, pooled unless said otherwise.
    ///
    /// # Errors
    /// What the chart refuses.
    pub fn chart(&self, values: &[Arc<[f64]>], cancel: &Cancel) -> Result<Chart, StudyError> {
        let kind = match (&self.subgroups, self.sigma_from) {
            (None, _) => ChartKind::Individuals,
            (Some(_), Some(SigmaFrom::Range)) => ChartKind::XbarR,
            _ => ChartKind::XbarS,
        };
        let usual = if self.subgroups.is_some() { SigmaFrom::Pooled } else { SigmaFrom::MrMean };
        let of_values = |(column, values): (&Column, &Arc<[f64]>)| Column { values: Values::Number(values.clone()), ..column.clone() };
        let columns: Vec<Column> = self.columns().zip(values).map(of_values).collect();
        let sampling = match &self.subgroups {
            Some(Subgroups::Column(name)) => self.frame.column(name).map(Sampling::Column),
            Some(Subgroups::Consecutive(size)) => Some(Sampling::Consecutive(*size)),
            Some(Subgroups::SideBySide) => Some(Sampling::SideBySide),
            None => None,
        };
        let question = Question {
            sampling,
            order: self.order.as_ref().and_then(|name| self.frame.column(name)),
            sigma_from: self.sigma_from.unwrap_or(usual),
            run_rules: run_rules(self.patterns.clone(), kind),
            among: self.among,
            ..Question::plain(&self.frame, kind, columns.iter().collect())
        };
        control_chart::compute(&question, cancel)
    }

    /// What is judged: "groove depth", "groove depth of cavity 3", "x1 to x5".
    pub fn subject(&self) -> String {
        let of = self.of_group.as_ref().map(|group| format!(" of {group}")).unwrap_or_default();
        let to = self.further.last().map(|last| format!(" to {}", last.name)).unwrap_or_default();
        format!("{}{to}{of}", self.measure.name)
    }

    /// The measured columns.
    pub fn columns(&self) -> impl Iterator<Item = &Column> {
        std::iter::once(&self.measure).chain(&self.further)
    }

    /// The measured values of each column in the order of the rows.
    ///
    /// # Errors
    /// [`StudyError::WrongKind`].
    pub fn values(&self) -> Result<Vec<Arc<[f64]>>, StudyError> {
        self.columns().map(|column| numbers(self.frame.column(&column.name).unwrap_or(column), "measurement").cloned()).collect()
    }
}

/// All values together, row by row.
pub fn together(columns: &[Arc<[f64]>]) -> Arc<[f64]> {
    match columns {
        [one] => one.clone(),
        several => (0..several.first().map_or(0, |first| first.len())).flat_map(|row| several.iter().map(move |one| one[row])).collect(),
    }
}

fn of_group(frame: &Frame, read: &[&Column], group: Option<&Column>, only: Option<&OneGroup>) -> Result<Frame, StudyError> {
    let (group, only) = match (group, only) {
        (Some(group), Some(only)) => (group, only),
        (None, Some(_)) => return Err(StudyError::MissingRole { role: "group", choose: "the column that the group is of" }),
        _ => return Ok(frame.clone()),
    };
    let here: Vec<usize> = (0..frame.rows()).filter(|&row| group.values.text(row).is_some_and(|text| text == only.label)).collect();
    if here.is_empty() {
        return Err(bad("only", format!("no row of “{}” is {}", group.name, only.label)));
    }
    Ok(Frame::with_shared_limits(Cow::Owned(frame.pick(read, &here))).into_owned())
}
