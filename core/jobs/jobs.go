// Package jobs makes jobs of a plan: which of its lines are work, in which span of days each may be done, how often it repeats, how
// long it takes and what a day of waiting costs.
package jobs

import (
	"time"

	"hodos/core/remedy"
)

// Job is one piece of work of a plan. Dates are midnight UTC.
type Job struct {
	Action   string
	Step     int // of its series, from 1
	Steps    int
	From, To time.Time
	Want     time.Time
	Least    int     // days after the step before
	Minutes  float64 // of one person
	Wait     float64 // what a day of waiting costs, in the firm's money
	NGM2     float64
	Price    float64
	Reason   string
	Rank     int
}

// Lawn is what the times and costs of jobs hang on.
type Lawn struct {
	Today  time.Time
	AreaM2 float64
	Worth  float64 // of a square metre of sound lawn
	Autumn bool    // the autumn half of the year
	Cool   bool
}

// workRow is how a kind of work is booked: how many days it may wait once it is due, minutes to set up and for 100 m², the share of the
// treated lawn's worth that a day of waiting loses, and how it repeats. Practice and judgement.
type workRow struct {
	action     string
	days       int
	setup, per float64
	loses      float64
	steps      int
	every      []int // days to the next step; the last one holds for the rest
}

var workRows = []workRow{
	{"light-watering-of-new-stands", 1, 5, 2, .02, 1, nil},
	{"flush-spot-with-water", 1, 5, 10, .01, 1, nil},
	{"water-deep", 2, 5, 1, .01, 1, nil},
	{"spot-water", 2, 5, 10, .005, 1, nil},
	{"survival-water", 3, 5, 1, .01, 3, []int{14}},
	{"fix-irrigation", 14, 30, 10, .004, 1, nil},
	{"improve-drainage", 90, 120, 60, .001, 1, nil},
	{"install-drain", 120, 240, 120, .001, 1, nil},
	{"apply-wetting-agent", 7, 12, 6, .003, 3, []int{14, 21}},
	{"leach-salts", 10, 20, 4, .003, 3, []int{1}},
	{"press-and-water", 3, 10, 6, .006, 1, nil},
	{"resume-mowing", 4, 10, 5, .002, 1, nil},
	{"lower-mowing-once", 14, 15, 10, .001, 1, nil},
	{"sharpen-blades", 7, 20, 0, .001, 1, nil},
	{"short-last-mowing", 21, 10, 5, .0005, 1, nil},
	{"edge", 30, 10, 4, .0002, 1, nil},
	{"spring-handover", 14, 10, 5, .001, 2, []int{14}},
	{"apply-nitrogen", 14, 10, 3, .0004, 1, nil},
	{"spoon-feed-nitrogen", 7, 12, 4, .001, 3, []int{14}},
	{"acidifying-nitrogen", 14, 10, 3, .001, 2, []int{28}},
	{"apply-iron", 10, 12, 5, .0006, 1, nil},
	{"apply-phosphorus", 30, 10, 3, .0003, 1, nil},
	{"apply-potassium", 30, 10, 3, .0003, 1, nil},
	{"apply-micronutrients", 21, 12, 5, .0003, 1, nil},
	{"apply-manganese", 21, 12, 5, .0003, 1, nil},
	{"apply-lime", 60, 12, 4, .0002, 1, nil},
	{"apply-acidifier", 60, 12, 4, .0002, 2, []int{60}},
	{"apply-gypsum", 45, 12, 5, .0004, 1, nil},
	{"apply-silicon", 60, 12, 5, .0001, 1, nil},
	{"core-aerate", 28, 25, 12, .001, 1, nil},
	{"dethatch", 21, 25, 15, .001, 1, nil},
	{"scarify", 21, 25, 18, .001, 1, nil},
	{"topdress", 28, 30, 30, .0004, 1, nil},
	{"level-surface", 60, 30, 45, .0003, 1, nil},
	{"remove-debris", 3, 5, 8, .01, 1, nil},
	{"brush-up-mats", 7, 5, 10, .004, 1, nil},
	{"rake-out-moss", 10, 10, 20, .001, 1, nil},
	{"prune-shade", 150, 120, 0, .0001, 1, nil},
	{"apply-compost", 28, 30, 30, .0003, 1, nil},
	{"replace-soil", 45, 60, 200, .001, 1, nil},
	{"overseed", 14, 20, 8, .003, 1, nil},
	{"slit-seed", 14, 30, 15, .004, 1, nil},
	{"interseed", 14, 30, 15, .002, 1, nil},
	{"winter-overseed", 14, 20, 10, .003, 1, nil},
	{"plug-or-sprig", 21, 20, 60, .002, 1, nil},
	{"resod", 21, 60, 120, .003, 1, nil},
	{"renovate", 30, 60, 60, .002, 1, nil},
	{"change-grass", 30, 60, 60, .001, 1, nil},
	{"off-type-removal", 21, 15, 20, .0003, 1, nil},
	{"fungicide-curative", 3, 15, 5, .015, 2, []int{14}},
	{"fungicide-preventive", 14, 15, 5, .003, 1, nil},
	{"insecticide-curative", 3, 15, 5, .02, 1, nil},
	{"insecticide-preventive", 21, 15, 5, .002, 1, nil},
	{"herbicide-spot", 14, 12, 6, .001, 1, nil},
	{"herbicide-broadcast", 14, 15, 5, .001, 1, nil},
	{"preemergent", 10, 12, 4, .004, 2, []int{56}},
	{"growth-regulator", 14, 15, 5, .0003, 1, nil},
	{"nuisance-pests", 14, 15, 8, 0, 1, nil},
	{"moss-control", 21, 12, 5, .0006, 1, nil},
	{"hand-weed", 14, 10, 15, .001, 1, nil},
	{"soil-test", 14, 10, 3, .001, 1, nil},
	{"send-lab-sample", 3, 15, 0, .01, 1, nil},
}

