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

// A night of pythium weather that just fails: it counts as weak, as somebody's own thermometer may read two degrees more (judgement).
const (
	nearDay   = 28.5
	nearNight = 18.5
	nearRH    = 76.0
	nearHours = 12.0
)

// PythiumNear reports a day that just misses it.
func PythiumNear(tmax, tminNext, humidHours, rhMean float64) bool {
	if tmax <= nearDay || tminNext < nearNight {
		return false
	}
	if !math.IsNaN(humidHours) {
		return humidHours >= nearHours
	}
	return rhMean >= nearRH
}

// HumidNight counts the hours over 90 % humidity from 16 h of a day to 10 h of the next, in which leaves lie wet; NaN where fewer than
// sixteen of the eighteen were measured.
func HumidNight(day, next *Hours) float64 {
	if day == nil || next == nil {
		return math.NaN()
	}
	n, humid := 0, 0.0
	for i := range 18 {
		rh := day.RH[min(16+i, 23)]
		if i >= 8 {
			rh = next.RH[i-8]
		}
		if math.IsNaN(rh) {
			continue
		}
		n++
		if rh > 90 {
			humid++
		}
	}
	if n < 16 {
		return math.NaN()
	}
	return humid
}

// Anthracnose is the severity index from three-day means of leaf wetness (hours a day) and air temperature (°C); 2 and more
// is a warning (Danneberger, Vargas and Jones 1984). It is 0 outside 15 to 30 °C and without wet hours, where the polynomial
// misbehaves (judgement), nor under eight wet hours, under which it warns of every warm day.
func Anthracnose(wetHours, t float64) float64 {
	if t < 15 || t > 30 || wetHours < 8 {
		return 0
	}
	return 4.0233 - .2283*wetHours - .5308*t - .0013*wetHours*wetHours + .0197*t*t + .0155*wetHours*t
}

// Window is the weather of one disease on one family of grass as a table row: what makes a day ripe, the look-back from onset in which
// days are counted, and how many of them make it weak, open and strong. Temperatures are extension consensus; look-backs and counts
// were measured against synthetic climates, and are judgement as far as a disease's own break-out goes.
type Window struct {
	Cause    string
	Family   string // C, W or CW
	Onset    string // "autumn" or "spring": the half of the year in which the damage began; "" for any
	From, To int    // look-back, days before onset
	Grades   [3]float64

	Soil       bool
	Low, High  float64 // °C: the day's mean of air, or of the soil at 50 mm
	WetSoil    bool    // rain from 1 mm, irrigation from 3 mm, or 90 % humidity
	WetHours   float64 // least hours of leaf wetness at WetAt and warmer
	WetCool    float64 // least hours at WetCoolAt and cooler, falling evenly between; 0 for the same everywhere
	WetCoolAt  float64 // °C
	WetAt      float64 // °C
	Humid      float64 // least mean humidity, %
	RainLeast  float64 // mm on the day
	RainUnder  float64 // mm on the day; 0 for any
	SnowLeast  float64 // cm
	OrSnow     bool    // a day under snow is ripe whatever else
	ShareUnder float64 // of the available water that is used; 0 for any
	DrainLeast float64 // mm that pass out of the full root zone
	NightMost  float64 // °C: the minimum is at most this; 0 for any
}

