package clearance_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/clearance"
	"hodos/core/label"
)

func TestPeopleComeBackAfterTheLaterOfDryAndLabel(t *testing.T) {
	end := at("2026-05-20 09")
	watered := at("2026-05-20 15")
	for _, x := range []struct {
		name    string
		l       *label.Label
		watered *time.Time
		hour    string
		ok      bool
	}{
		{"a spray that the label says nothing of", &label.Label{Form: "sc"}, nil, "11", true},
		{"label later than dry", &label.Label{Form: "sc", ReentryHours: 4}, nil, "13", true},
		{"dry later than label", &label.Label{Form: "sc", ReentryHours: 1}, nil, "11", true},
		{"a granule", &label.Label{Form: "granule"}, nil, "09", true},
		{"to be watered in, not yet", &label.Label{Form: "granule", ReentryWateredIn: true}, nil, "09", false},
		{"watered in and dry", &label.Label{Form: "granule", ReentryWateredIn: true}, &watered, "17", true},
		{"watered in, label later", &label.Label{Form: "granule", ReentryWateredIn: true, ReentryHours: 12}, &watered, "21", true},
		{"no product", nil, nil, "09", true},
	} {
		until, ok := clearance.KeptOff(x.l, end, x.watered)
		require.Equal(t, x.ok, ok, x.name)
		require.Equal(t, "2026-05-20 "+x.hour, until.Format("2006-01-02 15"), x.name)
	}
}
