// Package simulation tests the scales against lawns of which the truth is known: it draws causes and findings from the
// tables, or from tables that differ from them, plays a visit by a strategy, with answers missing and wrong at stated
// rates, and measures how often the scales are right, how sure they are when they are, and what the visit took.
package simulation

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sort"
	"sync"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
)

// Options steer a run. The same options give the same result on any number of workers.
type Options struct {
	Lawns   int     // 1 to 1,000,000
	Seed    uint64  // of everything that is drawn
	Wrong   float64 // chance that an answer is wrong, 0 to 0.5
	Missing float64 // chance that an answer cannot be had, 0 to 0.9
	Weather float64 // chance that a lawn has a weather series, 0 to 1
	Spread  float64 // how far the tables of the world differ from those that weigh, 0 to 2; see NewWorld
	Climate bool    // what the weather tells comes from drawn years of the place instead of the tables
	Words   float64 // chance that a word is given for another that people interchange, beside Wrong, 0 to 0.5
	Worlds  int     // how many such worlds the lawns are drawn from; 0 for 20

	Strategies []Strategy                                 // none for all
	Workers    int                                        // 0 for one
	Chance     func(seed, stream uint64) knowledge.Chance // makes a seeded source
	Progress   func(done int)                             // called after every lawn, from one goroutine at a time; may be nil
}

// Strategy decides which checks a visit makes.
type Strategy string

// The strategies. Fixed makes every check of the visit in its order, from far to near. Next makes the check that tells
// most for its minutes, until no check can change a decision; Sampled goes on from there and sends the samples that are worth more than
// the laboratory and the wait for it cost, which its regret then bears; Brief stops when what is left would hardly change anything. Free
// asks nothing that costs more than a question.
const (
	Fixed   Strategy = "fixed"
	Next    Strategy = "next"
	Sampled Strategy = "sampled"
	Brief   Strategy = "brief"
	Free    Strategy = "free"
)

// Strategies lists them.
func Strategies() []Strategy { return []Strategy{Fixed, Next, Sampled, Brief, Free} }

// elsewhere are the handlings that nobody has on the spot: another hour of the day, a tool that few carry, or days
// until the answer.
var elsewhere = map[string]bool{"dawn-look": false, "ring": false, "catch-cans": false, "penetrometer": false, "moisture-probe": false,
	"soil-sample": false, "disease-sample": false, "nematode-sample": false, "tissue-sample": false}

// Check names what is wrong with the options; nil when nothing is.
func (o Options) Check() error {
	in := func(name string, x, lo, hi float64) error {
		if math.IsNaN(x) || x < lo || x > hi {
			return fmt.Errorf("%s: %g is outside %g to %g", name, x, lo, hi)
		}
		return nil
	}
	for _, err := range []error{
		in("lawns", float64(o.Lawns), 1, 1e6), in("wrong", o.Wrong, 0, .5), in("missing", o.Missing, 0, .9),
		in("weather", o.Weather, 0, 1), in("words", o.Words, 0, .5), in("spread", o.Spread, 0, 2), in("worlds", float64(o.Worlds), 0, 1000),
		in("workers", float64(o.Workers), 0, 256),
	} {
		if err != nil {
			return err
		}
	}
	for _, s := range o.Strategies {
		if !slices.Contains(Strategies(), s) {
			return fmt.Errorf("strategy: %q is none of %v", s, Strategies())
		}
	}
	if o.Chance == nil {
		return fmt.Errorf("chance: a seeded source is needed")
	}
	return nil
}

// Run plays the lawns. It stops early with the context's error.
func Run(ctx context.Context, o Options) (Report, error) {
	if err := o.Check(); err != nil {
		return Report{}, err
	}
	if len(o.Strategies) == 0 {
		o.Strategies = Strategies()
	}
	count := o.Worlds
	switch {
	case o.Spread == 0:
		count = 1
	case count == 0:
		count = 20
	}
	worlds := make([]*World, count)
	for i := range worlds {
		worlds[i] = NewWorld(o.Spread, o.Chance(o.Seed, uint64(i)|1<<62))
	}
	played := make([][]outcome, o.Lawns)
	var (
		wg   sync.WaitGroup
		next = make(chan int)
		mu   sync.Mutex
		done int
	)
	for range max(1, o.Workers) {
		wg.Go(func() {
			for i := range next {
				c := o.Chance(o.Seed, uint64(i))
				p := draw(worlds[i%count], o, c)
				for _, s := range o.Strategies {
					played[i] = append(played[i], p.play(s))
				}
				mu.Lock()
				done++
				if o.Progress != nil {
					o.Progress(done)
				}
				mu.Unlock()
			}
		})
	}
	err := func() error {
		defer close(next)
		for i := range o.Lawns {
			select {
			case <-ctx.Done():
				return ctx.Err()
			case next <- i:
			}
		}
		return nil
	}()
	wg.Wait()
	if err != nil {
		return Report{}, err
	}
	return report(o, played), nil
}

