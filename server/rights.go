package server

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
	KeepPeople      Right = "keep-people"      // create and change people and their licences
	KeepFirm        Right = "keep-firm"        // change the firm's settings
)

// Rights lists every right.
var Rights = []Right{See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites, KeepPeople, KeepFirm}

// Roles lists every role.
var Roles = []string{"office", "technician", "applicator", "owner"}

var matrix = map[string][]Right{
	"office":     {See, BookVisits, KeepSites},
	"technician": {See, AnswerChecks, RecordTreatment, BookVisits},
	"applicator": {See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites},
	"owner":      {See, AnswerChecks, RecordTreatment, RecordPesticide, BookVisits, KeepSites, KeepPeople, KeepFirm},
}

// May reports whether a role has a right.
func May(role string, r Right) bool {
	for _, have := range matrix[role] {
		if have == r {
			return true
		}
	}
	return false
}
