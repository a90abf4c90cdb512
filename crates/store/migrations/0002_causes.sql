-- Causes that a column's signals may have, in the order in which they were first given.
CREATE TABLE cause (
    id INTEGER PRIMARY KEY,
    column_id INTEGER NOT NULL REFERENCES dataset_column (id) ON DELETE CASCADE,
    words TEXT NOT NULL,
    UNIQUE (column_id, words)
) STRICT;

-- What is known about a signal of a study. The signal is found again by its panel, its pattern and its rows, so
-- that it keeps its finding when limits move or rows are added. Its rows are left out of the limits only with a cause.
CREATE TABLE finding (
    id INTEGER PRIMARY KEY,
    study_id INTEGER NOT NULL REFERENCES study (id) ON DELETE CASCADE,
    panel TEXT NOT NULL,
    pattern TEXT NOT NULL,
    row_ids TEXT NOT NULL,
    sentence TEXT NOT NULL,
    cause_id INTEGER REFERENCES cause (id),
    words TEXT NOT NULL,
    action TEXT NOT NULL,
    owner TEXT NOT NULL,
    due TEXT,
    done INTEGER NOT NULL,
    left_out INTEGER NOT NULL,
    actor TEXT NOT NULL,
    at INTEGER NOT NULL,
    CHECK (left_out = 0 OR cause_id IS NOT NULL)
) STRICT;

CREATE INDEX finding_by_study ON finding (study_id);
