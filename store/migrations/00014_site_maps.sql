-- +goose Up
-- The map of a site: the lawn of each zone as an outline, and what lies on and along the lawns. Geometry as in GeoJSON, longitude first.
CREATE TABLE map_entries (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  zone_id uuid, -- of which this is the lawn
  kind text NOT NULL CHECK (kind IN ('zone', 'hard-edge', 'tree', 'sprinkler', 'slope', 'buried')),
  name text NOT NULL DEFAULT '',
  geometry jsonb NOT NULL,
  reach_m double precision NOT NULL DEFAULT 0,
  error_m double precision NOT NULL,
  area_error double precision NOT NULL DEFAULT 0, -- of a lawn, 95 %, as a fraction
  how text NOT NULL CHECK (how IN ('file', 'walked', 'stepped', 'drawn')),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  CHECK ((kind = 'zone') = (zone_id IS NOT NULL)),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);
CREATE UNIQUE INDEX map_entries_zone ON map_entries (firm_id, zone_id) WHERE zone_id IS NOT NULL;
CREATE INDEX map_entries_site ON map_entries (firm_id, site_id);
CALL lock_firm('map_entries');

-- +goose Down
DROP TABLE map_entries;
