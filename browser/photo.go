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
	Tilt       *float64    `json:"tilt"`  // of the camera, degrees from straight down
}

// Seen is what a picture comes to.
type Seen struct {
	Cover  float64       `json:"cover"`
	Error  float64       `json:"uncertain"` // "error" is why something could not be answered
	Index  float64       `json:"index"`
	Faults []photo.Fault `json:"faults"`
	Card   string        `json:"card,omitempty"` // why the grey card is not gone by
}

// Measure measures a picture as it is wanted: its JSON, and which pixels count. A grey card that cannot be gone by is told, and left out.
func Measure(p photo.Picture, wanted []byte) (out []byte, mask []bool, err error) {
	var w Wanted
	if err := json.Unmarshal(wanted, &w); err != nil {
		return nil, nil, fmt.Errorf("wanted: %w", err)
	}
	look := photo.Wanted{Limits: photo.Limits{HueLow: w.HueLow, HueHigh: w.HueHigh, Saturation: w.Saturation}, Card: w.Card, Like: w.Like,
		Other: w.Other, Moss: len(w.Like) > 0, Tilt: w.Tilt}
	seen := Seen{Faults: []photo.Fault{}}
	m, err := photo.Look(p, look)
	if wrong, ok := err.(*photo.Wrong); ok && wrong.Field == "card" { // never wrapped
		seen.Card, look.Card = wrong.Reason, nil
		m, err = photo.Look(p, look)
	}
	if err != nil {
		return nil, nil, err
	}
	seen.Cover, seen.Error, seen.Index = m.Cover, m.Error, m.Index
	seen.Faults = append(seen.Faults, m.Faults...)
	out, err = json.Marshal(seen)
	return out, m.Mask, err
}
