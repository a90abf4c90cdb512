-- The hidden column of row ids is called what no column of a file can be called.
UPDATE dataset_column SET name = char(1) || 'row id' WHERE kind = 'row-id';
