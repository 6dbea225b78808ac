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
	select {}
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
