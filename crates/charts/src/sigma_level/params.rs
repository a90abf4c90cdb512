//! What a sigma level is worked out from.

use serde::Deserialize;

use acorn_data::frame::{Column, Frame};
use acorn_study::reading::bad;
use acorn_study::{StudyError, ValidatedSpec, in_range};

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
#[derive(Clone, Debug)]
pub enum Source<'f> {
    /// One count, or one a step.
    Typed(Vec<Counts>),
    /// A normal.
    Normal(Normal),
    /// Columns of the frame.
    Columns(CountColumns<'f>),
    /// A measured column.
    Measurement { measure: &'f Column, subgroup: Option<&'f Column> },
}

/// Columns of counts.
#[derive(Clone, Copy, Debug)]
pub struct CountColumns<'f> {
    pub count: &'f Column,
    pub size: &'f Column,
    pub step: Option<&'f Column>,
    pub label: Option<&'f Column>,
    /// Chances a unit.
    pub opportunities: f64,
}

/// The statement, read.
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub source: Source<'f>,
    pub order: Option<&'f Column>,
    pub shift: f64,
    /// The level asked for.
    pub goal: Option<f64>,
}

/// The shift unless said otherwise.
pub const SHIFT: f64 = 1.5;
/// Most steps.
pub const STEPS_MOST: usize = 100;

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option, also for defects above the chances, negative counts and no units.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let number = |option: &'static str| asked.option::<f64>(option);
        let steps: Option<Vec<Counts>> = asked.option("steps")?;
        let (mean, sd) = (number("mean")?, number("sd")?);
        let from = asked.option("from")?.unwrap_or(match () {
            () if asked.column("measure").is_some() => From::Measurement,
            () if asked.column("count").is_some() => From::Columns,
            () if steps.is_some() => From::Steps,
            () if mean.is_some() || sd.is_some() => From::Normal,
            () => From::Counts,
        });
        let opportunities = in_range("opportunities", number("opportunities")?.unwrap_or(1.0), 1e-9, 1e12)?;
        let source = match from {
            From::Counts => {
                let (units, defects) = (typed("units", number("units")?)?, typed("defects", number("defects")?)?);
                let counts = Counts { name: String::new(), units, opportunities, defects };
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
                let sd = in_range("sd", typed("sd", sd)?, f64::MIN_POSITIVE, f64::MAX)?;
                let normal = Normal { mean: typed("mean", mean)?, sd, lsl: number("lsl")?, usl: number("usl")? };
                check_limits(normal.lsl, normal.usl)?;
                Source::Normal(normal)
            }
            From::Columns => Source::Columns(CountColumns {
                count: asked.needed("count")?,
                size: asked.needed("size")?,
                step: asked.column("step"),
                label: asked.column("label"),
                opportunities,
            }),
            From::Measurement => Source::Measurement { measure: asked.needed("measure")?, subgroup: asked.column("subgroup") },
        };
        Ok(Params {
            frame: asked.frame(),
            source,
            order: asked.column("order"),
            shift: asked.number("shift").unwrap_or(SHIFT),
            goal: asked.number("goal"),
        })
    }
}

fn typed(option: &'static str, value: Option<f64>) -> Result<f64, StudyError> {
    value.ok_or_else(|| bad(option, "type a number"))
}

/// Limits of which there is one at least, in order.
pub fn check_limits(lsl: Option<f64>, usl: Option<f64>) -> Result<(), StudyError> {
    let problem = match (lsl, usl) {
        (None, None) => "give LSL or USL, else nothing can be out".to_owned(),
        (Some(low), Some(high)) if low >= high => format!("USL {high} must lie above LSL {low}"),
        _ => return Ok(()),
    };
    Err(bad("usl", problem))
}

/// Counts that can be.
pub fn check_counts(counts: &Counts) -> Result<(), StudyError> {
    let Counts { name, units, opportunities, defects } = counts;
    let at = if name.is_empty() { String::new() } else { format!("{name}: ") };
    let bad = |option: &str, problem: String| Err(bad(option, format!("{at}{problem}")));
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
