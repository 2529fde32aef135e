-- How far a sounding may be off, as a share, where it was measured: of codecs for masters. Those before were of quick encodes, which all
-- have the same.
ALTER TABLE sounding ADD COLUMN error double precision;
