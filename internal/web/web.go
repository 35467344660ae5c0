// Package web puts the places together into one program.
package web

import (
	"net/http"
	"slices"

	"gruppo/internal/web/account"
	"gruppo/internal/web/classes"
	"gruppo/internal/web/courtside"
	"gruppo/internal/web/decisions"
	"gruppo/internal/web/families"
	"gruppo/internal/web/ladder"
	"gruppo/internal/web/marks"
	"gruppo/internal/web/planner"
	"gruppo/internal/web/roster"
	"gruppo/internal/web/season"
	"gruppo/internal/web/shelf"
	"gruppo/internal/web/shell"
	"gruppo/internal/web/stairs"
	"gruppo/internal/web/terms"
	"gruppo/internal/web/today"
)

// Routes are all addresses of the program.
var Routes = slices.Concat(
	today.Routes,
	account.Routes,
	roster.Routes,
	shelf.Routes,
	season.Routes,
	classes.Routes,
	planner.Routes,
	courtside.Routes,
	marks.Routes,
	stairs.Routes,
	decisions.Routes,
	families.Routes,
	ladder.Routes,
	terms.Routes,
)

// Handler answers every request.
func Handler(s *shell.Server) http.Handler { return s.Handler(Routes) }