// patient is a lawn with everything that could be found on it, drawn beforehand, so that every strategy meets the same.
type patient struct {
	Drawn
	weather []string // ids of what is known of the weather
	values  map[string]knowledge.Value
	gone    map[string]bool // answers that cannot be had
}

func draw(w *World, o Options, c knowledge.Chance) patient {
	p := patient{Drawn: w.Draw(c), values: map[string]knowledge.Value{}, gone: map[string]bool{}}
	for _, f := range knowledge.Weighed() {
		p.values[f.ID] = p.Read(f.ID, o.Wrong*knowledge.Slips(f.ID), c)
		if o.Words > 0 {
			p.values[f.ID] = Misnamed(f.ID, p.values[f.ID], o.Words, c)
		}
		p.gone[f.ID] = c.Float64() < o.Missing
	}
	has := c.Float64() < o.Weather
	if o.Climate {
		if has {
			for id, v := range p.skies(c) {
				p.values[id] = v
				p.weather = append(p.weather, id)
			}
			sort.Strings(p.weather)
		}
		return p
	}
	for _, id := range WeatherIDs() {
		v := p.Read(id, o.Wrong, c)
		if c.Float64() >= o.Missing && has {
			p.values[id] = v
			p.weather = append(p.weather, id)
		}
	}
	return p
}

// outcome is what a strategy came to on one lawn.
type outcome struct {
	truth   []string
	causes  []string
	p       []float64
	minutes float64
	checks  int
	settled bool
	regret  float64
}

// visit walks a lawn and keeps the time.
type visit struct {
	*patient
	scales *diagnosis.Scales
	begun  map[string]bool
	at     string
	fees   float64 // of samples, with what waiting for them costs
	out    outcome
}

func (p *patient) play(s Strategy) outcome {
	v := visit{patient: p, scales: diagnosis.NewScales(p.Lawn), begun: map[string]bool{}, out: outcome{truth: p.Causes}}
	for _, id := range p.weather {
		v.scales.Add(id, p.values[id])
	}
	switch s {
	case Fixed:
		v.all(func(f *knowledge.Finding) bool { return f.Station != "lab" })
	case Free:
		v.all(func(f *knowledge.Finding) bool { return f.Station == "ask" })
	case Next, Brief:
		v.led(s == Brief)
	case Sampled:
		v.led(false)
		v.send()
	}
	v.out.regret = v.scales.Regret(v.Causes) + v.fees
	if v.Unexplained() {
		v.out.truth = []string{knowledge.Unexplained}
	}
	v.scales.Each(func(cause string, p float64) {
		v.out.causes = append(v.out.causes, cause)
		v.out.p = append(v.out.p, p)
	})
	return v.out
}

// led makes the checks that are worth most, until none can change a decision, or, on a brief visit, until what is left would hardly
// change anything.
func (v *visit) led(brief bool) {
	v.look("past-causes") // the records are looked up before the visit
	for v.out.checks < 60 {
		checks, settled, enough := v.scales.Next(elsewhere)
		if v.out.settled = settled; settled || brief && enough || len(checks) == 0 {
			return
		}
		for _, c := range diagnosis.Bundle(checks) {
			v.look(c.Finding)
			for _, id := range c.Also {
				v.look(id)
			}
		}
	}
}

// send takes the samples that are worth their price: their answers come when the visit is over.
func (v *visit) send() {
	sent := map[string]bool{}
	for {
		procedure, price := v.scales.Sample(sent)
		if procedure == "" {
			return
		}
		sent[procedure] = true
		v.fees += price
		for _, f := range knowledge.Weighed() {
			if f.Procedure == procedure && v.scales.Sensible(f.ID) {
				v.look(f.ID)
			}
		}
	}
}

// all makes every check of the stations in their order.
func (v *visit) all(take func(f *knowledge.Finding) bool) {
	for _, st := range knowledge.Stations() {
		for _, f := range knowledge.Weighed() {
			if _, away := elsewhere[f.Procedure]; f.Station == st.ID && !away && take(&f) && v.scales.Sensible(f.ID) {
				v.look(f.ID)
			}
		}
	}
}

// look makes one check: it costs its minutes whether there is an answer or not.
func (v *visit) look(id string) {
	f, _ := knowledge.FindingByID(id)
	v.out.minutes += knowledge.Minutes(f, v.begun[f.Procedure], v.at)
	v.out.checks++
	v.begun[f.Procedure], v.at = true, f.Station
	if v.gone[id] {
		v.scales.Skip(id)
		return
	}
	v.scales.Add(id, v.values[id])
}
