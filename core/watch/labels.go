package watch

import (
	"strings"

	"hodos/core/knowledge"
	"hodos/core/weather"
)

// bandLabels are the words of the bands that are no cause.
var bandLabels = map[string]string{"autumn-feeding": "Autumn feeding", "regulator-worn-off": "Regulator worn off", "heat": "Heat",
	"warm-nights": "Warm nights", "drought": "Root zone past half", "waterlogged": "Waterlogged", "frost": "Frost", "spraying": "Fit to spray"}

// BandLabel is the word for a cause, a band under the charts or a window of degree-days; the id itself for what is none.
func BandLabel(id string) string {
	if l, ok := bandLabels[id]; ok {
		return l
	}
	if c, ok := knowledge.CauseByID(id); ok {
		return c.Label
	}
	for _, w := range weather.DegreeWindows {
		if w.ID == id {
			return w.Label
		}
	}
	return id
}

// noticeLabels are the words of notices by kind and subject, where the subject alone does not say it.
var noticeLabels = map[string]string{"endurance": "Endurance without water runs out", "frost": "Frost after growth has begun",
	"feeding": "Autumn feeding opens", "silent": "No weather comes in", "window heat": "Heat",
	"window regulator-worn-off": "Growth regulator has worn off"}

// Label says a notice in a few words.
func Label(kind, subject string, level int) string {
	key := kind
	if kind == Endurance && level == Act {
		return "Endurance used up"
	}
	if kind == Prevent {
		return "Time to prevent " + strings.ToLower(BandLabel(subject))
	}
	if subject != "" {
		key += " " + subject
	}
	if l, ok := noticeLabels[key]; ok {
		return l
	}
	return BandLabel(subject)
}
