package weather

import (
	"math"
	"time"
)

// Climate is the normal year of a place as one wave: enough to say when a soil temperature or a frost is usually reached, not what
// the weather will be. Temperatures are °C.
type Climate struct {
	Mean, Swing float64   // of the soil at 50 mm: the year's mean, and how far the warmest day stands above it
	Half        float64   // half of the usual range between a day's minimum and maximum of the air
	Warmest     time.Time // the day of the warmest soil; its year means nothing
}

// climates of the northern hemisphere, inland, by latitude: mean and swing of the soil at 50 mm, fitted to the median days on which
// the soil passes 10 to 21 °C in 25 synthetic years of each (judgement between the rows).
var climates = []struct{ latitude, mean, swing float64 }{
	{0, 26, 1},
	{20, 24.5, 3},
	{27, 22.5, 5},
	{29, 22.5, 6},
	{33, 17.4, 9.7},
	{36, 16.0, 10.6},
	{40, 11.9, 11.9},
	{46, 8.2, 13.5},
	{52, 5.5, 14.5},
	{60, 2.5, 15},
}

// coasts are the same near the sea: the west of Europe and the south of the southern continents (judgement).
var coasts = []struct{ latitude, mean, swing float64 }{
	{0, 26, 1},
	{20, 23.5, 3},
	{27, 21.7, 4.5},
	{34, 17.8, 5},
	{38, 15.0, 6},
	{43, 12.4, 7},
	{52, 10.4, 7.8},
	{60, 7, 9},
}

// Constants of the wave (judgement): the warmest soil of the north comes on 26 July, a week after the air, whose swing is a twelfth
// wider and whose mean is half a degree lower.
const (
	warmestDay  = 207
	airEarlier  = 7
	airWider    = 1.08
	airCooler   = .5
	inlandHalf  = 6.0
	coastHalf   = 4.5
	daysOfAYear = 365.25
)

// ClimateAt is the normal year of a place by latitude and longitude in degrees (south and west negative), for want of its own
// normals. A longitude of 0 counts as unknown.
func ClimateAt(latitude, longitude float64) Climate {
	table, half := climates, inlandHalf
	if coast(latitude, longitude) {
		table, half = coasts, coastHalf
	}
	lat := math.Abs(latitude)
	c := Climate{Mean: table[len(table)-1].mean, Swing: table[len(table)-1].swing, Half: half, Warmest: turned(warmestDay, latitude)}
	for i := 1; i < len(table); i++ {
		if a, b := table[i-1], table[i]; lat <= b.latitude {
			share := (lat - a.latitude) / (b.latitude - a.latitude)
			c.Mean, c.Swing = a.mean+share*(b.mean-a.mean), a.swing+share*(b.swing-a.swing)
			break
		}
	}
	return c
}

// firstFrosts of the inland north by latitude: days after the warmest soil to the median first minimum of −2.2 °C, as a fortnight
// after the soil falls through 15 °C in the synthetic years (judgement between and beyond the rows).
var firstFrosts = []struct{ latitude, days float64 }{{31, 128}, {33, 115}, {36, 102}, {40, 88}, {46, 76}, {52, 66}, {60, 50}}

// FirstHardFrost is the usual first hard frost of a place as days after its warmest soil; NaN where none is known: under 31° and near
// the sea.
func FirstHardFrost(latitude, longitude float64) float64 {
	if latitude < firstFrosts[0].latitude || coast(latitude, longitude) {
		return math.NaN()
	}
	for i := 1; i < len(firstFrosts); i++ {
		if a, b := firstFrosts[i-1], firstFrosts[i]; latitude <= b.latitude {
			return a.days + (latitude-a.latitude)/(b.latitude-a.latitude)*(b.days-a.days)
		}
	}
	return firstFrosts[len(firstFrosts)-1].days
}

// coast reports a place near the sea, as far as latitude and longitude tell: the west of Europe and the southern continents.
func coast(latitude, longitude float64) bool {
	return latitude < 0 || (latitude > 47 && longitude > -12 && longitude < 9 && longitude != 0)
}

// ClimateOf fits the wave to the normal means of the air by month, °C, from January; ok is false unless there are twelve.
func ClimateOf(means []float64, latitude float64) (c Climate, ok bool) {
	if len(means) != 12 {
		return Climate{}, false
	}
	var mean, re, im float64
	for i, x := range means {
		angle := 2 * math.Pi * (float64(i) + .5) / 12
		mean, re, im = mean+x/12, re+x*math.Cos(angle)/6, im+x*math.Sin(angle)/6
	}
	day := math.Mod(math.Atan2(im, re)/(2*math.Pi)+1, 1) * daysOfAYear
	half := inlandHalf
	if latitude < 0 {
		half = coastHalf
	}
	return Climate{Mean: mean + airCooler, Swing: math.Hypot(re, im) / airWider, Half: half,
		Warmest: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(math.Round(day))+airEarlier)}, true
}

