package remedy

import (
	"bufio"
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"hash/fnv"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/units"
	"hodos/core/worth"
)

var update = flag.Bool("update", false, "write the plans as they come out now; read the difference before signing it")

const approvedFile = "testdata/approved.jsonl"

// madeUp is a made-up lawn, at the edge of some figure or other, with its plan as it was approved: a letter an action in the order of the
// table, and a sum of all that is said about them.
type madeUp struct {
	Grass  string         `json:"grass"`
	Date   string         `json:"date"`
	Lat    float64        `json:"lat"`
	Found  map[string]any `json:"found"`
	P      chances        `json:"p,omitempty"`
	Done   []doneBefore   `json:"done,omitempty"`
	Policy []string       `json:"policy,omitempty"` // water, pests, feeding, blemishes
	No     []string       `json:"no,omitempty"`     // licence, lines
	Yes    []string       `json:"yes,omitempty"`
	Past   *pastSky       `json:"past,omitempty"`
	Ahead  *aheadSky      `json:"ahead,omitempty"`
	Plan   string         `json:"plan"`
	Sum    string         `json:"sum"`
}

type doneBefore struct {
	Action string  `json:"action"`
	Days   int     `json:"days"`
	N      float64 `json:"n,omitempty"`
}

type pastSky struct {
	Days  int     `json:"days"`
	Lo    float64 `json:"lo"`
	Hi    float64 `json:"hi"`
	Rain  float64 `json:"rain,omitempty"`
	Every int     `json:"every,omitempty"` // days between rains
	RH    float64 `json:"rh"`
	Snow  float64 `json:"snow,omitempty"`
}

// aheadSky is a steady forecast but for one day.
type aheadSky struct {
	Lo   float64 `json:"lo"`
	Hi   float64 `json:"hi"`
	On   int     `json:"on,omitempty"`
	Rain float64 `json:"rain,omitempty"`
	Low  float64 `json:"low,omitempty"` // minimum of that day, where it is not nought
	Wind float64 `json:"wind,omitempty"`
}

func (m madeUp) lawn(t *testing.T) evidence.Case {
	c := evidence.Case{Lawn: knowledge.Lawn{Date: day0(t, m.Date), Latitude: m.Lat, Species: []string{m.Grass}}, Findings: found{}}
	for id, plain := range m.Found {
		f, ok := knowledge.FindingByID(id)
		require.True(t, ok, id)
		v, err := knowledge.ValueOf(f, plain)
		require.NoError(t, err, "%s %v", id, plain)
		c.Findings[id] = v
	}
	for _, d := range m.Done {
		x := evidence.Treatment{Date: c.Lawn.Date.AddDate(0, 0, -d.Days), Action: d.Action}
		if d.N > 0 {
			x.NGM2 = &d.N
		}
		c.Treatments = append(c.Treatments, x)
	}
	if len(m.Policy) == 4 {
		c.Policy = evidence.Policy{SummerWater: m.Policy[0], Pests: m.Policy[1], SummerFeeding: m.Policy[2], Blemishes: m.Policy[3]}
	}
	for b, list := range map[bool][]string{false: m.No, true: m.Yes} {
		for _, what := range list {
			switch what {
			case "licence":
				c.Context.Licence = &b
			case "lines":
				c.Context.LinesLocated = &b
			case "irrigated":
				c.Lawn.Irrigated = &b
			}
		}
	}
	m.sky(&c)
	return c
}

func (m madeUp) sky(c *evidence.Case) {
	if p := m.Past; p != nil {
		past(p.Days, func(k int) (lo, hi, rain, rh float64) {
			if p.Every > 0 && k%p.Every == 0 {
				rain = p.Rain
			}
			return p.Lo, p.Hi, rain, p.RH
		})(c)
		for i := range c.Weather {
			c.Weather[i].Snow = &p.Snow
		}
	}
	if a := m.Ahead; a != nil {
		ahead(func(k int) (lo, hi, rain float64) {
			if k == a.On {
				rain = a.Rain
				if a.Low != 0 {
					return a.Low, a.Hi, rain
				}
			}
			return a.Lo, a.Hi, rain
		})(c)
		for i := range c.Forecast {
			c.Forecast[i].Wind = &a.Wind
		}
	}
}

