// Package watch says what a specialist should hear of a zone without having asked: weather windows that have opened, grass that
// has nearly used up what it stands without water, frost after growth has begun, autumn feeding that opens. What was told
// once is not told again while it lasts.
package watch

import (
	"fmt"
	"math"
	"sort"
	"time"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/turf"
	"hodos/core/units"
	"hodos/core/weather"
)

// Kinds of a notice.
const (
	Window    = "window"    // the weather of a disease, an insect, heat, or of work that has its time
	Prevent   = "prevent"   // the season of a preventive, for what is on record here
	Endurance = "endurance" // what the grass stands without water runs out
	Frost     = "frost"     // frost after growth has begun
	Feeding   = "feeding"   // autumn feeding opens
	Silent    = "silent"    // no weather has come in for days: nothing else can be said
)

// Levels of a notice.
const (
	Note = 1 // good to know
	Act  = 2 // something has to be done, or has happened here before
)

// Notice is one thing to tell of a zone.
type Notice struct {
	Kind    string
	Subject string // a cause or a band; "" where the kind says all
	Level   int
	Since   time.Time // the day on which it opened or will open
	On      time.Time // the day it comes to a head; zero for none
	Ahead   bool      // by the forecast
	Detail  string    // the reason, in words
}

// Zone is what the watch has to know of a zone beside its case.
type Zone struct {
	Case evidence.Case
	Had  map[string]bool // causes confirmed here in the past three years
}

// How far the watch looks ahead for each kind (judgement: a forecast errs more the further ahead), how long a zone must be
// quiet before the same thing is told again, and how likely a cause must be on the lawn in its season to be told at all.
const (
	windowAhead    = 3   // days
	frostAhead     = 5   // days
	enduranceAhead = 3   // days
	quietDays      = 6   // days
	leastOdds      = .01 // of a cause that was never here
	openFor        = 14  // days for which the opening of a season is worth telling
)

// SilentAfter is how many days without weather make a zone silent (judgement).
const SilentAfter = 3

// Notices says what is to be told of a zone on the day of its case, the most urgent first. in says quantities in the firm's units.
func Notices(z Zone, in units.Saying) []Notice {
	s, _, _ := z.Case.Sky(z.Case.Findings)
	if s.Today < 0 {
		return nil
	}
	if newest := s.Points[s.Today].Date; z.Case.Lawn.Date.Sub(newest) > SilentAfter*24*time.Hour {
		return []Notice{{Kind: Silent, Level: Note, Since: newest.AddDate(0, 0, 1),
			Detail: "No weather data since " + newest.Format("2 January") + ", so newer warnings may be missing"}}
	}
	w := looker{z, s, in, nil}
	w.windows()
	w.preventions()
	w.seasons()
	w.heat()
	w.endurance()
	w.frost()
	w.feeding()
	sort.SliceStable(w.out, func(a, b int) bool { return w.out[a].Level > w.out[b].Level })
	return w.out
}

type looker struct {
	Zone
	s   sky.Sky
	in  units.Saying
	out []Notice
}

func (w *looker) tell(n Notice) { w.out = append(w.out, n) }

// until is the last index that lies no more than the days ahead.
func (w *looker) until(days int) int { return min(w.s.Today+days, len(w.s.Points)-1) }

// shaded are the diseases of shade: told only where a third of the sun is missing, or where they have been (judgement).
var shaded = map[string]bool{"powdery-mildew": true}

// telling reports whether a cause is worth telling of here, and how urgently: what was here before always, the rest where
// grass and season let it be likely.
func (w *looker) telling(cause string) (level int, ok bool) {
	if w.Had[cause] {
		return Act, true
	}
	if shaded[cause] && w.s.Ground.Shade < 1./3 {
		return Note, false
	}
	return Note, knowledge.Odds(cause, w.Case.Lawn) >= leastOdds
}

