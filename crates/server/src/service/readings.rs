//! Readings of gauges on their way: read from their line, checked, and handed to the page that waits at the station, or stored by
//! themselves where nobody attends it.

use std::collections::{BTreeMap, HashMap};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use acorn_store::{Collection, Station, Store, StoreError, StoredEntry};
use acorn_study::collect::{Entry, LinePattern, Reading};
use jiff::Zoned;
use moka::future::Cache;
use serde::Serialize;
use tokio::sync::broadcast;
use utoipa::ToSchema;

use crate::bounds::{READING_AGAIN_MS, READINGS_WAITING, STATION_KNOWN_MS};
use crate::service::entering::{Begun, Entering};
use crate::service::now;
use crate::service::{ErrorKind, ServiceError};

/// A reading for a column.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub struct ColumnReading {
    /// The column that it goes into.
    pub column: String,
    /// The value.
    pub value: f64,
}

/// What became of a reading.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "became", rename_all = "kebab-case")]
pub enum Became {
    /// It was handed to the page at the station.
    Shown(ColumnReading),
    /// It was stored.
    Stored(StoredEntry),
    /// The same value came a moment ago, and this is no other.
    Again,
    /// It was what the counter of the machine says.
    Counted(Station),
}

/// A reading on its way.
pub enum OnItsWay {
    Done(Box<Became>),
    Storing(Begun),
}

impl OnItsWay {
    /// Waits for what becomes of it.
    pub async fn end(self) -> Result<Became, ServiceError> {
        let begun = match self {
            OnItsWay::Done(became) => return Ok(*became),
            OnItsWay::Storing(begun) => begun,
        };
        let lost = || StoreError::Corrupt("an entry was lost".into());
        let stored = begun.end().await?.entries.into_iter().next().unwrap_or_else(|| Err(lost()))?;
        Ok(Became::Stored(stored))
    }
}

/// What is known of a station for a while.
struct Known {
    station: Station,
    collection: Collection,
    /// Units by column.
    units: BTreeMap<String, String>,
    pattern: LinePattern,
}

struct Heard {
    pages: broadcast::Sender<ColumnReading>,
    last: Option<(f64, Instant)>,
}

/// The readings that are under way.
#[derive(Clone)]
pub struct Readings {
    store: Store,
    entering: Entering,
    known: Cache<String, Arc<Known>>,
    stations: Arc<Mutex<HashMap<i64, Heard>>>,
}

fn refused(code: &str, detail: impl Into<String>, advice: &str) -> ServiceError {
    ServiceError::new(ErrorKind::Invalid, code, detail, advice)
}

impl Readings {
    pub fn new(store: Store, entering: Entering) -> Readings {
        let known = Cache::builder().max_capacity(10_000).time_to_live(Duration::from_millis(STATION_KNOWN_MS)).build();
        Readings { store, entering, known, stations: Arc::default() }
    }

    /// Hears the readings of a station.
    pub fn hear(&self, station_id: i64) -> broadcast::Receiver<ColumnReading> {
        let mut stations = self.stations.lock().unwrap_or_else(PoisonError::into_inner);
        stations.entry(station_id).or_insert_with(Heard::new).pages.subscribe()
    }

    /// Takes a line of a gauge, which names its station by its key. A reading with a key of its own is stored once, however often
    /// it is sent. Those that are begun one after the other are stored in that order.
    pub async fn begin(&self, station_key: &str, reading_key: Option<&str>, line: &str) -> Result<OnItsWay, ServiceError> {
        let known = self.known(station_key).await?;
        let unread = |error: acorn_study::collect::Unread| {
            refused(
                "reading-refused",
                error.to_string(),
                "Set the gauge to the unit of the column, and the station to the lines that it sends.",
            )
        };
        let reading = known.pattern.reading(line).map_err(unread)?;
        let column = column_of(&known.collection, &reading)?;
        reading.check_unit(&column, known.units.get(&column).map(String::as_str)).map_err(unread)?;
        let value = reading.value;
        if !known.collection.plan.unattended {
            return self.show(known.station.id, ColumnReading { column, value }).map(|became| OnItsWay::Done(Box::new(became)));
        }
        if reading_key.is_none() && self.is_again(known.station.id, value) {
            return Ok(OnItsWay::Done(Box::new(Became::Again)));
        }
        let moment = Zoned::now();
        let entry = Entry {
            key: reading_key.map_or_else(|| format!("reading {} {}", now(), moment.subsec_nanosecond()), str::to_owned),
            at: now(),
            time: moment.strftime("%Y-%m-%d %H:%M:%S").to_string(),
            pieces: vec![BTreeMap::from([(column, value)])],
            ..Entry::default()
        };
        Ok(OnItsWay::Storing(self.entering.begin(known.station.id, vec![entry]).await))
    }