// turned is the n-th day of the year, half a year later in the south.
func turned(n int, latitude float64) time.Time {
	d := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, n)
	if latitude < 0 {
		d = d.AddDate(0, 6, 0)
	}
	return d
}

// Phase is how far a day is past the warmest soil, in days: from 0 to a year.
func (c Climate) Phase(day time.Time) float64 {
	return math.Mod(float64(day.YearDay()-c.Warmest.YearDay())+2*daysOfAYear, daysOfAYear)
}

func (c Climate) wave(phase float64) float64 { return math.Cos(2 * math.Pi * phase / daysOfAYear) }

// Soil is the normal mean of the soil at 50 mm on a day; it does not fall under −1 °C, because snow and frost hold it.
func (c Climate) Soil(day time.Time) float64 {
	return math.Max(-1, c.Mean+c.Swing*c.wave(c.Phase(day)))
}

// Air gives the normal minimum and maximum of the air on a day.
func (c Climate) Air(day time.Time) (tmin, tmax float64) {
	mean := c.Mean - airCooler + c.Swing*airWider*c.wave(c.Phase(day)+airEarlier)
	return mean - c.Half, mean + c.Half
}

// Warming is the half of the year from the coldest soil to the warmest.
func (c Climate) Warming(day time.Time) bool { return c.Phase(day) > daysOfAYear/2 }

// HotNormal is the normal maximum of the air that bounds the heat of cool-season turf, °C (extension; the bound judgement).
const HotNormal = 29.0

// Hot is the part of the normal year with maxima of 29 °C and more, as days past the warmest soil: it ends so many days after it, and
// begins again later in the year. ok is false where there is none.
func (c Climate) Hot() (ends, begins float64, ok bool) {
	x := (HotNormal - c.Half - c.Mean + airCooler) / (c.Swing * airWider)
	if !(x <= 1) {
		return 0, 0, false
	}
	half := math.Acos(math.Max(-1, x)) / (2 * math.Pi) * daysOfAYear // days either side of the warmest air
	return half - airEarlier, daysOfAYear - half - airEarlier, true
}

// Figures of the turn of the weather (extension: the main feeding of cool-season turf comes when the ten days about it are under about
// 27 °C; the other figures judgement).
const (
	TurnMaxima = 27.0 // mean of ten maxima
	turnNormal = 28.0 // normal maxima of the two weeks after it
	turnBefore = 14.0 // days before the normal heat ends from which it counts
	turnNoHeat = 21.0 // days past the warmest soil, where there is no heat
	turnBack   = 29.0 // five days of forecast over this set it back
	turnEnds   = 183.0
)

// Turned reports whether the summer of cool-season turf is over on a day: the ten days about it decide, not one hot afternoon, and
// once turned it stays so, unless five days of forecast are hot again. maxima gives the maximum of the air so many days after the
// day, and whether it was measured or forecast; where a day is neither, the ten days before it decide.
func (c Climate) Turned(day time.Time, maxima func(k int) (tmax float64, known bool)) bool {
	opens := turnNoHeat
	if ends, _, hot := c.Hot(); hot {
		opens = ends - turnBefore
	}
	p := c.Phase(day)
	if p > daysOfAYear-60 {
		p -= daysOfAYear
	}
	if p < opens || p > turnEnds {
		return false
	}
	back := 0
	for k := 1; k <= 5; k++ {
		if t, known := maxima(k); known && t >= turnBack {
			back++
		}
	}
	if back == 5 {
		return false
	}
	var highs []float64 // normal maxima, from thirteen days after the day back
	for k := 0; float64(-k) <= p-opens; k-- {
		for len(highs) < 14-k {
			_, hi := c.Air(day.AddDate(0, 0, 13-len(highs)))
			highs = append(highs, hi)
		}
		normal := 0.0
		for _, hi := range highs[-k:] {
			normal += hi / 14
		}
		if normal <= turnNormal && tenDays(maxima, k) <= TurnMaxima {
			return true
		}
	}
	return false
}

// tenDays is the mean of ten maxima about the day k: five before and five after it, or where those are not forecast the ten before.
func tenDays(maxima func(int) (float64, bool), k int) float64 {
	mean := func(from int) float64 {
		sum := 0.0
		for j := from; j < from+10; j++ {
			t, _ := maxima(j)
			sum += t / 10
		}
		return sum
	}
	if _, ahead := maxima(k + 5); !ahead {
		return mean(k - 9)
	}
	return mean(k - 4)
}
