//go:build js && wasm

// Command hodos-browser is the core for the page on a device: a worker calls its functions. Each answers with one JSON text, {"error": …}
// where it cannot.
package main

import (
	"encoding/json"
	"fmt"
	"runtime/debug"
	"syscall/js"

	"hodos/browser"
	"hodos/core/photo"
)

func main() {
	debug.SetGCPercent(400) // a quarter off a tap; memory is given back by the page that closes
	core := &browser.Core{}
	js.Global().Set("hodosTake", guarded(func(args []js.Value) ([]byte, error) {
		if err := core.Take(args[0].String(), []byte(args[1].String()), args[2].String()); err != nil {
			return nil, err
		}
		return []byte("{}"), nil
	}))
	js.Global().Set("hodosWeigh", guarded(func(args []js.Value) ([]byte, error) {
		return core.Weigh(args[0].String(), []byte(args[1].String()))
	}))
	js.Global().Set("hodosPattern", guarded(func(args []js.Value) ([]byte, error) {
		return browser.Pattern([]byte(args[0].String()), []byte(args[1].String()))
	}))
	js.Global().Set("hodosCount", guarded(func(args []js.Value) ([]byte, error) {
		return browser.Count(args[0].String(), []byte(args[1].String()), args[2].Float())
	}))
	js.Global().Set("hodosPhoto", guarded(photograph))
	select {}
}

// photograph measures pixels (a Uint8ClampedArray) of so wide and high a picture, and marks what counts in a Uint8Array of a byte a pixel.
func photograph(args []js.Value) ([]byte, error) {
	p := photo.Picture{Width: args[1].Int(), Height: args[2].Int(), RGBA: make([]byte, args[0].Length())}
	js.CopyBytesToGo(p.RGBA, args[0])
	out, mask, err := browser.Measure(p, []byte(args[3].String()))
	if err != nil {
		return nil, err
	}
	bytes := p.RGBA[:len(mask)] // read already
	for i, on := range mask {
		bytes[i] = 0
		if on {
			bytes[i] = 1
		}
	}
	js.CopyBytesToJS(args[4], bytes)
	return out, nil
}

// guarded makes a function of the page of f: a panic would end the program for good.
func guarded(f func(args []js.Value) ([]byte, error)) js.Func {
	return js.FuncOf(func(_ js.Value, args []js.Value) (answer any) {
		defer func() {
			if what := recover(); what != nil {
				answer = failure(fmt.Errorf("%v", what))
			}
		}()
		out, err := f(args)
		if err != nil {
			return failure(err)
		}
		return string(out)
	})
}

func failure(err error) string {
	b, _ := json.Marshal(map[string]string{"error": err.Error()})
	return string(b)
}
