-- A take may be a pass over another; it remembers what it was rolled against and by what, and the
-- packets of the device that moved it. A setup knows its device. What performers and props do may
-- be driven, and is journalled like a take.
ALTER TABLE take ADD COLUMN pass_of INTEGER REFERENCES take(id);
ALTER TABLE take ADD COLUMN pass TEXT;
ALTER TABLE take ADD COLUMN muted INTEGER NOT NULL DEFAULT 0;
ALTER TABLE take ADD COLUMN rolled TEXT NOT NULL DEFAULT '{"version":1,"value":{}}';
ALTER TABLE setup ADD COLUMN tracking TEXT NOT NULL DEFAULT '{"version":1,"value":{}}';
CREATE TABLE take_packets (
  take_id INTEGER NOT NULL REFERENCES take(id),
  seq INTEGER NOT NULL,
  packets INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (take_id, seq)
);
CREATE TRIGGER take_packets_are_final BEFORE UPDATE ON take_packets
BEGIN SELECT RAISE(ABORT, 'raw packets never change'); END;
CREATE TABLE driven (
  id INTEGER PRIMARY KEY,
  scene_id INTEGER NOT NULL REFERENCES scene(id),
  performance_id INTEGER NOT NULL,
  -- Whose motion it is: performer or piece.
  kind TEXT NOT NULL,
  mover_id INTEGER NOT NULL,
  -- The take that was rolled with it.
  take_id INTEGER,
  rolled_at TEXT NOT NULL,
  rate_hz REAL NOT NULL,
  -- 1 until it has become a path of the performance.
  rolling INTEGER NOT NULL
);
CREATE TABLE driven_chunk (
  driven_id INTEGER NOT NULL REFERENCES driven(id),
  seq INTEGER NOT NULL,
  samples INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (driven_id, seq)
);
CREATE TRIGGER driven_chunk_is_final BEFORE UPDATE ON driven_chunk
BEGIN SELECT RAISE(ABORT, 'raw samples never change'); END;
