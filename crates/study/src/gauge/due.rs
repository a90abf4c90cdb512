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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_study_is_due_so_many_months_after_the_last() {
        let day = |text: &str| text.parse::<Date>().unwrap();
        let on = |today: &str| due(Some(day("2026-05-31")), Some(6), day(today));
        assert_eq!(next(Some(day("2026-05-31")), Some(6)), Some(day("2026-11-30")), "the last day of a shorter month");
        assert_eq!(
            [on("2026-11-15"), on("2026-11-16"), on("2026-11-30"), on("2026-12-01")],
            [Due::Later, Due::Soon, Due::Soon, Due::Overdue]
        );
        assert_eq!(
            (due(None, Some(6), day("2026-01-01")), due(Some(day("2026-01-01")), None, day("2099-01-01"))),
            (Due::Never, Due::NotAsked)
        );
        assert_eq!(next(Some(day("9999-12-01")), Some(12)), None);
    }
}
