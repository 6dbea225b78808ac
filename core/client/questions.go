package client

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
)

// Question is one that a client can answer without a tool, and whose answer is a finding.
type Question struct {
	Finding string
	Text    string
	Many    bool // more than one choice may be picked
	Choices []Choice
}

// Choice is one way to answer: its id, and how a client would say it.
type Choice struct{ ID, Text string }

// kindOf is what a question's finding takes.
type kindOf int

const (
	word kindOf = iota
	list
	number
	yesNo
)

// questionRow is a question, and choiceRow one of its choices: the id is the finding's own value, or its number.
type (
	questionRow struct {
		finding string
		takes   kindOf
		text    string
	}
	choiceRow struct{ finding, id, text string }
)

// questionRows are in the order in which they are asked: what hurries first.
var questionRows = []questionRow{
	{"onset-speed", word, "How quickly did it come on?"},
	{"affected-area-percent", number, "How much of the lawn is affected?"},
	{"pattern", list, "What does it look like from a few steps away?"},
	{"colour", list, "What colours do you see where it is bad?"},
	{"recent-events", list, "Has any of this happened there lately, or last winter?"},
	{"animal-digging", word, "Is anything digging or pecking at it?"},
	{"neighbours-affected", word, "Do the neighbours' lawns show the same?"},
	{"irrigation-time", word, "When does the sprinkler run?"},
	{"irrigation-sessions-per-week", number, "How many times a week does it run?"},
	{"days-since-water", number, "When was it last watered, or when did it last rain well?"},
	{"last-nitrogen-days", number, "When was it last fed?"},
	{"herbicide-last-30-days", yesNo, "Was weed killer used in the last month?"},
	{"dog-on-lawn", yesNo, "Does a dog use this lawn?"},
	{"growth-rate", word, "How is it growing at the moment?"},
	{"establishment", word, "How old is this lawn?"},
}

// choiceRows: words that clients use for what the trade calls otherwise.
var choiceRows = []choiceRow{
	{"onset-speed", "overnight", "Overnight"},
	{"onset-speed", "days", "Within days"},
	{"onset-speed", "weeks", "Over some weeks"},
	{"onset-speed", "gradual", "Slowly, over months"},
	{"affected-area-percent", "3", "A spot or two"},
	{"affected-area-percent", "12", "About a tenth"},
	{"affected-area-percent", "33", "About a third"},
	{"affected-area-percent", "60", "More than half"},
	{"affected-area-percent", "95", "All of it"},
	{"pattern", "small-round-spots", "Small spots, no bigger than a saucer"},
	{"pattern", "round-patches", "Round patches"},
	{"pattern", "rings", "Rings"},
	{"pattern", "irregular-patches", "Patches without a clear shape"},
	{"pattern", "lines-or-streaks", "Lines or streaks"},
	{"pattern", "along-hardscape", "Along a path, drive or wall"},
	{"pattern", "low-spots", "In the low places"},
	{"pattern", "high-spots-or-slopes", "On the slope or the high places"},
	{"pattern", "wheel-tracks", "Tracks of wheels or feet"},
	{"pattern", "uniform", "All over, much the same"},
	{"colour", "straw-tan", "Straw-coloured"},
	{"colour", "brown", "Brown"},
	{"colour", "yellow", "Yellow"},
	{"colour", "lime-green", "Pale green"},
	{"colour", "dark-green", "Darker green than the rest"},
	{"colour", "blue-grey", "Blue-grey"},
	{"colour", "orange-cast", "Orange"},
	{"colour", "red-pink", "Red or pink"},
	{"colour", "white-bleached", "White"},
	{"colour", "black", "Black"},
	{"recent-events", "spill", "Something was spilled: fuel, cleaner, fertilizer"},
	{"recent-events", "hose-or-cover-left", "A hose, pool, tarp or toy was left on it"},
	{"recent-events", "flood", "Water stood on it"},
	{"recent-events", "heavy-rain", "Very heavy rain"},
	{"recent-events", "irrigation-fault", "The sprinkler failed"},
	{"recent-events", "construction", "Building work or digging"},
	{"recent-events", "heavy-traffic", "A party, games, many feet"},
	{"recent-events", "vehicle", "A vehicle drove on it"},
	{"recent-events", "overseeded", "It was seeded"},
	{"recent-events", "deicing-salt", "De-icing salt"},
	{"recent-events", "leaves-left-over-winter", "Leaves were left on it all winter"},
	{"recent-events", "ice-cover", "It was under ice for weeks"},
	{"animal-digging", "none", "No"},
	{"animal-digging", "peeled-back", "Turf is rolled or peeled back"},
	{"animal-digging", "rooting-holes", "Holes, as if something is rooting in it"},
	{"animal-digging", "bird-probing", "Flocks of birds pecking at it"},
	{"animal-digging", "tunnels", "Ridges or tunnels"},
	{"neighbours-affected", "none", "No"},
	{"neighbours-affected", "few", "One or two"},
	{"neighbours-affected", "many", "Most of them"},
	{"irrigation-time", "early-morning", "Early in the morning"},
	{"irrigation-time", "midday", "In the day"},
	{"irrigation-time", "evening", "In the evening or at night"},
	{"irrigation-time", "none", "We do not water"},
	{"irrigation-sessions-per-week", "1", "Once"},
	{"irrigation-sessions-per-week", "2", "Twice"},
	{"irrigation-sessions-per-week", "3", "Three times"},
	{"irrigation-sessions-per-week", "7", "Every day"},
	{"days-since-water", "1", "Yesterday or today"},
	{"days-since-water", "4", "Some days ago"},
	{"days-since-water", "10", "A week or two ago"},
	{"days-since-water", "21", "Longer ago"},
	{"last-nitrogen-days", "7", "In the last two weeks"},
	{"last-nitrogen-days", "30", "About a month ago"},
	{"last-nitrogen-days", "75", "Two or three months ago"},
	{"last-nitrogen-days", "240", "Longer ago, or never"},
	{"herbicide-last-30-days", "yes", "Yes"},
	{"herbicide-last-30-days", "no", "No"},
	{"dog-on-lawn", "yes", "Yes"},
	{"dog-on-lawn", "no", "No"},
	{"growth-rate", "stalled", "Not at all"},
	{"growth-rate", "slow", "Slowly"},
	{"growth-rate", "normal", "As usual"},
	{"growth-rate", "surging", "Very fast"},
	{"establishment", "new-seed", "Seeded this season"},
	{"establishment", "new-sod", "Sod, laid this season"},
	{"establishment", "first-year", "In its first year"},
	{"establishment", "established", "Older"},
}

