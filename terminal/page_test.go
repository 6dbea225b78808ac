package terminal_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/terminal"
)

func TestThePageGoesInTheOrderOfWork(t *testing.T) {
	c, err := casefile.Parse([]byte(`{"hodos_case":1,"date":"2026-04-16","site":{"latitude":40,"species":["kentucky-bluegrass"]},"findings":{"pattern":["irregular-patches"],
		"weed-kinds":["summer-annual"],"stand-density":"thin","weed-cover-percent":20,"pull-test":"resists","soil-moisture":"moist","soil-temp-c":11,"animal-digging":"rooting-holes"}}`))
	require.NoError(t, err)
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	var page bytes.Buffer
	a := casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{}))
	terminal.Page(&page, c, a)
	text := page.String()
	require.Contains(t, text, a.Told)
	require.Contains(t, text, "WHAT WOULD CHANGE THIS")
	for _, part := range []string{"DO NOW, IN THIS ORDER", "CHECK FIRST", "→ check: Grubs counted", "SCHEDULE", "CHOICES",
		"Pre-emergent or seed", "20 to 24 weeks", "DO NOT", "Plug or sprig: "} {
		require.Contains(t, text, part)
	}
	require.Less(t, strings.Index(text, "Test the soil"), strings.Index(text, "  Pre-emergent: "), "in the order of work")
	require.Less(t, strings.Index(text, "Wait and look again (2026"), strings.Index(text, "Overseed (2026"), "by date")
	require.NotContains(t, text, "nothing found calls for it")
}
