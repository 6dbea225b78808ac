package remedy

import (
	"fmt"
)

// learnActions are what is learnt before anything is done.
var learnActions = []action{
	{"send-lab-sample", "learn", "Send a disease sample", "B", 7, []string{"A 10 cm plug from the edge, half good, half bad, before any fungicide."}, func(s *situation) Advice {
		if _, done := s.v["lab-pathogen"]; done {
			return avoid("the laboratory has answered")
		}
		id, p := s.best("necrotic-ring-spot", "summer-patch", "take-all-root-rot", "pythium-root-rot", "spring-dead-spot", "turf-mosaic-virus", "large-patch")
		_, colour := s.v["root-colour"]
		_, condition := s.v["root-condition"]
		if p >= .2 && p < .97 && !colour && !condition && s.word("pull-test") == "" {
			return check("root-colour", "look at the roots before a sample goes out", "root-condition").causes(id)
		}
		if p >= .2 && p < .97 {
			return now(fmt.Sprintf("the treatment depends on the name: %s stands at %s and the field signs end here", label(id), pct(p))).causes(id)
		}
		return avoid("field signs are enough")
	}},
	{"soil-test", "learn", "Test the soil", "B", 14, []string{digCaution}, func(s *situation) Advice {
		if _, done := s.v["soil-ph"]; done {
			return avoid("there is a test")
		}
		if _, p := s.best("iron-chlorosis", "high-ph", "low-ph", "phosphorus-deficiency", "potassium-deficiency", "moss-invasion", "salinity"); p >= .2 {
			return now("a deficiency or the pH is a serious candidate")
		}
		return avoid("nothing that a test would decide")
	}},
	{"wait-and-recheck", "learn", "Wait and look again", "B", 14, nil, func(s *situation) Advice {
		id, p := s.best("frost-injury", "winter-crown-kill", "slow-green-up", "winter-dormancy", "slime-mold", "growth-flush-chlorosis", "summer-dormancy", "drought-dieback")
		if p >= .4 {
			days := 14
			if id == "winter-dormancy" {
				days = 28
			}
			t := s.in(days)
			return Advice{Verdict: Schedule, From: &t, To: &t, Reasons: []string{fmt.Sprintf("%s: waiting costs nothing; green shoots decide on %s", label(id), t.Format("2 January"))}}.causes(id)
		}
		if len(s.r.Causes) > 0 && s.r.Causes[0].Probability < .5 {
			t := s.in(10)
			return Advice{Verdict: Schedule, From: &t, To: &t, Reasons: []string{"no cause carries the evidence yet; look whether it spreads"}}
		}
		return avoid("the evidence is in: waiting gains nothing")
	}},
	{"leave-alone", "learn", "Leave it alone", "B", 0, nil, func(s *situation) Advice {
		if s.p("healthy-turf") >= .5 {
			return now("nothing is wrong beyond the season's normal")
		}
		id, p := s.best("slime-mold", "seed-heads", "winter-dormancy", "vole-runways", "fairy-ring", "off-type-grass")
		if p >= .6 {
			return now(label(id) + " needs no treatment").causes(id)
		}
		return avoid("something is wrong")
	}},
}
