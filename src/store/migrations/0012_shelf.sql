-- Recipes, bundles of them, and briefs, as people keep them.
CREATE TABLE shelf (
  id         text PRIMARY KEY,
  kind       text NOT NULL,
  name       text NOT NULL,
  notes      text NOT NULL,
  tags       jsonb NOT NULL,
  starred    boolean NOT NULL,
  -- Rising; smaller comes first.
  position   double precision NOT NULL,
  body       jsonb NOT NULL,
  changed_at timestamptz NOT NULL,
  removed_at timestamptz
);

CREATE INDEX shelf_order ON shelf (kind, position);

-- Settings that hold for all: the queue, and what new programmes begin with.
CREATE TABLE setting (
  name  text PRIMARY KEY,
  value jsonb NOT NULL
);
