-- Lists that identifiers are chosen from, shared between plans.
CREATE TABLE choice_list (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE,
    -- In JSON, in their order.
    choices TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1
) STRICT;

-- What is collected at stations.
CREATE TABLE collection_plan (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    dataset_id INTEGER NOT NULL REFERENCES dataset (id) ON DELETE CASCADE,
    -- The chart that watches it.
    study_id INTEGER REFERENCES study (id) ON DELETE SET NULL,
    -- The number of the next subgroup.
    next_subgroup INTEGER NOT NULL,
    -- How many entries stand, so that nobody has to count them.
    entries INTEGER NOT NULL DEFAULT 0,
    version INTEGER NOT NULL DEFAULT 1,
    created_at INTEGER NOT NULL
) STRICT;
CREATE INDEX collection_plan_by_dataset ON collection_plan (dataset_id);

-- Every version as it was followed; the newest is the one that is.
CREATE TABLE collection_version (
    plan_id INTEGER NOT NULL REFERENCES collection_plan (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    -- In JSON; its columns by the names that they had, with their ids beside it.
    stated TEXT NOT NULL,
    column_ids TEXT NOT NULL,
    actor TEXT NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (plan_id, version)
) STRICT, WITHOUT ROWID;

-- Where a plan is followed.
CREATE TABLE station (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    plan_id INTEGER NOT NULL REFERENCES collection_plan (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    -- With which a gauge names it.
    key TEXT NOT NULL UNIQUE,
    -- The shape of the lines that its gauge sends.
    pattern TEXT NOT NULL,
    UNIQUE (plan_id, name)
) STRICT;

-- What was entered. The key is the station's own: the same key twice is one entry.
CREATE TABLE entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    plan_id INTEGER NOT NULL REFERENCES collection_plan (id) ON DELETE CASCADE,
    station_id INTEGER NOT NULL REFERENCES station (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    version INTEGER NOT NULL,
    -- When it was made by the clock of the station, and when it arrived.
    at INTEGER NOT NULL,
    arrived_at INTEGER NOT NULL,
    subgroup INTEGER NOT NULL,
    first_row INTEGER NOT NULL,
    row_count INTEGER NOT NULL,
    remark TEXT NOT NULL,
    confirmed INTEGER NOT NULL,
    -- Values beyond specification, in JSON; what was said about them, null while nothing was.
    beyond TEXT NOT NULL,
    reaction TEXT,
    taken_back INTEGER NOT NULL DEFAULT 0,
    UNIQUE (station_id, key)
) STRICT;
CREATE INDEX entry_by_plan ON entry (plan_id, at);
