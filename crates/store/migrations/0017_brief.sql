-- The last answer to a question in brief, so that the Wall and the list of signals stand at once after a restart.
CREATE TABLE brief (
    question TEXT PRIMARY KEY,
    -- The revisions of the columns that it rests on, and the version that worked it out.
    rests_on TEXT NOT NULL,
    brief TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
