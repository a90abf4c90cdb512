//! What every handler and everything in the background shares.

use std::sync::Arc;

use acorn_store::Store;

use crate::service::answers::Answers;
use crate::service::entering::Entering;
use crate::service::imports::Imports;
use crate::service::live::Live;
use crate::service::readings::Readings;
use crate::service::table_views::TableViews;
use crate::service::wall_days::WallDays;

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
