-- +goose Up
-- What was read on the spot or came from a laboratory outside a visit: probe, thermometer, soil test. A reading is written once.
-- hour is the local clock time, where it was noted.
CREATE TABLE readings (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  day date NOT NULL,
  hour double precision CHECK (hour BETWEEN 0 AND 24),
  finding text NOT NULL,
  value double precision NOT NULL,
  origin text NOT NULL CHECK (origin IN ('file', 'typed')),
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE TRIGGER readings_grow BEFORE UPDATE OR DELETE ON readings FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE UNIQUE INDEX readings_once ON readings (zone_id, day, finding, coalesce(hour, -1));

-- A site's own series may say what the whole site was given; the log of a zone goes before it.
ALTER TABLE site_days ADD COLUMN irrigation_mm double precision CHECK (irrigation_mm BETWEEN 0 AND 300);

-- Weekdays on which the place lets lawns be watered: three letters each with commas; empty for all.
ALTER TABLE sites ADD COLUMN watering_days text NOT NULL DEFAULT '' CHECK (watering_days ~ '^((sun|mon|tue|wed|thu|fri|sat)(,(sun|mon|tue|wed|thu|fri|sat))*)?$');

-- The watch looks at every zone of a firm by night. A run is cut into parts that the servers share; each part adds to the
-- run's figures in the transaction in which its job is done.
CREATE TABLE watch_runs (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  day date NOT NULL,
  sites integer NOT NULL, parts integer NOT NULL,
  sites_done integer NOT NULL DEFAULT 0, parts_done integer NOT NULL DEFAULT 0,
  zones integer NOT NULL DEFAULT 0, unchanged integer NOT NULL DEFAULT 0,
  told integer NOT NULL DEFAULT 0, ended integer NOT NULL DEFAULT 0,
  started_at timestamptz NOT NULL,
  finished_at timestamptz,
  CHECK (sites_done <= sites AND parts_done <= parts)
);
CREATE INDEX watch_runs_day ON watch_runs (firm_id, day, started_at);

-- When a zone was looked at last, and the sum of everything that the look was made from: what has not changed is left out.
CREATE TABLE watch_zones (
  zone_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  day date NOT NULL,
  made_from bytea NOT NULL DEFAULT '',
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);

-- What was told of a zone. One thing stands once at a time.
CREATE TABLE watch_notices (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('window', 'endurance', 'frost', 'feeding', 'silent')),
  subject text NOT NULL,
  level integer NOT NULL CHECK (level IN (1, 2)),
  since date NOT NULL,
  comes_on date,
  ahead boolean NOT NULL,
  detail text NOT NULL,
  told_on date NOT NULL,
  seen_on date NOT NULL,
  ended_on date,
  noted_on date,
  noted_by uuid,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, noted_by) REFERENCES people (firm_id, id),
  CHECK ((noted_on IS NULL) = (noted_by IS NULL))
);
CREATE UNIQUE INDEX watch_notices_standing ON watch_notices (zone_id, kind, subject) WHERE ended_on IS NULL;
CREATE INDEX watch_notices_firm ON watch_notices (firm_id, told_on) WHERE ended_on IS NULL;

-- A station's revision counts up whenever its days change, so that whoever has read them knows without reading them again.
ALTER TABLE stations ADD COLUMN revision bigint NOT NULL DEFAULT 0;
-- +goose StatementBegin
CREATE FUNCTION count_revision() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE stations SET revision = revision + 1 WHERE id IN (SELECT station_id FROM changed);
  RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER station_days_come AFTER INSERT ON station_days REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_revision();
CREATE TRIGGER station_days_change AFTER UPDATE ON station_days REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_revision();
CREATE TRIGGER station_days_go AFTER DELETE ON station_days REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_revision();

CREATE INDEX answers_zone ON answers (zone_id, finding, seq);
CREATE INDEX sites_station ON sites (firm_id, station_id, id);
CREATE INDEX zones_site ON zones (firm_id, site_id);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['readings','watch_runs','watch_zones','watch_notices'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_firm ON %I USING (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid) WITH CHECK (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid)', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- The night has to know which firms have sites at which station before it knows a firm: a third narrow door, which gives
-- keys and nothing else. A part is a run of a firm's sites at one station, at most as many as asked for.
-- +goose StatementBegin
CREATE FUNCTION watch_parts(most integer) RETURNS TABLE (firm_id uuid, station_id uuid, first uuid, last uuid, sites integer)
  LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  SELECT firm_id, station_id, (array_agg(id ORDER BY id))[1], (array_agg(id ORDER BY id DESC))[1], count(*)::integer
  FROM (SELECT s.firm_id, s.station_id, s.id, (row_number() OVER (PARTITION BY s.firm_id, s.station_id ORDER BY s.id) - 1) / most AS part
        FROM sites s WHERE EXISTS (SELECT FROM zones z WHERE z.firm_id = s.firm_id AND z.site_id = s.id)) AS numbered
  GROUP BY firm_id, station_id, part
  ORDER BY firm_id, station_id, 3
$$;
-- +goose StatementEnd

-- +goose Down
DROP FUNCTION watch_parts(integer);
DROP TRIGGER station_days_come ON station_days;
DROP TRIGGER station_days_change ON station_days;
DROP TRIGGER station_days_go ON station_days;
DROP FUNCTION count_revision();
ALTER TABLE stations DROP COLUMN revision;
DROP INDEX answers_zone, sites_station, zones_site;
DROP TABLE watch_notices, watch_zones, watch_runs, readings;
ALTER TABLE site_days DROP COLUMN irrigation_mm;
ALTER TABLE sites DROP COLUMN watering_days;
