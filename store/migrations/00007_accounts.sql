-- +goose Up
-- Accounts: a second factor, links to set a password, sessions that can be seen and ended, known devices, and what happened.
ALTER TABLE firms ADD COLUMN owners_second_factor boolean NOT NULL DEFAULT false;
ALTER TABLE people ADD COLUMN totp_secret text NOT NULL DEFAULT '', -- set while it is being set up, and after
  ADD COLUMN totp_on boolean NOT NULL DEFAULT false,
  ADD COLUMN totp_step bigint NOT NULL DEFAULT 0; -- the last half minute whose code was taken: none is taken twice
ALTER TABLE sessions ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
  ADD COLUMN seen_at timestamptz NOT NULL DEFAULT now(),
  ADD COLUMN network text NOT NULL DEFAULT '',
  ADD COLUMN agent text NOT NULL DEFAULT '';
CREATE INDEX sessions_person ON sessions (firm_id, person_id);
CREATE INDEX sessions_end ON sessions (expires_at);

CREATE TABLE recovery_codes (
  firm_id uuid NOT NULL REFERENCES firms,
  person_id uuid NOT NULL,
  code_hash bytea NOT NULL,
  used_at timestamptz,
  PRIMARY KEY (person_id, code_hash),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);

CREATE TABLE password_links (
  token_hash bytea PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  person_id uuid NOT NULL,
  sent_by uuid,
  created_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL,
  used_at timestamptz,
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX password_links_person ON password_links (firm_id, person_id);

-- Devices on which a person has signed in before: guessing from elsewhere does not slow them down.
CREATE TABLE known_devices (
  firm_id uuid NOT NULL REFERENCES firms,
  person_id uuid NOT NULL,
  device_hash bytea NOT NULL,
  used_at timestamptz NOT NULL,
  PRIMARY KEY (person_id, device_hash),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);

-- What happened to accounts: who, to whom, from where, and how it went. The table only grows.
CREATE TABLE events (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  at timestamptz NOT NULL,
  kind text NOT NULL CHECK (kind <> ''),
  person_id uuid,
  about_id uuid,
  network text NOT NULL DEFAULT '',
  agent text NOT NULL DEFAULT '',
  detail text NOT NULL DEFAULT ''
);
CREATE INDEX events_firm ON events (firm_id, id);
CREATE TRIGGER events_grow BEFORE UPDATE OR DELETE ON events FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- +goose StatementBegin
CREATE PROCEDURE lock_firm(t text) LANGUAGE plpgsql AS $$
BEGIN
  EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
  EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
  EXECUTE format('CREATE POLICY own_firm ON %I USING (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid) WITH CHECK (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid)', t);
END $$;
-- +goose StatementEnd
CALL lock_firm('recovery_codes');
CALL lock_firm('password_links');
CALL lock_firm('known_devices');
CALL lock_firm('events');

-- The narrow doors anew: what is asked before the firm is known.
DROP FUNCTION sign_in_person(text);
DROP FUNCTION session_person(bytea, timestamptz);
CREATE FUNCTION sign_in_person(mail text, device bytea) RETURNS TABLE (id uuid, firm_id uuid, password_hash text, known boolean)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT p.id, p.firm_id, p.password_hash, EXISTS (SELECT FROM known_devices d WHERE d.person_id = p.id AND d.device_hash = device)
     FROM people p WHERE p.email = lower(mail) AND p.active $$;
CREATE FUNCTION session_person(hash bytea, idle interval)
  RETURNS TABLE (id uuid, firm_id uuid, person_id uuid, csrf text, name text, role text, seen_at timestamptz, must_enrol boolean)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT s.id, s.firm_id, s.person_id, s.csrf, p.name, p.role, s.seen_at, f.owners_second_factor AND p.role = 'owner' AND NOT p.totp_on
     FROM sessions s JOIN people p ON p.id = s.person_id AND p.active JOIN firms f ON f.id = s.firm_id
     WHERE s.token_hash = hash AND s.expires_at > now() AND s.seen_at > now() - idle $$;
CREATE FUNCTION link_person(hash bytea) RETURNS TABLE (firm_id uuid, person_id uuid)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT l.firm_id, l.person_id FROM password_links l JOIN people p ON p.id = l.person_id AND p.active
     WHERE l.token_hash = hash AND l.used_at IS NULL AND l.expires_at > now() $$;
-- What has run out is swept for all firms; the count is all that comes out.
CREATE FUNCTION sweep(idle interval) RETURNS integer
  LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ WITH s AS (DELETE FROM sessions WHERE expires_at < now() OR seen_at < now() - idle RETURNING 1),
          l AS (DELETE FROM password_links WHERE expires_at < now() - interval '30 days' RETURNING 1),
          d AS (DELETE FROM known_devices WHERE used_at < now() - interval '180 days' RETURNING 1),
          r AS (DELETE FROM watch_runs w WHERE w.finished_at < now() - interval '90 days' RETURNING 1)
     SELECT ((SELECT count(*) FROM s) + (SELECT count(*) FROM l) + (SELECT count(*) FROM d) + (SELECT count(*) FROM r))::integer $$;

-- +goose Down
DROP FUNCTION sweep(interval);
DROP FUNCTION link_person(bytea);
DROP FUNCTION session_person(bytea, interval);
DROP FUNCTION sign_in_person(text, bytea);
CREATE FUNCTION sign_in_person(mail text) RETURNS TABLE (id uuid, firm_id uuid, password_hash text)
  LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT id, firm_id, password_hash FROM people WHERE email = lower(mail) AND active $$;
CREATE FUNCTION session_person(hash bytea, at timestamptz) RETURNS TABLE (firm_id uuid, person_id uuid, csrf text)
  LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT s.firm_id, s.person_id, s.csrf FROM sessions s JOIN people p ON p.id = s.person_id AND p.active WHERE s.token_hash = hash AND s.expires_at > at $$;
DROP TABLE events, known_devices, password_links, recovery_codes;
DROP PROCEDURE lock_firm(text);
DROP INDEX sessions_end, sessions_person;
ALTER TABLE sessions DROP COLUMN agent, DROP COLUMN network, DROP COLUMN seen_at, DROP COLUMN id;
ALTER TABLE people DROP COLUMN totp_step, DROP COLUMN totp_on, DROP COLUMN totp_secret;
ALTER TABLE firms DROP COLUMN owners_second_factor;
