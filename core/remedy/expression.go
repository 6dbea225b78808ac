package remedy

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hodos/core/knowledge"
)

// The tests in the tables are written in a small language, so that a row reads as an agronomist would say it and a misspelt word is
// found when the program starts:
//
//	thatch-mm >= 12 and thatch-mm <= 20
//	soil-moisture = dry|slightly-moist
//	p(salinity) >= .15 and unknown(soil-ec-ds-m)
//	wilted and dry
//
// A name is a finding, a measure (a number worked out from weather, grass and records) or a term (a test that has a name). What was
// not looked at is neither true nor false: "and" and "or" follow Kleene's three values, and a fact must be true to count. "without x"
// holds where x is not shown.

// truth is yes, no or not known.
type truth int8

const (
	no      truth = -1
	unknown truth = 0
	yes     truth = 1
)

func truthOf(b bool) truth {
	if b {
		return yes
	}
	return no
}

// test is a compiled expression: what it says of a situation on the day k days ahead.
type test func(s *situation, k int) truth

// number is a measure: NaN where it is not known.
type number func(s *situation, k int) float64

type parser struct {
	words []string
	at    int
	text  string
}

// compile turns an expression into a test. The empty expression holds always. It panics on what it does not know: the tables are
// part of the program.
func compile(text string) test {
	if text == "" {
		return func(*situation, int) truth { return yes }
	}
	p := &parser{words: split(text), text: text}
	t := p.either()
	if p.at != len(p.words) {
		p.fail("ends too early")
	}
	return t
}

func (p *parser) fail(format string, args ...any) {
	panic(fmt.Sprintf("remedy: %s, at word %d of %q", fmt.Sprintf(format, args...), p.at+1, p.text))
}

// split cuts an expression into names (with their brackets), numbers, signs and single brackets.
func split(text string) []string {
	var out []string
	for i := 0; i < len(text); {
		c := text[i]
		switch {
		case c == ' ':
			i++
		case strings.IndexByte("()*+", c) >= 0:
			out = append(out, text[i:i+1])
			i++
		case strings.IndexByte("<>=", c) >= 0:
			n := 1
			if i+1 < len(text) && text[i+1] == '=' {
				n = 2
			}
			out = append(out, text[i:i+n])
			i += n
		default:
			j := i
			for j < len(text) && strings.IndexByte(" ()*+<>=", text[j]) < 0 {
				j++
			}
			if j < len(text) && text[j] == '(' && j > i { // a call keeps its brackets
				end := strings.IndexByte(text[j:], ')')
				if end < 0 {
					panic("remedy: a bracket stays open in " + text)
				}
				j += end + 1
			}
			out = append(out, text[i:j])
			i = j
		}
	}
	return out
}

func (p *parser) peek() string {
	if p.at < len(p.words) {
		return p.words[p.at]
	}
	return ""
}

func (p *parser) next() string {
	w := p.peek()
	p.at++
	return w
}

func (p *parser) either() test {
	t := p.both()
	for p.peek() == "or" {
		p.at++
		a, b := t, p.both()
		t = func(s *situation, k int) truth { return max(a(s, k), b(s, k)) }
	}
	return t
}

func (p *parser) both() test {
	t := p.single()
	for p.peek() == "and" {
		p.at++
		a, b := t, p.single()
		t = func(s *situation, k int) truth { return min(a(s, k), b(s, k)) }
	}
	return t
}

func (p *parser) single() test {
	switch w := p.peek(); {
	case w == "without":
		p.at++
		t := p.single()
		return func(s *situation, k int) truth { return truthOf(t(s, k) != yes) }
	case w == "(":
		p.at++
		t := p.either()
		if p.next() != ")" {
			p.fail("a bracket stays open")
		}
		return t
	case w == "":
		p.fail("something is missing")
	}
	return p.comparison()
}

func (p *parser) comparison() test {
	name := p.next()
	sign := p.peek()
	if strings.IndexAny(sign, "<>=") != 0 {
		return p.term(name)
	}
	p.at++
	if sign == "=" {
		if t := wordTest(name, p.peek()); t != nil {
			p.at++
			return t
		}
	}
	left, right := p.measure(name), p.sum()
	return func(s *situation, k int) truth {
		a, b := left(s, k), right(s, k)
		switch {
		case math.IsNaN(a) || math.IsNaN(b):
			return unknown
		case sign == ">=":
			return truthOf(a >= b)
		case sign == "<=":
			return truthOf(a <= b)
		case sign == ">":
			return truthOf(a > b)
		case sign == "<":
			return truthOf(a < b)
		}
		return truthOf(a == b)
	}
}

