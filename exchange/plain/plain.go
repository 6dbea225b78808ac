// Package plain reads what stands in the fields of the plain CSV dialects: numbers, days and texts, the same in all of them.
package plain

import (
	"regexp"
	"strconv"
	"strings"
	"time"
)

var decimal = regexp.MustCompile(`^[+-]?(\d{1,15}(\.\d{0,20})?|\.\d{1,20})$`)

// Number reads a number with a decimal point: no exponent, no hexadecimal, no grouping.
func Number(text string) (float64, bool) {
	text = strings.TrimSpace(text)
	if !decimal.MatchString(text) {
		return 0, false
	}
	x, err := strconv.ParseFloat(text, 64)
	return x, err == nil
}

// First is the first day that a file may speak of: before it nobody measured what is measured here (judgement).
var First = time.Date(1900, 1, 1, 0, 0, 0, 0, time.UTC)

// Outside says why a day is not taken, or "": files speak of 1900 to tomorrow, for where the file was written it may be tomorrow already.
func Outside(day, today time.Time) string {
	switch {
	case day.Before(First):
		return "is before 1900"
	case day.After(today.AddDate(0, 0, 1)):
		return "is in the future"
	}
	return ""
}

// Formula reports whether a spreadsheet would run a text as a formula instead of showing it.
func Formula(text string) bool {
	return strings.ContainsAny(text[:min(len(text), 1)], "=+-@\t\r")
}

// Cell is a text as it is written into a file that a spreadsheet may open: what would be run as a formula is shown instead.
func Cell(text string) string {
	if Formula(text) {
		return "'" + text
	}
	return text
}
