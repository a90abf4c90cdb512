-- Limits that differ between rows, in JSON; the columns that choose them by their ids.
ALTER TABLE dataset_column ADD COLUMN limit_table TEXT;
