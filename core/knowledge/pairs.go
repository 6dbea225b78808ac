package knowledge

// pairs that travel together (factor above 1) or cannot be together (0) in one zone at one time.
type pairRow struct {
	A, B   string
	Factor float64
	Why    string
}

// Chance is the probability, or for numbers the density, of a value.
func (cf *Table) Chance(d *Dist, v Value) float64 {
	switch {
	case d.IsNumber:
		return cf.Density(d, *v.Number, cf.Stray())
	case v.Yes != nil:
		if *v.Yes {
			return d.P[0]
		}
		return d.P[1]
	}
	at := Index(cf.Values, v.Word)
	if at < 0 {
		return 1
	}
	return d.P[at]
}
