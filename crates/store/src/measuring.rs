//! What is known of the gauges of a dataset, for the frames that are read from it.

use acorn_data::frame::Measuring;
use sqlx::SqliteConnection;

use crate::Result;

/// What the newest record with an sd says of each gauge: its number, its words, sd and day.
pub(crate) async fn of_dataset(connection: &mut SqliteConnection, dataset_id: i64) -> Result<Vec<(i64, Measuring)>> {
    let query = "SELECT g.id, trim(g.name || ' ' || g.number), r.sd, r.day FROM gauge AS g JOIN gauge_record AS r ON r.id = (SELECT id FROM \
        gauge_record WHERE gauge_id = g.id AND sd IS NOT NULL ORDER BY day DESC, id DESC LIMIT 1) \
        WHERE g.id IN (SELECT gauge_id FROM dataset_column WHERE dataset_id = ?)";
    let rows: Vec<(i64, String, f64, String)> = sqlx::query_as(query).bind(dataset_id).fetch_all(connection).await?;
    Ok(rows.into_iter().map(|(id, gauge, sd, day)| (id, Measuring { gauge, sd, day })).collect())
}