// windows tells of diseases whose weather has opened. The slow ones of roots and snow, whose look-back ends three weeks and more before the
// damage shows, are told only where they have been before: elsewhere nobody acts on them.
func (w *looker) windows() {
	for _, b := range w.s.Bands {
		if b.Kind != "disease" {
			continue
		}
		level, ok := w.telling(b.ID)
		if !ok || b.From >= 21 && (level < Act || remedy.Prevented(b.ID)) {
			continue
		}
		n, ok := w.opened(b)
		if !ok {
			continue
		}
		n.Kind, n.Subject, n.Level = Window, b.ID, level
		w.tell(n)
	}
}

// preventions tells of the preventives whose season opens, for what is on record: from the same rows as the plan.
func (w *looker) preventions() {
	for _, x := range remedy.Preventions(w.Case, w.s, w.Had, windowAhead, w.in) {
		today := w.Case.Lawn.Date
		if x.From.Before(today.AddDate(0, 0, -openFor)) {
			continue
		}
		n := Notice{Kind: Prevent, Subject: x.Cause, Level: Act, Since: x.From, Ahead: x.From.After(today), Detail: x.Season}
		if n.Ahead {
			n.Detail += ", by the forecast"
		}
		w.tell(n)
	}
}

// opened finds the day on which a band opened, counted over the span that its own days need, and says why. A window that has
// had no ripe day for three days is over.
func (w *looker) opened(b sky.Band) (Notice, bool) {
	need := max(b.Open, 1)
	span := max(7, 2*need)
	alive := false
	for i := max(0, w.s.Today-3); i <= w.until(windowAhead); i++ {
		alive = alive || b.Strength[i] >= b.Ripe
	}
	if !alive {
		return Notice{}, false
	}
	ripe := func(end int) (n int) {
		for i := max(0, end-span+1); i <= end; i++ {
			if b.Strength[i] >= b.Ripe {
				n++
			}
		}
		return n
	}
	at := -1
	for i := w.s.Today; i <= w.until(windowAhead); i++ {
		if ripe(i) >= need {
			at = i
			break
		}
	}
	if at < 0 {
		return Notice{}, false
	}
	count := ripe(at)
	ahead := at > w.s.Today
	if !ahead { // back to the day on which it opened
		for at > 0 && ripe(at-1) >= need {
			at--
		}
	}
	n := Notice{Since: w.s.Points[at].Date, Ahead: ahead}
	n.Detail = fmt.Sprintf("its weather on %d of %d days", count, span)
	if b.ID == "dollar-spot" {
		top := 0.0
		for i := max(0, w.s.Today-span+1); i <= max(at, w.s.Today); i++ {
			if !math.IsNaN(b.Strength[i]) {
				top = math.Max(top, b.Strength[i])
			}
		}
		n.Detail = fmt.Sprintf("five-day chance up to %.0f %%, over 20 %% on %d of %d days", top*100, count, span)
	}
	if ahead {
		n.Detail += ", by the forecast"
	}
	return n, true
}

// seasons tells of the degree-day windows of insects and of work in the two weeks after they open.
func (w *looker) seasons() {
	for _, d := range weather.DegreeWindows {
		level := Note
		if d.Cause != "" {
			var ok bool
			if level, ok = w.telling(d.Cause); !ok || level == Act && remedy.Prevented(d.Cause) {
				continue // what is on record is told of by its preventive
			}
		} else if !w.grows(d.Species) {
			continue
		}
		b, _ := w.s.Band(d.ID)
		at := w.first(b)
		if at < 0 {
			continue
		}
		n := Notice{Kind: Window, Subject: d.ID, Level: level, Since: w.s.Points[at].Date, Ahead: at > w.s.Today,
			Detail: fmt.Sprintf("%s over %s since 1 %s", w.in.DegreeDays(d.Opens), w.in.Temp(d.Base, 0),
				d.Since(w.s.Points[at].Date, w.Case.Lawn.Latitude).Month())}
		if n.Ahead {
			n.Detail += ", by the forecast"
		}
		w.tell(n)
	}
	if b, ok := w.s.Band("regulator-worn-off"); ok {
		if at := w.first(b); at >= 0 {
			w.tell(Notice{Kind: Window, Subject: b.ID, Level: Note, Since: w.s.Points[at].Date, Ahead: at > w.s.Today,
				Detail: fmt.Sprintf("%s since it was applied on %s: growth comes back with a surge", w.in.DegreeDays(sky.RegulatorLasts),
					w.s.Ground.Regulated.Format("2 January"))})
		}
	}
}