// Windows of the diseases that have no index of their own.
var Windows = []Window{
	{Cause: "large-patch", Family: "W", Onset: "autumn", From: 10, To: 42, Grades: [3]float64{3, 6, 12}, Soil: true, Low: 10, High: 21,
		WetSoil: true},
	{Cause: "large-patch", Family: "W", Onset: "spring", From: 20, To: 220, Grades: [3]float64{10, 20, 40}, Soil: true, Low: 10, High: 21,
		WetSoil: true},
	{Cause: "leaf-spot", Family: "C", From: 2, To: 28, Grades: [3]float64{3, 6, 12}, Low: 18, High: 32, WetHours: 10},
	{Cause: "leaf-spot", Family: "W", From: 2, To: 28, Grades: [3]float64{3, 6, 12}, Low: 12, High: 28, WetHours: 10},
	{Cause: "melting-out", Family: "CW", From: 14, To: 56, Grades: [3]float64{5, 9, 18}, Low: 10, High: 20, WetHours: 10},
	{Cause: "gray-leaf-spot", Family: "CW", From: 2, To: 21, Grades: [3]float64{2, 4, 8}, Low: 21, High: 32, WetHours: 9, WetAt: 28,
		WetCool: 14, WetCoolAt: 22},
	{Cause: "rust", Family: "CW", From: 7, To: 28, Grades: [3]float64{4, 7, 14}, Low: 15, High: 27, WetHours: 9},
	{Cause: "red-thread", Family: "CW", From: 2, To: 28, Grades: [3]float64{4, 8, 16}, Low: 10, High: 24, WetHours: 11},
	{Cause: "powdery-mildew", Family: "CW", From: 2, To: 28, Grades: [3]float64{4, 7, 14}, Low: 12, High: 22, Humid: 68, RainUnder: 5},
	{Cause: "necrotic-ring-spot", Family: "CW", From: 30, To: 240, Grades: [3]float64{13, 25, 50}, Soil: true, Low: 12, High: 22,
		WetSoil: true},
	{Cause: "summer-patch", Family: "CW", From: 14, To: 70, Grades: [3]float64{5, 10, 20}, Soil: true, Low: 18.5, High: 45, ShareUnder: .35},
	{Cause: "take-all-root-rot", Family: "W", From: 30, To: 180, Grades: [3]float64{13, 25, 50}, Soil: true, Low: 10, High: 22, WetSoil: true},
	{Cause: "take-all-root-rot", Family: "C", From: 30, To: 180, Grades: [3]float64{13, 25, 50}, Soil: true, Low: 5, High: 16, WetSoil: true},
	{Cause: "spring-dead-spot", Family: "CW", From: 30, To: 200, Grades: [3]float64{0, 15, 40}, Low: -60, High: 60, NightMost: -2},
	{Cause: "gray-snow-mold", Family: "CW", From: 0, To: 150, Grades: [3]float64{30, 60, 90}, Low: -60, High: 60, SnowLeast: 3},
	{Cause: "pink-snow-mold", Family: "CW", From: 2, To: 45, Grades: [3]float64{7, 14, 28}, Low: -1, High: 14, WetHours: 12, OrSnow: true},
	{Cause: "slime-mold", Family: "CW", From: 1, To: 10, Grades: [3]float64{1, 2, 3}, Low: 14, High: 60, RainLeast: 5},
	{Cause: "pythium-root-rot", Family: "CW", From: 5, To: 40, Grades: [3]float64{3, 6, 12}, Soil: true, Low: 6, High: 45, DrainLeast: 5},
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

// WetSoil reports soil that was wetted on the day: rain from 1 mm, irrigation from 3 mm or 90 % humidity. known is false without rain.
func (d Day) WetSoil() (wet, known bool) {
	if d.Rain == nil {
		return false, false
	}
	return *d.Rain >= 1 || d.Irrigation != nil && *d.Irrigation >= 3 || d.RH != nil && *d.RH >= 90, true
}

// State is one day of a zone as far as a window asks for it; NaN is "not known".
type State struct {
	Day
	SoilMean, Share, Drainage float64 // °C at 50 mm; of the available water; mm
	Wet                       Wetness
}

// Ripe reports whether a day lies in the window; known is false where something that it needs was not measured.
func (w Window) Ripe(x State) (in, known bool) {
	snow := x.Snow != nil && *x.Snow > 0
	if w.OrSnow && snow {
		return true, true
	}
	t, ok := x.Mean()
	if w.Soil {
		t, ok = x.SoilMean, !math.IsNaN(x.SoilMean)
	}
	wetSoil, wetKnown := x.WetSoil()
	switch {
	case w.SnowLeast > 0 && x.Snow == nil, !ok && w.SnowLeast == 0, w.WetSoil && !wetKnown, w.WetHours > 0 && !x.Wet.Known,
		w.Humid > 0 && x.RH == nil, (w.RainLeast > 0 || w.RainUnder > 0) && x.Rain == nil, w.NightMost < 0 && x.TMin == nil,
		w.ShareUnder > 0 && math.IsNaN(x.Share), w.DrainLeast > 0 && math.IsNaN(x.Drainage):
		return false, false
	case ok && (t < w.Low || t > w.High), w.SnowLeast > 0 && *x.Snow < w.SnowLeast, w.WetSoil && !wetSoil,
		w.WetHours > 0 && x.Wet.Hours < w.hours(t), w.Humid > 0 && *x.RH < w.Humid, w.RainLeast > 0 && *x.Rain < w.RainLeast,
		w.RainUnder > 0 && *x.Rain >= w.RainUnder, w.NightMost < 0 && *x.TMin > w.NightMost, w.ShareUnder > 0 && x.Share >= w.ShareUnder,
		w.DrainLeast > 0 && x.Drainage < w.DrainLeast:
		return false, true
	}
	return true, true
}

// hours of wetness that a window asks for at a temperature, °C.
func (w Window) hours(t float64) float64 {
	switch {
	case w.WetCool == 0 || t >= w.WetAt:
		return w.WetHours
	case t <= w.WetCoolAt:
		return w.WetCool
	}
	return w.WetCool + (t-w.WetCoolAt)/(w.WetAt-w.WetCoolAt)*(w.WetHours-w.WetCool)
}

// HeatIndex is how hot a crew feels it, °C, from air temperature (°C) and humidity (%): the regression of Rothfusz (1990) in
// its own range from 27 °C on; below it is the air's temperature.
func HeatIndex(t, rh float64) float64 {
	f := t*9/5 + 32
	if f < 80 {
		return t
	}
	h := -42.379 + 2.04901523*f + 10.14333127*rh - .22475541*f*rh - .00683783*f*f - .05481717*rh*rh +
		.00122874*f*f*rh + .00085282*f*rh*rh - .00000199*f*f*rh*rh
	return (math.Max(h, f) - 32) * 5 / 9
}
