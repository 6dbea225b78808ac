// Package build knows which version of the program this is.
package build

import "runtime/debug"

// stamp is the checkout as git describes it; make build sets it.
var stamp string

// Version is the checkout that the program was built from; "of unknown version" where nothing is known of it.
func Version() string {
	if stamp != "" {
		return stamp
	}
	info, ok := debug.ReadBuildInfo()
	if !ok || info.Main.Version == "" || info.Main.Version == "(devel)" {
		return "of unknown version"
	}
	return info.Main.Version
}
