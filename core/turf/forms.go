package turf

// Form is a kind of cultivars within a grass that is kept otherwise than the rest of it. Noughts stand for "as the grass".
type Form struct {
	ID, Grass, Label string
	Mow              Range   // mm
	Summer           float64 // mm
	SunFull, SunFew  float64 // hours of direct sun a day: for full density, and the least
}

// forms: one a line (extension ranges; the sun of matrella J). A form without figures is named to tell it from the others.
var forms = []Form{
	{"japonica", "zoysiagrass", "Japanese lawn grass (japonica)", Range{}, 0, 0, 0},
	{"matrella", "zoysiagrass", "Manila grass (matrella)", Range{12, 38}, 38, 5, 4},
	{"standard", "st-augustinegrass", "standard cultivar", Range{}, 0, 0, 0},
	{"dwarf", "st-augustinegrass", "dwarf cultivar", Range{50, 65}, 65, 0, 0},
	{"creeping-red", "fine-fescue", "creeping red fescue", Range{}, 0, 0, 0},
	{"hard-chewings", "fine-fescue", "hard or chewings fescue", Range{50, 100}, 100, 0, 0},
}

// Forms lists all forms, those of one grass together.
func Forms() []Form { return forms }

// IsForm reports whether a form is one of a grass.
func IsForm(grass, form string) bool {
	for _, f := range forms {
		if f.Grass == grass && f.ID == form {
			return true
		}
	}
	return false
}

// InForm is the grass in one of its forms: with its figures where it has its own. A form of another grass changes nothing.
func (s Species) InForm(form string) Species {
	for _, f := range forms {
		if f.Grass != s.ID || f.ID != form {
			continue
		}
		if f.Mow.Known() {
			s.Mow, s.Summer = f.Mow, f.Summer
		}
		if f.SunFull > 0 {
			s.SunFull, s.SunLeast = f.SunFull, f.SunFew
		}
	}
	return s
}
