package evidence

import (
	"slices"
	"sort"
	"strings"
	"time"

	"hodos/core/knowledge"
	"hodos/core/turf"
)

// Look is one measurement of how a zone recovers. What nobody looked at is nil or empty.
type Look struct {
	Date   time.Time
	Cover  *float64 // green cover of the damaged part, 0 to 1
	Spread string   // new damage beside the old: none, new
	Index  *float64 // dark green colour index by photographs, 0 to 1
}

// Response is what came of a treatment: what was held against what, and what it says.
type Response struct {
	Finding     string // the derived finding that it answers
	Action      string
	On          time.Time // of the treatment
	By          string    // count, spread, area, cover, colour or index
	Count       string    // the finding that was counted, where it is by count
	Was         time.Time // of what it is held against
	Before, Now float64   // per m², or shares from 0 to 1; 0 for words
	Word        string    // better, none
}

// responseRow says when what came of a treatment can be judged, in days after it: that it is better from soon on, that there is no answer
// from sure on, either up to till. by names what it can be read off, in the order in which it is trusted; hope those that can only say
// that it is better. still says that growth is not needed for it.
type responseRow struct {
	finding, actions string
	soon, sure, till float64
	by, hope         string
	still            bool
}

// responseRows: extension practice (iron greens in three days, nitrogen in one to two weeks, water in ten days or not at all; a curative
// is judged by a new count; a fungicide by no new spread in a fortnight).
var responseRows = []responseRow{
	{"answer-to-water", "water-deep spot-water survival-water", 5, 10, 30, "area cover", "", false},
	{"answer-to-iron", "apply-iron", 2, 4, 21, "colour index", "", true},
	{"answer-to-nitrogen", "apply-nitrogen spoon-feed-nitrogen", 8, 14, 35, "colour index", "", false},
	{"answer-to-insecticide", "insecticide-curative", 3, 5, 30, "count spread area", "area", true},
	{"answer-to-fungicide", "fungicide-curative", 10, 14, 30, "spread area cover", "", true},
}

// Figures of the comparison (judgement): a curative halves a count where it works, damage and bare ground are better from a third less, and
// a colour index by photographs from a twentieth more. What was too little before cannot be judged. Growth under growsAt of its best is
// none.
const (
	halved     = .5
	hardlyMin  = .75
	thirdLess  = 2. / 3
	moreGreen  = .05
	leastArea  = 2.0 // per cent
	leastCount = 10. // per m²
	leastBare  = .05 // share
	before     = 30  // days before a treatment, for what stood then
	growsAt    = .15
)

// point is what is known of the zone on one day.
type point struct {
	day      time.Time
	findings map[string]knowledge.Value
	look     Look
}

// points are the days on which something was seen, in rising order; the last of them is the case itself.
func (c Case) points() (earlier []point, now point) {
	for _, e := range c.Earlier {
		earlier = append(earlier, point{day: e.Date, findings: e.Findings})
	}
	now = point{day: c.Lawn.Date, findings: c.Findings}
	for _, l := range c.Looks {
		if l.Date.Before(c.Lawn.Date) {
			earlier = append(earlier, point{day: l.Date, look: l})
		} else if l.Date.Equal(c.Lawn.Date) {
			now.look = l.over(now.look)
		}
	}
	sort.SliceStable(earlier, func(a, b int) bool { return earlier[a].day.Before(earlier[b].day) })
	return earlier, now
}

// over is a look with what it leaves open taken from another one.
func (l Look) over(under Look) Look {
	if l.Cover == nil {
		l.Cover = under.Cover
	}
	if l.Spread == "" {
		l.Spread = under.Spread
	}
	if l.Index == nil {
		l.Index = under.Index
	}
	return l
}

// responses reads what came of each treatment: today against the last day before it that saw the same.
func (g *Gathered) responses(c Case, note func(string, string, ...any)) {
	earlier, now := c.points()
	for _, row := range responseRows {
		last, judged := row.last(c)
		if !judged {
			continue
		}
		r, ok := row.read(last.Date, earlier, now)
		f, _ := knowledge.FindingByID(row.finding)
		said := knowledge.LowerFirst(f.Label)
		age := c.Lawn.Date.Sub(last.Date).Hours() / 24
		switch {
		case !ok, r.Word == "none" && age < row.sure:
			continue
		case r.Word == "none" && !row.still && !c.grew(last.Date):
			note(row.finding, "%s of %s cannot be judged yet: it has been too cold or too hot to grow since", said, last.Date.Format("2 January"))
			continue
		}
		r.Finding, r.Action, r.On = row.finding, last.Action, last.Date
		g.Responses = append(g.Responses, r)
		g.Values[row.finding] = knowledge.WordValue(r.Word)
		if r.By == "spread" {
			note(row.finding, "%s of %s: none; it has spread since", said, last.Date.Format("2 January"))
			continue
		}
		note(row.finding, "%s of %s, against what was seen on %s: %s", said, last.Date.Format("2 January"), r.Was.Format("2 January"), r.Word)
	}
}

