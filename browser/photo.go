package browser

import (
	"encoding/json"
	"fmt"

	"hodos/core/photo"
)

// Wanted is how a picture is to be measured.
type Wanted struct {
	HueLow     float64     `json:"hue_low"`
	HueHigh    float64     `json:"hue_high"`
	Saturation float64     `json:"saturation"`
	Card       *photo.Box  `json:"card"`  // where a grey card lies
	Like       []photo.Tap `json:"like"`  // what was pointed out; with it its share is measured, not the cover
	Other      []photo.Tap `json:"other"` // and what it is not
}

// Seen is what a picture comes to.
type Seen struct {
	Cover  float64       `json:"cover"`
	Error  float64       `json:"uncertain"` // "error" is why something could not be answered
	Index  float64       `json:"index"`
	Faults []photo.Fault `json:"faults"`
	Card   string        `json:"card,omitempty"` // why the grey card is not gone by
}

// Measure measures a picture as it is wanted: its JSON, and which pixels count.
func Measure(p photo.Picture, wanted []byte) (out []byte, mask []bool, err error) {
	var w Wanted
	if err := json.Unmarshal(wanted, &w); err != nil {
		return nil, nil, fmt.Errorf("wanted: %w", err)
	}
	seen := Seen{Faults: []photo.Fault{}}
	if len(w.Like) > 0 {
		if seen.Cover, seen.Error, mask, err = photo.Share(p, w.Like, w.Other); err != nil {
			return nil, nil, err
		}
		out, err = json.Marshal(seen)
		return out, mask, err
	}
	gains := photo.Gains{}
	if w.Card != nil {
		if gains, err = photo.Balance(p, *w.Card); err != nil {
			seen.Card = err.Error()
		}
	}
	m, err := photo.Measure(p, photo.Limits{HueLow: w.HueLow, HueHigh: w.HueHigh, Saturation: w.Saturation}, gains)
	if err != nil {
		return nil, nil, err
	}
	seen.Cover, seen.Error, seen.Index = m.Cover, m.Error, m.Index
	seen.Faults = append(seen.Faults, m.Faults...)
	out, err = json.Marshal(seen)
	return out, m.Mask, err
}
