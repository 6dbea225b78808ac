package readingfile_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/exchange/readingfile"
)

// Whatever comes in, the reader says no with reasons or yes with readings that are written and read again as the same.
func FuzzRead(f *testing.F) {
	f.Add("hodos-readings,1,UTC\ntime,zone,finding,value,unit\n2026-08-20,Back lawn,soil-ph,7,pH\n")
	f.Add("hodos-readings,1,America/New_York\ntime,zone,finding,value,unit\n2026-08-20T23:59,Back lawn,soil-temp-c,71.2,F\n")
	f.Add("\"")
	day := time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)
	all := func(string) bool { return true }
	f.Fuzz(func(t *testing.T, text string) {
		readings, place, err := readingfile.Read(strings.NewReader(text), all, day)
		if err != nil {
			return
		}
		var b bytes.Buffer
		require.NoError(t, readingfile.Write(&b, readings, place))
		again, _, err := readingfile.Read(&b, all, day)
		require.NoError(t, err, "what is written is read: %q", b.String())
		require.Len(t, again, len(readings))
	})
}
