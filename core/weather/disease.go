package weather

import "math"

// PythiumBlight reports a day of pythium weather: a maximum over 30 °C, then at least 14 hours over 90 % humidity with a
// minimum of 20 °C and more (Nutter, Cole and Schein 1983). Without hourly humidity a daily mean of 80 % stands in for the
// fourteen hours (judgement).
func PythiumBlight(tmax, tminNext, humidHours, rhMean float64) bool {
	if tmax <= 30 || tminNext < 20 {
		return false
	}
	if !math.IsNaN(humidHours) {
		return humidHours >= 14
	}
	return rhMean >= 80
}

// Anthracnose is the severity index from three-day means of leaf wetness (hours a day) and air temperature (°C); 2 and more
// is a warning (Danneberger, Vargas and Jones 1984). It is 0 outside 15 to 30 °C and without wet hours, where the polynomial
// misbehaves (judgement).
func Anthracnose(wetHours, t float64) float64 {
	if t < 15 || t > 30 || wetHours <= 0 {
		return 0
	}
	return 4.0233 - .2283*wetHours - .5308*t - .0013*wetHours*wetHours + .0197*t*t + .0155*wetHours*t
}

// Window is the weather of one disease as a table row: a band of temperature, wetness, and the look-back from onset in which
// it must have been open. Look-backs and day counts are judgement, temperatures extension consensus.
type Window struct {
	Cause      string
	From, To   int // look-back, days before onset
	Soil       bool
	Low, High  float64 // °C: the day's mean of air or soil
	Wet        bool    // the day must be wet: 1 mm of rain or 85 % humidity
	RainLeast  float64 // mm on the day
	WetHours   float64 // least hours of leaf wetness
	NightLeast float64 // least minimum, °C
	DayLeast   float64 // least maximum, °C
	Humid      float64 // least mean humidity, %; needs measured humidity when above 0
	Snow       bool    // the day must lie under snow
	Open       int     // days that make it open; half make it weak, twice strong
}

// Windows of the diseases that have no index of their own.
var Windows = []Window{
	{Cause: "gray-leaf-spot", From: 2, To: 21, Low: 24, High: 33, WetHours: 8, Humid: 70, Open: 4},
	{Cause: "rust", From: 2, To: 21, Low: 18, High: 30, Humid: 65, Open: 6},
	{Cause: "red-thread", From: 2, To: 28, Low: 10, High: 24, Wet: true, Open: 6},
	{Cause: "leaf-spot", From: 2, To: 28, Low: 14, High: 32, Wet: true, Open: 6},
	{Cause: "melting-out", From: 14, To: 56, Low: 8, High: 20, Wet: true, Open: 8},
	{Cause: "large-patch", From: 14, To: 42, Soil: true, Low: 10, High: 21, Wet: true, Open: 7},
	{Cause: "summer-patch", From: 21, To: 70, Soil: true, Low: 18, High: 32, Wet: true, Open: 8},
	{Cause: "necrotic-ring-spot", From: 30, To: 240, Soil: true, Low: 11, High: 24, Wet: true, Open: 25},
	{Cause: "take-all-root-rot", From: 30, To: 240, Soil: true, Low: 10, High: 21, Wet: true, Open: 25},
	{Cause: "spring-dead-spot", From: 120, To: 240, Soil: true, Low: 10, High: 21, Open: 25},
	{Cause: "pythium-root-rot", From: 5, To: 40, Soil: true, Low: 8, High: 32, RainLeast: 8, Open: 6},
	{Cause: "gray-snow-mold", From: 2, To: 150, Low: -40, High: 15, Snow: true, Open: 60},
	{Cause: "pink-snow-mold", From: 2, To: 90, Low: -3, High: 10, Wet: true, Open: 12},
	{Cause: "powdery-mildew", From: 2, To: 28, Low: 13, High: 24, Humid: 65, Open: 6},
}

// Wet is a day on which leaves stay wet for long, as far as daily values can tell: 1 mm of rain or a mean humidity of 85 %
// (judgement). known is false when neither was measured.
func (d Day) Wet() (wet, known bool) {
	if d.Rain != nil {
		known = true
		wet = *d.Rain >= 1
	}
	if d.RH != nil {
		known = true
		wet = wet || *d.RH >= 85
	}
	return wet, known
}

// Day reports whether a day lies in the window; known is false where something that it needs was not measured. soil is the
// day's mean at 50 mm, wet the day's leaf wetness.
func (w Window) Day(d Day, soil SoilDay, wet Wetness) (in, known bool) {
	if w.Snow {
		if d.Snow == nil {
			return false, false
		}
		return *d.Snow > 0, true
	}
	t, ok := d.Mean()
	isWet, wetKnown := d.Wet()
	if !ok || (w.Wet && !wetKnown) || (w.Humid > 0 && d.RH == nil) || (w.WetHours > 0 && !wet.Known) || (w.RainLeast > 0 && d.Rain == nil) {
		return false, false
	}
	if w.Soil {
		t = soil.Mean
	}
	switch {
	case math.IsNaN(t) || t < w.Low || t > w.High, w.Wet && !isWet, w.Humid > 0 && *d.RH < w.Humid, w.WetHours > 0 && wet.Hours < w.WetHours,
		w.RainLeast > 0 && *d.Rain < w.RainLeast, w.NightLeast > 0 && *d.TMin < w.NightLeast, w.DayLeast > 0 && *d.TMax < w.DayLeast:
		return false, true
	}
	return true, true
}

// HeatIndex is how hot a crew feels it, °C, from air temperature (°C) and humidity (%): the regression of Rothfusz (1990) in
// its own range from 27 °C on; below it is the air's temperature.
func HeatIndex(t, rh float64) float64 {
	f := t*9/5 + 32
	if f < 80 {
		return t
	}
	h := -42.379 + 2.04901523*f + 10.14333127*rh - .22475541*f*rh - .00683783*f*f - .05481717*rh*rh + .00122874*f*f*rh + .00085282*f*rh*rh - .00000199*f*f*rh*rh
	return (math.Max(h, f) - 32) * 5 / 9
}
