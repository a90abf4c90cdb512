-- Instruments and other ways of measuring.
CREATE TABLE gauge (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    -- By which people tell it from others of its kind; may be empty.
    number TEXT NOT NULL,
    -- What it measures, in words.
    measures TEXT NOT NULL,
    unit TEXT NOT NULL,
    -- The smallest step that it shows.
    resolution REAL,
    -- Months from one study to the next; null when none is asked for.
    months INTEGER,
    note TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    created_at INTEGER NOT NULL,
    UNIQUE (name, number)
) STRICT;

-- What a finished study said of a gauge, as it stood when it was recorded: it stays as it is when the study changes.
CREATE TABLE gauge_record (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    gauge_id INTEGER NOT NULL REFERENCES gauge (id) ON DELETE CASCADE,
    study_id INTEGER REFERENCES study (id) ON DELETE SET NULL,
    method TEXT NOT NULL,
    -- What was read, and in which data.
    characteristic TEXT NOT NULL,
    dataset TEXT NOT NULL,
    day TEXT NOT NULL,
    -- Sd of the gauge and its share of what it is held against; null where the study has none.
    sd REAL,
    share REAL,
    tone TEXT NOT NULL,
    title TEXT NOT NULL,
    sentence TEXT NOT NULL,
    actor TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT;
CREATE INDEX gauge_record_by_gauge ON gauge_record (gauge_id, day);

-- The gauge that a column is measured with.
ALTER TABLE dataset_column ADD COLUMN gauge_id INTEGER REFERENCES gauge (id) ON DELETE SET NULL;

-- Of a sheet to fill: its plan in JSON, and the column to fill.
ALTER TABLE dataset ADD COLUMN plan TEXT;
