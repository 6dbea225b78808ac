package labfile

import (
	"strings"
	"testing"
)

// Whatever comes in, the reader says no with reasons or yes; it does not fall over.
func FuzzRead(f *testing.F) {
	f.Add("sample,finding,value,unit,laboratory\nS-1,soil-ph,6.5,,L\n")
	f.Add(`{"hodos_lab":1,"sample":"S-1","results":[{"finding":"soil-ph","value":6.5,"unit":"pH"}]}`)
	f.Add("\"")
	f.Fuzz(func(t *testing.T, text string) {
		_, _ = Read(strings.NewReader(text), "S-1", "soil")
	})
}
