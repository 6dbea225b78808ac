-- +goose Up
-- Notes, typed or spoken, on a zone, a check or a point of it. They are for people and never weighed. One of soft, pale or dug is what
-- somebody
-- saw on an ordinary round: it asks for a look at the next visit.
CREATE TABLE notes (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  visit_id uuid,
  person_id uuid NOT NULL,
  noted_on date NOT NULL,
  recorded_at timestamptz NOT NULL,
  kind text NOT NULL CHECK (kind IN ('note', 'soft', 'pale', 'dug')),
  finding text NOT NULL DEFAULT '',
  east_m double precision,
  north_m double precision,
  body text NOT NULL DEFAULT '',
  sound_type text NOT NULL DEFAULT '',
  UNIQUE (firm_id, id),
  CHECK ((east_m IS NULL) = (north_m IS NULL)),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX notes_zone ON notes (firm_id, zone_id, noted_on);
CREATE TABLE sounds (
  note_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  sound bytea NOT NULL,
  FOREIGN KEY (firm_id, note_id) REFERENCES notes (firm_id, id) ON DELETE CASCADE
);
ALTER TABLE sounds ALTER COLUMN sound SET STORAGE EXTERNAL;
CALL lock_firm('notes');
CALL lock_firm('sounds');

-- +goose Down
DROP TABLE sounds, notes;
