//! What every handler shares.

use std::sync::Arc;
use std::time::{SystemTime, UNIX_EPOCH};

use acorn_store::{Change, Store};

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
        App { answers: Answers::new(store.clone()), store, imports: Arc::default(), live: Live::new() }
    }
}

/// Who changes something, and when. There is one person as long as the application has no accounts.
pub fn change() -> Change<'static> {
    let since = SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default();
    Change { actor: "local", at: since.as_millis() as i64 }
}