// sum is a number, a measure, or a few of them multiplied and added.
func (p *parser) sum() number {
	n := p.product()
	for p.peek() == "+" {
		p.at++
		a, b := n, p.product()
		n = func(s *situation, k int) float64 { return a(s, k) + b(s, k) }
	}
	return n
}

func (p *parser) product() number {
	n := p.measure(p.next())
	for p.peek() == "*" {
		p.at++
		a, b := n, p.measure(p.next())
		n = func(s *situation, k int) float64 { return a(s, k) * b(s, k) }
	}
	return n
}

func (p *parser) measure(name string) number {
	if x, err := strconv.ParseFloat(name, 64); err == nil {
		return func(*situation, int) float64 { return x }
	}
	if n := numberNamed(name); n != nil {
		return n
	}
	p.fail("%q is no number, measure or finding", name)
	return nil
}

func (p *parser) term(name string) test {
	call, arg, isCall := strings.Cut(strings.TrimSuffix(name, ")"), "(")
	if isCall {
		switch call {
		case "known":
			return func(s *situation, _ int) truth { return truthOf(s.found(arg)) }
		case "unknown":
			return func(s *situation, _ int) truth { return truthOf(!s.found(arg)) }
		}
		if f, ok := calls[call]; ok {
			args := strings.Split(arg, "|")
			for _, a := range args {
				if _, ok := knowledge.CauseByID(a); !ok && a != "it" {
					p.fail("%q is no cause", a)
				}
			}
			return func(s *situation, k int) truth {
				out := no
				for _, a := range args {
					out = max(out, f(s, k, s.cause(a)))
				}
				return out
			}
		}
	}
	if t, ok := terms[name]; ok {
		return t
	}
	p.fail("%q is no term", name)
	return nil
}

// wordTest compares a finding, a policy or a fact about the lawn with words; nil where the name is none of these.
func wordTest(name, words string) test {
	want := strings.Split(words, "|")
	if f, ok := facts[name]; ok {
		return func(s *situation, _ int) truth {
			w := f(s)
			if w == "" {
				return unknown
			}
			for _, x := range want {
				if x == w {
					return yes
				}
			}
			return no
		}
	}
	f, ok := knowledge.FindingByID(name)
	if !ok || f.Kind == knowledge.Number {
		return nil
	}
	for _, w := range want {
		_, cause := knowledge.CauseByID(w)
		known := f.Kind == knowledge.YesNo && (w == "yes" || w == "no") || (f.Kind == knowledge.CauseIDs || f.Kind == knowledge.CauseOrNone) &&
			(cause || w == "none" || w == "it")
		for _, v := range f.Values {
			known = known || v == w
		}
		if !known {
			panic(fmt.Sprintf("remedy: %q is no value of %s", w, name))
		}
	}
	return func(s *situation, _ int) truth {
		v, ok := s.v[name]
		if !ok {
			return unknown
		}
		for _, w := range want {
			w = s.cause(w)
			switch {
			case v.Yes != nil:
				if *v.Yes == (w == "yes") {
					return yes
				}
			case v.List != nil:
				for _, x := range v.List {
					if x == w {
						return yes
					}
				}
			case v.Word == w:
				return yes
			}
		}
		return no
	}
}

// numberNamed finds a measure, a probability or the value of a finding; nil where there is none of that name.
func numberNamed(name string) number {
	call, arg, isCall := strings.Cut(strings.TrimSuffix(name, ")"), "(")
	if isCall {
		if call == "p" {
			ids := strings.Split(arg, "|")
			for _, id := range ids {
				if _, ok := knowledge.CauseByID(id); !ok && id != "it" {
					panic(fmt.Sprintf("remedy: p(%s): no cause %q", arg, id))
				}
			}
			return func(s *situation, _ int) float64 {
				most := 0.0
				for _, id := range ids {
					most = math.Max(most, s.r.P(s.cause(id)))
				}
				return most
			}
		}
		if call == "since" {
			if _, ok := classes[arg]; !ok {
				panic("remedy: since(" + arg + "): no such class")
			}
			return func(s *situation, k int) float64 { return s.since(arg) + float64(k) }
		}
		return nil
	}
	if m, ok := measures[name]; ok {
		return m.of
	}
	if f, ok := knowledge.FindingByID(name); ok && f.Kind == knowledge.Number {
		return func(s *situation, _ int) float64 { return s.num(name) }
	}
	return nil
}