var letters = map[Verdict]byte{DoNow: 'd', Schedule: 's', CheckFirst: 'c', Hold: 'h', Avoid: '-'}

// inFull is everything that a plan says, a line an action.
func inFull(p Plan) (letter string, lines []string) {
	dates := func(list ...*time.Time) (out string) {
		for _, d := range list {
			if d != nil {
				out += " " + d.Format(time.DateOnly)
			}
		}
		return
	}
	for _, a := range p.Lines {
		l := letters[a.Verdict]
		if a.Verdict == Avoid && a.Called {
			l = 'a'
		}
		letter += string(l)
		lines = append(lines, strings.Join([]string{a.ID, string(a.Verdict), strings.Join(a.Reasons, "; "), strings.Join(a.Cautions, "; "),
			strings.Join(a.Check, " "),
			dates(a.Until, a.From, a.To), a.UntilWhat, a.Season, strings.Join(a.Causes, " "), a.Gate, string(a.Kind), a.As, a.Dose, a.Will,
			a.WillNot, a.IfWrong,
			fmt.Sprintf("%.2f %.1f %.2f %d %v %s", a.Price, a.AreaM2, a.NGM2, a.Order, a.Looks, a.Grade)}, "|"))
	}
	plain, _ := json.Marshal([]any{p.Choices, p.Checks, p.Settled})
	return letter, append(lines, string(plain))
}

func sumOf(lines []string) string {
	h := fnv.New32a()
	_, _ = h.Write([]byte(strings.Join(lines, "\n")))
	return fmt.Sprintf("%08x", h.Sum32())
}

func readApproved(t *testing.T) (out []madeUp) {
	data, err := os.ReadFile(approvedFile)
	require.NoError(t, err)
	lines := bufio.NewScanner(bytes.NewReader(data))
	lines.Buffer(nil, 1<<20)
	for lines.Scan() {
		var m madeUp
		require.NoError(t, json.Unmarshal(lines.Bytes(), &m))
		out = append(out, m)
	}
	require.NoError(t, lines.Err())
	return out
}

// Many made-up lawns, chosen so that every verdict, gate, reason and figure of the tables decides on some of them and just does not on
// others. A change of knowledge changes plans here: run with -update, read which, and sign them with the change.
func TestApprovedPlans(t *testing.T) {
	list := readApproved(t)
	require.Greater(t, len(list), 500)
	var out bytes.Buffer
	changed := 0
	for i, m := range list {
		c := m.lawn(t)
		plan := Decide(c, resultOf(c, m.P), units.Saying{})
		whole(t, c, plan)
		letter, lines := inFull(plan)
		if sum := sumOf(lines); (sum != m.Sum || letter != m.Plan) && !*update {
			if changed++; changed <= 3 {
				t.Errorf("lawn %d, %s on %s:%s", i+1, m.Grass, m.Date, differences(m.Plan, letter, lines))
			}
		}
		m.Plan, m.Sum = letter, sumOf(lines)
		plain, err := json.Marshal(m)
		require.NoError(t, err)
		out.Write(append(plain, '\n'))
	}
	if *update {
		require.NoError(t, os.WriteFile(approvedFile, out.Bytes(), 0o600))
	} else if changed > 0 {
		t.Errorf("%d of %d plans have changed; -update writes them", changed, len(list))
	}
}

func differences(was, is string, lines []string) (out string) {
	for i := range lines {
		if i < len(was) && i < len(is) && was[i] != is[i] {
			out += fmt.Sprintf("\n%c → %s", was[i], lines[i])
		}
	}
	if out == "" {
		return " the same verdicts, said otherwise"
	}
	return out
}

