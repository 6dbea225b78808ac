// Package terminal prints an answer for people who read it in a terminal. It decides nothing.
package terminal

import (
	"cmp"
	"fmt"
	"io"
	"slices"
	"strings"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/exchange/casefile"
)

// Page prints an answer for people.
func Page(w io.Writer, c evidence.Case, a casefile.Result) {
	title := c.Title
	if title == "" {
		title = "Untitled zone"
	}
	fmt.Fprintf(w, "%s, %s\n\n%s\n", title, c.Lawn.Date.Format("2 January 2006"), a.Told)
	scalesPart(w, a)
	noticesPart(w, a)
	checksPart(w, a)
	changesPart(w, a)
	for _, part := range []struct{ verdict, head string }{{"do-now", "DO NOW, IN THIS ORDER"}, {"check-first", "CHECK FIRST"},
		{"schedule", "SCHEDULE"}, {"hold", "HOLD"}} {
		verdictPart(w, a, part.verdict, part.head)
	}
	choicesPart(w, a)
	notPart(w, a)
	fmt.Fprintf(w, "\nKnowledge %s. Advice for a trained person; the label, local rules and licensed practice come first.\n", a.Knowledge)
}

// How many lines of a part the page shows.
const (
	pageCauses, pageLedgers, pageFor, pageAgainst = 8, 3, 4, 2
	pageChecks, pageChanges                       = 4, 3
	leastShown                                    = .02
)

func scalesPart(w io.Writer, a casefile.Result) {
	fmt.Fprintln(w, "\nON THE SCALES")
	for i, x := range a.Causes {
		if i >= pageCauses || (i > 0 && x.Probability < leastShown) {
			break
		}
		fmt.Fprintf(w, "  %5.1f %%  %s\n", x.Probability*100, causeLabel(x.ID))
		if i >= pageLedgers {
			continue
		}
		for _, r := range slices.Concat(x.For[:min(pageFor, len(x.For))], x.Against[:min(pageAgainst, len(x.Against))]) {
			fmt.Fprintf(w, "           %+5.1f bits  %s\n", r.Bits, said(r))
		}
	}
	if a.Other >= leastShown {
		fmt.Fprintf(w, "  %5.1f %%  Not explained yet: something else than these\n", a.Other*100)
	}
}

func noticesPart(w io.Writer, a casefile.Result) {
	for i, n := range a.Notices {
		if i == 0 {
			fmt.Fprintln(w, "\nTO NOTE")
		}
		fmt.Fprintf(w, "  %s: %s\n", findingLabel(n.About), n.Text)
	}
}

func checksPart(w io.Writer, a casefile.Result) {
	fmt.Fprintln(w, "\nNEXT CHECK")
	if a.Settled {
		fmt.Fprintln(w, "  No further check would change the decision.")
	} else if a.Enough {
		fmt.Fprintln(w, "  Enough is known: what is left to check would hardly change the decision.")
	}
	for _, d := range a.Decisive {
		fmt.Fprintf(w, "  %s decides: %s\n", findingLabel(d.Finding), remedy.Label(d.Action))
	}
	for _, n := range a.Next[:min(pageChecks, len(a.Next))] {
		p, _ := knowledge.ProcedureByID(n.Procedure)
		fmt.Fprintf(w, "  %s: %s, %.1f min, worth %.0f", p.Label, findingLabel(n.Finding), n.Minutes, n.Worth)
		if n.Needed != "" {
			fmt.Fprintf(w, "; needed before you treat %s", strings.ToLower(causeLabel(n.Needed)))
		}
		fmt.Fprintln(w)
	}
}

func changesPart(w io.Writer, a casefile.Result) {
	for i, c := range a.Changes[:min(pageChanges, len(a.Changes))] {
		if i == 0 {
			fmt.Fprintln(w, "\nWHAT WOULD CHANGE THIS")
		}
		fmt.Fprintf(w, "  %s: %s (%.0f %% likely): then %s leads at %.0f %%\n", findingLabel(c.Finding), knowledge.ValueLabel(c.Outcome),
			c.Chance*100,
			strings.ToLower(causeLabel(c.Leads)), c.Then*100)
	}
}

// verdictPart lists the lines of one verdict: what to do in the order of work, what has a date by its date.
func verdictPart(w io.Writer, a casefile.Result, verdict, head string) {
	lines := slices.DeleteFunc(slices.Clone(a.Actions), func(x casefile.ActionLine) bool { return x.Verdict != verdict })
	slices.SortStableFunc(lines, func(x, y casefile.ActionLine) int {
		return cmp.Or(strings.Compare(x.From, y.From), x.Order-y.Order)
	})
	for i, x := range lines {
		if i == 0 {
			fmt.Fprintf(w, "\n%s\n", head)
		}
		fmt.Fprintf(w, "  %s%s: %s\n", x.Label, when(x), strings.Join(x.Reasons, "; "))
		for _, f := range x.Check {
			fmt.Fprintf(w, "      → check: %s\n", findingLabel(f))
		}
		if verdict != "do-now" {
			continue
		}
		if x.Dose != "" {
			fmt.Fprintf(w, "      %s\n", x.Dose)
		}
		for _, c := range x.Cautions {
			fmt.Fprintf(w, "      ! %s\n", c)
		}
	}
}

func when(x casefile.ActionLine) string {
	switch {
	case x.From != "":
		return fmt.Sprintf(" (%s to %s)", x.From, x.To)
	case x.Until != "":
		return " (until " + x.Until + ")"
	case x.UntilWhat != "":
		return " (until: " + x.UntilWhat + ")"
	}
	return ""
}

func choicesPart(w io.Writer, a casefile.Result) {
	for i, c := range a.Choices {
		if i == 0 {
			fmt.Fprintln(w, "\nCHOICES")
		}
		fmt.Fprintf(w, "  %s\n", c.About)
		for _, x := range c.Ways {
			fmt.Fprintf(w, "    · %s: %s weeks, %.0f; at risk: %s\n", x.Label, x.Weeks, x.Price, x.Risk)
		}
	}
}

// notPart names what somebody may be tempted to do, and why it is not done.
func notPart(w io.Writer, a casefile.Result) {
	first := true
	for _, x := range a.Actions {
		if x.Verdict != "avoid" || !x.Called {
			continue
		}
		if first {
			fmt.Fprintln(w, "\nDO NOT")
			first = false
		}
		fmt.Fprintf(w, "  %s: %s\n", x.Label, strings.Join(x.Reasons, "; "))
	}
}

func said(r casefile.Row) string {
	return fmt.Sprintf("%s: %s", findingLabel(r.Finding), plainWords(r.Value))
}

// plainWords renders a plain value for people.
func plainWords(v any) string {
	switch x := v.(type) {
	case string:
		return knowledge.ValueLabel(x)
	case bool:
		if x {
			return "yes"
		}
		return "no"
	case []string:
		if len(x) == 0 {
			return "none of these"
		}
		words := make([]string, len(x))
		for i := range x {
			words[i] = knowledge.ValueLabel(x[i])
		}
		return strings.Join(words, ", ")
	}
	return fmt.Sprint(v)
}

func causeLabel(id string) string {
	c, _ := knowledge.CauseByID(id)
	return c.Label
}

func findingLabel(id string) string {
	if f, ok := knowledge.FindingByID(id); ok {
		if _, cause, per := strings.Cut(id, ":"); per {
			return f.Label + ", " + causeLabel(cause)
		}
		return f.Label
	}
	return id
}
