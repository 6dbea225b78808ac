package remedy

// pairRow keeps two actions apart that are both due: second waits so many days after first; 0 days gives the second up for this time.
type pairRow struct {
	first, second string
	days          int
	why           string
}

// pairRows, in the order in which they are asked. Label and extension; the label in hand goes before.
var pairRows = []pairRow{
	{"light-watering-of-new-stands", "let-dormant", 0, "a new stand is watered, not let rest"},
	{"water-deep", "let-dormant", 0, "one line for the whole spell: it is watered"},
	{"water-deep", "survival-water", 0, "it is watered fully"},
	{"water-deep", "cut-back-water", 0, "the root zone is dry: water it deeply, in the early morning only"},
	{"hold-mowing", "core-aerate", 7, "not mown just now"},
	{"hold-mowing", "dethatch", 7, "not mown just now"},
	{"hold-mowing", "scarify", 7, "not mown just now"},
	{"insecticide-curative", "insecticide-preventive", 0, "the pest is there: treat it on the count, prevent it next season"},
	{"plug-or-sprig", "resod", 14, "or sod at once: the expensive way"},
	{"apply-nitrogen", "let-dormant", 0, "it is growing again"},
	{"spoon-feed-nitrogen", "apply-nitrogen", 21, "it is fed little and often instead"},
	{"hand-weed", "herbicide-spot", 0, "they are pulled by hand"},
	{"herbicide-broadcast", "herbicide-spot", 0, "the whole is treated: one or the other"},
	{"scarify", "dethatch", 0, "scarified instead: one or the other"},
	{"raise-mowing-height", "lower-mowing-once", 0, "it is to be mown higher"},
	{"hold-mowing", "resume-mowing", 7, "not mown just now"},
	{"renovate", "herbicide-broadcast", 0, "the whole is renewed"},
	{"leach-salts", "apply-nitrogen", 7, "what is fed before the leaching is lost"},
	{"apply-lime", "apply-nitrogen", 14, "lime and nitrogen fourteen days apart"},
	{"apply-lime", "apply-iron", 14, "lime fixes iron: fourteen days apart"},
	{"apply-lime", "apply-acidifier", 0, "opposite aims"},
	{"apply-phosphorus", "apply-iron", 7, "phosphorus fixes iron: a week apart"},
	{"moss-control", "apply-iron", 28, "the moss product brings the iron"},
	{"moss-control", "overseed", 14, "after the dead moss is raked out"},
	{"moss-control", "slit-seed", 14, "after the dead moss is raked out"},
	{"fungicide-curative", "fungicide-preventive", 28, "after the one on the disease, with another mode of action"},
	{"fungicide-curative", "apply-wetting-agent", 1, "leaves dry first"},
	{"herbicide-spot", "core-aerate", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "core-aerate", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "dethatch", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "scarify", 14, "the weeds take it down first"},
	{"dethatch", "growth-regulator", 21, "it has to grow to heal"},
	{"scarify", "growth-regulator", 21, "it has to grow to heal"},
	{"core-aerate", "growth-regulator", 21, "it has to grow to heal"},
	{"insecticide-curative", "press-and-water", 2, "after the treatment"},
	{"insecticide-curative", "apply-nitrogen", 10, "after the pest is dealt with"},
	{"apply-acidifier", "overseed", 30, "fresh sulfur burns seedlings"},
	{"apply-acidifier", "slit-seed", 30, "fresh sulfur burns seedlings"},
}
