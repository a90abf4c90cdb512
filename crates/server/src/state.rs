//! What every handler shares.

use std::sync::Arc;

use acorn_store::Store;

use crate::answers::Answers;
use crate::entering::Entering;
use crate::imports::Imports;
use crate::live::Live;
use crate::readings::Readings;
use crate::table_views::TableViews;
use crate::wall_days::WallDays;

/// The application.
#[derive(Clone)]
pub struct App {
    pub store: Store,
    pub answers: Answers,
    pub imports: Arc<Imports>,
    pub live: Live,
    pub entering: Entering,
    pub readings: Readings,
    pub table_views: TableViews,
    pub wall_days: Arc<WallDays>,
}

impl App {
    pub fn new(store: Store) -> App {
        let live = Live::of(&store);
        let entering = Entering::new(store.clone());
        App {
            answers: Answers::new(store.clone(), live.clone()),
            readings: Readings::new(store.clone(), entering.clone()),
            entering,
            table_views: TableViews::new(store.clone()),
            store,
            imports: Arc::default(),
            wall_days: Arc::default(),
            live,
        }
    }
}
