-- +goose Up
-- Every business row carries its firm. Row-level security is the second lock: the application role sees only the firm
-- named in app.firm, which is set inside each transaction. Shared tables: stations, station_days, clock (no firm's
-- business is in them). References between business rows carry the firm too, so that a foreign key cannot cross firms.

CREATE TABLE firms (
  id uuid PRIMARY KEY,
  name text NOT NULL CHECK (name <> ''),
  country text NOT NULL CHECK (country ~ '^[A-Z]{2}$'),
  currency text NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
  date_form text NOT NULL CHECK (date_form IN ('dmy', 'mdy', 'ymd')),
  unit_system text NOT NULL CHECK (unit_system IN ('metric', 'us')),
  version integer NOT NULL DEFAULT 1
);

CREATE TABLE people (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  name text NOT NULL CHECK (name <> ''),
  email text NOT NULL UNIQUE CHECK (email = lower(email)),
  role text NOT NULL CHECK (role IN ('office', 'technician', 'applicator', 'owner')),
  password_hash text NOT NULL,
  licence_number text NOT NULL DEFAULT '',
  licence_until date,
  unit_system text NOT NULL DEFAULT '' CHECK (unit_system IN ('', 'metric', 'us')),
  date_form text NOT NULL DEFAULT '' CHECK (date_form IN ('', 'dmy', 'mdy', 'ymd')),
  active boolean NOT NULL DEFAULT true,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id)
);

CREATE TABLE sessions (
  token_hash bytea PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  person_id uuid NOT NULL,
  csrf text NOT NULL,
  created_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL,
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);

CREATE TABLE stations (
  id uuid PRIMARY KEY,
  name text NOT NULL,
  latitude double precision NOT NULL CHECK (latitude BETWEEN -90 AND 90),
  longitude double precision NOT NULL CHECK (longitude BETWEEN -180 AND 180),
  simulated boolean NOT NULL,
  seed bigint NOT NULL DEFAULT 0
);

CREATE TABLE station_days (
  station_id uuid NOT NULL REFERENCES stations,
  day date NOT NULL,
  tmin_c double precision, tmax_c double precision, rain_mm double precision, rh_mean double precision, wind_ms double precision, snow_cm double precision,
  PRIMARY KEY (station_id, day)
);

CREATE TABLE clock (
  one boolean PRIMARY KEY DEFAULT true CHECK (one),
  today date NOT NULL
);

CREATE TABLE clients (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  name text NOT NULL CHECK (name <> ''),
  phone text NOT NULL DEFAULT '',
  email text NOT NULL DEFAULT '',
  notes text NOT NULL DEFAULT '',
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id)
);

CREATE TABLE sites (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  client_id uuid NOT NULL,
  station_id uuid REFERENCES stations,
  name text NOT NULL CHECK (name <> ''),
  address text NOT NULL DEFAULT '',
  latitude double precision NOT NULL CHECK (latitude BETWEEN -90 AND 90),
  longitude double precision NOT NULL CHECK (longitude BETWEEN -180 AND 180),
  timezone text NOT NULL,
  lines_located_on date,
  access_notes text NOT NULL DEFAULT '',
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, client_id) REFERENCES clients (firm_id, id)
);

CREATE TABLE zones (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  area_m2 double precision NOT NULL CHECK (area_m2 > 0 AND area_m2 <= 1e7),
  area_error double precision NOT NULL DEFAULT 0.1 CHECK (area_error BETWEEN 0 AND 1),
  species jsonb NOT NULL,
  texture text NOT NULL DEFAULT '',
  irrigated boolean,
  target_cover double precision NOT NULL DEFAULT 0.9 CHECK (target_cover > 0 AND target_cover <= 1),
  policy jsonb NOT NULL DEFAULT '{}',
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id)
);

CREATE TABLE visits (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  zone_id uuid,
  kind text NOT NULL CHECK (kind IN ('diagnosis', 'follow-up')),
  due_on date NOT NULL,
  reason text NOT NULL DEFAULT '',
  person_id uuid,
  arrived_at timestamptz,
  left_at timestamptz CHECK (left_at IS NULL OR (arrived_at IS NOT NULL AND left_at >= arrived_at)),
  started_on date,
  closed_on date,
  follows_id uuid,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id),
  FOREIGN KEY (firm_id, follows_id) REFERENCES visits (firm_id, id)
);
CREATE INDEX visits_due ON visits (firm_id, due_on);
CREATE INDEX visits_site ON visits (firm_id, site_id);

