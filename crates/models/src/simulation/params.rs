//! What a simulation is made from.

use super::card::{DRAWS, SEED};
use crate::model::search::Plan;
use crate::model::{Correlation, Input, MANY, Model, Response, Sampling, Search, Tightening};
use acorn_study::reading::bad;
use acorn_study::{StudyError, ValidatedSpec};

/// The statement, read.
pub struct Params {
    /// The model.
    pub model: Model,
    /// The inputs as they stand in the statement.
    pub inputs: Vec<Input>,
    /// Draws.
    pub draws: usize,
    /// What they start from.
    pub seed: u64,
    /// How they are spread.
    pub sampling: Sampling,
    /// Whether to tell what drives the responses.
    pub sensitivity: bool,
    /// How many pairs of inputs go together.
    pub correlations: usize,
    /// What tightening pays.
    pub tightening: Option<Tightening>,
    /// Settings to search for.
    pub search: Option<Plan>,
}

/// Draws of all responses together that are kept at once.
const KEPT_MOST: f64 = 4e7;

impl Params {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for names, formulas, parameters, correlations and searches that cannot be.
    pub fn read(asked: &ValidatedSpec) -> Result<Params, StudyError> {
        let inputs: Vec<Input> = asked.option("inputs")?.unwrap_or_default();
        let controls = asked.option("controls")?.unwrap_or_default();
        let responses: Vec<Response> = asked.option("responses")?.unwrap_or_default();
        let correlations: Vec<Correlation> = asked.option("correlations")?.unwrap_or_default();
        let draws = asked.number("draws").unwrap_or(DRAWS);
        if draws * responses.len() as f64 > KEPT_MOST {
            let most = KEPT_MOST / responses.len().clamp(1, MANY) as f64;
            return Err(bad(
                "draws",
                format!("{draws} draws of {} responses are too many to keep at once; {most:.0} draws fit", responses.len()),
            ));
        }
        let model = Model::read(inputs.clone(), controls, responses, &correlations, asked.frame())?;
        let search = asked.option::<Search>("search")?.map(|search| Plan::read(&search, &model)).transpose()?;
        Ok(Params {
            model,
            inputs,
            draws: draws as usize,
            seed: asked.number("seed").unwrap_or(SEED) as u64,
            sampling: asked.option("sampling")?.unwrap_or_default(),
            sensitivity: asked.is_on("sensitivity"),
            correlations: correlations.len(),
            tightening: asked.option("tightening")?,
            search,
        })
    }
}
