//! What a look at a distribution takes, checked once.

use std::sync::Arc;

use serde::Deserialize;

use crate::frame::{Column, Frame, Kind, Values};
use crate::study::{Options, RoleColumns, Spec, StudyError, in_range};

/// How wide the bars are.
#[derive(Clone, Copy, Debug, PartialEq, Deserialize)]
#[serde(untagged)]
pub enum BinChoice {
    /// So many bars over the range of the values.
    Count {
        /// How many.
        count: usize,
    },
    /// Bars so wide.
    Width {
        /// In the unit of the measure.
        width: f64,
    },
    /// Found from the values.
    Auto(Auto),
}

/// Found from the values.
#[derive(Clone, Copy, Debug, Default, PartialEq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Auto {
    /// Freedman and Diaconis, rounded.
    #[default]
    Auto,
}

/// Which picture is drawn.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Show {
    /// Histograms.
    #[default]
    Heaps,
    /// Box plots.
    Boxes,
    /// Every value.
    Values,
    /// Normal probability plots.
    Probability,
}

/// Valid parameters.
pub struct Params<'f> {
    pub measure: &'f Column,
    pub values: &'f Arc<[f64]>,
    pub groups: Vec<&'f Column>,
    pub bins: BinChoice,
    pub bin_start: Option<f64>,
    pub same_scale: bool,
    pub curve: bool,
    pub show: Show,
}

/// Most bars.
const BARS_MOST: usize = 500;

impl<'f> Params<'f> {
    /// Checks a specification against a frame.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn check(frame: &'f Frame, spec: &Spec) -> Result<Params<'f>, StudyError> {
        spec.known_roles(&["measure", "group"])?;
        let mut options = Options::of(spec);
        let bins = options.take("bins")?.unwrap_or(BinChoice::Auto(Auto::Auto));
        let bin_start = options.take("bin_start")?;
        let same_scale = options.take("same_scale")?.unwrap_or(true);
        let curve = options.take("curve")?.unwrap_or(true);
        let show = options.take("show")?.unwrap_or_default();
        options.finish()?;
        match bins {
            BinChoice::Count { count } => in_range("bins.count", count as f64, 1.0, BARS_MOST as f64)?,
            BinChoice::Width { width } => in_range("bins.width", width, f64::MIN_POSITIVE, f64::MAX)?,
            BinChoice::Auto(_) => 0.0,
        };
        if let Some(start) = bin_start {
            in_range("bin_start", start, f64::MIN, f64::MAX)?;
        }
        let measure = spec.role(frame, "measure")?;
        let measure = measure.ok_or(StudyError::MissingRole { role: "measurement", choose: "a measurement" })?;
        let Values::Number(values) = &measure.values else {
            return Err(StudyError::WrongKind {
                role: "measurement",
                column: measure.name.clone(),
                found: measure.kind.words(),
                needed: Kind::Number.words(),
            });
        };
        Ok(Params { measure, values, groups: groups(frame, spec)?, bins, bin_start, same_scale, curve, show })
    }
}

fn groups<'f>(frame: &'f Frame, spec: &Spec) -> Result<Vec<&'f Column>, StudyError> {
    let names: &[String] = match spec.roles.get("group") {
        None => return Ok(Vec::new()),
        Some(RoleColumns::One(name)) => std::slice::from_ref(name),
        Some(RoleColumns::Many(names)) => names,
    };
    if names.len() > 2 {
        let problem = format!("takes one or two columns, not {}", names.len());
        return Err(StudyError::BadOption { option: "group".into(), problem });
    }
    let find = |name: &String| {
        let unknown = || StudyError::UnknownColumn { role: "group".into(), column: name.clone() };
        frame.column(name).ok_or_else(unknown)
    };
    names.iter().map(find).collect()
}

/// The width of bars so many over a range fit the bound.
pub fn check_bars(range: f64, width: f64) -> Result<(), StudyError> {
    let least = range / BARS_MOST as f64;
    if width < least {
        Err(StudyError::OutOfRange { option: "bins.width".into(), value: width, low: least, high: f64::MAX })
    } else {
        Ok(())
    }
}
