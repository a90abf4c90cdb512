-- A table brought in. `revision` grows with every change of its data or columns.
CREATE TABLE dataset (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    source TEXT NOT NULL,
    created_at INTEGER NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    row_count INTEGER NOT NULL,
    -- The id of the next row; equal to row_count as long as every row id is its position.
    next_row_id INTEGER NOT NULL
) STRICT;

-- A column of a dataset. The hidden one of kind 'row-id' gives each row a lasting identity.
CREATE TABLE dataset_column (
    id INTEGER PRIMARY KEY,
    dataset_id INTEGER NOT NULL REFERENCES dataset (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    unit TEXT,
    decimals INTEGER,
    lsl REAL,
    target REAL,
    usl REAL,
    UNIQUE (dataset_id, name),
    UNIQUE (dataset_id, position)
) STRICT;

-- 2,048 cells of a column, little-endian: f64 numbers (NaN missing), u32 label codes (all ones missing),
-- i64 microseconds or row ids (the smallest value missing).
CREATE TABLE column_chunk (
    column_id INTEGER NOT NULL REFERENCES dataset_column (id) ON DELETE CASCADE,
    chunk_no INTEGER NOT NULL,
    row_count INTEGER NOT NULL,
    cells BLOB NOT NULL,
    UNIQUE (column_id, chunk_no)
) STRICT;

CREATE TABLE category (
    column_id INTEGER NOT NULL REFERENCES dataset_column (id) ON DELETE CASCADE,
    code INTEGER NOT NULL,
    label TEXT NOT NULL,
    PRIMARY KEY (column_id, code)
) STRICT, WITHOUT ROWID;

-- A saved question about a dataset; `spec` is its specification in JSON, without the data.
CREATE TABLE study (
    id INTEGER PRIMARY KEY,
    dataset_id INTEGER NOT NULL REFERENCES dataset (id) ON DELETE CASCADE,
    name TEXT,
    spec TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    created_at INTEGER NOT NULL,
    updated_at INTEGER NOT NULL
) STRICT;

CREATE INDEX study_by_dataset ON study (dataset_id);

-- What was changed, by whom and when; `before` and `after` are JSON, from which undo works.
CREATE TABLE history (
    id INTEGER PRIMARY KEY,
    dataset_id INTEGER REFERENCES dataset (id) ON DELETE CASCADE,
    study_id INTEGER REFERENCES study (id) ON DELETE CASCADE,
    what TEXT NOT NULL,
    target TEXT NOT NULL,
    before TEXT,
    after TEXT,
    actor TEXT NOT NULL,
    at INTEGER NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE INDEX history_by_dataset ON history (dataset_id, id);

-- Demo items once loaded; one that was deleted does not come back.
CREATE TABLE demo_item (
    name TEXT PRIMARY KEY
) STRICT, WITHOUT ROWID;
