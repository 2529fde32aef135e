-- Of the time a rendition took, the share in which other work of this process went on beside it; null where nobody counted.
ALTER TABLE rendition ADD COLUMN beside_share double precision;
