//! Short runs of several parts: each value less the target of its part, in one chart.
//!
//! A target comes from a column, from the option `targets`, from the measurement's own target, or else is the mean of
//! the part. Parts whose spreads differ (Brown and Forsythe 1974) make common limits wrong; the standardised
//! form divides by the sd of the part. Source: Montgomery (2013), sec. 10.2 (deviation from nominal, standardised).

use std::sync::Arc;

use super::panel::PanelSpec;
use super::params::Params;
use super::parts::ChartParts;
use super::plotted::Plotted;
use super::points::Points;
use super::{individuals, samples};
use acorn_data::frame::Missing;
use acorn_maths::describe::moments;
use acorn_maths::equal_variance::brown_forsythe;
use acorn_study::StudyError;
use acorn_study::reading::numbers;

/// Most parts.
const PARTS_MOST: usize = 1000;

/// The chart of deviations: of single values, or of means where there are samples.
///
/// # Errors
/// [`StudyError::BadValue`] when a part has no spread to divide by, [`StudyError::OutOfRange`] for a baseline outside.
pub fn build(params: &Params, points: &Points, columns: &[Arc<[f64]>]) -> Result<ChartParts, StudyError> {
    let parts = params.frame.groups(params.part.as_slice(), None, Missing::Apart, PARTS_MOST)?;
    let targets = params.target.map(|column| numbers(column, "target")).transpose()?;
    let mut without_target = Vec::new();
    let mut shifted: Vec<Vec<f64>> = columns.iter().map(|column| column.to_vec()).collect();
    let mut groups = Vec::new();
    for place in 0..parts.len() {
        let (rows, name) = (parts.rows(place), parts.label(place).unwrap_or(&params.column().name));
        let own: Vec<f64> = rows.iter().flat_map(|&row| columns.iter().map(move |column| column[row])).collect();
        let of = moments(&own);
        let given = params.targets.get(name).copied().or(params.column().info.target.filter(|_| parts.len() == 1));
        if given.is_none() && targets.is_none() {
            without_target.push(name.to_owned());
        }
        let stand_in = given.or(of.mean).unwrap_or(f64::NAN);
        let sd = if params.standardised { of.sd.filter(|sd| *sd > 0.0) } else { Some(1.0) };
        let no_spread = || StudyError::BadValue {
            column: params.column().name.clone(),
            row: rows.first().copied().unwrap_or_default(),
            problem: format!("part “{name}” has no spread to divide by"),
        };
        let sd = sd.ok_or_else(no_spread)?;
        let mut group = Vec::new();
        for &row in rows {
            let target = targets.map_or(stand_in, |targets| targets[row]);
            for column in &mut shifted {
                column[row] = (column[row] - target) / sd;
                group.push(column[row]);
            }
        }
        groups.push(group);
    }
    let shifted: Vec<Arc<[f64]>> = shifted.into_iter().map(Into::into).collect();
    let mut parts = if params.sampling.is_some() {
        samples::build(params, points, &shifted)?
    } else {
        individuals::build(params, points, &points.of_rows(&shifted[0]))?
    };
    if let Some(PanelSpec { plotted, .. }) = parts.panels.first_mut() {
        *plotted = if params.standardised { Plotted::StandardisedDeviation } else { Plotted::Deviation };
    }
    parts.charted = Some(shifted);
    parts.diagnostics.without_target = without_target;
    parts.diagnostics.equal_spread_p = brown_forsythe(&groups).map(|test| test.p);
    Ok(parts)
}
