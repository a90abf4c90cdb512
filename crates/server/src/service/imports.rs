//! Files brought in but not stored yet. They wait in memory: nothing is half stored.

use std::collections::VecDeque;
use std::sync::{Arc, Mutex, PoisonError};

use acorn_formats::{FormatError, ReadOptions, Reading, Source, read};
use acorn_store::Recipe;

use crate::bounds::IMPORTS_WAITING;
use crate::service::{ErrorKind, ServiceError};

/// A file that waits for its answer.
pub struct Waiting {
    pub name: String,
    source: Mutex<Source>,
    understood: Mutex<Understood>,
}

/// How a file is understood so far.
#[derive(Clone)]
pub struct Understood {
    /// What was read.
    pub reading: Arc<Reading>,
    /// The corrections with which it was.
    pub read_options: ReadOptions,
    /// What files of its layout have in common.
    pub layout: Option<String>,
    /// Where the corrections are those of the last file of its layout.
    pub recipe: Option<Recipe>,
}

impl Understood {
    /// A file read as it seems.
    pub fn plain(source: &Source) -> Result<Understood, FormatError> {
        let reading = read(source, &ReadOptions::default())?;
        let layout = reading.layout();
        Ok(Understood { reading: Arc::new(reading), read_options: ReadOptions::default(), layout, recipe: None })
    }

    /// The file read as the last one of its layout; as it seems where that cannot be.
    pub fn with(self, source: &Source, recipe: Option<Recipe>) -> Understood {
        let again = recipe.and_then(|recipe| Some((read(source, &recipe.read_options).ok()?, recipe)));
        match again {
            Some((reading, recipe)) => {
                Understood { reading: Arc::new(reading), read_options: recipe.read_options.clone(), recipe: Some(recipe), ..self }
            }
            None => self,
        }
    }
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
    pub fn add(&self, source: Source, understood: Understood) -> u64 {
        let mut list = self.list.lock().unwrap_or_else(PoisonError::into_inner);
        list.last_id += 1;
        let id = list.last_id;
        let waiting = Waiting { name: source.name().to_owned(), source: Mutex::new(source), understood: Mutex::new(understood) };
        list.waiting.push_back((id, Arc::new(waiting)));
        while list.waiting.len() > IMPORTS_WAITING {
            list.waiting.pop_front();
        }
        id
    }

    /// A file that waits.
    pub fn get(&self, id: u64) -> Result<Arc<Waiting>, ServiceError> {
        let list = self.list.lock().unwrap_or_else(PoisonError::into_inner);
        let found = list.waiting.iter().find(|(other, _)| *other == id).map(|(_, waiting)| waiting.clone());
        found.ok_or_else(|| ServiceError::new(ErrorKind::NotFound, "import-gone", "this file is no longer waiting", "Bring it in again."))
    }

    /// Forgets a file.
    pub fn remove(&self, id: u64) {
        self.list.lock().unwrap_or_else(PoisonError::into_inner).waiting.retain(|(other, _)| *other != id);
    }
}

impl Waiting {
    /// Reads the file as wished; it may have been added to before.
    pub fn correct(&self, read_options: ReadOptions) -> Result<Understood, FormatError> {
        let reading = Arc::new(read(&self.source.lock().unwrap_or_else(PoisonError::into_inner), &read_options)?);
        let mut understood = self.understood.lock().unwrap_or_else(PoisonError::into_inner);
        *understood = Understood { reading, read_options, layout: understood.layout.clone(), recipe: None };
        Ok(understood.clone())
    }

    /// Adds another file and reads all of them; one that does not go with the others is taken back.
    pub fn add(&self, name: &str, bytes: Vec<u8>) -> Result<Understood, FormatError> {
        let mut source = self.source.lock().unwrap_or_else(PoisonError::into_inner);
        let added = source.add(name, bytes)?;
        let understood = Understood::plain(&source).inspect_err(|_| source.take_back(added))?;
        *self.understood.lock().unwrap_or_else(PoisonError::into_inner) = understood.clone();
        Ok(understood)
    }

    pub fn understood(&self) -> Understood {
        self.understood.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }
}
