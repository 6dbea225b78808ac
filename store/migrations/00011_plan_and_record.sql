-- +goose Up
-- The shelf: products, versions of their labels, lots.
CREATE TABLE products (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL,
  label_id uuid NOT NULL, -- the version in use
  active boolean NOT NULL DEFAULT true,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id)
);
CREATE INDEX products_by_name ON products (firm_id, lower(name));
-- A version of a label is never changed: what was put down keeps the version that it was put down under.
CREATE TABLE product_labels (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  product_id uuid NOT NULL,
  number integer NOT NULL,
  label jsonb NOT NULL,
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  UNIQUE (product_id, number),
  FOREIGN KEY (firm_id, product_id) REFERENCES products (firm_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
ALTER TABLE products ADD FOREIGN KEY (firm_id, label_id) REFERENCES product_labels (firm_id, id) DEFERRABLE INITIALLY DEFERRED;
CREATE TABLE product_lots (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  product_id uuid NOT NULL,
  lot text NOT NULL,
  amount double precision NOT NULL CHECK (amount > 0), -- received, g or mL
  price double precision CHECK (price >= 0),           -- of that amount, in the firm's money
  received_on date NOT NULL,
  opened_on date,
  expires_on date,
  written_off double precision NOT NULL DEFAULT 0 CHECK (written_off >= 0),
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, product_id) REFERENCES products (firm_id, id)
);
CREATE INDEX product_lots_product ON product_lots (firm_id, product_id);

-- What the law of a place says, as the firm has entered it.
CREATE TABLE local_rules (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  rule jsonb NOT NULL,
  active boolean NOT NULL DEFAULT true,
  version integer NOT NULL DEFAULT 1
);
CREATE INDEX local_rules_firm ON local_rules (firm_id);

CREATE TABLE machines (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL CHECK (kind IN ('sprayer', 'spreader', 'corer', 'dethatcher', 'seeder', 'mower', 'other')),
  broken boolean NOT NULL DEFAULT false,
  note text NOT NULL DEFAULT '',
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id)
);
CREATE INDEX machines_firm ON machines (firm_id);
CREATE TABLE machine_log (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  machine_id uuid NOT NULL,
  day date NOT NULL,
  kind text NOT NULL CHECK (kind IN ('calibration', 'blades', 'oil', 'wheels', 'gate', 'repair', 'other')),
  output double precision CHECK (output > 0), -- of a calibration: L/100 m², or the share of the set rate that it lays
  note text NOT NULL DEFAULT '',
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  FOREIGN KEY (firm_id, machine_id) REFERENCES machines (firm_id, id)
);
CREATE INDEX machine_log_machine ON machine_log (firm_id, machine_id, day);

ALTER TABLE firms ADD COLUMN poison_centre text NOT NULL DEFAULT '';
-- What a client has coming up: jobs are counted back from it.
CREATE TABLE site_events (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  day date NOT NULL,
  name text NOT NULL CHECK (name <> ''),
  ended_at timestamptz, -- taken off
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id)
);
CREATE INDEX site_events_site ON site_events (firm_id, site_id, day);
ALTER TABLE sites ADD COLUMN place text NOT NULL DEFAULT ''; -- by whose law; empty for the firm's country
ALTER TABLE zones ADD COLUMN water_m double precision CHECK (water_m >= 0); -- to open water, a well, a drain

-- The record, complete.
ALTER TABLE treatment_records ADD COLUMN product_id uuid, ADD COLUMN label_id uuid, ADD COLUMN lot_id uuid, ADD COLUMN machine_id uuid,
  ADD COLUMN supervisor_id uuid, ADD COLUMN job_id uuid,
  ADD COLUMN target text NOT NULL DEFAULT '',
  ADD COLUMN rate double precision CHECK (rate >= 0),       -- product, g/m² or mL/m²
  ADD COLUMN carrier double precision CHECK (carrier >= 0), -- L/100 m²
  ADD COLUMN started_at timestamptz, ADD COLUMN ended_at timestamptz,
  ADD COLUMN closed_until timestamptz, -- people and pets; NULL with watered_in_at NULL and must_water_in: still to be watered in
  ADD COLUMN must_water_in boolean NOT NULL DEFAULT false,
  ADD COLUMN watered_in_at timestamptz,
  ADD COLUMN flags jsonb,   -- what stood against it: id, kind, rule, text
  ADD COLUMN given jsonb,   -- actives and nutrients, g/m²
  ADD COLUMN details jsonb, -- method, wind direction, humidity, sky, soil, posting, sweeping, tank lines, where the weather is from
  ADD FOREIGN KEY (firm_id, product_id) REFERENCES products (firm_id, id),
  ADD FOREIGN KEY (firm_id, label_id) REFERENCES product_labels (firm_id, id),
  ADD FOREIGN KEY (firm_id, lot_id) REFERENCES product_lots (firm_id, id),
  ADD FOREIGN KEY (firm_id, machine_id) REFERENCES machines (firm_id, id),
  ADD FOREIGN KEY (firm_id, supervisor_id) REFERENCES people (firm_id, id);
