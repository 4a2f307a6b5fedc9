-- A move names the performance that it plays against; none: that of its take, or of the move that it follows, or
-- the one that plays in the scene.
ALTER TABLE move ADD COLUMN performance_id INTEGER REFERENCES performance(id);
