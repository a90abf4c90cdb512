//! Files brought in but not stored yet. They wait in memory: nothing is half stored.

use std::collections::VecDeque;
use std::sync::{Arc, Mutex, PoisonError};

use acorn_formats::{FormatError, Reading, Source, Wish, read};
use axum::http::StatusCode;

use crate::bounds::IMPORTS_WAITING;
use crate::error::ApiError;

/// A file that waits for its answer.
pub struct Waiting {
    pub name: String,
    pub source: Mutex<Source>,
    pub reading: Mutex<Arc<Reading>>,
}

/// All that wait.
#[derive(Default)]
pub struct Imports {
    list: Mutex<List>,
}

#[derive(Default)]
struct List {
    last_id: u64,
    /// Oldest first.
    waiting: VecDeque<(u64, Arc<Waiting>)>,
}

impl Imports {
    /// Takes a file in; the oldest is dropped when too many wait.
    pub fn add(&self, source: Source, reading: Arc<Reading>) -> u64 {
        let mut list = self.list.lock().unwrap_or_else(PoisonError::into_inner);
        list.last_id += 1;
        let id = list.last_id;
        let waiting = Waiting { name: source.name().to_owned(), source: Mutex::new(source), reading: Mutex::new(reading) };
        list.waiting.push_back((id, Arc::new(waiting)));
        while list.waiting.len() > IMPORTS_WAITING {
            list.waiting.pop_front();
        }
        id
    }

    /// A file that waits.
    pub fn get(&self, id: u64) -> Result<Arc<Waiting>, ApiError> {
        let list = self.list.lock().unwrap_or_else(PoisonError::into_inner);
        let found = list.waiting.iter().find(|(other, _)| *other == id).map(|(_, waiting)| waiting.clone());
        found.ok_or_else(|| ApiError::new(StatusCode::NOT_FOUND, "import-gone", "this file is no longer waiting", "Bring it in again."))
    }

    /// Forgets a file.
    pub fn remove(&self, id: u64) {
        self.list.lock().unwrap_or_else(PoisonError::into_inner).waiting.retain(|(other, _)| *other != id);
    }
}

impl Waiting {
    /// Reads the file as wished; it may have been added to before.
    pub fn read(&self, wish: &Wish) -> Result<Reading, FormatError> {
        read(&self.source.lock().unwrap_or_else(PoisonError::into_inner), wish)
    }

    /// Adds another file and reads all of them; one that does not go with the others is taken back.
    pub fn add(&self, name: &str, bytes: Vec<u8>) -> Result<Reading, FormatError> {
        let mut source = self.source.lock().unwrap_or_else(PoisonError::into_inner);
        let added = source.add(name, bytes)?;
        let reading = read(&source, &Wish::default());
        if reading.is_err() {
            source.take_back(added);
        }
        reading
    }

    pub fn reading(&self) -> Arc<Reading> {
        self.reading.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }

    pub fn set_reading(&self, reading: Arc<Reading>) {
        *self.reading.lock().unwrap_or_else(PoisonError::into_inner) = reading;
    }
}
