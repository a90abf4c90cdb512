//! What asks for its cause at a station, with what the plan says is to be done about it.

use acorn_maths::describe::decimals;
use acorn_maths::words::{ValueFormat, typed};
use serde::Serialize;

use super::entry::Beyond;
use super::plan::{CollectionPlan, Occasion, Reaction};

/// Something that happened at a station and asks for its cause.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Happened {
    /// What kind of thing.
    pub on: Occasion,
    /// What happened, in a sentence.
    pub sentence: String,
    /// What is to be done, first things first.
    pub reactions: Vec<Reaction>,
}

impl Happened {
    /// Values of an entry beyond their specification limits; `None` when there are none.
    pub fn beyond(beyond: &[Beyond], plan: &CollectionPlan) -> Option<Happened> {
        let sentence = |Beyond { column, piece, value, limit }: &Beyond| {
            let side = if value < limit { "below LSL" } else { "above USL" };
            let limit = ValueFormat::fixed(decimals(&[*value, *limit]).into()).value(*limit);
            format!("Piece {piece}: {column} {} lies {side} {limit}.", typed(*value))
        };
        let sentences: Vec<String> = beyond.iter().map(sentence).collect();
        let reactions = plan.reactions_to(Occasion::BeyondSpecification, None);
        (!sentences.is_empty()).then(|| Happened { on: Occasion::BeyondSpecification, sentence: sentences.join(" "), reactions })
    }

    /// Signals that all end at the newest point: their patterns with the sentence of each, the one to look at first. They have one
    /// cause, and are asked for it once; `None` when there are none.
    pub fn signals(signals: &[(&str, &str)], plan: &CollectionPlan) -> Option<Happened> {
        let (pattern, sentence) = signals.first()?;
        let more = match signals.len() - 1 {
            0 => String::new(),
            1 => " It is part of 1 other signal too.".to_owned(),
            many => format!(" It is part of {many} other signals too."),
        };
        let reactions = plan.reactions_to(Occasion::Signal, Some(pattern));
        Some(Happened { on: Occasion::Signal, sentence: format!("{sentence}{more}"), reactions })
    }
}
