package soil

import "hodos/core/weather"

// Asked is the water, mm as it leaves the sprinklers, that keeping a zone green asks for on some days: whenever more is missing in the
// evening than the grass takes up without stress, the root zone is filled by the next, with what the unevenness of the sprinklers adds
// (Multiplier). missing are the mm that are missing on the evening before the first day. It takes the zone's usual figures where one is
// not known, and days without temperatures take nothing.
func Asked(z Zone, days []weather.Day, missing float64) (mm float64) {
	total, kc, intake := z.Total(), z.Coefficient(), z.Intake()
	d := max(0, min(missing, total))
	for _, w := range days {
		out, _ := z.step(w, d, total, kc, intake, 0)
		d = out.Depletion
		if d > z.Fraction(out.ETc)*total {
			mm += d * z.Multiplier()
			d = 0
		}
	}
	return mm
}
