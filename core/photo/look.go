package photo

// Wanted is by what a picture is measured: its cover by limits and a grey card, or the share of what was pointed out.
type Wanted struct {
	Limits
	Card        *Box
	Like, Other []Tap
	Moss        bool     // the share of what was pointed out, not the cover
	Tilt        *float64 // of the camera, degrees from straight down; nil where nobody knows
}

// Wrong is why a picture is not measured as it is wanted: the field at fault, as its readers call it, and the reason.
type Wrong struct {
	Field, Reason string
}

func (w *Wrong) Error() string { return w.Field + ": " + w.Reason }

// Look measures a picture as it is wanted. The error is a *Wrong of picture, hue_low, hue_high, saturation, card or like.
func Look(p Picture, w Wanted) (Measured, error) {
	if err := p.Check(); err != nil {
		return Measured{}, &Wrong{"picture", err.Error()}
	}
	m, err := look(p, w)
	if err != nil {
		return Measured{}, err
	}
	if w.Tilt != nil && *w.Tilt > TiltTo {
		m.Faults = append(m.Faults, Tilted)
	}
	return m, nil
}

func look(p Picture, w Wanted) (m Measured, err error) {
	if w.Moss {
		if m.Cover, m.Error, m.Mask, err = Share(p, w.Like, w.Other); err != nil {
			return m, &Wrong{"like", err.Error()}
		}
		return m, nil
	}
	if field, reason := w.Limits.Check(); field != "" {
		return m, &Wrong{field, reason}
	}
	gains := Gains{}
	if w.Card != nil {
		if gains, err = Balance(p, *w.Card); err != nil {
			return m, &Wrong{"card", err.Error()}
		}
	}
	return Measure(p, w.Limits, gains)
}
