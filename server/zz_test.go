package server_test

import (
	"encoding/json"
	"fmt"
	"testing"
)

func TestZZ(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	show := func(x any) { b, _ := json.MarshalIndent(x, "", " "); fmt.Println(string(b)) }
	var out any
	for _, q := range []string{"Quill"} {
		p = c.place(q)
		c.must(200, "GET", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", nil, &out)
		show(out)
		c.must(200, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/proposal", map[string]any{"action": "fungicide-curative"}, &out)
		show(out)
	}
	c.must(200, "GET", "/shelf/today", nil, &out)
	b, _ := json.Marshal(out)
	fmt.Println(len(b), string(b)[:3000])
}
