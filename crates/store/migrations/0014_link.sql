-- A table made of another that follows it: how it is made, with columns by their ids, and the revisions that it was made at.
-- What it was made of may be gone, which it then says.
CREATE TABLE dataset_link (
    dataset_id INTEGER PRIMARY KEY REFERENCES dataset (id) ON DELETE CASCADE,
    from_id INTEGER NOT NULL,
    with_id INTEGER,
    how TEXT NOT NULL,
    only TEXT NOT NULL,
    ordered TEXT NOT NULL,
    -- The columns that were made, each by the name it was made under and its id.
    made TEXT NOT NULL,
    seen TEXT NOT NULL,
    problem TEXT
) STRICT;