// last is the last treatment of a row that can be judged on the day of the case.
func (row responseRow) last(c Case) (last Treatment, ok bool) {
	for _, t := range c.Treatments {
		age := c.Lawn.Date.Sub(t.Date).Hours() / 24
		if slices.Contains(strings.Fields(row.actions), t.Action) && age >= row.soon && age <= row.till && t.Date.After(last.Date) {
			last, ok = t, true
		}
	}
	return last, ok
}

// Answering says whether something was done to the zone of which it can be told by now what came of it.
func Answering(c Case) bool {
	return slices.ContainsFunc(responseRows, func(row responseRow) bool { _, ok := row.last(c); return ok })
}

// read holds today against the days before a treatment, by the signs of the row in their order.
func (row responseRow) read(on time.Time, earlier []point, now point) (Response, bool) {
	for _, by := range strings.Fields(row.by) {
		if by == "spread" { // is read off today alone
			if now.look.Spread == "new" {
				return Response{By: by, Was: on, Word: "none"}, true
			}
			continue
		}
		for i := len(earlier) - 1; i >= 0; i-- {
			was := earlier[i]
			if was.day.After(on) || on.Sub(was.day) > before*24*time.Hour {
				continue
			}
			r, ok := signs[by](was, now)
			if ok && !(r.Word == "none" && slices.Contains(strings.Fields(row.hope), by)) {
				r.By, r.Was = by, was.day
				return r, true
			}
		}
	}
	return Response{}, false
}

// signs compare two days; false where one of them does not say, or it lies between.
var signs = map[string]func(was, now point) (Response, bool){
	"count": counted, "area": smaller, "cover": closed, "colour": greener, "index": deeper,
}

// counted compares what was counted on both days, the largest count before first.
func counted(was, now point) (r Response, ok bool) {
	for id, v := range was.findings {
		f, known := knowledge.FindingByID(id)
		n, again := now.findings[id]
		if !known || f.Unit != "1/m2" || v.Number == nil || !again || n.Number == nil || *v.Number < leastCount {
			continue
		}
		if *v.Number < r.Before || *v.Number == r.Before && id > r.Count { // of two alike the first by its id, whatever order the map has
			continue
		}
		r, ok = Response{Count: id, Before: *v.Number, Now: *n.Number}, true
	}
	switch {
	case r.Now <= r.Before*halved:
		r.Word = "better"
	case r.Now >= r.Before*hardlyMin:
		r.Word = "none"
	default:
		return r, false
	}
	return r, ok
}

// word is better where it is.
func word(better bool) string {
	if better {
		return "better"
	}
	return "none"
}

// smaller compares the area affected.
func smaller(was, now point) (Response, bool) {
	a, b := was.findings["affected-area-percent"].Number, now.findings["affected-area-percent"].Number
	if a == nil || b == nil || *a < leastArea {
		return Response{}, false
	}
	return Response{Before: *a / 100, Now: *b / 100, Word: word(*b <= *a*thirdLess && *a-*b >= leastArea)}, true
}

// closed compares what is not green of the damaged part.
func closed(was, now point) (Response, bool) {
	if was.look.Cover == nil || now.look.Cover == nil || 1-*was.look.Cover < leastBare {
		return Response{}, false
	}
	a, b := 1-*was.look.Cover, 1-*now.look.Cover
	return Response{Before: *was.look.Cover, Now: *now.look.Cover, Word: word(b <= a*thirdLess && a-b >= leastBare)}, true
}

// deeper compares the colour index by photographs.
func deeper(was, now point) (Response, bool) {
	if was.look.Index == nil || now.look.Index == nil {
		return Response{}, false
	}
	return Response{Before: *was.look.Index, Now: *now.look.Index, Word: word(*now.look.Index-*was.look.Index >= moreGreen)}, true
}

// greener compares the colours: better where yellow or lime-green has gone, or dark green has come.
func greener(was, now point) (Response, bool) {
	a, b := was.findings["colour"].List, now.findings["colour"].List
	if a == nil || b == nil || pale(a) == 0 {
		return Response{}, false
	}
	return Response{Word: word(pale(b) < pale(a) || slices.Contains(b, "dark-green"))}, true
}

// pale counts the pale colours among words.
func pale(colours []string) (n int) {
	for _, w := range []string{"yellow", "lime-green"} {
		if slices.Contains(colours, w) {
			n++
		}
	}
	return n
}

// grew says whether the weather since a day let the grass grow; yes where it is not known.
func (c Case) grew(since time.Time) bool {
	var grass turf.Species
	if len(c.Lawn.Species) > 0 {
		grass, _ = turf.ByID(c.Lawn.Species[0])
	}
	sum, n := 0.0, 0.0
	for _, d := range c.Weather {
		if t, ok := d.Mean(); ok && d.Date.After(since) {
			sum, n = sum+grass.Growth(t), n+1
		}
	}
	return n == 0 || sum/n >= growsAt
}
