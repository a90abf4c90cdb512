//! What every handler shares.

use std::sync::Arc;

use acorn_store::Store;

use crate::answers::Answers;
use crate::imports::Imports;
use crate::live::Live;

/// The application.
#[derive(Clone)]
pub struct App {
    pub store: Store,
    pub answers: Answers,
    pub imports: Arc<Imports>,
    pub live: Live,
}

impl App {
    pub fn new(store: Store) -> App {
        let live = Live::new();
        App { answers: Answers::new(store.clone(), live.clone()), store, imports: Arc::default(), live }
    }
}
