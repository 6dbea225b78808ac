package casefile

import (
	"encoding/json"
	"slices"
	"time"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
)

// Write gives a case as version 1 JSON, indented. Reading it again gives an equal case.
func Write(c evidence.Case) ([]byte, error) {
	site := map[string]any{"latitude": c.Lawn.Latitude, "species": c.Lawn.Species}
	set := func(m map[string]any, key string, x *float64) {
		if x != nil {
			m[key] = *x
		}
	}
	text := func(m map[string]any, key, s string) {
		if s != "" {
			m[key] = s
		}
	}
	truth := func(m map[string]any, key string, b *bool) {
		if b != nil {
			m[key] = *b
		}
	}
	if c.Lawn.Longitude != 0 {
		site["longitude"] = c.Lawn.Longitude
	}
	set(site, "elevation_m", c.Lawn.ElevationM)
	set(site, "area_m2", c.Lawn.AreaM2)
	set(site, "affected_m2", c.Lawn.AffectedM2)
	text(site, "texture", c.Lawn.Texture)
	text(site, "form", c.Lawn.Form)
	text(site, "cultivar", c.Lawn.Cultivar)
	if c.Lawn.SownYear > 0 {
		site["sown_year"] = c.Lawn.SownYear
	}
	truth(site, "irrigated", c.Lawn.Irrigated)
	if len(c.Lawn.Normals) > 0 {
		site["normals_c"] = c.Lawn.Normals
	}

	out := map[string]any{"hodos_case": Version, "date": day(c.Lawn.Date), "site": site, "findings": plain(c.Findings)}
	text(out, "title", c.Title)
	text(out, "notes", c.Notes)
	if c.Onset != nil {
		out["onset"] = day(*c.Onset)
	}
	policy := map[string]any{}
	text(policy, "summer-water", c.Policy.SummerWater)
	text(policy, "pests", c.Policy.Pests)
	text(policy, "summer-feeding", c.Policy.SummerFeeding)
	text(policy, "blemishes", c.Policy.Blemishes)
	text(policy, "service", c.Policy.Service)
	if len(policy) > 0 {
		out["policy"] = policy
	}
	if len(c.Reference) > 0 {
		out["reference"] = plain(c.Reference)
	}
	if len(c.Samples) > 0 {
		out["samples"] = c.Samples
	}
	if len(c.Earlier) > 0 {
		var list []any
		for _, e := range c.Earlier {
			m := map[string]any{"date": day(e.Date)}
			if e.Findings != nil {
				m["findings"] = plain(e.Findings)
			}
			text(m, "answer", e.Cause)
			list = append(list, m)
		}
		out["earlier"] = list
	}
	if len(c.Looks) > 0 {
		var list []any
		for _, l := range c.Looks {
			m := map[string]any{"date": day(l.Date)}
			set(m, "cover", l.Cover)
			text(m, "spread", l.Spread)
			set(m, "colour_index", l.Index)
			list = append(list, m)
		}
		out["looks"] = list
	}
	if len(c.Weather) > 0 {
		out["weather"] = days(c.Weather)
	}
	if len(c.Forecast) > 0 {
		out["forecast"] = days(c.Forecast)
	}
	if len(c.Treatments)+len(c.Done) > 0 {
		var list []any
		for i, t := range slices.Concat(c.Treatments, c.Done) {
			m := map[string]any{"date": day(t.Date), "action": t.Action}
			set(m, "n_g_m2", t.NGM2)
			set(m, "p_g_m2", t.PGM2)
			set(m, "k_g_m2", t.KGM2)
			set(m, "fe_g_m2", t.FeGM2)
			set(m, "water_mm", t.WMM)
			text(m, "source", t.Source)
			text(m, "note", t.Note)
			if i >= len(c.Treatments) {
				m["this_visit"] = true
			}
			list = append(list, m)
		}
		out["treatments"] = list
	}
	ctx := map[string]any{}
	text(ctx, "country", c.Context.Country)
	if c.Context.Utilities != nil {
		ctx["utilities"] = c.Context.Utilities
	}
	truth(ctx, "licence", c.Context.Licence)
	truth(ctx, "lines_located", c.Context.LinesLocated)
	if len(c.Context.Nearby) > 0 {
		var list []any
		for _, n := range c.Context.Nearby {
			list = append(list, map[string]any{"cause": n.Cause, "count": n.Count, "weeks": n.Weeks})
		}
		ctx["nearby"] = list
	}
	if len(c.Context.Learnt) > 0 {
		var list []any
		for _, l := range c.Context.Learnt {
			list = append(list, map[string]any{"cause": l.Cause, "factor": l.Factor})
		}
		ctx["learnt"] = list
	}
	if len(ctx) > 0 {
		out["context"] = ctx
	}
	return json.MarshalIndent(out, "", "  ")
}

func plain(f map[string]knowledge.Value) map[string]any {
	out := make(map[string]any, len(f))
	for id, v := range f {
		out[id] = v.Plain()
	}
	return out
}

func days(ds []weather.Day) []any {
	out := make([]any, 0, len(ds))
	for _, d := range ds {
		m := map[string]any{"date": d.Date.Format(time.DateOnly)}
		for key, x := range map[string]*float64{"tmin_c": d.TMin, "tmax_c": d.TMax, "rain_mm": d.Rain, "rh_mean": d.RH, "wind_ms": d.Wind,
			"solar_mj_m2": d.Solar, "irrigation_mm": d.Irrigation, "snow_cm": d.Snow} {
			if x != nil {
				m[key] = *x
			}
		}
		out = append(out, m)
	}
	return out
}
