package client

import (
	"slices"
	"strings"
	"time"

	"hodos/core/units"
)

// Kind is what a task is about.
type Kind string

// The kinds, in the order in which they are told on one day.
const (
	Safety Kind = "safety" // keep off and what goes with it
	Water  Kind = "water"
	Mow    Kind = "mow"
	Feed   Kind = "feed"
	Ready  Kind = "ready" // before a visit
	Tell   Kind = "tell"  // what to look for, and when to call
)

// taskRow is what one kind of work asks of the client: from and to in days after it, counted back where they are negative; to is the last
// day. until names what ends it where that is no day.
type taskRow struct {
	action   string
	kind     Kind
	not      bool
	from, to int
	text     string
}

// taskRows: extension practice and usual labels; the label in hand and what the firm says go before. Days without a source are
// judgement. Several actions of one row share it.
var taskRows = []taskRow{
	{"water-deep", Water, false, 0, 0, "Let the sprinklers run until the ground is moist {100 mm} down. Two runs an hour apart soak in better than one."},
	{"water-deep", Water, false, 1, 14, "Water deeply and seldom: when footprints stay in the grass, not by the calendar."},
	{"water-deep spot-water", Water, true, 1, 14, "Do not water a little every evening."},
	{"survival-water", Water, false, 0, 14, "{12 to 15 mm} of water every two weeks keeps the crowns alive. It will stay brown."},
	{"let-dormant", Water, true, 0, 28, "Do not wake it with a single soaking. Green or asleep: one of the two for the whole dry spell."},
	{"let-dormant", Safety, true, 0, 28, "Keep feet, toys and the mower off while it sleeps."},
	{"cut-back-water", Water, false, 0, 28, "Turn the timer down. Let the top {25 mm} dry before it runs again."},
	{"fix-irrigation", Water, false, 0, 21, "Run each zone once a week while you are there to see it, and tell us of a head that does not rise."},
	{"syringe-midday", Water, false, 0, 5, "On days over {32 °C}: two minutes of water at noon cools the grass. It is no watering."},
	{"apply-wetting-agent", Water, false, 0, 0, "Water it in the same day: {12 mm}."},
	{"apply-wetting-agent", Water, false, 1, 14, "Soak the dry places slowly twice a week; the wetting agent needs water to work."},
	{"flush-spot-with-water", Water, false, 0, 4, "Soak the spot again on the second and fourth day, a can of water each time."},
	{"leach-salts", Water, true, 0, 14, "No salty or softened water on the lawn."},
	{"press-and-water", Water, false, 0, 14, "Keep the pressed turf moist until it holds when you tug at it."},
	{"light-watering-of-new-stands", Water, false, 0, 21, "Water lightly two or three times a day, so that the top stays damp but no puddles stand."},

	{"raise-mowing-height", Mow, false, 0, 60, "Keep the mower on its higher setting until it gets cooler, and never take more than a third."},
	{"hold-mowing let-dormant survival-water", Mow, true, 0, 14, "Do not mow while it hardly grows."},
	{"sharpen-blades", Mow, false, 0, 30, "Have the blade sharpened after every ten hours of mowing."},
	{"lower-mowing-once short-last-mowing", Mow, false, 0, 0, "Rake off and take away what was cut."},
	{"restrict-traffic", Safety, true, 0, 28, "Keep off it as far as you can."},

	{"apply-nitrogen spoon-feed-nitrogen acidifying-nitrogen", Water, false, 0, 1, "Water it in within a day: {6 mm}, unless it rains."},
	{"apply-nitrogen spoon-feed-nitrogen acidifying-nitrogen", Safety, false, 0, 1, "Sweep granules off paths and drives onto the grass."},
	{"apply-nitrogen acidifying-nitrogen", Feed, true, 0, 42, "Do not feed it on top of ours."},
	{"hold-nitrogen", Feed, true, 0, 42, "Do not feed it now, not even a little."},
	{"apply-iron", Safety, false, 0, 1, "Iron stains: keep it off stone and off your shoes until it has dried and been watered."},
	{"apply-lime apply-gypsum apply-acidifier", Water, false, 0, 2, "A good rain or {12 mm} of water takes it in."},
	{"apply-lime", Feed, true, 0, 21, "No fertilizer for three weeks: together they lose nitrogen."},

	{"core-aerate dethatch scarify", Ready, false, -2, -1, "Water the day before and mark sprinkler heads and shallow cables."},
	{"core-aerate", Mow, false, 1, 14, "Leave the plugs; they crumble and the mower takes the rest."},
	{"dethatch scarify", Water, false, 0, 21, "Keep it moist: it has lost part of its cover."},
	{"dethatch scarify", Feed, true, 0, 28, "No weed killer until it has been mown three times."},
	{"topdress level-surface apply-compost", Mow, true, 0, 7, "Do not mow until the grass has grown through."},
	{"rake-out-moss brush-up-mats", Water, false, 0, 14, "Keep it from drying out while it closes."},

	{"overseed slit-seed interseed", Water, false, 0, 21, "Keep the seed damp: water lightly two or three times a day until it is up."},
	{"overseed slit-seed interseed", Water, false, 22, 42, "Now water deeper and less often: every two or three days."},
	{"overseed slit-seed interseed", Safety, true, 0, 28, "Keep off it. Dogs, too."},
	{"overseed slit-seed interseed", Mow, false, 21, 42, "Mow when it is a third taller than usual, with a sharp blade, on firm ground."},
	{"overseed slit-seed interseed", Feed, true, 0, 56, "No weed killer until the new grass was mown three or four times."},
	{"winter-overseed", Water, false, 0, 14, "Keep the seed damp: water lightly two or three times a day until it is up."},
	{"resod", Water, false, 0, 14, "Water every day so that it is wet under the sod; lift a corner to see."},
	{"resod", Safety, true, 0, 14, "Keep off it until it holds when you tug at it."},
	{"resod", Mow, false, 14, 21, "Mow it for the first time once it has rooted: high, and on firm ground."},
	{"plug-or-sprig", Water, false, 0, 28, "Keep the plugs moist for four weeks."},
	{"plug-or-sprig", Safety, true, 0, 42, "Keep off it until they have grown together."},
	{"renovate change-grass", Safety, true, 0, 42, "Keep off it until it was mown three times."},
	{"replace-soil", Safety, true, 0, 21, "Keep off the new soil."},

	{"fungicide-curative fungicide-preventive", Water, true, 0, 1, "Leave the sprinklers off unless we tell you to water it in: some have to dry on the leaves."},
	{"fungicide-curative", Mow, true, 0, 2, "Do not mow for two days, and then take the clippings away once."},
	{"fungicide-curative", Tell, false, 7, 14, "The dead leaves do not green again; look for new growth from below. Tell us if the patches still grow."},
	{"insecticide-curative", Water, false, 0, 1, "Water it in as we have told you: what works in the soil has to get there."},
	{"insecticide-curative", Tell, false, 3, 14, "Birds or skunks that still dig after a week are a reason to call."},
	{"insecticide-curative insecticide-preventive", Ready, false, -2, -1, "Mow off flowering weeds before we come, so that no bees visit them."},
	{"nuisance-pests", Ready, false, -2, -1, "Before we come, tip out standing water, mow off any flowers in the lawn, and bring in toys, bowls and pets."},
	{"nuisance-pests", Tell, false, 0, 14, "Some will come back from next door: talk to your neighbours. If it is fleas or ticks, have the vet see to your pets."},
	{"insecticide-preventive preemergent", Water, false, 0, 2, "Water it in within two days: {12 mm}, unless it rains."},
	{"preemergent", Feed, true, 0, 84, "No raking or seeding while it works: it stops every seed, grass as well."},
	{"herbicide-spot herbicide-broadcast", Mow, true, -2, 2, "Do not mow two days before and after."},
	{"herbicide-spot herbicide-broadcast", Water, true, 0, 1, "No sprinklers for a day."},
	{"herbicide-spot herbicide-broadcast", Tell, false, 10, 21, "Weeds twist first and die within three weeks. What is green then we treat again."},
	{"moss-control", Tell, false, 2, 14, "The moss turns black within days. That is how it should be; then it is raked out."},
	{"off-type-removal", Tell, false, 7, 21, "The patch turns brown. That is meant; it is replanted afterwards."},
	{"wait-and-recheck leave-alone", Tell, false, 0, 14, "Tell us if it spreads, or if it looks worse within a few days."},
	{"prune-shade", Mow, false, 0, 60, "Mow higher in the shade than in the sun."},
}

