-- +goose Up
-- Lists of a large firm: pages in the order of names, what is open by its day, and the verdict on a recovery as it was judged when it was
-- measured, so that a day's page asks for what has gone off course instead of working it out.
-- 9 Elm Street comes before 10 Elm Street.
CREATE COLLATION by_number (provider = icu, locale = 'en-u-kn-true');
CREATE INDEX sites_by_name ON sites (firm_id, name COLLATE by_number, id);
CREATE INDEX clients_by_name ON clients (firm_id, name, id);
CREATE INDEX visits_open ON visits (firm_id, due_on, id) WHERE closed_on IS NULL;
CREATE INDEX visits_closed ON visits (firm_id, closed_on) WHERE closed_on IS NOT NULL;
CREATE INDEX visits_zone ON visits (firm_id, zone_id) WHERE zone_id IS NOT NULL;
CREATE INDEX diagnoses_visit ON diagnoses (firm_id, visit_id);
CREATE INDEX treatment_records_visit ON treatment_records (firm_id, visit_id);

CREATE TABLE zone_courses (
  zone_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  verdict text NOT NULL CHECK (verdict IN ('not-yet', 'on-course', 'slow', 'off-course', 'recovered')),
  reason text NOT NULL,
  judged_on date NOT NULL,
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);
CREATE INDEX zone_courses_straying ON zone_courses (firm_id, judged_on) WHERE verdict IN ('slow', 'off-course');
CALL lock_firm('zone_courses');

-- What the watch tells, counted and listed by thing.
CREATE INDEX watch_notices_things ON watch_notices (firm_id, kind, subject, level DESC, id) INCLUDE (told_on, noted_on) WHERE ended_on IS NULL;

-- What a site is found by: its name, its client's and its address, in small letters, kept by the database itself.
ALTER TABLE sites ADD COLUMN found_by text NOT NULL DEFAULT '';
-- +goose StatementBegin
CREATE FUNCTION site_found_by() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  NEW.found_by := lower(NEW.name || ' ' || coalesce((SELECT c.name FROM clients c WHERE c.id = NEW.client_id), '') || ' ' || NEW.address);
  RETURN NEW;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION client_found_by() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  UPDATE sites SET name = name WHERE client_id = NEW.id;
  RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER found_by BEFORE INSERT OR UPDATE OF name, address, client_id ON sites FOR EACH ROW EXECUTE FUNCTION site_found_by();
CREATE TRIGGER found_by AFTER UPDATE OF name ON clients FOR EACH ROW WHEN (OLD.name <> NEW.name) EXECUTE FUNCTION client_found_by();
CREATE INDEX sites_client ON sites (firm_id, client_id);
ALTER TABLE sites NO FORCE ROW LEVEL SECURITY;
UPDATE sites SET name = name;
ALTER TABLE sites FORCE ROW LEVEL SECURITY;

-- Where the firm's office is: its day is that of lists and reports; a visit has the day of its site.
ALTER TABLE firms ADD COLUMN timezone text NOT NULL DEFAULT 'UTC';
ALTER TABLE firms NO FORCE ROW LEVEL SECURITY;
ALTER TABLE sites NO FORCE ROW LEVEL SECURITY;
UPDATE firms f SET timezone = s.timezone FROM (SELECT DISTINCT ON (firm_id) firm_id, timezone FROM sites ORDER BY firm_id, id) s WHERE s.firm_id = f.id;
ALTER TABLE sites FORCE ROW LEVEL SECURITY;
ALTER TABLE firms FORCE ROW LEVEL SECURITY;

-- Who is behind a session and what every page asks of person and firm, in one question whose plan is kept between calls.
DROP FUNCTION session_person(bytea, interval);
-- +goose StatementBegin
CREATE FUNCTION session_person(hash bytea, idle interval)
  RETURNS TABLE (id uuid, firm_id uuid, person_id uuid, csrf text, name text, role text, seen_at timestamptz, must_enrol boolean, email text,
    totp_on boolean, licence_until date, firm text, country text, currency text, date_form text, unit_system text, firm_units text, timezone text)
  LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  RETURN QUERY SELECT s.id, s.firm_id, s.person_id, s.csrf, p.name, p.role, s.seen_at, f.owners_second_factor AND p.role = 'owner' AND NOT p.totp_on,
      p.email, p.totp_on, p.licence_until, f.name, f.country, f.currency, coalesce(nullif(p.date_form, ''), f.date_form),
      coalesce(nullif(p.unit_system, ''), f.unit_system), f.unit_system, f.timezone
    FROM sessions s JOIN people p ON p.id = s.person_id AND p.active JOIN firms f ON f.id = s.firm_id
    WHERE s.token_hash = hash AND s.expires_at > now() AND s.seen_at > now() - idle;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP FUNCTION session_person(bytea, interval);
CREATE FUNCTION session_person(hash bytea, idle interval)
  RETURNS TABLE (id uuid, firm_id uuid, person_id uuid, csrf text, name text, role text, seen_at timestamptz, must_enrol boolean)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT s.id, s.firm_id, s.person_id, s.csrf, p.name, p.role, s.seen_at, f.owners_second_factor AND p.role = 'owner' AND NOT p.totp_on
     FROM sessions s JOIN people p ON p.id = s.person_id AND p.active JOIN firms f ON f.id = s.firm_id
     WHERE s.token_hash = hash AND s.expires_at > now() AND s.seen_at > now() - idle $$;
ALTER TABLE firms DROP COLUMN timezone;
DROP INDEX sites_client;
DROP TRIGGER found_by ON clients;
DROP TRIGGER found_by ON sites;
DROP FUNCTION client_found_by, site_found_by;
ALTER TABLE sites DROP COLUMN found_by;
DROP INDEX watch_notices_things;
DROP TABLE zone_courses;
DROP INDEX treatment_records_visit, diagnoses_visit, visits_zone, visits_closed, visits_open, clients_by_name, sites_by_name;
DROP COLLATION by_number;
