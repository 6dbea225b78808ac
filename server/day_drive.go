package server

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hodos/core/driving"
)

// round is how the caller drives today.
func (in dayInput) round() driving.Round {
	r := driving.Round{Leave: driving.Begins}
	if in.Leave != "" {
		r.Leave = float64(minuteOf(in.Leave))
	}
	var p driving.Place
	if n, _ := fmt.Sscanf(in.From, "%f,%f", &p.Latitude, &p.Longitude); n == 2 {
		r.Start = &p
	}
	return r
}

// drive puts the visits of each person into a good order of driving. Persons stand in the order of their names, those of nobody last.
func drive(list []DayVisit, r driving.Round) {
	slices.SortStableFunc(list, func(a, b DayVisit) int {
		return cmp.Or(cmp.Compare(nobody(a), nobody(b)), cmp.Compare(a.Visit.PersonName, b.Visit.PersonName),
			cmp.Compare(whose(a), whose(b)), cmp.Compare(a.Visit.DueOn, b.Visit.DueOn))
	})
	for from := 0; from < len(list); {
		to := from + 1
		for to < len(list) && whose(list[to]) == whose(list[from]) {
			to++
		}
		driveOne(list[from:to], r)
		from = to
	}
}

func nobody(d DayVisit) int {
	if d.Visit.PersonID == nil {
		return 1
	}
	return 0
}

// whose is the key of whoever goes; two people may have one name.
func whose(d DayVisit) string {
	if d.Visit.PersonID == nil {
		return ""
	}
	return d.Visit.PersonID.String()
}

// driveOne orders the visits of one person.
func driveOne(list []DayVisit, r driving.Round) {
	stops := make([]driving.Stop, len(list))
	for i, d := range list {
		stops[i] = driving.Stop{Place: driving.Place{Latitude: d.Latitude, Longitude: d.Longitude}, Minutes: driving.DiagnosisMinutes}
		if d.Visit.Kind == "follow-up" {
			stops[i].Minutes = driving.FollowUpMinutes
		}
		if h := d.Visit.Hours; h != nil {
			stops[i].From, stops[i].To = float64(minuteOf(h.From)), float64(minuteOf(h.To))
		}
	}
	order := driving.Order(stops, r)
	was := slices.Clone(list)
	for k, l := range driving.Drive(stops, order, r) {
		list[k] = was[l.Stop]
		if k < driving.Most {
			list[k].Order, list[k].Km, list[k].Late = k+1, math.Round(l.Km*10)/10, int(math.Ceil(l.Late))
			list[k].Arrive = clockOf(int(l.Begin/5+.5) * 5) // to five minutes: nobody knows it better
		}
	}
}
