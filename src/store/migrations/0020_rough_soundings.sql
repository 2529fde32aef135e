-- Whether a sounding was made before its programme was analysed: it is made again, at places by how busy they are. Those before were all
-- of evenly spaced places.
ALTER TABLE sounding ADD COLUMN is_rough boolean NOT NULL DEFAULT true;
