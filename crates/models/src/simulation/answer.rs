//! What is kept of a simulation, and what is read of it.

use super::numbers::{InputNumbers, Numbers, ResponseNumbers};
use super::tables;
use crate::model::{Input, Model};
use acorn_maths::words::grouped;
use acorn_study::dial::Dial;
use acorn_study::{Brief, StoredAnswer, Table, ToNumbers, View};

/// What is kept of a simulation.
#[derive(Clone, Debug)]
pub struct Answer {
    /// Its numbers.
    pub numbers: Numbers,
    /// The model, to draw again from.
    pub model: Model,
    /// What is doubtful about the columns behind its inputs, told once.
    pub inputs: Vec<Input>,
    /// Whether what drives the responses was asked though inputs go together.
    pub not_parted: bool,
    /// The tightening asked for, with its goal.
    pub goal: Option<f64>,
}

impl Answer {
    /// The dial of the response with the least room.
    pub fn dial(&self) -> Option<Dial> {
        let limited = self.numbers.responses.iter().filter(|response| response.out.is_some());
        let room = |response: &&ResponseNumbers| response.ppk.unwrap_or(f64::INFINITY);
        limited.min_by(|a, b| room(a).total_cmp(&room(b))).map(|response| response.dial.clone())
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        let numbers = &self.numbers;
        let lines =
            |response: &ResponseNumbers| response.tightening.as_ref().map_or(0, |lines| lines.len() * (1 + 2 * numbers.scales.len()) * 8);
        let responses = numbers
            .responses
            .iter()
            .map(|one| size_of::<ResponseNumbers>() + 24 * one.bars.len() + 200 * one.notation.parts.len() + lines(one));
        let inputs = numbers.inputs.iter().map(|one| size_of::<InputNumbers>() + 16 * one.curve.len() + 4_000 + 8 * one.n.unwrap_or(0));
        responses.sum::<usize>() + inputs.sum::<usize>()
    }

    fn brief(&self) -> Vec<Brief> {
        let numbers = &self.numbers;
        vec![Brief { term: "draws", words: grouped(numbers.draws) }, Brief { term: "seed", words: grouped(numbers.seed as usize) }]
    }

    fn tables(&self) -> Vec<Table> {
        tables::all(&self.numbers)
    }

    fn points(&self, view: &View) -> Table {
        tables::draws(&self.model, &self.numbers, view)
    }
}
