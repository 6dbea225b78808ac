package weatherfile

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Whatever comes in, the reader says no with reasons or yes with a series that is written and read again as the same days.
func FuzzRead(f *testing.F) {
	f.Add("hodos-weather,1,daily,UTC\ndate,rain_mm,tmin_c,tmax_c\n2026-08-20,3,11,24\n")
	f.Add("hodos-weather,1,hourly,Europe/Berlin\ntime,temp_c,rain_mm\n2026-10-25T02:00,8,1\n2026-10-25T02:00,6,2\n")
	f.Add("hodos-weather,1,daily,UTC\ndate,solar_w_m2\n2026-08-20,578\n")
	f.Add("\"")
	f.Fuzz(func(t *testing.T, text string) {
		s, err := Read(strings.NewReader(text), day, nil)
		if err != nil {
			return
		}
		var b bytes.Buffer
		require.NoError(t, Write(&b, s.Days, s.Hourly, s.Zone))
		again, err := Read(&b, day, nil)
		require.NoError(t, err, "what is written is read")
		require.Len(t, again.Days, len(s.Days))
	})
}
