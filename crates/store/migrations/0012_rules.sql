-- What the values of a column can be and are believed to be, in JSON.
ALTER TABLE dataset_column ADD COLUMN rules TEXT;
