//! Room for a block of a model: what was drawn, and what follows from it.

use super::assembly::Model;
use super::draws::Source;
use acorn_data::formula::{Program, Room};

/// One block at a time; a thread has one of its own.
#[derive(Clone, Debug, Default)]
pub struct Bench {
    /// The drawn inputs, then the responses, each by place.
    pub columns: Vec<Vec<f64>>,
    mixed: Vec<Vec<f64>>,
    room: Room,
}

impl Bench {
    /// Room for a model.
    pub fn of(model: &Model) -> Bench {
        Bench { columns: vec![Vec::new(); model.drawn.len() + model.responses.len()], ..Bench::default() }
    }

    /// Draws the inputs of a block of some length.
    pub fn draw(&mut self, model: &Model, source: Source, block: u64, len: usize) {
        self.columns.iter_mut().for_each(|column| column.resize(len, 0.0));
        let among = model.mixing.as_ref().map(|mixing| &mixing.among[..]).unwrap_or_default();
        for (place, one) in model.drawn.iter().enumerate().filter(|(place, _)| !among.contains(place)) {
            one.drawer.fill(source, block, &mut self.columns[place]);
        }
        let Some(mixing) = &model.mixing else { return };
        self.mixed.resize(among.len(), Vec::new());
        for (column, &place) in self.mixed.iter_mut().zip(among) {
            column.resize(len, 0.0);
            model.drawn[place].drawer.normals(source, block, column);
        }
        mixing.mix(&mut self.mixed);
        for (column, &place) in self.mixed.iter().zip(among) {
            self.columns[place].copy_from_slice(column);
            model.drawn[place].drawer.through_normal(&mut self.columns[place]);
        }
    }

    /// Works out every response from what was drawn.
    pub fn follow(&mut self, model: &Model, programs: &[Program]) {
        let inputs = model.drawn.len();
        for (program, place) in programs.iter().zip(&model.order) {
            let mut target = std::mem::take(&mut self.columns[inputs + place]);
            let columns: Vec<&[f64]> = self.columns.iter().map(Vec::as_slice).collect();
            program.run(&columns, &mut self.room, &mut target);
            self.columns[inputs + place] = target;
        }
    }

    /// A response of the block.
    pub fn response(&self, model: &Model, place: usize) -> &[f64] {
        &self.columns[model.drawn.len() + place]
    }
}