var workAt = map[string]*workRow{}

func init() {
	for i := range workRows {
		workAt[workRows[i].action] = &workRows[i]
	}
}

// IsWork reports whether an action is work that is booked: the others are told to the client, or kept in mind.
func IsWork(action string) bool { return workAt[action] != nil }

// Minutes are what a job takes one person.
func Minutes(action string, area float64) float64 {
	w := workAt[action]
	if w == nil {
		return 0
	}
	return w.setup + w.per*area/100
}

// steps is how often a line repeats: the autumn feeding of cool-season turf two times (to be planned anew when the first has gone).
func (w *workRow) stepsOf(l Lawn) (n int, every []int) {
	if w.action == "apply-nitrogen" && l.Cool && l.Autumn {
		return 2, []int{21}
	}
	return w.steps, w.every
}

// Of makes jobs of a plan. What waits for a check is none yet; what is held is one from the day it is held until, where that is known.
func Of(p remedy.Plan, l Lawn) []Job {
	var out []Job
	for i := range p.Lines {
		a := &p.Lines[i]
		w := workAt[a.ID]
		if w == nil || !a.Called || a.As != "" {
			continue
		}
		from, to, ok := span(a, w, l.Today)
		if !ok {
			continue
		}
		area := a.AreaM2
		if area <= 0 || !remedy.Partial(a.ID) {
			area = l.AreaM2
		}
		n, every := w.stepsOf(l)
		job := Job{
			Action:  a.ID,
			Steps:   n,
			From:    from,
			To:      to,
			Want:    from,
			Minutes: Minutes(a.ID, area),
			Wait:    w.loses * area * l.Worth,
			NGM2:    a.NGM2,
			Price:   a.Price,
			Rank:    a.Order,
		}
		if len(a.Reasons) > 0 {
			job.Reason = a.Reasons[0]
		}
		if a.Verdict == remedy.Hold && a.UntilWhat != "" {
			job.Reason = "held until " + a.UntilWhat
		}
		for step := 1; step <= n; step++ {
			job.Step, job.Least = step, 0
			if step > 1 {
				days := every[min(step-2, len(every)-1)]
				job.From, job.To, job.Want = job.From.AddDate(0, 0, days), job.To.AddDate(0, 0, days+7), job.Want.AddDate(0, 0, days)
				job.Least = days
			}
			out = append(out, job)
		}
	}
	return out
}

// span is when a line may be done.
func span(a *remedy.Advice, w *workRow, today time.Time) (from, to time.Time, ok bool) {
	switch a.Verdict {
	case remedy.DoNow:
		return today, today.AddDate(0, 0, w.days), true
	case remedy.Schedule:
		if a.From == nil {
			return from, to, false
		}
		from = *a.From
		if from.Before(today) {
			from = today
		}
		to = from.AddDate(0, 0, w.days)
		if a.To != nil && !a.To.Before(from) {
			to = *a.To
		}
		return from, to, true
	case remedy.Hold:
		if a.Until == nil {
			return from, to, false
		}
		from = *a.Until
		if from.Before(today) {
			from = today
		}
		return from, from.AddDate(0, 0, w.days), true
	}
	return from, to, false
}

// clear is how many days an action needs before an event of the client, so that by then it is dry, open, mown and looks well: holes close,
// seed is mown, moss is raked, iron has washed off (practice and judgement). What is not named needs one day.
var clear = map[string]int{
	"core-aerate":            21,
	"dethatch":               28,
	"scarify":                35,
	"topdress":               14,
	"level-surface":          28,
	"apply-compost":          21,
	"overseed":               60,
	"slit-seed":              60,
	"interseed":              60,
	"winter-overseed":        30,
	"plug-or-sprig":          60,
	"resod":                  21,
	"renovate":               90,
	"change-grass":           90,
	"replace-soil":           30,
	"herbicide-spot":         14,
	"herbicide-broadcast":    14,
	"off-type-removal":       60,
	"moss-control":           28,
	"rake-out-moss":          21,
	"apply-nitrogen":         4,
	"spoon-feed-nitrogen":    2,
	"acidifying-nitrogen":    4,
	"apply-iron":             3,
	"apply-lime":             7,
	"fungicide-curative":     2,
	"fungicide-preventive":   2,
	"insecticide-curative":   3,
	"insecticide-preventive": 3,
	"nuisance-pests":         2,
	"preemergent":            3,
	"growth-regulator":       7,
	"lower-mowing-once":      21,
	"install-drain":          60,
	"improve-drainage":       45,
	"apply-wetting-agent":    2,
}

// ClearBefore is how many days an action needs before an event.
func ClearBefore(action string) int {
	if n, ok := clear[action]; ok {
		return n
	}
	return 1
}
