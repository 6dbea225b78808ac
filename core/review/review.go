// Package review looks back on a zone when the season turns: what did not hold, what the ground lacks, what was fed, and whether anything
// is booked. It says what is worth a look, the most pressing first.
package review

import (
	"math"
	"sort"
	"time"

	"hodos/core/turf"
)

// Zone is what is known of a zone over the year.
type Zone struct {
	Today                                     time.Time
	Grasses                                   []string
	Course                                    string         // off-course, slow, on-course, or ""
	Cover, Target                             float64        // shares; Cover NaN where nobody measured
	Causes                                    map[string]int // times in three years
	ThatchMM, ConeKPa, Uniformity, WeedsShare float64        // the newest reading of the year; NaN for none
	NitrogenGM2                               float64        // of twelve months
	Fed                                       bool           // by the firm: a record of feeding in two years
	SoilTest                                  *time.Time
	Booked                                    int
	Visits                                    int // of twelve months
}

// Point is one thing that is worth a look. Value and Of are its figures in the unit of the point.
type Point struct {
	ID        string
	Weight    int
	Cause     string
	Value, Of float64
}

// Limits of the review; where not said otherwise extension consensus.
const (
	thatch     = 12.0   // mm
	hard       = 2000.0 // kPa
	uneven     = .6
	weeds      = .10
	testYears  = 3
	coverShort = .1 // of the target (judgement)
)

// Points lists what is worth a look, the most pressing first.
func Points(z Zone) []Point {
	var out []Point
	add := func(id string, weight int, value, of float64) {
		out = append(out, Point{ID: id, Weight: weight, Value: value, Of: of})
	}
	switch z.Course {
	case "off-course":
		add("off-course", 90, 0, 0)
	case "slow":
		add("slow", 60, 0, 0)
	}
	if !math.IsNaN(z.Cover) && z.Cover < z.Target-coverShort {
		add("cover", 70, z.Cover*100, z.Target*100)
	}
	for cause, n := range z.Causes {
		if n >= 2 {
			out = append(out, Point{ID: "again", Weight: 80, Cause: cause, Value: float64(n)})
		}
	}
	for _, x := range []struct {
		id     string
		weight int
		value  float64
		over   bool
		limit  float64
	}{
		{"thatch", 50, z.ThatchMM, true, thatch},
		{"hard", 55, z.ConeKPa, true, hard},
		{"uneven", 65, z.Uniformity, false, uneven},
		{"weeds", 45, z.WeedsShare, true, weeds},
	} {
		if !math.IsNaN(x.value) && (x.over && x.value >= x.limit || !x.over && x.value < x.limit) {
			add(x.id, x.weight, x.value, x.limit)
		}
	}
	if least := leastNitrogen(z.Grasses); z.Fed && least > 0 && z.NitrogenGM2 < least*.75 {
		add("unfed", 40, z.NitrogenGM2, least)
	}
	if z.SoilTest == nil {
		add("no-test", 20, 0, 0)
	} else if z.SoilTest.Before(z.Today.AddDate(-testYears, 0, 0)) {
		add("old-test", 25, math.Floor(z.Today.Sub(*z.SoilTest).Hours()/24/365), testYears)
	}
	if z.Booked == 0 {
		add("nothing-booked", 35, 0, 0)
	}
	if z.Visits == 0 {
		add("unseen", 30, 0, 0)
	}
	sort.SliceStable(out, func(a, b int) bool {
		if out[a].Weight != out[b].Weight {
			return out[a].Weight > out[b].Weight
		}
		return out[a].Cause < out[b].Cause
	})
	return out
}

// leastNitrogen is the least that the hungriest of some grasses needs in a year, g N/m²; 0 for no value.
func leastNitrogen(grasses []string) (least float64) {
	for _, id := range grasses {
		if g, ok := turf.ByID(id); ok && g.Nitrogen.Known() {
			least = math.Max(least, g.Nitrogen.Low)
		}
	}
	return least
}