// first is the day on which a work or insect band opened within the last two weeks or will within the days ahead; −1 for none.
func (w *looker) first(b sky.Band) int {
	for i := max(1, w.s.Today-openFor+1); i <= w.until(windowAhead); i++ {
		if b.Strength[i] == 1 && b.Strength[i-1] == 0 {
			return i
		}
	}
	return -1
}

func (w *looker) grows(species string) bool {
	for _, id := range w.Case.Lawn.Species {
		if species == "" || id == species {
			return true
		}
	}
	return false
}

// heat tells cool-season lawns of three hot days and more in the five that begin today.
func (w *looker) heat() {
	if w.s.Ground.Warm {
		return
	}
	b, _ := w.s.Band("heat")
	hot, first, top := 0, -1, 0.0
	for i := w.s.Today; i <= w.until(4); i++ {
		if b.Strength[i] >= .5 {
			hot++
			if first < 0 {
				first = i
			}
			if t := w.s.Points[i].TMax; t != nil {
				top = math.Max(top, *t)
			}
		}
	}
	if hot >= 3 {
		if first == w.s.Today {
			first = w.began(b, first)
		}
		w.tell(Notice{Kind: Window, Subject: "heat", Level: Note, Since: w.s.Points[first].Date, Ahead: first > w.s.Today,
			Detail: fmt.Sprintf("%d of 5 days up to %s: no quick nitrogen, no herbicide, the mower up", hot, w.in.Temp(top, 0))})
	}
}

// began goes back to the day on which a spell began; a single day out of it does not end it.
func (w *looker) began(b sky.Band, i int) int {
	for k := i - 1; k >= max(0, i-2); k-- {
		if b.Strength[k] >= .5 {
			i = k
		}
	}
	return i
}

// endurance tells when two-thirds of what the grass stands without water are used, or will be in the days ahead, and again, as
// more urgent, when all of it is.
func (w *looker) endurance() {
	s := &w.s
	if s.Unsaid || s.Ground.EnduranceWeeks <= 0 {
		return
	}
	for _, i := range []int{s.Today, w.until(enduranceAhead)} {
		e := s.Balance.Endure(i, s.Ground.EnduranceWeeks, s.Ground.Harsh, s.Ground.ShallowSoil, s.Ground.SurvivesByHalf)
		if !e.Survival {
			continue
		}
		today := s.Points[i].Date
		n := Notice{Kind: Endurance, Level: Note, Ahead: i > s.Today, Since: s.Points[max(0, e.Since)].Date,
			On: today.AddDate(0, 0, int(math.Round(e.DaysLeft)))}
		left := fmt.Sprintf("about %.0f days are left", e.DaysLeft)
		if e.DaysLeft < 1.5 {
			left = "hardly a day is left"
		}
		n.Detail = fmt.Sprintf("Root zone at least 85 %% dry for %.0f days; this grass lasts about %.0f weeks. %s, %s", e.Dry, e.Weeks,
			w.needed(), left)
		if e.Used >= 1 {
			n.Level = Act
			n.Detail = fmt.Sprintf("Root zone at least 85 %% dry for %.0f days; this grass lasts about %.0f weeks. Crowns are starting to die",
				e.Dry, e.Weeks)
		}
		if n.Ahead {
			n.Detail += ", by the forecast"
		}
		w.tell(n)
		return
	}
}

