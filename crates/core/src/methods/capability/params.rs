//! What a capability study takes, checked once.

use serde::{Deserialize, Deserializer};
use serde_json::{Map, Value, json};

use crate::figure::heap::Bars;
use crate::frame::{Column, Frame, Values};
use crate::methods::control_chart::SigmaFrom;
use crate::numeric::shapes::Family;
use crate::study::{Options, RoleColumns, Spec, StudyError, in_range};

/// Which shape the values are taken to have.
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
struct Only {
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

/// Valid parameters.
pub struct Params {
    /// The data: all rows, or those of one group.
    pub frame: Frame,
    pub measure: Column,
    pub lsl: Option<f64>,
    pub usl: Option<f64>,
    pub target: Option<f64>,
    /// The smallest value that nature allows.
    pub bound: Option<f64>,
    pub shape: ShapeChoice,
    pub historical: Option<Historical>,
    pub bars: Bars,
    /// The Ppk asked for.
    pub goal: f64,
    /// Half the wanted width of the interval of Ppk.
    pub wanted: f64,
    /// Whether values come in samples.
    pub sampled: bool,
    /// The group they are of, in words.
    pub of_group: Option<String>,
    /// The chart that judges steadiness and gives the short-term sd.
    pub chart: Spec,
}

/// The Ppk asked for unless said otherwise: four sds to the nearer limit (AIAG PPAP; ISO 22514-2).
pub const GOAL: f64 = 1.33;

impl Params {
    /// Checks a specification against a frame.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn check(frame: &Frame, spec: &Spec) -> Result<Params, StudyError> {
        spec.known_roles(&["measure", "subgroup", "order", "group"])?;
        let mut options = Options::of(spec);
        let mut limit = |name| -> Result<Option<f64>, StudyError> { options.take::<f64>(name) };
        let (lsl, target, usl, bound) = (limit("lsl")?, limit("target")?, limit("usl")?, limit("bound")?);
        let shape = options.take("shape")?.unwrap_or_default();
        let sigma: Option<SigmaFrom> = options.take("sigma")?;
        let historical = options.take::<OrNone<Historical>>("historical")?.and_then(OrNone::some);
        let bars = Bars::take(&mut options)?;
        let subgroup_size: Option<usize> = options.take("subgroup_size")?;
        let patterns: Option<Value> = options.take("patterns")?;
        let goal = in_range("goal", options.take("goal")?.unwrap_or(GOAL), 0.1, 10.0)?;
        let wanted = in_range("wanted", options.take("wanted")?.unwrap_or(0.1), 0.001, 10.0)?;
        let only = options.take::<OrNone<Only>>("only")?.and_then(OrNone::some);
        options.finish()?;

        let measure = spec.role(frame, "measure")?;
        let measure = measure.ok_or(StudyError::MissingRole { role: "measurement", choose: "a measurement" })?;
        let info = &measure.info;
        let of_column = lsl.is_none() && usl.is_none();
        let (lsl, usl) = if of_column { (info.lsl, info.usl) } else { (lsl, usl) };
        if let (Some(low), Some(high)) = (lsl, usl)
            && low >= high
        {
            return Err(bad("usl", format!("the upper limit {high} must lie above the lower limit {low}")));
        }
        if historical.is_some() && shape != ShapeChoice::Normal {
            return Err(bad("historical", "a mean and sd from before go with the normal shape only".to_owned()));
        }
        if let Some(Historical { sigma, .. }) = historical {
            in_range("historical.sigma", sigma, f64::MIN_POSITIVE, f64::MAX)?;
        }
        let sampled = spec.roles.contains_key("subgroup") || subgroup_size.is_some();
        let group = spec.role(frame, "group")?;
        Ok(Params {
            frame: of_group(frame, group, only.as_ref())?,
            measure: measure.clone(),
            target: target.or(info.target),
            lsl,
            usl,
            bound,
            shape,
            historical,
            bars,
            goal,
            wanted,
            sampled,
            of_group: group.zip(only).map(|(group, only)| format!("{} {}", group.name, only.label)),
            chart: chart(spec, sampled, sigma, subgroup_size, patterns),
        })
    }

    /// What is judged: "groove depth", "groove depth of cavity 3".
    pub fn subject(&self) -> String {
        let of = self.of_group.as_ref().map(|group| format!(" of {group}")).unwrap_or_default();
        format!("{}{of}", self.measure.name)
    }

    /// The measured values in the order of the rows.
    ///
    /// # Errors
    /// [`StudyError::WrongKind`].
    pub fn values(&self) -> Result<std::sync::Arc<[f64]>, StudyError> {
        match self.frame.column(&self.measure.name).map(|column| &column.values) {
            Some(Values::Number(values)) => Ok(values.clone()),
            _ => Err(StudyError::WrongKind {
                role: "measurement",
                column: self.measure.name.clone(),
                found: self.measure.kind.words(),
                needed: crate::frame::Kind::Number.words(),
            }),
        }
    }
}

/// An option with something wrong about it.
pub fn bad(option: &str, problem: String) -> StudyError {
    StudyError::BadOption { option: option.to_owned(), problem }
}

fn of_group(frame: &Frame, group: Option<&Column>, only: Option<&Only>) -> Result<Frame, StudyError> {
    let (group, only) = match (group, only) {
        (Some(group), Some(only)) => (group, only),
        (None, Some(_)) => return Err(StudyError::MissingRole { role: "group", choose: "the column that the group is of" }),
        _ => return Ok(frame.clone()),
    };
    let here: Vec<usize> = (0..frame.rows()).filter(|&row| group.values.text(row).is_some_and(|text| text == only.label)).collect();
    if here.is_empty() {
        return Err(bad("only", format!("no row of “{}” is {}", group.name, only.label)));
    }
    Ok(frame.rows_at(&here))
}

/// The chart: single values, or means with ranges or sds by the way the spread is taken; pooled unless said otherwise.
fn chart(spec: &Spec, sampled: bool, sigma: Option<SigmaFrom>, subgroup_size: Option<usize>, patterns: Option<Value>) -> Spec {
    let kind = match sigma {
        _ if !sampled => "individuals",
        Some(SigmaFrom::Range) => "xbar-r",
        _ => "xbar-s",
    };
    let sigma = sigma.or(sampled.then_some(SigmaFrom::Pooled));
    let mut options = Map::from_iter([("chart".to_owned(), json!(kind))]);
    let mut set = |name: &str, value: Option<Value>| {
        options.extend(value.map(|value| (name.to_owned(), value)));
    };
    set("sigma", sigma.map(|sigma| json!(sigma)));
    set("subgroup_size", subgroup_size.map(|size| json!(size)));
    set("patterns", patterns);
    let mut roles = spec.roles.clone();
    roles.remove("group");
    if let Some(RoleColumns::Many(names)) = roles.get("measure")
        && let [only] = &names[..]
    {
        roles.insert("measure".to_owned(), RoleColumns::One(only.clone()));
    }
    Spec { method: "control-chart".to_owned(), roles, options, ..Spec::default() }
}
