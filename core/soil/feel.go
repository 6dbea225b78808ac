package soil

// Texture by feel: a moist lump is squeezed to a ball, pressed out between thumb and finger to a ribbon, and a pinch rubbed wet in the palm
// (Thien 1979, Journal of Agronomic Education 8). The classes with "sandy" and "silty" before clay are taken with those of the same ribbon.

// FeelRow is one way through the test.
type FeelRow struct {
	Ball     bool
	RibbonMM float64 // from so long on
	Feel     string  // gritty, smooth, neither; empty: whatever it feels like
	Texture  string
}

// FeelRows are the ways, the longest ribbon first: the first that fits is the texture.
func FeelRows() []FeelRow {
	return []FeelRow{
		{true, 50, "", "clay"},
		{true, 25, "", "clay-loam"},
		{true, 5, "gritty", "sandy-loam"},
		{true, 5, "smooth", "silt-loam"},
		{true, 5, "neither", "loam"},
		{true, 0, "", "loamy-sand"},
		{false, 0, "", "sand"},
	}
}

// ByFeel is the texture of a soil that holds together in a ball or not, ribbons so long (mm), and feels gritty, smooth or neither; empty
// where the feel is needed and not said.
func ByFeel(ball bool, ribbonMM float64, feel string) string {
	for _, r := range FeelRows() {
		if r.Ball == ball && (ribbonMM >= r.RibbonMM || !ball) && (r.Feel == "" || r.Feel == feel) {
			if r.Feel == "" && ball && ribbonMM >= 5 && r.RibbonMM == 0 {
				return "" // it ribbons, but nobody said how it feels
			}
			return r.Texture
		}
	}
	return ""
}
