// Package web holds the built front end.
package web

import (
	"embed"
	"io/fs"
)

// dist always holds .keep, so that the program builds on a clean clone without Node.
//
//go:embed all:dist
var dist embed.FS

// Dist is the built front end; without index.html it has not been built.
func Dist() fs.FS {
	sub, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is part of the program
	}
	return sub
}
