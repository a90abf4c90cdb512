//! Every bound of the service, in one place.

/// Connections at once; more wait to be taken.
pub const CONNECTIONS_MOST: usize = 4096;
/// How long the head of a request may take to arrive, in milliseconds.
pub const HEAD_MS: u64 = 10_000;
/// How long a body may pause, in milliseconds.
pub const BODY_PAUSE_MS: u64 = 20_000;
/// Largest JSON body, in bytes.
pub const JSON_BYTES: usize = 32 * 1024 * 1024;
/// Most rows sent for the table at once.
pub const ROWS_AT_ONCE: usize = 500;
/// Cells that are named where a text is found.
pub const CELLS_FOUND: usize = 1000;
/// Values of a formula that are shown while it is typed.
pub const FORMULA_SHOWN: usize = 6;
/// Memory for which rows views of tables show, in bytes; the least used go first.
pub const TABLE_VIEW_BYTES: u64 = 64 * 1024 * 1024;
/// Buckets of a view unless said otherwise.
pub const VIEW_POINTS: usize = 1000;
/// Most buckets of a view.
pub const VIEW_POINTS_MAX: usize = 5000;
/// Files waiting to be brought in; the oldest is dropped for a new one.
pub const IMPORTS_WAITING: usize = 8;
/// Memory for answers kept, in bytes; the least used go first.
pub const ANSWER_BYTES: u64 = 256 * 1024 * 1024;
/// An answer that took no longer the last time is waited for by pages about many studies, in milliseconds.
pub const QUICK_MS: u64 = 50;
/// How soon a question is answered anew again while nobody waits for it, in milliseconds.
pub const RECOMPUTE_AGAIN_MS: u64 = 400;
/// Questions that wait to be answered anew; the oldest wish goes for a newer one.
pub const RECOMPUTE_WAITING: usize = 1000;
/// Column summaries kept, one a column and revision.
pub const SUMMARIES_KEPT: u64 = 4096;
/// How long events are gathered before they are told together, in milliseconds.
pub const EVENTS_GATHERED_MS: u64 = 40;
/// How long a computation goes on before it is listed, in milliseconds.
pub const JOB_SHOWS_MS: u64 = 1000;
/// Events that a slow browser may lag behind before it is told to read everything anew.
pub const EVENTS_WAITING: usize = 256;

/// Sendings of stations that wait to be stored; more wait to be read.
pub const SENDINGS_WAITING: usize = 10_000;
/// Sendings stored in one transaction.
pub const SENDINGS_AT_ONCE: usize = 1000;
/// Entries of one sending.
pub const ENTRIES_SENT: usize = 1000;
/// Entries listed of a plan.
pub const ENTRIES_LISTED: i64 = 200;
/// How long the same value from the same gauge counts as one reading, in milliseconds.
pub const READING_AGAIN_MS: u64 = 250;
/// How long what is known of a station is used without looking again, in milliseconds.
pub const STATION_KNOWN_MS: u64 = 1000;
/// Readings that a slow page may lag behind.
pub const READINGS_WAITING: usize = 64;
/// Days that are looked back on for due times without an entry.
pub const DAYS_BACK: i64 = 7;

/// How often it is looked for something that somebody is to know, in milliseconds.
pub const ALERTS_LOOKED_AT_MS: u64 = 1000;
/// Addressees told at once.
pub const ALERTS_TOLD_AT_ONCE: usize = 20;
/// How long telling somebody may take, in milliseconds.
pub const TELLING_MS: u64 = 10_000;

/// Characteristics of the Wall that are answered side by side.
pub const WALL_AT_ONCE: usize = 8;
/// How often at most it is kept how the Wall stands today, in milliseconds.
pub const WALL_KEPT_MS: u64 = 30_000;

/// How often last answers are kept for the next start, in milliseconds.
pub const BRIEFS_KEPT_MS: u64 = 5000;
/// Signals of one study looked at for their causes.
pub const SIGNALS_A_STUDY: usize = 2000;
/// Signals without a cause in one list.
pub const SIGNALS_LISTED: usize = 500;
/// Lines of a history.
pub const HISTORY_LINES: i64 = 100;
/// Most labels of a column that are listed one by one.
pub const LABELS_LISTED: usize = 1000;
