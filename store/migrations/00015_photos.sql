-- +goose Up
-- Photographs of a zone, taken on a visit: what was measured in them, and the picture itself in a table of its own, so that lists do
-- not drag it along.
CREATE TABLE photos (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  person_id uuid NOT NULL,
  taken_at timestamptz NOT NULL,
  recorded_at timestamptz NOT NULL,
  kind text NOT NULL CHECK (kind IN ('measure', 'show')),
  about text NOT NULL CHECK (about IN ('cover', 'moss')),
  spot text NOT NULL CHECK (spot IN ('', 'worst', 'healthy')),
  east_m double precision, -- from the site; never told to a client
  north_m double precision,
  tilt double precision, -- degrees from straight down
  note text NOT NULL DEFAULT '',
  width integer NOT NULL,
  height integer NOT NULL,
  wanted jsonb NOT NULL, -- limits, grey card and what was pointed out, by which it was measured
  cover double precision,
  cover_error double precision,
  colour_index double precision,
  faults jsonb NOT NULL DEFAULT '[]',
  UNIQUE (firm_id, id),
  CHECK ((east_m IS NULL) = (north_m IS NULL)),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX photos_zone ON photos (firm_id, zone_id, taken_at);
CREATE INDEX photos_visit ON photos (firm_id, visit_id, zone_id);
CREATE TABLE pictures (
  photo_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  sha256 bytea NOT NULL,
  picture bytea NOT NULL,
  thumbnail bytea NOT NULL,
  FOREIGN KEY (firm_id, photo_id) REFERENCES photos (firm_id, id) ON DELETE CASCADE
);
ALTER TABLE pictures ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN thumbnail SET STORAGE EXTERNAL;
CALL lock_firm('photos');
CALL lock_firm('pictures');

-- +goose Down
DROP TABLE pictures, photos;
