-- A sounding is of a portion. Those of whole programmes counted a keyframe in every stretch and are measured again.
DELETE FROM sounding;
ALTER TABLE sounding ADD COLUMN in_frame integer NOT NULL;
ALTER TABLE sounding ADD COLUMN frame_count integer NOT NULL;
ALTER TABLE sounding DROP CONSTRAINT sounding_pkey;
ALTER TABLE sounding ADD PRIMARY KEY (programme_id, codec, width, height, preparation, in_frame, frame_count);
