//! What a sigma level is worked out from, checked once.

use serde::Deserialize;

use crate::frame::Frame;
use crate::study::{Options, Spec, StudyError, in_range};

/// Where the numbers come from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum From {
    /// Typed counts.
    Counts,
    /// Typed counts of several steps.
    Steps,
    /// A typed mean and sd.
    Normal,
    /// Columns of counts.
    Columns,
    /// A measured column.
    Measurement,
}

/// Typed or summed counts.
#[derive(Clone, Debug, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Counts {
    /// What is counted: the step, or nothing.
    #[serde(default)]
    pub name: String,
    /// Units inspected.
    pub units: f64,
    /// Chances for a defect in each.
    #[serde(default = "one")]
    pub opportunities: f64,
    /// Defects found.
    pub defects: f64,
}

fn one() -> f64 {
    1.0
}

/// A normal with limits.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Normal {
    pub mean: f64,
    pub sd: f64,
    pub lsl: Option<f64>,
    pub usl: Option<f64>,
}

/// What it is worked out from.
#[derive(Clone, Debug, PartialEq)]
pub enum Source {
    /// One count, or one a step.
    Typed(Vec<Counts>),
    /// A normal.
    Normal(Normal),
    /// Columns of the frame; chances a unit.
    Columns { opportunities: f64 },
    /// A column of the frame.
    Measurement,
}

/// Valid parameters.
pub struct Params {
    pub source: Source,
    pub shift: f64,
    /// The level asked for.
    pub goal: Option<f64>,
    pub spec: Spec,
}

/// The shift unless said otherwise.
pub const SHIFT: f64 = 1.5;
const STEPS_MOST: usize = 100;

impl Params {
    /// Checks a specification.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option, also for defects above the chances, negative counts and no units.
    pub fn check(frame: &Frame, spec: &Spec) -> Result<Params, StudyError> {
        spec.known_roles(&["measure", "subgroup", "count", "size", "step", "label", "order"])?;
        let mut options = Options::of(spec);
        let from: Option<From> = options.take("from")?;
        let (units, opportunities, defects) =
            (options.take::<f64>("units")?, options.take::<f64>("opportunities")?, options.take::<f64>("defects")?);
        let (mean, sd, lsl, usl) =
            (options.take::<f64>("mean")?, options.take::<f64>("sd")?, options.take::<f64>("lsl")?, options.take::<f64>("usl")?);
        let steps: Option<Vec<Counts>> = options.take("steps")?;
        let shift = in_range("shift", options.take("shift")?.unwrap_or(SHIFT), 0.0, 3.0)?;
        let goal: Option<f64> = options.take("goal")?;
        options.finish()?;
        let from = from.unwrap_or(match () {
            () if spec.roles.contains_key("measure") => From::Measurement,
            () if spec.roles.contains_key("count") => From::Columns,
            () if steps.is_some() => From::Steps,
            () if mean.is_some() || sd.is_some() => From::Normal,
            () => From::Counts,
        });
        let chances = in_range("opportunities", opportunities.unwrap_or(1.0), 1e-9, 1e12)?;
        let source = match from {
            From::Counts => {
                let (units, defects) = (typed("units", units)?, typed("defects", defects)?);
                let counts = Counts { name: String::new(), units, opportunities: chances, defects };
                check_counts(&counts)?;
                Source::Typed(vec![counts])
            }
            From::Steps => {
                let steps = steps.unwrap_or_default();
                in_range("steps", steps.len() as f64, 1.0, STEPS_MOST as f64)?;
                steps.iter().try_for_each(check_counts)?;
                Source::Typed(steps)
            }
            From::Normal => {
                let normal =
                    Normal { mean: typed("mean", mean)?, sd: in_range("sd", typed("sd", sd)?, f64::MIN_POSITIVE, f64::MAX)?, lsl, usl };
                check_limits(normal.lsl, normal.usl)?;
                Source::Normal(normal)
            }
            From::Columns => {
                let need = |role, choose| StudyError::MissingRole { role, choose };
                spec.role(frame, "count")?.ok_or(need("defects", "a column of defects or bad units"))?;
                spec.role(frame, "size")?.ok_or(need("number inspected", "a column with the number of units"))?;
                Source::Columns { opportunities: chances }
            }
            From::Measurement => {
                spec.role(frame, "measure")?.ok_or(StudyError::MissingRole { role: "measurement", choose: "a measurement" })?;
                Source::Measurement
            }
        };
        Ok(Params { source, shift, goal, spec: spec.clone() })
    }
}

fn typed(option: &'static str, value: Option<f64>) -> Result<f64, StudyError> {
    value.ok_or_else(|| StudyError::BadOption { option: option.to_owned(), problem: "type a number".to_owned() })
}

/// Limits of which there is one at least, in order.
pub fn check_limits(lsl: Option<f64>, usl: Option<f64>) -> Result<(), StudyError> {
    let problem = match (lsl, usl) {
        (None, None) => "give a lower or an upper limit, else nothing can be out".to_owned(),
        (Some(low), Some(high)) if low >= high => format!("the upper limit {high} must lie above the lower limit {low}"),
        _ => return Ok(()),
    };
    Err(StudyError::BadOption { option: "usl".to_owned(), problem })
}

/// Counts that can be.
pub fn check_counts(counts: &Counts) -> Result<(), StudyError> {
    let Counts { name, units, opportunities, defects } = counts;
    let at = if name.is_empty() { String::new() } else { format!("{name}: ") };
    let bad = |option: &str, problem: String| Err(StudyError::BadOption { option: option.to_owned(), problem: format!("{at}{problem}") });
    if *units <= 0.0 {
        return bad("units", format!("{units} units cannot be inspected; type how many there were"));
    }
    if *opportunities <= 0.0 {
        return bad("opportunities", format!("{opportunities} chances a unit leave nothing to go wrong; type 1 or more"));
    }
    if *defects < 0.0 {
        return bad("defects", format!("{defects} is fewer than none"));
    }
    if *defects > units * opportunities {
        let chances = units * opportunities;
        return bad(
            "defects",
            format!("{defects} are more than the {chances} chances there were; check the units, or the chances in each"),
        );
    }
    Ok(())
}
