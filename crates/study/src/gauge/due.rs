//! When the next study of a gauge is due.

use jiff::civil::Date;
use jiff::{Span, ToSpan};

/// So many days ahead it is due soon.
const SOON: i64 = 14;

/// How near the next study is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, serde::Serialize, utoipa::ToSchema)]
#[schema(as = GaugeDue)]
#[serde(rename_all = "kebab-case")]
pub enum Due {
    /// Never studied.
    Never,
    /// No study is asked for.
    NotAsked,
    /// Later.
    Later,
    /// Within two weeks.
    Soon,
    /// Past its day.
    Overdue,
}

/// The day of the next study, so many months after the last; `None` without either, or beyond the calendar.
pub fn next(last: Option<Date>, months: Option<u32>) -> Option<Date> {
    let span = Span::new().try_months(months?).ok()?;
    last?.checked_add(span).ok()
}

/// How near the next study is on a day.
pub fn due(last: Option<Date>, months: Option<u32>, today: Date) -> Due {
    match (last, months, next(last, months)) {
        (None, ..) => Due::Never,
        (_, None, _) => Due::NotAsked,
        (_, _, Some(day)) if day < today => Due::Overdue,
        (_, _, Some(day)) if today.checked_add(SOON.days()).is_ok_and(|soon| day <= soon) => Due::Soon,
        _ => Due::Later,
    }
}