    /// Takes what the counter of a station's machine says.
    pub async fn count(&self, station_key: &str, counter: &str) -> Result<OnItsWay, ServiceError> {
        let known = self.known(station_key).await?;
        let no_counter =
            |_| refused("reading-refused", format!("“{counter}” is no counter"), "Send the pieces since it began, such as: counter 1250.");
        let counter = counter.trim().parse::<i64>().map_err(no_counter)?;
        let station = self.store.count_pieces(known.station.id, counter).await?;
        Ok(OnItsWay::Done(Box::new(Became::Counted(station))))
    }

    /// Hands a reading to the pages at a station.
    fn show(&self, station_id: i64, reading: ColumnReading) -> Result<Became, ServiceError> {
        if self.is_again(station_id, reading.value) {
            return Ok(Became::Again);
        }
        let mut stations = self.stations.lock().unwrap_or_else(PoisonError::into_inner);
        let heard = stations.entry(station_id).or_insert_with(Heard::new);
        let shown = heard.pages.send(reading.clone());
        let nobody = |_| refused("nobody-waits", "no page is open at this station", "Open the station, then measure again.");
        shown.map(|_| Became::Shown(reading)).map_err(nobody)
    }

    /// Whether the same value came a moment ago, as when a key bounces.
    fn is_again(&self, station_id: i64, value: f64) -> bool {
        let mut stations = self.stations.lock().unwrap_or_else(PoisonError::into_inner);
        let heard = stations.entry(station_id).or_insert_with(Heard::new);
        let moment = Duration::from_millis(READING_AGAIN_MS);
        let again = heard.last.is_some_and(|(last, at)| last == value && at.elapsed() < moment);
        heard.last = Some((value, Instant::now()));
        again
    }

    async fn known(&self, key: &str) -> Result<Arc<Known>, ServiceError> {
        let look = async {
            let unknown = || {
                ServiceError::new(
                    ErrorKind::NotFound,
                    "no-such-station",
                    "no station has this key",
                    "Take the key from the page of the plan.",
                )
            };
            let station = self.store.station_of_key(key).await?.ok_or_else(unknown)?;
            let collection = self.store.collection(station.plan_id).await?;
            let dataset = self.store.dataset(collection.dataset_id).await?;
            let units = dataset.columns.into_iter().filter_map(|column| Some((column.name, column.info.unit?))).collect();
            let pattern =
                LinePattern::read(&station.pattern).map_err(|error| refused("bad-pattern", error.to_string(), "Correct the pattern."))?;
            Ok(Arc::new(Known { station, collection, units, pattern }))
        };
        self.known.try_get_with(key.to_owned(), look).await.map_err(|error: Arc<ServiceError>| (*error).clone())
    }
}

impl Heard {
    fn new() -> Heard {
        Heard { pages: broadcast::channel(READINGS_WAITING).0, last: None }
    }
}

/// The column that a reading goes into: the one of its channel, or the only one there is.
fn column_of(collection: &Collection, reading: &Reading) -> Result<String, ServiceError> {
    let measured = &collection.plan.measurements;
    let of_channel = measured.iter().find(|one| one.channel.is_some() && one.channel == reading.channel);
    let found = of_channel.or(measured.iter().find(|one| one.channel.is_none()));
    let none = || {
        let channel = reading.channel.as_deref().unwrap_or("none");
        refused("reading-refused", format!("nothing is measured on channel {channel}"), "Give the measurement this channel in the plan.")
    };
    found.map(|one| one.column.clone()).ok_or_else(none)
}
