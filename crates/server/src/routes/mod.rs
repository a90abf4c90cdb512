//! Handlers, one file a resource.

pub mod datasets;
pub mod events;
pub mod exports;
pub mod floor;
pub mod formulas;
pub mod gauges;
pub mod imports;
pub mod jobs;
pub mod labels;
pub mod methods;
pub mod properties;
pub mod reshape;
pub mod signals;
pub mod stations;
pub mod studies;
pub mod table;
pub mod wall;

use axum::http::{HeaderName, HeaderValue, header};

/// The headers of a file to save. The name is reduced to what every system allows.
pub fn attachment(name: &str, kind: &'static str) -> [(HeaderName, HeaderValue); 2] {
    let plain: String =
        name.chars().map(|letter| if letter.is_ascii_alphanumeric() || "-_. ".contains(letter) { letter } else { '_' }).collect();
    let disposition = HeaderValue::try_from(format!("attachment; filename=\"{plain}\"")).unwrap_or(HeaderValue::from_static("attachment"));
    [(header::CONTENT_TYPE, HeaderValue::from_static(kind)), (header::CONTENT_DISPOSITION, disposition)]
}
