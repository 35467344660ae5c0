package shell

import (
	"bytes"
	"embed"
)

//go:embed styles/*.css
var styleFiles embed.FS

// styleParts are the files of styles in the order in which they are joined into gruppo.css: what all pages share, then
// a page or a part each.
var styleParts = []string{
	"base", "frame", "parts", "diagram",
	"door", "today", "roster", "shelf", "draw", "plan", "what-if", "season", "practice", "classes", "run", "courtside", "big-screen", "mirror", "paper", "certificate",
	"marks", "stairs", "player", "decisions", "places", "ladder", "guardian",
}

func styles() ([]byte, error) {
	var all bytes.Buffer
	for _, part := range styleParts {
		b, err := styleFiles.ReadFile("styles/" + part + ".css")
		if err != nil {
			return nil, err
		}
		all.Write(b)
	}
	return all.Bytes(), nil
}
