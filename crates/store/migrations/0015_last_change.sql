-- The id that a page gave its last change, so that a page that was closed over one knows whether that one arrived.
ALTER TABLE study ADD COLUMN last_change TEXT;
