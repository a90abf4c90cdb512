-- How a file of a layout was read when one was last brought in, so that the next is read alike.
CREATE TABLE recipe (
    layout TEXT PRIMARY KEY,
    wish TEXT NOT NULL,
    actor TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
