-- Identity, order and relations are columns; parameter structs are versioned JSON.
CREATE TABLE production (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL
);
CREATE TABLE scene (
  id INTEGER PRIMARY KEY,
  production_id INTEGER NOT NULL REFERENCES production(id),
  ord INTEGER NOT NULL,
  number TEXT NOT NULL,
  name TEXT NOT NULL,
  rate_num INTEGER NOT NULL,
  rate_den INTEGER NOT NULL,
  length_s REAL NOT NULL,
  start_frame INTEGER NOT NULL,
  stage TEXT NOT NULL
);
CREATE TABLE piece (
  id INTEGER PRIMARY KEY,
  scene_id INTEGER NOT NULL REFERENCES scene(id),
  ord INTEGER NOT NULL,
  params TEXT NOT NULL
);
CREATE TABLE performer (
  id INTEGER PRIMARY KEY,
  scene_id INTEGER NOT NULL REFERENCES scene(id),
  ord INTEGER NOT NULL,
  params TEXT NOT NULL
);
CREATE TABLE setup (
  id INTEGER PRIMARY KEY,
  scene_id INTEGER NOT NULL REFERENCES scene(id),
  ord INTEGER NOT NULL,
  letter TEXT NOT NULL,
  name TEXT NOT NULL,
  camera TEXT NOT NULL,
  rig TEXT NOT NULL,
  binned_at TEXT
);
-- A take keeps the camera and the rig it was rolled with: moving the crane later must not
-- move what was recorded.
CREATE TABLE take (
  id INTEGER PRIMARY KEY,
  setup_id INTEGER NOT NULL REFERENCES setup(id),
  number INTEGER NOT NULL,
  name TEXT NOT NULL,
  rating TEXT NOT NULL DEFAULT '',
  note TEXT NOT NULL DEFAULT '',
  rolled_at TEXT NOT NULL,
  -- Frames a second of the scene as it was rolled.
  rate_num INTEGER NOT NULL,
  rate_den INTEGER NOT NULL,
  -- Samples a second, and values in a sample.
  rate_hz REAL NOT NULL,
  width INTEGER NOT NULL,
  camera TEXT NOT NULL,
  rig TEXT NOT NULL,
  -- The move: what is done to the take.
  treatments TEXT NOT NULL,
  -- 1 until the roll is closed.
  rolling INTEGER NOT NULL,
  recovered INTEGER NOT NULL DEFAULT 0,
  flags TEXT NOT NULL DEFAULT '',
  binned_at TEXT
);
CREATE TABLE take_chunk (
  take_id INTEGER NOT NULL REFERENCES take(id),
  seq INTEGER NOT NULL,
  samples INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (take_id, seq)
);
CREATE TRIGGER take_chunk_is_final BEFORE UPDATE ON take_chunk
BEGIN SELECT RAISE(ABORT, 'raw samples never change'); END;
CREATE TABLE history (
  id INTEGER PRIMARY KEY,
  label TEXT NOT NULL,
  -- Edits of one gesture (a slider being dragged) share an entry.
  gesture TEXT,
  changes TEXT NOT NULL,
  undone INTEGER NOT NULL DEFAULT 0
);
CREATE TABLE remembered (
  key TEXT PRIMARY KEY,
  value TEXT NOT NULL
);