// thirst says what a zone that runs out of endurance is to have: by the age of the stand and by what the client wants.
func (w *looker) needed() string {
	switch age := w.Case.Findings["establishment"].Word; {
	case age != "" && age != "established":
		return "This stand is too young to rest: water it"
	case w.Case.Policy.SummerWater == "keep-green":
		return "It is to stay green: water it deeply"
	case w.Case.Policy.SummerWater == "one-area":
		return "Water the part that is to stay green; the rest needs survival water"
	}
	return "Survival water is due"
}

// frost tells of a killing frost after growth has begun, in the days just past and ahead: the soil over 6 °C (cool-season) or
// 13 °C (warm-season) for a week, from February to June of the north.
func (w *looker) frost() {
	s := &w.s
	month := turf.SeasonMonth(s.Ground.Date.Month(), s.Ground.Latitude)
	if month < time.February || month > time.June {
		return
	}
	least, at := 99.0, -1
	for i := max(7, s.Today-2); i <= w.until(frostAhead); i++ {
		p := &s.Points[i]
		if p.TMin != nil && *p.TMin < least && s.Grown(i) {
			least, at = *p.TMin, i
		}
	}
	limit := sky.KillingCold
	if !s.Ground.Warm {
		limit = sky.HardCold // leaves of cool-season turf bear light frosts
	}
	if at < 0 || least > limit {
		return
	}
	n := Notice{Kind: Frost, Level: Note, Since: s.Points[at].Date, On: s.Points[at].Date, Ahead: at > s.Today}
	if least <= -5 || s.Ground.Warm {
		n.Level = Act
	}
	n.Detail = w.in.Temp(least, 1) + " after growth has begun"
	if n.Ahead {
		n.Detail += ", by the forecast: no mowing, no traffic on frozen leaves, no nitrogen before it"
	} else {
		n.Detail += ": look at the crowns before judging the leaves"
	}
	w.tell(n)
}

// feeding tells in the two weeks after autumn feeding has opened.
func (w *looker) feeding() {
	b, _ := w.s.Band("autumn-feeding")
	if at := w.first(b); at >= 0 {
		n := Notice{Kind: Feeding, Level: Note, Since: w.s.Points[at].Date, Ahead: at > w.s.Today,
			Detail: fmt.Sprintf("the ten days about it stay under %s: the main feeding of cool-season turf", w.in.Temp(weather.TurnMaxima, 0))}
		if n.Ahead {
			n.Detail = "by the forecast " + n.Detail
		}
		w.tell(n)
	}
}

// Standing is a notice that was told and has not ended.
type Standing struct {
	Kind, Subject string
	Level         int
	Seen          time.Time // the day on which the watch saw it last
}

// Step is what becomes of one notice on a day.
type Step struct {
	Notice
	Was *Standing // nil for one that is told for the first time
	// New is told today: for the first time, or because it became more urgent. Ended is over. Neither: it stands, untold.
	New, Ended bool
}

// Follow holds what the watch sees today against what stands. What was told stays untold while it lasts; it ends when it has not been
// seen for six days (silence at once), and only then is the same thing new again.
func Follow(standing []Standing, now []Notice, today time.Time) []Step {
	var out []Step
	met := make([]bool, len(standing))
	for _, n := range now {
		step := Step{Notice: n, New: true}
		for i := range standing {
			old := &standing[i]
			if met[i] || old.Kind != n.Kind || old.Subject != n.Subject {
				continue
			}
			// quiet for long enough, by the watch's own days or, where it did not look, by the day on which it opened
			if quiet := quietDays * 24 * time.Hour; today.Sub(old.Seen) > quiet && n.Since.Sub(old.Seen) > quiet {
				continue
			}
			met[i] = true
			step.Was, step.New = old, n.Level > old.Level
			step.Level = max(n.Level, old.Level)
			break
		}
		out = append(out, step)
	}
	for i := range standing {
		old := &standing[i]
		if !met[i] && (old.Kind == Silent || today.Sub(old.Seen) >= quietDays*24*time.Hour) {
			out = append(out, Step{Notice: Notice{Kind: old.Kind, Subject: old.Subject, Level: old.Level}, Was: old, Ended: true})
		}
	}
	return out
}
