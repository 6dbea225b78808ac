package knowledge

// neededRow: the remedy of a cause may not go without a proof: one of these findings. Until one is known, acting on the cause earns
// nothing, so that the proof rises by itself as soon as the cause is likely.
type neededRow struct{ cause, findings string }

// neededRows: counts before insecticides, the laboratory before nutrients and salt, crowns before anything is sown, the fault before a
// repair (extension consensus; the gates of the advice ask the same).
var neededRows = []neededRow{
	{"white-grubs", "grubs-per-m2"},
	{"chinch-bugs", "float-chinch-per-m2"},
	{"sod-webworms", "flush-caterpillars-per-m2"},
	{"armyworms", "flush-caterpillars-per-m2"},
	{"cutworms", "flush-caterpillars-per-m2"},
	{"billbugs", "billbug-larvae-per-m2"},
	{"mole-crickets", "flush-mole-crickets-per-m2"},
	{"crane-fly-larvae", "leatherjackets-per-m2"},
	{"plant-parasitic-nematodes", "nematode-count"},
	{"high-ph", "soil-ph"},
	{"low-ph", "soil-ph"},
	{"iron-chlorosis", "soil-ph leaf-symptoms"},
	{"potassium-deficiency", "soil-k-ppm"},
	{"phosphorus-deficiency", "soil-p-ppm"},
	{"salinity", "soil-ec-ds-m"},
	{"nitrogen-deficiency", "last-nitrogen-days nitrogen-12-months-g-m2"},
	{"summer-dormancy", "crown-slice crowns-alive-percent green-tissue-at-base"},
	{"drought-dieback", "crown-slice crowns-alive-percent green-tissue-at-base"},
	{"winter-crown-kill", "crown-slice crowns-alive-percent green-tissue-at-base"},
	{"frost-injury", "crown-slice crowns-alive-percent green-tissue-at-base"},
	{"winter-desiccation", "crown-slice crowns-alive-percent green-tissue-at-base"},
	{"slow-green-up", "crown-slice crowns-alive-percent green-tissue-at-base soil-temp-c"},
	{"heat-stress", "soil-temp-c soil-temp-healthy-c"},
	{"irrigation-coverage-gap", "catch-can-du"},
	{"localized-dry-spot", "water-drop-seconds"},
	{"compaction", "penetration penetration-kpa"},
	{"excess-thatch", "thatch-mm"},
	{"shade-thinning", "sun-hours"},
	{"large-patch", "pull-test leaf-symptoms"},
	{"necrotic-ring-spot", "root-colour root-condition lab-pathogen"},
	{"summer-patch", "root-colour root-condition lab-pathogen"},
	{"take-all-root-rot", "root-colour root-condition lab-pathogen"},
	{"spring-dead-spot", "same-place-before root-colour lab-pathogen"},
	{"pythium-root-rot", "root-condition root-colour lab-pathogen"},
	{"dollar-spot", "leaf-symptoms mycelium-at-dawn"},
	{"brown-patch", "leaf-symptoms mycelium-at-dawn"},
	{"gray-leaf-spot", "leaf-symptoms"},
	{"leaf-spot", "leaf-symptoms"},
	{"melting-out", "leaf-symptoms"},
	{"pythium-blight", "leaf-symptoms mycelium-at-dawn"},
	{"rust", "leaf-symptoms"},
	{"red-thread", "leaf-symptoms mycelium-at-dawn"},
	{"powdery-mildew", "leaf-symptoms"},
	{"anthracnose", "fruiting-bodies leaf-symptoms"},
}

// needed are the proofs of each cause, as indices into the causes; nil for a remedy that goes without.
var needed = map[int][]string{}

func compileNeeded() {
	for _, r := range neededRows {
		mustCause(r.cause)
		for _, f := range IDs(r.findings) {
			if _, ok := findFinding(f); !ok {
				panic("diagnosis: " + r.cause + " needs the unknown finding " + f)
			}
		}
		needed[CauseAt[r.cause]] = IDs(r.findings)
	}
}

// NeededOf lists them by the index of the cause.
func NeededOf(cause int) []string { return needed[cause] }

// Needed lists the findings of which one has to be known before the remedy of a cause may go; nil where none has to be.
func Needed(cause string) []string {
	if i, ok := CauseAt[cause]; ok {
		return needed[i]
	}
	return nil
}
