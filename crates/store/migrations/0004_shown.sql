-- Which marks of its figure a study shows or hides, where that is not as usual: a JSON object of names with true or false.
ALTER TABLE study ADD COLUMN shown TEXT NOT NULL DEFAULT '{}';
