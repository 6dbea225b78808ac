package knowledge

// conditionRow: a cause that is its own reading. Beyond the limit (on the reference grass) nothing else accounts for the reading, so
// that it settles its own condition; what else is likelier with it is said by the pairs.
type conditionRow struct {
	cause, finding string
	over           bool
	limit          float64
	backdrop       bool // a state of the ground or the stand: beside damage that has a cause it stands behind it
}

// conditionRows: limits of extension tables; see the thresholds of the guide.
var conditionRows = []conditionRow{
	{"low-ph", "soil-ph", false, 5.5, true},
	{"high-ph", "soil-ph", true, 7.4, true},
	{"salinity", "soil-ec-ds-m", true, 3, false},
	{"potassium-deficiency", "soil-k-ppm", false, 37, true},
	{"phosphorus-deficiency", "soil-p-ppm", false, 12, true},
	{"excess-thatch", "thatch-mm", true, 13, true},
	{"compaction", "penetration-kpa", true, 2200, true},
	{"shade-thinning", "sun-hours", false, 4, true},
	{"moss-invasion", "moss-cover-percent", true, 15, true},
	{"weed-invasion", "weed-cover-percent", true, 25, true},
	{"irrigation-coverage-gap", "catch-can-du", false, .5, false},
	{"white-grubs", "grubs-per-m2", true, 65, false},
	{"chinch-bugs", "float-chinch-per-m2", true, 160, false},
	{"mole-crickets", "flush-mole-crickets-per-m2", true, 10, false},
	{"crane-fly-larvae", "leatherjackets-per-m2", true, 150, false},
	{"billbugs", "billbug-larvae-per-m2", true, 65, false},
}

// OwnStray is the share of the usual strays that is left beyond a limit: nobody takes a lawn without moss for one half under it
// (judgement).
const OwnStray = .2

// Owner is the cause that a reading is, as an index into the causes; -1 for none.
func Owner(finding string, v Value) int {
	for _, r := range conditionRows {
		if r.finding == finding && v.Number != nil && (r.over && *v.Number >= r.limit || !r.over && *v.Number <= r.limit) {
			return CauseAt[r.cause]
		}
	}
	return -1
}

// Backdrop reports a cause that stands behind what it leads to.
func Backdrop(cause string) bool {
	for _, r := range conditionRows {
		if r.cause == cause && r.backdrop {
			return true
		}
	}
	return false
}

// NotSeen is what is left of signs that were not seen, of a cause whose own reading lies beyond its limit: what is measured is not
// argued away (judgement).
const NotSeen = .3
