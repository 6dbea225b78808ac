-- +goose Up
-- Cases round about are looked for from the sites round about, with every tap.
CREATE INDEX sites_place ON sites (firm_id, latitude, longitude);

-- +goose Down
DROP INDEX sites_place;