CREATE INDEX treatment_records_book ON treatment_records (firm_id, applied_on, seq);
CREATE INDEX treatment_records_lot ON treatment_records (firm_id, lot_id) WHERE lot_id IS NOT NULL;
CREATE INDEX treatment_records_corrects ON treatment_records (firm_id, corrects_id) WHERE corrects_id IS NOT NULL;
CREATE INDEX treatment_records_closed ON treatment_records (firm_id, closed_until) WHERE closed_until IS NOT NULL OR must_water_in;

-- What was put down is watered in later than it is recorded: noted beside the record, once.
CREATE TABLE waterings_in (
  record_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  at timestamptz NOT NULL,
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  FOREIGN KEY (firm_id, record_id) REFERENCES treatment_records (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE TRIGGER waterings_in_grow BEFORE UPDATE OR DELETE ON waterings_in FOR EACH ROW EXECUTE FUNCTION refuse_change();
-- Until when people and pets are kept off, by the records that stand: NULL until is "until it is watered in".
CREATE VIEW closed_zones WITH (security_invoker = true) AS
  SELECT r.id, r.firm_id, r.zone_id, r.product, r.applied_on, r.ended_at, w.at AS watered_in,
    CASE WHEN NOT r.must_water_in THEN r.closed_until WHEN w.at IS NULL THEN NULL ELSE greatest(r.closed_until, w.at + interval '2 hours') END AS until
  FROM treatment_records r LEFT JOIN waterings_in w ON w.record_id = r.id
  WHERE r.closed_until IS NOT NULL AND NOT r.voided AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id);

-- Jobs: what is booked of a plan, with the span in which it may be done.
CREATE TABLE jobs (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  visit_id uuid,
  action text NOT NULL,
  product_id uuid,
  target text NOT NULL DEFAULT '',
  from_on date NOT NULL,
  to_on date NOT NULL CHECK (to_on >= from_on),
  due_on date NOT NULL,
  fixed boolean NOT NULL DEFAULT false, -- moved by hand: planning anew leaves it where it is
  series uuid, step integer NOT NULL DEFAULT 1,
  after_id uuid,
  amount jsonb, -- what is put down, as proposed
  reason text NOT NULL DEFAULT '',
  moved text NOT NULL DEFAULT '', -- why it stands elsewhere than before
  state text NOT NULL DEFAULT 'booked' CHECK (state IN ('booked', 'done', 'dropped')),
  record_id uuid,
  person_id uuid,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, product_id) REFERENCES products (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX jobs_due ON jobs (firm_id, due_on) WHERE state = 'booked';
CREATE INDEX jobs_zone ON jobs (firm_id, zone_id, due_on);
CREATE INDEX jobs_site ON jobs (firm_id, site_id, due_on);

-- Secret addresses under which a calendar is fed; they can be withdrawn.
CREATE TABLE calendar_feeds (
  id uuid PRIMARY KEY,
  token_hash bytea NOT NULL UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  person_id uuid NOT NULL,
  site_id uuid,
  created_at timestamptz NOT NULL,
  withdrawn_at timestamptz,
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id)
);
CREATE INDEX calendar_feeds_person ON calendar_feeds (firm_id, person_id);
CREATE FUNCTION feed_firm(hash bytea) RETURNS TABLE (firm_id uuid, site_id uuid)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT c.firm_id, c.site_id FROM calendar_feeds c JOIN people p ON p.id = c.person_id AND p.active WHERE c.token_hash = hash AND c.withdrawn_at IS NULL $$;

CREATE TRIGGER product_labels_grow BEFORE UPDATE OR DELETE ON product_labels FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER machine_log_grow BEFORE UPDATE OR DELETE ON machine_log FOR EACH ROW EXECUTE FUNCTION refuse_change();
CALL lock_firm('products');
CALL lock_firm('product_labels');
CALL lock_firm('product_lots');
CALL lock_firm('local_rules');
CALL lock_firm('machines');
CALL lock_firm('machine_log');
CALL lock_firm('waterings_in');
CALL lock_firm('site_events');
CALL lock_firm('jobs');
CALL lock_firm('calendar_feeds');

-- +goose Down
DROP FUNCTION feed_firm(bytea);
DROP VIEW closed_zones;
DROP TABLE calendar_feeds, jobs, waterings_in;
DROP INDEX treatment_records_book, treatment_records_lot, treatment_records_corrects, treatment_records_closed;
ALTER TABLE treatment_records DROP COLUMN product_id, DROP COLUMN label_id, DROP COLUMN lot_id, DROP COLUMN machine_id, DROP COLUMN supervisor_id,
  DROP COLUMN job_id, DROP COLUMN target, DROP COLUMN rate, DROP COLUMN carrier, DROP COLUMN started_at, DROP COLUMN ended_at,
  DROP COLUMN closed_until, DROP COLUMN must_water_in, DROP COLUMN watered_in_at, DROP COLUMN flags, DROP COLUMN given, DROP COLUMN details;
ALTER TABLE zones DROP COLUMN water_m;
ALTER TABLE sites DROP COLUMN place;
DROP TABLE site_events;
ALTER TABLE firms DROP COLUMN poison_centre;
DROP TABLE machine_log, machines, local_rules, product_lots;
ALTER TABLE products DROP CONSTRAINT products_firm_id_label_id_fkey;
DROP TABLE product_labels, products;