// Questions are those that a client is asked before a visit, in their order.
func Questions() []Question {
	out := make([]Question, 0, len(questionRows))
	for _, q := range questionRows {
		x := Question{Finding: q.finding, Text: q.text, Many: q.takes == list}
		for _, c := range choiceRows {
			if c.finding == q.finding {
				x.Choices = append(x.Choices, Choice{c.id, c.text})
			}
		}
		out = append(out, x)
	}
	return out
}

// Told turns the picked choices of a question into the finding's value as the case format takes it. The error names what is wrong.
func Told(finding string, picked []string) (any, error) {
	i := slices.IndexFunc(questionRows, func(q questionRow) bool { return q.finding == finding })
	switch {
	case i < 0:
		return nil, fmt.Errorf("there is no question %q", finding)
	case len(picked) == 0:
		return nil, errors.New("nothing is picked")
	case len(picked) > 1 && questionRows[i].takes != list:
		return nil, errors.New("only one answer can be picked")
	}
	out := []any{}
	for _, id := range picked {
		if !slices.Contains(choiceRows, choiceRow{finding, id, ChoiceText(finding, id)}) {
			return nil, fmt.Errorf("%q is no answer to it", id)
		}
		if slices.Contains(out, any(id)) {
			return nil, fmt.Errorf("%q is picked twice", id)
		}
		out = append(out, id)
	}
	switch questionRows[i].takes {
	case list:
		return out, nil
	case number:
		return strconv.ParseFloat(picked[0], 64)
	case yesNo:
		return picked[0] == "yes", nil
	}
	return picked[0], nil
}

// ChoiceText is how a client says a choice; empty for one that there is not.
func ChoiceText(finding, id string) string {
	for _, c := range choiceRows {
		if c.finding == finding && c.id == id {
			return c.text
		}
	}
	return ""
}

// Until are what a client does and leaves until somebody has come, in the order in which they are told: nothing is treated from a picture.
func Until() []string { return until }

var until = []string{
	"We do not treat a lawn from a picture: the cause is as often in the roots and the soil as in the leaves. We look first.",
	"Until we come, put nothing on it: no feed, no spray, no seed.",
	"Leave what is dead where it is. We have to see it.",
	"Water as you have done so far, unless water stands on it.",
	"If something was spilled, keep children and pets off it, and keep the bottle or bag for us.",
}
