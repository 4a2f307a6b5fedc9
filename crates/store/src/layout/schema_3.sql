-- A setup's machine can be sent to stored positions, and its move can be set by keys.
ALTER TABLE setup ADD COLUMN positions TEXT NOT NULL DEFAULT '{"version":1,"value":[]}';
ALTER TABLE setup ADD COLUMN keys TEXT NOT NULL DEFAULT '{"version":1,"value":[]}';
