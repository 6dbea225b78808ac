package plain

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestNumbersArePlain(t *testing.T) {
	for text, want := range map[string]float64{"3": 3, "-0.5": -.5, "+2.": 2, ".25": .25, " 7.1 ": 7.1} {
		x, ok := Number(text)
		require.True(t, ok, text)
		require.InDelta(t, want, x, 1e-12, text)
	}
	for _, text := range []string{"", "0x1p3", "1_0", "1e3", "NaN", "Inf", "1,5", "--1", ".", "5e-324", "1234567890123456"} {
		_, ok := Number(text)
		require.False(t, ok, text)
	}
}

func TestDaysHaveBorders(t *testing.T) {
	today := time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)
	require.Empty(t, Outside(today.AddDate(0, 0, 1), today))
	require.Empty(t, Outside(First, today))
	require.Equal(t, "is in the future", Outside(today.AddDate(0, 0, 2), today))
	require.Equal(t, "is before 1900", Outside(First.AddDate(0, 0, -1), today))
}

func TestFormulas(t *testing.T) {
	for _, text := range []string{"=1+1", "+1", "-1", "@SUM(1)", "\tx", "\rx"} {
		require.True(t, Formula(text), text)
	}
	for _, text := range []string{"", "Front lawn", "1-2", "O=K"} {
		require.False(t, Formula(text), text)
	}
}

func TestCells(t *testing.T) {
	require.Equal(t, "'=1+1", Cell("=1+1"))
	require.Equal(t, "Back lawn", Cell("Back lawn"))
	require.Empty(t, Cell(""))
}
