-- The order line of a programme as it was left, in whichever browser.
CREATE TABLE working_order (
  programme_id text PRIMARY KEY REFERENCES programme (id) ON DELETE CASCADE,
  recipe       jsonb NOT NULL,
  changed_at   timestamptz NOT NULL
);
