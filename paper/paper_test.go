package paper

import (
	"bytes"
	"fmt"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func book(t *testing.T, rows int) []byte {
	t.Helper()
	s := New(Head{Title: "Book of applications", Under: "2026", Firm: "Averley Turf Care", Made: time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC), Wide: true})
	s.Heading("August")
	var list [][]string
	for i := range rows {
		list = append(list, []string{fmt.Sprint(i), "Vellum 250 → 0.13 mL/m²", strings.Repeat("long text ", i%9)})
	}
	s.Table([]Column{{"No", 1, true}, {"What", 4, false}, {"Note", 6, false}}, list)
	s.Warn("Keep off")
	s.Big("Product", "1.18 L")
	s.Space("Weather")
	s.Note("small")
	b, err := s.Bytes()
	require.NoError(t, err)
	return b
}

func TestTheSameContentGivesTheSameBytes(t *testing.T) {
	require.True(t, bytes.Equal(book(t, 30), book(t, 30)))
	require.True(t, bytes.HasPrefix(book(t, 1), []byte("%PDF-")))
}

func TestALongBookHasItsHeadOnEveryPage(t *testing.T) {
	b := book(t, 200)
	pages := bytes.Count(b, []byte("/Type /Page\n"))
	require.Greater(t, pages, 4)
	if _, err := exec.LookPath("pdftotext"); err != nil {
		t.Log("no pdftotext here: the text itself is not read")
		return
	}
	cmd := exec.Command("pdftotext", "-", "-")
	cmd.Stdin = bytes.NewReader(b)
	out, err := cmd.Output()
	require.NoError(t, err)
	require.Equal(t, pages, strings.Count(string(out), "What"))
	require.Contains(t, string(out), "Vellum 250 to 0.13 mL/m²")
}

func TestWhatTheTypefaceDoesNotHoldIsReplaced(t *testing.T) {
	require.Equal(t, "Łódź to ½ m² – ??", said("Łódź → ½ m² – 芝生"))
	require.Equal(t, "ab", said("a\x00b"))
}