// standingRow is what holds as long as a cause does: by its family, or by itself.
type standingRow struct {
	of   string // a family or a cause
	kind Kind
	not  bool
	text string
}

// standingRows: extension practice.
var standingRows = []standingRow{
	{"disease", Water, true, "No watering in the evening: leaves should be dry before night."},
	{"disease", Mow, false, "Mow the sick part last, when it is dry, and rinse the mower."},
	{"heat", Safety, true, "Keep off it in the heat of the day."},
	{"heat", Mow, false, "Mow high, in the evening, and less often."},
	{"drought", Mow, false, "Mow high and leave the clippings."},
	{"drought", Feed, true, "No feeding while it is dry."},
	{"cold", Safety, true, "Do not walk on frozen or soggy grass."},
	{"water-excess", Safety, true, "No wheels and few feet while it is soft."},
	{"salinity", Water, false, "Rinse the edge after de-icing salt was used, and keep it off the lawn."},
	{"pet-urine", Water, false, "A can of water on the spot within the hour prevents most of it."},
	{"dull-blade", Mow, false, "Have the blade sharpened before the next mowing."},
	{"scalping", Mow, false, "Set the mower higher, and take off no more than a third."},
	{"matted-debris", Mow, false, "Clear leaves and clumps of clippings every week."},
	{"white-grubs", Tell, false, "Turf that lifts like a rug, or animals that dig: call us, do not wait."},
	{"armyworms", Tell, false, "They eat a lawn in days. Call us the same day if the brown edge moves."},
	{"pythium-blight", Tell, false, "It can spread overnight. Call us if it has grown since yesterday."},
	{"shade-thinning", Mow, false, "Mow higher in the shade than in the sun."},
}

