-- +goose Up
-- A letter every morning for those who want one: one row a person, of the last day of which one was sent.
ALTER TABLE people ADD COLUMN morning_letter boolean NOT NULL DEFAULT false;
CREATE TABLE morning_letters (
  person_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  day date NOT NULL,
  claimed_at timestamptz NOT NULL,
  sent_at timestamptz,
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CALL lock_firm('morning_letters');

-- The firms in which somebody wants one: the night's only way to them.
-- +goose StatementBegin
CREATE FUNCTION morning_firms() RETURNS TABLE (firm_id uuid, timezone text)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
  SELECT f.id, f.timezone FROM firms f
  WHERE EXISTS (SELECT FROM people p WHERE p.firm_id = f.id AND p.active AND p.morning_letter) ORDER BY f.id
$$;
-- +goose StatementEnd
REVOKE EXECUTE ON FUNCTION morning_firms() FROM PUBLIC;

-- +goose Down
DROP FUNCTION morning_firms();
DROP TABLE morning_letters;
ALTER TABLE people DROP COLUMN morning_letter;
