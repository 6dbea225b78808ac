-- +goose Up
-- A day a row; the hours of a day stand in one array of 120: temperature (°C), humidity (%), rain (mm), wind (m/s at 2 m) and
-- sun (MJ/m²), twenty-four each, NaN where nothing was measured.
ALTER TABLE station_days ADD COLUMN solar_mj_m2 double precision, ADD COLUMN hours real[] CHECK (hours IS NULL OR array_length(hours, 1) = 120);

-- What a firm measures on a site of its own goes before the station, quantity by quantity.
CREATE TABLE site_days (
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  day date NOT NULL,
  tmin_c double precision, tmax_c double precision, rain_mm double precision, rh_mean double precision, wind_ms double precision, snow_cm double precision, solar_mj_m2 double precision,
  hours real[] CHECK (hours IS NULL OR array_length(hours, 1) = 120),
  PRIMARY KEY (site_id, day),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id)
);

-- Water given to a zone, a day a row.
CREATE TABLE zone_waterings (
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  day date NOT NULL,
  mm double precision NOT NULL CHECK (mm BETWEEN 0 AND 300),
  PRIMARY KEY (zone_id, day),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);

-- Catch-can audits: the cans on a grid over the zone, and what the sprinklers came to.
CREATE TABLE audits (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  audited_on date NOT NULL,
  minutes double precision NOT NULL CHECK (minutes > 0 AND minutes <= 240),
  cans jsonb NOT NULL,
  rate_mm_h double precision NOT NULL,
  uniformity double precision NOT NULL CHECK (uniformity BETWEEN 0 AND 1),
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX audits_zone ON audits (firm_id, zone_id, audited_on);
CREATE TRIGGER audits_grow BEFORE UPDATE OR DELETE ON audits FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['site_days','zone_waterings','audits'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_firm ON %I USING (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid) WITH CHECK (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid)', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE audits, zone_waterings, site_days;
ALTER TABLE station_days DROP COLUMN hours, DROP COLUMN solar_mj_m2;
