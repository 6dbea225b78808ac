// Package account knows who people are and what they may do: rights, passwords, second factors, sessions, the limits on guessing, and
// the log of what happened. It knows no HTTP.
package account

import "slices"

// What people may do, and who may do it. The matrix is one table; tests hold every cell of it.

// Right is one kind of action that a role may or may not take.
type Right string

// The rights.
const (
	See             Right = "see"              // read the firm's sites, visits, records
	AnswerChecks    Right = "answer-checks"    // answer checks, give diagnoses, measure recovery, note arrival and leaving
	RecordTreatment Right = "record-treatment" // record treatments that need no licence
	RecordPesticide Right = "record-pesticide" // record and sign treatments that need a licence
	BookVisits      Right = "book-visits"      // create and change visits
	KeepSites       Right = "keep-sites"       // create and change clients, sites and zones
	KeepShelf       Right = "keep-shelf"       // keep products, labels, lots, local rules and machines
	KeepPeople      Right = "keep-people"      // create and change people and their licences
	KeepFirm        Right = "keep-firm"        // change the firm's settings
	SeeLog          Right = "see-log"          // read what happened to the firm's accounts
)

// Rights lists every right.
var Rights = []Right{See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites, KeepShelf, KeepPeople, KeepFirm, SeeLog}

// Roles lists every role.
var Roles = []string{"office", "technician", "applicator", "owner"}

var matrix = map[string][]Right{
	"office":     {See, BookVisits, KeepSites, KeepShelf},
	"technician": {See, AnswerChecks, RecordTreatment, BookVisits},
	"applicator": {See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites, KeepShelf},
	"owner":      {See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites, KeepShelf, KeepPeople, KeepFirm, SeeLog},
}

var labels = map[Right]string{See: "Read everything", AnswerChecks: "Checks and measurements", RecordTreatment: "Record treatments",
	RecordPesticide: "Sign with a licence", BookVisits: "Book visits", KeepSites: "Keep sites", KeepShelf: "Keep shelf and rules",
	KeepPeople: "Keep people",
	KeepFirm:   "Firm settings", SeeLog: "Read the account log"}

// RightLabel is what the screen calls a right.
func RightLabel(r Right) string { return labels[r] }

// Of lists the rights of a role.
func Of(role string) []Right { return slices.Clone(matrix[role]) }

// May reports whether a role has a right.
func May(role string, r Right) bool { return slices.Contains(matrix[role], r) }
