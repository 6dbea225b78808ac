package demo

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/standin"
	"hodos/store"
)

// Enlarge gives the demo firm so many sites more, with two zones, eleven visits, answers, diagnoses, records and measures each, under
// stations with 400 days of weather: what a large firm looks like, for pictures and for measuring. It takes some 15 s for 10,000 sites.
func Enlarge(ctx context.Context, s *store.Store, sites int) error {
	if sites < 1 || sites > 100_000 {
		return fmt.Errorf("the demo firm can be given 1 to 100,000 more sites, not %d", sites)
	}
	return s.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true), set_config('statement_timeout', '10min', true)",
			Firm.String()).Error; err != nil {
			return err
		}
		// tables grow under the checks of their keys: plans made while they were small would go through all of them, row by row
		if err := tx.Exec("SET LOCAL plan_cache_mode = force_custom_plan").Error; err != nil {
			return err
		}
		if err := moreStations(tx, max(1, min(50, sites/100))); err != nil {
			return err
		}
		for _, step := range enlarging {
			if err := tx.Exec(step, map[string]any{"firm": Firm, "sites": sites, "today": Start,
				"technician": People["technician"]}).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// moreStations have the weather of the first eight of them, a little warmer or cooler.
func moreStations(tx *gorm.DB, n int) error {
	for i := range n {
		st := store.Station{ID: key(uint32(900_000 + i)), Name: fmt.Sprintf("Field %d", i+1), Latitude: 35 + float64(i%20)/4,
			Longitude: -84 + float64(i/20)*2, Simulated: true, Seed: int64(100 + i%8)}
		if err := tx.Create(&st).Error; err != nil {
			return err
		}
		if i >= 8 {
			if err := tx.Exec(`INSERT INTO station_days SELECT ?, day, tmin_c + ?, tmax_c + ?, rain_mm, rh_mean, wind_ms, snow_cm, solar_mj_m2, hours
				FROM station_days WHERE station_id = ?`, st.ID, i%5-2, i%5-2, key(uint32(900_000+i%8))).Error; err != nil {
				return err
			}
			continue
		}
		days := (standin.Station{Latitude: st.Latitude, Seed: st.Seed}).Days(Start.AddDate(0, 0, -399), Start)
		if err := tx.CreateInBatches(casework.StationDays(st.ID, days), 500).Error; err != nil {
			return err
		}
	}
	return nil
}

// enlarging are the statements, in order. Keys are made of a name and a number, so that they are the same every time.
var enlarging = []string{
	`INSERT INTO people (id, firm_id, name, email, role, password_hash)
	SELECT md5('person' || i)::uuid, @firm, 'Technician ' || i, 'technician' || i || '@averley.example', 'technician',
		'' FROM generate_series(1, 40) i`,

	`INSERT INTO clients (id, firm_id, name, phone)
	SELECT md5('client' || i)::uuid, @firm, (ARRAY['Ada', 'Bram', 'Cleo', 'Dora', 'Egon', 'Fern', 'Gil', 'Hope', 'Ivo',
		'Jude'])[1 + i % 10] || ' '
		|| (ARRAY['Alder', 'Birch', 'Carrow', 'Dunmore', 'Elling', 'Farrow', 'Garth', 'Hollis', 'Innes', 'Jarrow', 'Kell', 'Lorne',
			'Marl'])[1 + i % 13]
		|| (ARRAY['by', 'dale', 'ford', 'ham', 'ley', 'sen', 'ton'])[1 + i % 7], '555-' || lpad((i % 10000)::text, 4, '0')
	FROM generate_series(1, @sites * 7 / 10 + 1) i`,

	`INSERT INTO sites (id, firm_id, client_id, station_id, name, address, latitude, longitude, timezone)
	SELECT md5('site' || i)::uuid, @firm, c.id, st.id, i || ' ' || street, i || ' ' || street || ', Averley', st.latitude + i * 7 % 31 * .01,
		st.longitude + i * 11 % 37 * .01, 'America/New_York'
	FROM generate_series(1, @sites) i
	JOIN clients c ON c.id = md5('client' || (1 + i * 7 / 10))::uuid
	JOIN (SELECT id, latitude, longitude, row_number() OVER (ORDER BY id) - 1 AS n,
		count(*) OVER () AS all FROM stations WHERE name LIKE 'Field %') st
		ON st.n = i % st.all
	CROSS JOIN LATERAL (SELECT (ARRAY['Ash', 'Beech', 'Cedar', 'Dogwood', 'Elm', 'Fir', 'Gorse', 'Hazel', 'Ivy', 'Juniper',
		'Larch'])[1 + i % 11] || ' '
		|| (ARRAY['Street', 'Road', 'Lane', 'Court', 'Way'])[1 + i % 5] AS street) s`,

	`INSERT INTO zones (id, firm_id, site_id, name, area_m2, species, texture, irrigated)
	SELECT md5('zone' || i || '/' || n)::uuid, @firm, md5('site' || i)::uuid, (ARRAY['Front lawn', 'Back lawn'])[n], 150 + i % 700,
		(ARRAY['["kentucky-bluegrass"]', '["tall-fescue"]', '["hybrid-bermudagrass"]', '["perennial-ryegrass"]'])[1 + i % 4]::jsonb,
			'loam', i % 3 > 0
	FROM generate_series(1, @sites) i, generate_series(1, 2) n`,

	// nine visits are over, the last of them within the last nine weeks; one falls into the next three months, one later
	`INSERT INTO visits (id, firm_id, site_id, zone_id, kind, due_on, reason, person_id, started_on, closed_on, follows_id)
	SELECT md5('visit' || i || '/' || n)::uuid, @firm, md5('site' || i)::uuid,
		CASE WHEN n % 2 = 0 THEN md5('zone' || i || '/' || 1 + n / 2 % 2)::uuid END, CASE WHEN n % 2 = 0 THEN 'follow-up' ELSE 'diagnosis' END,
		v.day, (ARRAY['brown patches', 'thin and yellow', 'weeds coming through', 'the spring round'])[1 + (i + n) % 4],
		CASE WHEN i % 41 = 0 THEN @technician ELSE md5('person' || 1 + i % 40)::uuid END, CASE WHEN n <= 9 THEN v.day END,
			CASE WHEN n <= 9 THEN v.day END,
		CASE WHEN n % 2 = 0 THEN md5('visit' || i || '/' || n - 1)::uuid END
	FROM generate_series(1, @sites) i, generate_series(1, 11) n
	CROSS JOIN LATERAL (SELECT CAST(@today AS date) + CASE WHEN n <= 9 THEN (n - 10) * 70 + 66 - i % 60 WHEN n = 10
		THEN i % 90 ELSE 100 + i % 200 END AS day) v`,

	`INSERT INTO answers (id, firm_id, visit_id, zone_id, spot, finding, value, person_id, recorded_at)
	SELECT md5('answer' || i || '/' || n || '/' || a.finding)::uuid, @firm, md5('visit' || i || '/' || n)::uuid, md5('zone'
		|| i || '/' || 1)::uuid,
		'worst', a.finding, a.value::jsonb, md5('person' || 1 + i % 40)::uuid, CAST(@today AS date) + (n - 10) * 70 + 66 - i % 60
	FROM generate_series(1, @sites) i, generate_series(1, 9, 2) n,
		(VALUES ('pattern', '["irregular-patches"]'), ('pull-test', '"resists"'), ('soil-moisture', '"dry"'), ('thatch-mm',
			'9')) a (finding, value)`,

	`INSERT INTO diagnoses (id, firm_id, visit_id, zone_id, knowledge, leading_cause, probability, case_file, result, given_on,
		person_id, recorded_at)
	SELECT md5('diagnosis' || i || '/' || n)::uuid, @firm, md5('visit' || i || '/' || n)::uuid, md5('zone' || i || '/' || 1)::uuid, '2026.11',
		(ARRAY['drought-stress', 'white-grubs', 'dollar-spot', 'nitrogen-deficiency'])[1 + (i + n) % 4], 0.45 + (i + n) % 6 * 0.1,
			'{}', '{}',
		CAST(@today AS date) + (n - 10) * 70 + 66 - i % 60, md5('person' || 1 + i % 40)::uuid, CAST(@today AS date)
	FROM generate_series(1, @sites) i, generate_series(1, 9, 2) n`,

	`INSERT INTO treatment_records (id, firm_id, visit_id, zone_id, action, applied_on, area_m2, person_id, signed_name, recorded_at)
	SELECT md5('record' || i || '/' || n)::uuid, @firm, md5('visit' || i || '/' || n)::uuid, md5('zone' || i || '/' || 1)::uuid, 'water-deep',
		CAST(@today AS date) + (n - 10) * 70 + 66 - i % 60, 100, md5('person' || 1 + i % 40)::uuid, 'Technician', CAST(@today AS date)
	FROM generate_series(1, @sites) i, generate_series(1, 9, 4) n`,

	`INSERT INTO measures (id, firm_id, visit_id, zone_id, measured_on, baseline, cover, person_id, recorded_at)
	SELECT md5('look' || i || '/' || n)::uuid, @firm, md5('visit' || i || '/' || n)::uuid, md5('zone' || i || '/' || 1)::uuid,
		CAST(@today AS date) + (n - 10) * 70 + 66 - i % 60, n = 8, 0.2 + 0.1 * (n - 7), md5('person' || 1 + i % 40)::uuid, CAST(@today AS date)
	FROM generate_series(1, @sites, 5) i, generate_series(8, 9) n`,

	`INSERT INTO zone_courses (zone_id, firm_id, verdict, reason, judged_on)
	SELECT md5('zone' || i || '/' || 1)::uuid, @firm, (ARRAY['on-course', 'slow', 'off-course', 'recovered'])[1 + i % 4], 'as measured',
		CAST(@today AS date) - 4 - i % 60 FROM generate_series(1, @sites, 5) i`,

	// the watch tells of each lawn what it tells of the first lawns of the demo, one in three of it new
	`INSERT INTO watch_notices (id, firm_id, zone_id, kind, subject, level, since, comes_on, ahead, detail, told_on, seen_on)
	SELECT md5('notice' || i || '/' || z || '/' || k.kind || k.subject)::uuid, @firm, md5('zone' || i || '/' || z)::uuid, k.kind,
		k.subject, k.level,
		k.since, k.comes_on, k.ahead, k.detail, CASE WHEN (i + k.nth) % 3 = 0 THEN CAST(@today AS date) ELSE k.told_on END, CAST(@today AS date)
	FROM generate_series(1, @sites) i, generate_series(1, 2) z
	CROSS JOIN LATERAL (SELECT n.*, row_number() OVER (ORDER BY n.kind, n.subject) AS nth FROM (SELECT DISTINCT ON (kind,
		subject) * FROM watch_notices
		WHERE ended_on IS NULL AND firm_id = @firm ORDER BY kind, subject, zone_id) n) k
	WHERE k.nth % 3 = (i + z) % 3`,
}
