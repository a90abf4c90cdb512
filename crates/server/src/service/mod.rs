//! What the server does, whoever asks: it is called by the routes and by what goes on in the background, and knows nothing of HTTP.

pub mod alerts;
#[doc(hidden)]
pub mod answers;
mod app;
pub mod briefs;
pub mod entering;
mod error;
pub mod following;
pub mod gauge_lines;
pub mod history;
pub mod imports;
#[doc(hidden)]
pub mod jobs;
#[doc(hidden)]
pub mod live;
pub mod readings;
#[doc(hidden)]
pub mod recompute_queue;
pub mod reshaping;
pub mod signals;
pub mod standing;
pub mod stated;
pub mod table_views;
pub mod wall_days;

use std::time::{SystemTime, UNIX_EPOCH};

pub use app::App;
pub use error::{ErrorKind, ServiceError};

/// Milliseconds since 1970.
pub fn now() -> i64 {
    SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default().as_millis() as i64
}
