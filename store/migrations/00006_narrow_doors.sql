-- +goose Up
-- The narrow doors look nowhere but where they are meant to: what a caller makes for the time of a session comes last.
ALTER FUNCTION sign_in_person(text) SET search_path = pg_catalog, public, pg_temp;
ALTER FUNCTION session_person(bytea, timestamptz) SET search_path = pg_catalog, public, pg_temp;
ALTER FUNCTION watch_parts(integer) SET search_path = pg_catalog, public, pg_temp;
REVOKE EXECUTE ON FUNCTION sign_in_person(text), session_person(bytea, timestamptz), watch_parts(integer) FROM PUBLIC;
-- What follows a visit is asked with every tap.
CREATE INDEX visits_follows ON visits (follows_id) WHERE follows_id IS NOT NULL;

-- +goose Down
DROP INDEX visits_follows;
GRANT EXECUTE ON FUNCTION sign_in_person(text), session_person(bytea, timestamptz), watch_parts(integer) TO PUBLIC;
ALTER FUNCTION watch_parts(integer) SET search_path = public;
ALTER FUNCTION session_person(bytea, timestamptz) SET search_path = public;
ALTER FUNCTION sign_in_person(text) SET search_path = public;
