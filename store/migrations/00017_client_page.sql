-- +goose Up
-- What stands at the head of what a client gets.
ALTER TABLE firms ADD COLUMN phone text NOT NULL DEFAULT '', ADD COLUMN email text NOT NULL DEFAULT '',
  ADD COLUMN address text NOT NULL DEFAULT '', ADD COLUMN website text NOT NULL DEFAULT '';

-- Secret addresses of a client's page: of one site, for a while, until they are withdrawn. Only the hash is kept.
CREATE TABLE client_links (
  id uuid PRIMARY KEY,
  token_hash bytea NOT NULL UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  site_id uuid NOT NULL,
  person_id uuid NOT NULL,
  created_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL,
  withdrawn_at timestamptz,
  opened integer NOT NULL DEFAULT 0,
  opened_at timestamptz,
  UNIQUE (firm_id, id),
  CHECK (expires_at > created_at),
  FOREIGN KEY (firm_id, site_id) REFERENCES sites (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX client_links_site ON client_links (firm_id, site_id);
CREATE FUNCTION client_link(hash bytea) RETURNS TABLE (id uuid, firm_id uuid, site_id uuid, expires_at timestamptz, withdrawn boolean)
  LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
  $$ SELECT l.id, l.firm_id, l.site_id, l.expires_at, l.withdrawn_at IS NOT NULL FROM client_links l WHERE l.token_hash = hash $$;
CALL lock_firm('client_links');

-- +goose Down
DROP FUNCTION client_link(bytea);
DROP TABLE client_links;
ALTER TABLE firms DROP COLUMN phone, DROP COLUMN email, DROP COLUMN address, DROP COLUMN website;
