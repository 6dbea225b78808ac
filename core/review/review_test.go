package review_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/review"
)

func sound() review.Zone {
	nan := math.NaN()
	test := time.Date(2025, 3, 1, 0, 0, 0, 0, time.UTC)
	return review.Zone{Today: time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC), Grasses: []string{"tall-fescue"}, Cover: nan, Target: .9, ThatchMM: nan, ConeKPa: nan, Uniformity: nan, WeedsShare: nan,
		SoilTest: &test, Booked: 1, Visits: 2}
}

func ids(z review.Zone) []string {
	out := []string{}
	for _, p := range review.Points(z) {
		out = append(out, p.ID)
	}
	return out
}

func TestASoundZoneHasNothing(t *testing.T) { require.Empty(t, ids(sound())) }

func TestEachThingIsTold(t *testing.T) {
	old := time.Date(2022, 1, 1, 0, 0, 0, 0, time.UTC)
	for id, spoil := range map[string]func(*review.Zone){
		"off-course":     func(z *review.Zone) { z.Course = "off-course" },
		"slow":           func(z *review.Zone) { z.Course = "slow" },
		"cover":          func(z *review.Zone) { z.Cover = .79 },
		"again":          func(z *review.Zone) { z.Causes = map[string]int{"rust": 2, "drought-stress": 1} },
		"thatch":         func(z *review.Zone) { z.ThatchMM = 12 },
		"hard":           func(z *review.Zone) { z.ConeKPa = 2000 },
		"uneven":         func(z *review.Zone) { z.Uniformity = .59 },
		"weeds":          func(z *review.Zone) { z.WeedsShare = .1 },
		"unfed":          func(z *review.Zone) { z.Fed, z.NitrogenGM2 = true, 7.4 },
		"no-test":        func(z *review.Zone) { z.SoilTest = nil },
		"old-test":       func(z *review.Zone) { z.SoilTest = &old },
		"nothing-booked": func(z *review.Zone) { z.Booked = 0 },
		"unseen":         func(z *review.Zone) { z.Visits = 0 },
	} {
		z := sound()
		spoil(&z)
		require.Equal(t, []string{id}, ids(z))
	}
}

func TestWhatIsNearTheLimitIsLeft(t *testing.T) {
	z := sound()
	z.Cover, z.ThatchMM, z.ConeKPa, z.Uniformity, z.WeedsShare, z.Fed, z.NitrogenGM2 = .81, 11.9, 1999, .6, .09, true, 7.6
	require.Empty(t, ids(z))
	z = sound()
	z.NitrogenGM2 = 0
	require.Empty(t, ids(z), "a lawn that somebody else feeds is not unfed")
}

func TestTheMostPressingComesFirst(t *testing.T) {
	z := sound()
	z.Booked, z.Course, z.ThatchMM, z.Causes = 0, "off-course", 20, map[string]int{"rust": 3, "dollar-spot": 2}
	require.Equal(t, []string{"off-course", "again", "again", "thatch", "nothing-booked"}, ids(z))
	require.Equal(t, "dollar-spot", review.Points(z)[1].Cause)
}
