package knowledge

// provedBy names the checks that settle a cause, the best first.
var provedBy = []struct{ cause, checks string }{
	{"white-grubs", "grubs-per-m2"},
	{"chinch-bugs", "float-chinch-per-m2"},
	{"sod-webworms", "flush-caterpillars-per-m2"},
	{"armyworms", "flush-caterpillars-per-m2"},
	{"cutworms", "flush-caterpillars-per-m2"},
	{"billbugs", "billbug-larvae-per-m2 pull-test"},
	{"mole-crickets", "flush-mole-crickets-per-m2"},
	{"crane-fly-larvae", "leatherjackets-per-m2"},
	{"plant-parasitic-nematodes", "nematode-count"},
	{"dollar-spot", "leaf-symptoms"},
	{"brown-patch", "leaf-symptoms mycelium-at-dawn"},
	{"large-patch", "pull-test"},
	{"gray-leaf-spot", "leaf-symptoms"},
	{"pythium-blight", "mycelium-at-dawn leaf-symptoms"},
	{"rust", "leaf-symptoms"},
	{"red-thread", "leaf-symptoms"},
	{"leaf-spot", "leaf-symptoms"},
	{"melting-out", "leaf-symptoms"},
	{"anthracnose", "fruiting-bodies"},
	{"necrotic-ring-spot", "lab-pathogen"},
	{"summer-patch", "lab-pathogen"},
	{"take-all-root-rot", "lab-pathogen root-colour"},
	{"spring-dead-spot", "lab-pathogen same-place-before"},
	{"pythium-root-rot", "lab-pathogen"},
	{"gray-snow-mold", "fruiting-bodies"},
	{"pink-snow-mold", "mycelium-at-dawn"},
	{"drought-stress", "soil-moisture"},
	{"localized-dry-spot", "water-drop-seconds"},
	{"irrigation-coverage-gap", "catch-can-du"},
	{"overwatering", "soil-moisture"},
	{"flooding", "surface"},
	{"compaction", "penetration"},
	{"excess-thatch", "thatch-mm"},
	{"matted-debris", "debris"},
	{"iron-chlorosis", "soil-ph"},
	{"nitrogen-deficiency", "last-nitrogen-days"},
	{"growth-flush-chlorosis", "recent-events"},
	{"salinity", "soil-ec-ds-m"},
	{"shade-thinning", "sun-hours"},
	{"dull-blade", "leaf-tip-cut"},
	{"moss-invasion", "moss-cover-percent"},
	{"weed-invasion", "weed-cover-percent"},
	{"summer-dormancy", "crown-slice"},
	{"winter-crown-kill", "crown-slice"},
	{"drought-dieback", "crown-slice"},
	{"heat-stress", "soil-temp-c"},
	{"turf-mosaic-virus", "lab-pathogen"},
	{"high-ph", "soil-ph"},
	{"low-ph", "soil-ph"},
	{"phosphorus-deficiency", "soil-p-ppm"},
	{"potassium-deficiency", "soil-k-ppm"},
	{"powdery-mildew", "leaf-symptoms"},
	{"spittlebugs", "insects-seen"},
	{"turf-mites", "lens-finds"},
	{"scale-insects", "lens-finds"},
	{"establishment-failure", "emergence-percent"},
	{"winter-desiccation", "crown-slice"},
	{"frost-injury", "crown-slice"},
}

// ProvedBy lists the checks that settle a cause, the best first; nil where none does by itself.
func ProvedBy(cause string) []string {
	for _, r := range provedBy {
		if r.cause == cause {
			return IDs(r.checks)
		}
	}
	return nil
}
