package remedy

// What clients buy: the service that an action of ours belongs to, one a line. What the client does (mowing, watering, keeping off), what
// is looked at and what is held back belongs to none: it is part of every service (judgement: the usual three steps of a lawn programme).
const (
	ServiceWeeds   = "weeds"   // weeds only
	ServiceFeeding = "feeding" // weeds and feeding
	ServiceFull    = "full"    // whatever the lawn asks for
)

var servedBy = map[string]string{
	"apply-nitrogen":       ServiceFeeding,
	"spoon-feed-nitrogen":  ServiceFeeding,
	"apply-iron":           ServiceFeeding,
	"apply-potassium":      ServiceFeeding,
	"apply-phosphorus":     ServiceFeeding,
	"apply-lime":           ServiceFull,
	"apply-acidifier":      ServiceFull,
	"apply-wetting-agent":  ServiceFull,
	"fungicide-curative":   ServiceFull,
	"fungicide-preventive": ServiceFull,
	"insecticide-curative": ServiceFull,

	"insecticide-preventive": ServiceFull,
	"growth-regulator":       ServiceFull,
	"moss-control":           ServiceFull,
	"core-aerate":            ServiceFull,
	"dethatch":               ServiceFull,
	"scarify":                ServiceFull,
	"topdress":               ServiceFull,
	"apply-compost":          ServiceFull,
	"level-surface":          ServiceFull,
	"overseed":               ServiceFull,
	"slit-seed":              ServiceFull,
	"interseed":              ServiceFull,
	"renovate":               ServiceFull,
	"resod":                  ServiceFull,
	"plug-or-sprig":          ServiceFull,
	"change-grass":           ServiceFull,
	"improve-drainage":       ServiceFull,
	"replace-soil":           ServiceFull,
}

var serviceRank = map[string]int{ServiceWeeds: 1, ServiceFeeding: 2, ServiceFull: 3}

// Extra reports whether an action lies outside the service that a client buys: it has to be offered before it is done. Nothing is extra
// where nobody said what is bought.
func Extra(service, action string) bool {
	has, said := serviceRank[service]
	needs, ours := servedBy[action]
	return said && ours && serviceRank[needs] > has
}
