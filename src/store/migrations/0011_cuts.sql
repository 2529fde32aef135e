-- Frames at which a copy may begin; found when a portion is first copied.
ALTER TABLE programme ADD COLUMN cuts bytea;
