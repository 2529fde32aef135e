-- Of pictures whose rate varies: when each frame is shown, in seconds from the first, as 64-bit floating-point numbers.
ALTER TABLE programme ADD COLUMN frame_times bytea;

-- Those are looked at again, for their times.
UPDATE programme SET state = 'looking' WHERE facts->'video'->>'constantRate' = 'false';

-- Cropped or deinterlaced a programme costs otherwise at the same frame size.
ALTER TABLE sounding ADD COLUMN preparation text NOT NULL DEFAULT '';
ALTER TABLE sounding DROP CONSTRAINT sounding_pkey;
ALTER TABLE sounding ADD PRIMARY KEY (programme_id, codec, width, height, preparation);
