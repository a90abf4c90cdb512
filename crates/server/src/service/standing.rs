//! How stations stand with what is due.

use acorn_store::Collection;
use acorn_study::collect::{Calendar, Due, standing, standing_by_pieces};
use jiff::Zoned;

use crate::bounds::DAYS_BACK;
use crate::service::App;
use crate::service::ServiceError;

const DAY_MS: i64 = 24 * 3_600_000;

/// When each station of a plan is due, in their order; nothing for one that is closed, and for all where nothing says how often.
pub async fn due(app: &App, plan: &Collection, now: i64) -> Result<Vec<Option<Due>>, ServiceError> {
    let Some(every) = plan.plan.every else { return Ok(vec![None; plan.stations.len()]) };
    let midnight = Zoned::now().start_of_day().map_or(0, |midnight| midnight.timestamp().as_millisecond());
    let calendar = Calendar { midnight, shifts: &plan.plan.shifts };
    let back = now - DAYS_BACK * DAY_MS;
    let times = app.store.entry_times(plan.id, back, now + DAY_MS).await?;
    let mut all = Vec::with_capacity(plan.stations.len());
    for station in &plan.stations {
        if station.closed {
            all.push(None);
            continue;
        }
        let own = times.iter().filter(|time| time.station_id == station.id);
        all.push(Some(if every.pieces > 0 {
            let own: Vec<(i64, i64)> = own.map(|time| (time.at, time.made)).collect();
            let since = app.store.made_before(station.id, back).await?;
            standing_by_pieces(every, calendar, [since, station.made], &own, now)
        } else {
            let own: Vec<i64> = own.map(|time| time.at).collect();
            standing(every, calendar, plan.created_at.max(back), &own, now)
        }));
    }
    Ok(all)
}
