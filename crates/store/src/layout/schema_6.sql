-- A move is what a camera does over time, however it came to be. What is keyed is a row for each
-- axis, so that dragging a key writes one curve.
CREATE TABLE move (
  id INTEGER PRIMARY KEY,
  setup_id INTEGER NOT NULL REFERENCES setup(id),
  -- The take it comes from; none of a keyed one.
  take_id INTEGER REFERENCES take(id),
  -- The move whose camera it follows.
  follows INTEGER REFERENCES move(id),
  -- The first of its siblings; none of that one itself.
  variant_of INTEGER REFERENCES move(id),
  -- Of siblings, the one that log, pictures and command line show.
  chosen INTEGER NOT NULL DEFAULT 1,
  name TEXT NOT NULL DEFAULT '',
  treatments TEXT NOT NULL DEFAULT '{"version":1,"value":[]}',
  -- Its own; none: those of the take, or of the setup as it stands.
  camera TEXT,
  rig TEXT,
  binned_at TEXT
);
CREATE INDEX move_of_take ON move (take_id);
CREATE TABLE curve (
  id INTEGER PRIMARY KEY,
  move_id INTEGER NOT NULL REFERENCES move(id),
  axis TEXT NOT NULL,
  keys TEXT NOT NULL DEFAULT '{"version":1,"value":[]}',
  UNIQUE (move_id, axis)
);
-- The move that a setup's machine runs.
ALTER TABLE setup ADD COLUMN runs INTEGER;
-- The names of a take's columns.
ALTER TABLE take ADD COLUMN axes TEXT NOT NULL DEFAULT '[]';
