-- Runs with foreign keys off, so that tables can be built anew without losing what refers to them.
--
-- AUTOINCREMENT: the address of something deleted is never given to another.

CREATE TABLE dataset_next (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    source TEXT NOT NULL,
    created_at INTEGER NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    row_count INTEGER NOT NULL,
    -- The id of the next row; ids are never given twice.
    next_row_id INTEGER NOT NULL,
    -- Whether every row id is still the place of its row, which spares reading the ids.
    ids_are_places INTEGER NOT NULL DEFAULT 1,
    -- Whether it is the table of one study, which is not listed among the datasets.
    owned INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO dataset_next (id, name, source, created_at, revision, row_count, next_row_id)
    SELECT id, name, source, created_at, revision, row_count, next_row_id FROM dataset;
DROP TABLE dataset;
ALTER TABLE dataset_next RENAME TO dataset;

CREATE TABLE dataset_column_next (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    dataset_id INTEGER NOT NULL REFERENCES dataset (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    unit TEXT,
    decimals INTEGER,
    lsl REAL,
    target REAL,
    usl REAL,
    -- The revision of the dataset at which its cells or properties last changed.
    revision INTEGER NOT NULL DEFAULT 1,
    UNIQUE (dataset_id, name),
    UNIQUE (dataset_id, position)
) STRICT;
INSERT INTO dataset_column_next (id, dataset_id, position, name, kind, unit, decimals, lsl, target, usl)
    SELECT id, dataset_id, position, name, kind, unit, decimals, lsl, target, usl FROM dataset_column;
DROP TABLE dataset_column;
ALTER TABLE dataset_column_next RENAME TO dataset_column;

-- Chunks are numbered with gaps, so that rows can be put in between without moving what follows.
UPDATE column_chunk SET chunk_no = chunk_no * 1048576;

-- In a saved study roles name columns by id; one about nothing has no dataset.
CREATE TABLE study_next (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    dataset_id INTEGER REFERENCES dataset (id) ON DELETE CASCADE,
    name TEXT,
    spec TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    created_at INTEGER NOT NULL,
    updated_at INTEGER NOT NULL
) STRICT;
INSERT INTO study_next (id, dataset_id, name, spec, revision, created_at, updated_at)
    SELECT id, dataset_id, name, spec, revision, created_at, updated_at FROM study;
DROP TABLE study;
ALTER TABLE study_next RENAME TO study;
CREATE INDEX study_by_dataset ON study (dataset_id);

UPDATE study SET spec = json_set(spec, '$.roles', json((
    SELECT json_group_object(role.key, CASE role.type
        WHEN 'array' THEN (SELECT json_group_array(c.id) FROM json_each(role.value) AS one
            JOIN dataset_column AS c ON c.dataset_id = study.dataset_id AND c.name = one.value)
        ELSE (SELECT c.id FROM dataset_column AS c WHERE c.dataset_id = study.dataset_id AND c.name = role.value) END)
    FROM json_each(study.spec, '$.roles') AS role)))
WHERE json_type(spec, '$.roles') = 'object';
UPDATE history SET before = json_set(before, '$.roles', json((
    SELECT json_group_object(role.key, CASE role.type
        WHEN 'array' THEN (SELECT json_group_array(c.id) FROM json_each(role.value) AS one
            JOIN dataset_column AS c ON c.dataset_id = history.dataset_id AND c.name = one.value)
        ELSE (SELECT c.id FROM dataset_column AS c WHERE c.dataset_id = history.dataset_id AND c.name = role.value) END)
    FROM json_each(history.before, '$.roles') AS role)))
WHERE what = 'statement' AND json_type(before, '$.roles') = 'object';
UPDATE history SET after = json_set(after, '$.roles', json((
    SELECT json_group_object(role.key, CASE role.type
        WHEN 'array' THEN (SELECT json_group_array(c.id) FROM json_each(role.value) AS one
            JOIN dataset_column AS c ON c.dataset_id = history.dataset_id AND c.name = one.value)
        ELSE (SELECT c.id FROM dataset_column AS c WHERE c.dataset_id = history.dataset_id AND c.name = role.value) END)
    FROM json_each(history.after, '$.roles') AS role)))
WHERE what IN ('statement', 'study-created') AND json_type(after, '$.roles') = 'object';

-- 'stands' can be undone, 'undone' can be redone, 'dropped' was undone and then overtaken by another change, 'fixed' can
-- be neither. `undone_by` is the line that undid it, which keeps what redoing needs.
ALTER TABLE history ADD COLUMN stage TEXT NOT NULL DEFAULT 'stands';
ALTER TABLE history ADD COLUMN undone_by INTEGER;
UPDATE history SET stage = CASE
    WHEN what IN ('undo', 'dataset-created', 'study-created') THEN 'fixed'
    WHEN undone THEN 'dropped'
    -- Older changes of cells and kinds have no images to be undone from.
    WHEN what IN ('cell', 'column') THEN 'fixed'
    ELSE 'stands' END;
ALTER TABLE history DROP COLUMN undone;
UPDATE history SET target = json_remove(json_set(target, '$.row_id', json_extract(target, '$.row')), '$.row') WHERE what = 'cell';
CREATE INDEX history_by_study ON history (study_id, id);

-- What a change replaced in a chunk: `cells` stood between the first `front` and the last `back` bytes, which stayed.
-- `row_count` is null where there was no such chunk.
CREATE TABLE before_image (
    history_id INTEGER NOT NULL REFERENCES history (id) ON DELETE CASCADE,
    column_id INTEGER NOT NULL,
    chunk_no INTEGER NOT NULL,
    row_count INTEGER,
    front INTEGER NOT NULL,
    back INTEGER NOT NULL,
    cells BLOB NOT NULL,
    PRIMARY KEY (history_id, column_id, chunk_no)
) STRICT, WITHOUT ROWID;
