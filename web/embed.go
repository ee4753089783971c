// Package web holds the built web application. It is empty in a binary that
// was built without Node.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// App is the built application, or ok false when it was not built.
func App() (app fs.FS, ok bool) {
	app, err := fs.Sub(dist, "dist/app")
	if err != nil {
		return nil, false
	}
	_, err = fs.Stat(app, "index.html")
	return app, err == nil
}