-- The answers of a visit: a log that only grows. A null value takes an answer back. seq is the server's order.
CREATE TABLE answers (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  spot text NOT NULL CHECK (spot IN ('worst', 'healthy')),
  finding text NOT NULL,
  value jsonb,
  entered jsonb,
  person_id uuid NOT NULL,
  base bigint NOT NULL DEFAULT 0,
  recorded_at timestamptz NOT NULL,
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX answers_visit ON answers (firm_id, visit_id, seq);

-- A diagnosis that was given stays as it was given.
CREATE TABLE diagnoses (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  knowledge text NOT NULL,
  leading_cause text NOT NULL,
  probability double precision NOT NULL,
  case_file jsonb NOT NULL,
  answer jsonb NOT NULL,
  given_on date NOT NULL,
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX diagnoses_zone ON diagnoses (firm_id, zone_id);

-- Application records: corrections are new entries that name the old one.
CREATE TABLE treatment_records (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  corrects_id uuid,
  voided boolean NOT NULL DEFAULT false,
  action text NOT NULL,
  applied_on date NOT NULL,
  area_m2 double precision NOT NULL CHECK (area_m2 > 0),
  product text NOT NULL DEFAULT '',
  amount double precision CHECK (amount >= 0),
  amount_unit text NOT NULL DEFAULT '',
  amount_si double precision,
  n_g_m2 double precision, p_g_m2 double precision, k_g_m2 double precision, fe_g_m2 double precision, water_mm double precision,
  source text NOT NULL DEFAULT '',
  wind_ms double precision, air_c double precision,
  reentry text NOT NULL DEFAULT '',
  note text NOT NULL DEFAULT '',
  person_id uuid NOT NULL,
  signed_name text NOT NULL,
  licence_number text NOT NULL DEFAULT '',
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id),
  FOREIGN KEY (firm_id, corrects_id) REFERENCES treatment_records (firm_id, id)
);
CREATE INDEX treatment_records_zone ON treatment_records (firm_id, zone_id, applied_on);

-- Looks: measured points of recovery.
CREATE TABLE looks (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  looked_on date NOT NULL,
  baseline boolean NOT NULL DEFAULT false,
  cover double precision NOT NULL CHECK (cover BETWEEN 0 AND 1),
  live_crowns double precision CHECK (live_crowns BETWEEN 0 AND 1),
  spread text NOT NULL DEFAULT '' CHECK (spread IN ('', 'none', 'new')),
  note text NOT NULL DEFAULT '',
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX looks_zone ON looks (firm_id, zone_id, looked_on);

-- +goose StatementBegin
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% only grows: a correction is a new row', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd
CREATE TRIGGER answers_grow BEFORE UPDATE OR DELETE ON answers FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER diagnoses_grow BEFORE UPDATE OR DELETE ON diagnoses FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER treatment_records_grow BEFORE UPDATE OR DELETE ON treatment_records FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER looks_grow BEFORE UPDATE OR DELETE ON looks FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- The second lock.
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['people','sessions','clients','sites','zones','visits','answers','diagnoses','treatment_records','looks'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_firm ON %I USING (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid) WITH CHECK (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid)', t);
  END LOOP;
  ALTER TABLE firms ENABLE ROW LEVEL SECURITY;
  ALTER TABLE firms FORCE ROW LEVEL SECURITY;
  CREATE POLICY own_firm ON firms USING (id = nullif(current_setting('app.firm', true), '')::uuid) WITH CHECK (id = nullif(current_setting('app.firm', true), '')::uuid);
END $$;
-- +goose StatementEnd

-- Signing in has to find a person before the firm is known: two narrow doors, owned by the migration role.
CREATE FUNCTION sign_in_person(mail text) RETURNS TABLE (id uuid, firm_id uuid, password_hash text)
  LANGUAGE sql SECURITY DEFINER SET search_path = public AS
  $$ SELECT id, firm_id, password_hash FROM people WHERE email = lower(mail) AND active $$;
CREATE FUNCTION session_person(hash bytea, at timestamptz) RETURNS TABLE (firm_id uuid, person_id uuid, csrf text)
  LANGUAGE sql SECURITY DEFINER SET search_path = public AS
  $$ SELECT s.firm_id, s.person_id, s.csrf FROM sessions s JOIN people p ON p.id = s.person_id AND p.active WHERE s.token_hash = hash AND s.expires_at > at $$;

-- +goose Down
DROP FUNCTION session_person(bytea, timestamptz);
DROP FUNCTION sign_in_person(text);
DROP TABLE looks, treatment_records, diagnoses, answers, visits, zones, sites, clients, clock, station_days, stations, sessions, people, firms;
DROP FUNCTION refuse_change();
