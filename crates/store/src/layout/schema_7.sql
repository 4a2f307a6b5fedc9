-- A production has many scenes; one that is not wanted any more goes into the bin. Pictures are kept
-- beside what they are of, so that lists have them at once: they are no edits, and can be made again.
ALTER TABLE scene ADD COLUMN binned_at TEXT;
CREATE TABLE picture (
  -- scene or take.
  of TEXT NOT NULL,
  id INTEGER NOT NULL,
  -- Of a take: first, middle, last.
  part INTEGER NOT NULL,
  -- What it was drawn of, as the page says it: another word, another picture.
  made_of TEXT NOT NULL,
  bytes BLOB NOT NULL,
  PRIMARY KEY (of, id, part)
);
