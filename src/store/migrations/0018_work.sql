-- What a rendition's encode comes to, so that what is left of a queue is told without reading its plans.
ALTER TABLE rendition ADD COLUMN work jsonb;
