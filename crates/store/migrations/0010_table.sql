-- A column may be hidden, or gone: what is deleted stays for as long as it can be brought back, under a name that no column can have.
ALTER TABLE dataset_column ADD COLUMN hidden INTEGER NOT NULL DEFAULT 0;
ALTER TABLE dataset_column ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;

-- What a column is worked out by, with columns named by their ids.
ALTER TABLE dataset_column ADD COLUMN formula TEXT;

-- What a table shows under a name: steps and order in JSON, with columns named by their ids.
CREATE TABLE dataset_view (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    dataset_id INTEGER NOT NULL REFERENCES dataset (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    view TEXT NOT NULL,
    UNIQUE (dataset_id, name)
) STRICT;
