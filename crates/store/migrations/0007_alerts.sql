-- Pieces that a station's machine has made, by its counter, which may begin anew.
ALTER TABLE station ADD COLUMN made INTEGER NOT NULL DEFAULT 0;
ALTER TABLE station ADD COLUMN counter INTEGER NOT NULL DEFAULT 0;
-- Nobody measures there any more.
ALTER TABLE station ADD COLUMN closed INTEGER NOT NULL DEFAULT 0;
-- Pieces that were made when it was entered.
ALTER TABLE entry ADD COLUMN made INTEGER NOT NULL DEFAULT 0;
CREATE INDEX entry_waiting ON entry (plan_id) WHERE beyond <> '[]' AND reaction IS NULL AND NOT taken_back;

-- The charts that watch a plan, in their order.
CREATE TABLE collection_study (
    plan_id INTEGER NOT NULL REFERENCES collection_plan (id) ON DELETE CASCADE,
    study_id INTEGER NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    place INTEGER NOT NULL,
    PRIMARY KEY (plan_id, study_id)
) STRICT, WITHOUT ROWID;
INSERT INTO collection_study SELECT id, study_id, 0 FROM collection_plan WHERE study_id IS NOT NULL;
ALTER TABLE collection_plan DROP COLUMN study_id;

-- What somebody is to know. It is open until it is over; taken on, nobody is told of it any more.
CREATE TABLE alert (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    plan_id INTEGER NOT NULL REFERENCES collection_plan (id) ON DELETE CASCADE,
    -- What it is about, such as 'beyond 3' of the third station.
    about TEXT NOT NULL,
    -- Grows with what it is about.
    newest INTEGER NOT NULL,
    count INTEGER NOT NULL,
    words TEXT NOT NULL,
    began_at INTEGER NOT NULL,
    taken_by TEXT,
    taken_at INTEGER,
    over_at INTEGER
) STRICT;
CREATE UNIQUE INDEX alert_open ON alert (plan_id, about) WHERE over_at IS NULL;

-- Who was told of it, or could not be.
CREATE TABLE alert_told (
    alert_id INTEGER NOT NULL REFERENCES alert (id) ON DELETE CASCADE,
    address TEXT NOT NULL,
    tried_at INTEGER NOT NULL,
    times INTEGER NOT NULL,
    -- How often it failed since it last went well, and why.
    failed INTEGER NOT NULL,
    problem TEXT,
    PRIMARY KEY (alert_id, address)
) STRICT, WITHOUT ROWID;

-- Where a characteristic hangs on the Wall, and what it is grouped by.
CREATE TABLE wall_place (
    column_id INTEGER PRIMARY KEY REFERENCES dataset_column (id) ON DELETE CASCADE,
    line TEXT NOT NULL,
    product TEXT NOT NULL,
    place INTEGER NOT NULL
) STRICT;

-- How each stood on the Wall when it was last looked at on a day.
CREATE TABLE wall_day (
    study_id INTEGER NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    -- As 2026-05-04.
    day TEXT NOT NULL,
    steady INTEGER NOT NULL,
    signals INTEGER NOT NULL,
    ppk REAL,
    PRIMARY KEY (study_id, day)
) STRICT, WITHOUT ROWID;
