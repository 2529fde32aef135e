-- Size targets met before groups of pictures were encoded again by themselves.
UPDATE rendition SET fill = fill || '{"retouches": []}' WHERE fill IS NOT NULL;
