package knowledge

import "strings"

// sensibleRow: a check is worth asking for only while its test holds; of several rows of a finding all have to. A test is one side of a
// conflict, or several joined by "or", "warm" (warm-season grass), "known x", "unknown x" or "never"; open says that it holds as well
// where the finding it asks for is not known.
type sensibleRow struct {
	finding, test string
	open          bool
}

var sensibleRows = []sensibleRow{
	{"green-up-percent", "warm", false},
	{"green-up-percent", "soil-temp-class = cold|cool|mild", true},
	{"snow-cover-days", "unknown snow-days", false},
	{"grub-depth-mm", "grubs-per-m2 >= 10", false},
	{"grub-size", "grubs-per-m2 >= 10", false},
	{"grub-kind", "grubs-per-m2 >= 10", false},
	{"moss-state", "moss-cover-percent >= 0.1", false},
	{"caterpillar-kind", "flush-caterpillars-per-m2 >= 0.1 or insects-seen = caterpillars", false},
	{"weed-kinds", "weed-cover-percent >= 0.1", true},
	{"soil-temp-healthy-c", "known soil-temp-c", false},
	{"soil-temp-hour", "never", false},    // it serves a reading
	{"tissue-si-percent", "never", false}, // these serve remedies, not causes
	{"catch-can-mm-h", "never", false},
}

// sensibleTest is a compiled row.
type sensibleTest struct {
	warm, never    bool
	known, unknown string
	sides          []side
	open           bool
}

var sensibleOf = map[string][]sensibleTest{}

func compileSensible() {
	for _, r := range sensibleRows {
		if _, ok := findFinding(r.finding); !ok {
			panic("knowledge: a check of the unknown " + r.finding)
		}
		t := sensibleTest{warm: r.test == "warm", never: r.test == "never", open: r.open}
		asks, id, pair := strings.Cut(r.test, " ")
		switch {
		case t.warm, t.never:
		case pair && asks == "known":
			t.known = id
		case pair && asks == "unknown":
			t.unknown = id
		default:
			for _, one := range strings.Split(r.test, " or ") {
				t.sides = append(t.sides, sideOf(one))
			}
		}
		sensibleOf[r.finding] = append(sensibleOf[r.finding], t)
	}
}

func (t sensibleTest) holds(known map[string]Value, warm bool) bool {
	has := func(id string) bool { _, ok := known[id]; return ok }
	switch {
	case t.warm:
		return warm
	case t.never:
		return false
	case t.known != "":
		return has(t.known)
	case t.unknown != "":
		return !has(t.unknown)
	}
	asked := false
	for _, s := range t.sides {
		if _, ok := s.holds(known); ok {
			return true
		}
		asked = asked || has(s.finding)
	}
	return t.open && !asked
}

// Sensible leaves out checks that the season or another answer makes pointless.
func (f *Finding) Sensible(known map[string]Value, warm bool) bool {
	for _, t := range sensibleOf[f.ID] {
		if !t.holds(known, warm) {
			return false
		}
	}
	return true
}

// Within is a reading within a band.
func (cf *Table) Within(band int) float64 {
	b := cf.Finding.Bands
	switch {
	case band == 0:
		return (cf.Finding.Min + b[0]) / 2
	case band == len(b):
		return (b[band-1] + cf.Finding.Max) / 2
	}
	return (b[band-1] + b[band]) / 2
}
