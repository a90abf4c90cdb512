//! What a look at a distribution takes, checked once.

use std::sync::Arc;

use serde::Deserialize;

use crate::figure::heap::Bars;
use crate::frame::{Column, Frame, Kind, Values};
use crate::study::{Options, RoleColumns, Spec, StudyError};

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
    pub bars: Bars,
    pub same_scale: bool,
    pub curve: bool,
    pub show: Show,
}

impl<'f> Params<'f> {
    /// Checks a specification against a frame.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn check(frame: &'f Frame, spec: &Spec) -> Result<Params<'f>, StudyError> {
        spec.known_roles(&["measure", "group"])?;
        let mut options = Options::of(spec);
        let bars = Bars::take(&mut options)?;
        let same_scale = options.take("same_scale")?.unwrap_or(true);
        let curve = options.take("curve")?.unwrap_or(true);
        let show = options.take("show")?.unwrap_or_default();
        options.finish()?;
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
        Ok(Params { measure, values, groups: groups(frame, spec)?, bars, same_scale, curve, show })
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
