-- +goose Up
-- What a client tells of a lawn before anybody has looked at it, through the link of their page. It is nobody's finding until it is
-- confirmed on a visit.
CREATE TABLE calls (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  link_id uuid NOT NULL,
  told_at timestamptz NOT NULL,
  told_on date NOT NULL,
  picked jsonb NOT NULL,
  answers jsonb NOT NULL,
  note text NOT NULL DEFAULT '',
  within text NOT NULL CHECK (within IN ('today', 'this-week', 'next-tour')),
  per_day double precision NOT NULL CHECK (per_day >= 0),
  because jsonb NOT NULL,
  visit_id uuid,
  aside_at timestamptz,
  aside_by uuid,
  UNIQUE (firm_id, id),
  CHECK ((aside_at IS NULL) = (aside_by IS NULL)),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, link_id) REFERENCES client_links (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, aside_by) REFERENCES people (firm_id, id)
);
CREATE INDEX calls_open ON calls (firm_id, told_at) WHERE aside_at IS NULL;
CREATE INDEX calls_visit ON calls (firm_id, visit_id) WHERE visit_id IS NOT NULL;
CREATE INDEX calls_link ON calls (firm_id, link_id, told_at);
CREATE TABLE call_pictures (
  id uuid PRIMARY KEY,
  call_id uuid NOT NULL,
  place integer NOT NULL CHECK (place BETWEEN 1 AND 6),
  firm_id uuid NOT NULL REFERENCES firms,
  picture bytea NOT NULL,
  thumbnail bytea NOT NULL,
  UNIQUE (call_id, place),
  FOREIGN KEY (firm_id, call_id) REFERENCES calls (firm_id, id)
);
CALL lock_firm('calls');
CALL lock_firm('call_pictures');

-- +goose Down
DROP TABLE call_pictures;
DROP TABLE calls;
