package clearance

import "strings"

// constraints in words, as they stand in "kept from it by …": stops, and what the dates of jobs hang on.
var constraints = map[string]string{
	"span":                   "its season",
	"apart":                  "another job on the zone",
	"order":                  "the step before it",
	"crew":                   "the hours of the crew",
	"law-blackout":           "the closed season of the law",
	"law-at-once-nitrogen":   "the most nitrogen allowed at once",
	"law-a-year-nitrogen":    "the year’s nitrogen",
	"law-a-year-phosphorus":  "the year’s phosphorus",
	"law-at-once-phosphorus": "the most phosphorus allowed at once",
	"law-phosphorus":         "a soil test for phosphorus",
	"law-notice":             "notice to the neighbours",
	"law-buffer":             "the distance to water",
	"label-buffer":           "the distance to water",
	"law-rain":               "heavy rain",
	"law-wind":               "wind",
	"label-wind":             "wind",
	"label-air":              "temperature",
	"label-rainfast":         "rain",
	"law-watering":           "the allowed watering days",
	"law-locate":             "buried lines not located",
	"law-registration":       "the registration",
	"label-grass":            "the label’s grasses",
	"label-use":              "the label",
	"label-target":           "the label’s targets",
	"label-interval":         "the label’s interval",
	"label-times":            "the label’s times a season",
	"label-season":           "the label’s most a season",
	"label-active":           "the season’s most of the active",
	"label-seed":             "the label’s wait before seed",
	"label-seedling":         "the age of the new grass",
	"label-rate":             "the label’s rate",
	"resistance":             "the same mode of action twice",
	"policy-no-pesticides":   "the client’s wish",
	"event":                  "the client’s event",
}

// Words is what keeps a job from a day, in words.
func Words(id string) string {
	if t, ok := constraints[id]; ok {
		return t
	}
	return strings.ReplaceAll(id, "-", " ")
}