// approve holds a text against the approved one, line by line.
func approve(t *testing.T, file, text string) {
	t.Helper()
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		return
	}
	was, err := os.ReadFile(file)
	require.NoError(t, err)
	old, now := strings.Split(string(was), "\n"), strings.Split(text, "\n")
	for i := range min(len(old), len(now)) {
		require.Equal(t, old[i], now[i], "%s:%d; -update writes it", file, i+1)
	}
	require.Len(t, now, len(old), file)
}

// The calendar of every season and preventive for a northern and a southern place, as an agronomist would read it.
func TestTheCalendar(t *testing.T) {
	var out strings.Builder
	year := func(row, applies, grass string, lat float64, opens test, name string) {
		s := survey(evidence.Case{Lawn: knowledge.Lawn{Date: day0(t, "2026-01-01"), Latitude: lat, Species: []string{grass}}, Findings: found{}},
			diagnosis.Result{Prices: worth.DefaultPrices}, units.Saying{})
		fmt.Fprintf(&out, "%s (%s), %s at %.0f°:", row, applies, grass, lat)
		for k := 0; k < 365; k++ {
			if opens(s, k) != yes || k > 0 && opens(s, k-1) == yes {
				continue
			}
			to := k
			for to+1 < 365 && opens(s, to+1) == yes {
				to++
			}
			fmt.Fprintf(&out, " %s–%s", s.day(k).Format("2 Jan"), s.day(to).Format("2 Jan"))
		}
		fmt.Fprintf(&out, " – %s\n", s.tell(name, nil))
	}
	grasses := func(cool, warm bool, f func(grass string, lat float64)) {
		if cool {
			f("kentucky-bluegrass", 41)
			f("tall-fescue", 36)
		}
		if warm {
			f("common-bermudagrass", 33)
			f("st-augustinegrass", 28)
		}
	}
	for i := range actions {
		id := actions[i].id
		for _, x := range seasonsOf[id] {
			warm, cool := strings.Contains(x.applies, "warm"), strings.Contains(x.applies, "cool")
			grasses(cool || !warm, warm || !cool, func(grass string, lat float64) { year(id, x.applies, grass, lat, x.opens, x.name) })
		}
		for _, x := range preventivesOf[id] {
			grasses(strings.Contains(x.family, "C"), strings.Contains(x.family, "W"), func(grass string, lat float64) {
				year(id, x.cause, grass, lat, x.opens, x.name)
			})
		}
	}
	approve(t, "testdata/calendar.txt", out.String())
}

// The chance of each cause from which each action pays, on 40 m² of 200, at the program's own prices.
func TestTheMarks(t *testing.T) {
	var out strings.Builder
	for _, grass := range []string{"kentucky-bluegrass", "common-bermudagrass"} {
		all, part := 200.0, 40.0
		c := evidence.Case{Lawn: knowledge.Lawn{Date: day0(t, "2026-06-01"), Latitude: 37, Species: []string{grass}, AreaM2: &all,
			AffectedM2: &part}, Findings: found{}}
		s := survey(c, diagnosis.Result{Lawn: c.Lawn, Prices: worth.DefaultPrices}, units.Saying{})
		for i := range actions {
			a := &actions[i]
			for _, x := range answersOf[a.id] {
				fmt.Fprintf(&out, "%s: %s for %s from %.4f", grass, a.id, x.cause, s.bar(a, x))
				if a.hurts >= costly && a.group != reseed {
					out.WriteString(", checked first")
				}
				out.WriteString("\n")
			}
			fmt.Fprintf(&out, "%s: %s hurts %.2f, costs %.2f\n", grass, a.id, a.hurts, s.r.Prices.Of(stakeFor(a.id), part))
		}
	}
	approve(t, "testdata/marks.txt", out.String())
}
