-- The code of a label: a table of its own rather than an index of `category`, so that it can be filled in its own order.
CREATE TABLE label_code (
    column_id INTEGER NOT NULL REFERENCES dataset_column (id) ON DELETE CASCADE,
    label TEXT NOT NULL,
    code INTEGER NOT NULL,
    PRIMARY KEY (column_id, label)
) STRICT, WITHOUT ROWID;

INSERT INTO label_code (column_id, label, code) SELECT column_id, label, code FROM category ORDER BY column_id, label;
