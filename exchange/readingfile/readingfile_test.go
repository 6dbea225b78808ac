package readingfile_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/exchange/readingfile"
	"hodos/exchange/refusal"
)

var today = time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)

func known(zone string) bool { return strings.EqualFold(zone, "Back lawn") || zone == "Front, upper" }

const good = `hodos-readings,1,America/New_York
time,zone,finding,value,unit
2026-08-20T14:30,Back lawn,soil-temp-c,80.6,F
2026-08-20,Back lawn,soil-moisture-vwc,0.18,m3/m3
2026-08-20,"Front, upper",penetration-kpa,300,psi
2026-07-02,back lawn,soil-ph,7.4,pH
2026-07-02,Back lawn,soil-sar,4,
`

func TestReadingsComeInAndGoOut(t *testing.T) {
	got, place, err := readingfile.Read(strings.NewReader("\ufeff"+good), known, today)
	require.NoError(t, err)
	require.Equal(t, "America/New_York", place.String())
	require.Len(t, got, 5)
	require.InDelta(t, 27, got[0].Value, 1e-9)
	require.InDelta(t, 14.5, *got[0].Hour, 1e-9)
	require.InDelta(t, 18, got[1].Value, 1e-9)
	require.Nil(t, got[1].Hour)
	require.InDelta(t, 2068.4, got[2].Value, .1)
	require.Equal(t, "Front, upper", got[2].Zone)

	var b bytes.Buffer
	require.NoError(t, readingfile.Write(&b, got, place))
	again, _, err := readingfile.Read(&b, known, today)
	require.NoError(t, err)
	require.Equal(t, got, again, "what goes out comes in again without loss")
}

func TestReadingsAreRefusedByLine(t *testing.T) {
	line := func(l string) string {
		return "hodos-readings,1,America/New_York\ntime,zone,finding,value,unit\n" + l + "\n"
	}
	for text, want := range map[string]string{
		"":                              "line 1: must read hodos-readings",
		"hodos-readings,2,UTC\n":        `version "2" is not 1`,
		"hodos-readings,1,Nowhere/At\n": "is not a time zone",
		"hodos-readings,1,UTC\ntime,zone,value\n":                                    "line 2: the header must read time,zone,finding,value,unit",
		"hodos-readings,1,UTC\ntime,zone,finding,value,unit\n":                       "line 3: there are no lines",
		line("2026-08-20,Back lawn,soil-ph,7"):                                       "line 3: has 4 fields",
		line("20.8.2026,Back lawn,soil-ph,7,pH"):                                     "line 3, time: \"20.8.2026\" is neither a day",
		line("2026-08-26,Back lawn,soil-ph,7,pH"):                                    "is in the future",
		line("2026-03-08T02:30,Back lawn,soil-temp-c,7,C"):                           "does not exist in America/New_York",
		line("2026-08-20,Pool,soil-ph,7,pH"):                                         `line 3, zone: "Pool" is no zone of this site`,
		line("2026-08-20,Back lawn,grubs-per-m2,7,"):                                 "line 3, finding",
		line("2026-08-20,Back lawn,soil-temp-c,20,C"):                                "needs its hour",
		line("2026-08-20,Back lawn,soil-ph,\"7,1\",pH"):                              `"7,1" is not a number with a decimal point`,
		line("2026-08-20,Back lawn,soil-ph,NaN,pH"):                                  "is not a number",
		line("2026-08-20,Back lawn,soil-ph,70,pH"):                                   "line 3, value: 70 pH is impossible",
		line("2026-08-20,Back lawn,soil-ph,7,mg/kg"):                                 `line 3, unit: "mg/kg" is not one of pH`,
		line("2026-08-20,Back lawn,soil-ph,7,pH\n2026-08-20,Back Lawn,soil-ph,8,pH"): "line 4: says the same as line 3",
	} {
		got, _, err := readingfile.Read(strings.NewReader(text), known, today)
		var r *refusal.Refusal
		require.True(t, errors.As(err, &r), "%q", text)
		require.Contains(t, err.Error(), want)
		require.Nil(t, got, "nothing is half taken")
	}
	// every bad line is named, and they are counted when there are too many to name
	_, _, err := readingfile.Read(strings.NewReader(line(strings.Repeat("2026-08-20,Pool,soil-ph,7,pH\n", 150))), known, today)
	var r *refusal.Refusal
	require.True(t, errors.As(err, &r))
	require.Equal(t, 150, r.Count)
	require.Len(t, r.Problems, refusal.Most)
	require.Contains(t, err.Error(), "and 50 more")
}

// Every finding of the dialect is a number of the vocabulary.
func TestFindingsAreOfTheVocabulary(t *testing.T) {
	for _, id := range readingfile.Findings() {
		f, ok := knowledge.FindingByID(id)
		require.True(t, ok, id)
		require.Equal(t, knowledge.Number, f.Kind, id)
	}
	require.True(t, readingfile.SoilTest("soil-ph"))
	require.False(t, readingfile.SoilTest("soil-temp-c"))
	require.False(t, readingfile.SoilTest("penetration-kpa"))
}
