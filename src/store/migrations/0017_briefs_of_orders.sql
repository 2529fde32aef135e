-- For which receiver the order line of a programme is, as it was left.
ALTER TABLE working_order ADD COLUMN brief_id text;
