//! What is wrong at the stations of a plan by now.

use acorn_data::frame::ColumnInfo;
use acorn_store::{AlertCondition, Collection, Station, StoredEntry};
use acorn_study::collect::Due;

use super::message::clock;
use crate::service::App;
use crate::service::ServiceError;
use crate::service::signals;

/// Values beyond specification and signals without a cause, and stations that are late.
pub async fn of(app: &App, plan: &Collection, due: &[Option<Due>]) -> Result<Vec<AlertCondition>, ServiceError> {
    let mut alert_conditions = Vec::new();
    let dataset = app.store.dataset(plan.dataset_id).await?;
    let info = |name: &str| dataset.columns.iter().find(|column| column.name == name).map(|column| column.info.clone());
    for (count, newest) in app.store.newest_waiting(plan.id).await? {
        let station = plan.stations.iter().find(|station| station.id == newest.station_id);
        alert_conditions.push(AlertCondition {
            about: format!("beyond {}", newest.station_id),
            newest: newest.id,
            count,
            words: beyond(count, &newest, station, info),
        });
    }
    if let Some(first) = app.store.first_entered_row(plan.id).await? {
        for study in &plan.study_ids {
            alert_conditions.extend(signalled(app, *study, first).await?);
        }
    }
    for (station, due) in plan.stations.iter().zip(due) {
        alert_conditions.extend(due.as_ref().filter(|due| due.late).map(|due| late(station, due)));
    }
    Ok(alert_conditions)
}

fn beyond(count: i64, newest: &StoredEntry, station: Option<&Station>, info: impl Fn(&str) -> Option<ColumnInfo>) -> String {
    let at = station.map_or_else(String::new, |station| format!(" at {}", station.name));
    let said = newest.beyond.first().map(|one| one.display_text(&info(&one.column).unwrap_or_default())).unwrap_or_default();
    match count {
        1 => format!("An entry beyond specification{at} has no cause: {said}."),
        _ => format!("{count} entries beyond specification{at} have no cause; the newest: {said}."),
    }
}

/// Signals without a cause about rows that were entered by the plan; what signalled before it began is no news.
async fn signalled(app: &App, study_id: i64, first_row: i64) -> Result<Option<AlertCondition>, ServiceError> {
    let study = app.store.study(study_id).await?;
    // A study that cannot be answered says so itself, on the Wall and on its own page.
    let Ok((computed, without)) = signals::without_cause(app, &study).await else { return Ok(None) };
    let of_plan = without.iter().filter_map(|known| {
        let newest = computed.answer.rows(known.signal.first, known.signal.last).iter().copied().max()?;
        (newest >= first_row).then_some((newest, known))
    });
    let of_plan: Vec<_> = of_plan.collect();
    let Some((newest, known)) = of_plan.iter().max_by_key(|(newest, _)| *newest) else { return Ok(None) };
    let words = match of_plan.len() {
        1 => format!("A signal has no cause: {}", known.signal.sentence),
        many => format!("{many} signals have no cause; the newest: {}", known.signal.sentence),
    };
    Ok(Some(AlertCondition { about: format!("signals {study_id}"), newest: *newest, count: of_plan.len() as i64, words }))
}

fn late(station: &Station, due: &Due) -> AlertCondition {
    let Station { id, name, .. } = station;
    let words = match (due.at, due.left) {
        (Some(at), _) => format!("{name} is late: an entry was due at {}.", clock(at)),
        (_, left) => format!("{name} is late: {} pieces were made since an entry was due.", -left.unwrap_or_default()),
    };
    // It stays one alert for as long as the station is late.
    AlertCondition { about: format!("late {id}"), newest: 0, count: 1, words }
}