// Task is something for the client to do, or not to do, from a day on. A zero To holds until the cause is gone.
type Task struct {
	Kind     Kind
	Not      bool
	From, To time.Time
	Text     string
}

// Work is something that was done to a zone or is booked for it, by its day.
type Work struct {
	Action string
	On     time.Time
}

// MostTasks are told of one zone at once: nobody reads more (judgement).
const MostTasks = 12

// Tasks are the client's part: what holds today or is still ahead, from the work that was done or is booked and from the cause that stands
// (empty for none) with its family. The soonest first, each once.
func Tasks(work []Work, cause, family string, today time.Time, say units.Saying) []Task {
	var out []Task
	for _, w := range work {
		for _, r := range taskRows {
			if !slices.Contains(strings.Fields(r.action), w.Action) {
				continue
			}
			t := Task{r.kind, r.not, w.On.AddDate(0, 0, r.from), w.On.AddDate(0, 0, r.to), say.Literals(r.text)}
			if !t.To.Before(today) {
				out = append(out, t)
			}
		}
	}
	for _, r := range standingRows {
		if cause != "" && (r.of == cause || r.of == family) {
			out = append(out, Task{Kind: r.kind, Not: r.not, From: today, Text: say.Literals(r.text)})
		}
	}
	return inOrder(out, today)
}

// Kinds are all of them, in the order in which they are told.
func Kinds() []Kind { return []Kind{Safety, Water, Mow, Feed, Ready, Tell} }

// inOrder puts what holds today first and the rest by its day; of the same text the one that holds longest stays.
func inOrder(list []Task, today time.Time) []Task {
	for i := range list {
		if list[i].From.Before(today) {
			list[i].From = today
		}
	}
	slices.SortStableFunc(list, func(a, b Task) int {
		if c := a.From.Compare(b.From); c != 0 {
			return c
		}
		return slices.Index(Kinds(), a.Kind) - slices.Index(Kinds(), b.Kind)
	})
	var out []Task
	at := map[string]int{}
	for _, t := range list {
		if i, ok := at[t.Text]; ok {
			if t.To.IsZero() || (!out[i].To.IsZero() && t.To.After(out[i].To)) {
				out[i].To = t.To
			}
			continue
		}
		at[t.Text] = len(out)
		out = append(out, t)
	}
	return out[:min(len(out), MostTasks)]
}
