package shell

import (
	"fmt"
	"net/http"
	"slices"

	"gruppo/internal/coach/say"
	"gruppo/internal/store"
)

// Outs is what was taken out of a place, with the address by which it is put back. Template "taken-out" lists it.
type Outs struct {
	At  string
	All []store.Out
}

// TakesOut is the route by which things of some kinds are taken out of a place and put back; afterwards the page at
// back is shown.
func TakesOut(at string, needs Action, back string, kinds ...store.Retirable) Route {
	return Route{Method: "POST", Path: at + "/out/:kind/:id", Needs: needs, Handle: func(c *Ctx) error {
		kind := store.Retirable(c.Param("kind"))
		if !slices.Contains(kinds, kind) {
			return store.ErrNone
		}
		return c.takeOut(kind, c.Param("id"), c.PostForm("back") == "", back)
	}}
}

func (c *Ctx) takeOut(kind store.Retirable, id string, out bool, back string) error {
	var rests store.Resting
	var name string
	err := c.In(func(tx *store.Tx) (err error) {
		if name, err = tx.NameOf(c.Ctx(), kind, id); err == nil {
			rests, err = tx.Rests(c.Ctx(), kind, id, c.Now)
		}
		return err
	})
	if err != nil {
		return err
	}
	says := name + " is back"
	if out {
		if why := KeepsIn(kind, rests); why != "" {
			return &Problem{http.StatusUnprocessableEntity, why}
		}
		says = "Took " + name + " out" + Keeps(kind, rests)
	}
	c.Back = back
	err = c.Change("", says, func(tx *store.Tx) error {
		if kind == store.OutClass && out {
			if _, err := tx.DropAhead(c.Ctx(), id, c.Now); err != nil {
				return err
			}
		}
		return tx.SetOut(c.Ctx(), kind, id, out)
	})
	if err != nil {
		return err
	}
	return c.To(back)
}

// KeepsIn says why a thing cannot be taken out as it stands; empty where it can.
func KeepsIn(kind store.Retirable, r store.Resting) string {
	switch {
	case kind == store.OutStage && len(r.Players) > 0:
		return fmt.Sprintf(
			"%s %s on it: %s. Where they stand comes first.",
			say.Count(len(r.Players), "player"),
			say.Verb(len(r.Players), "stands", "stand"),
			Few(r.Players),
		)
	case kind == store.OutProgram && len(r.Classes) > 0:
		return fmt.Sprintf(
			"%s %s held in it. Take %s out first.",
			say.List(r.Classes),
			say.Verb(len(r.Classes), "is", "are"),
			say.Verb(len(r.Classes), "that class", "those classes"),
		)
	case kind == store.OutVenue && len(r.Classes) > 0:
		return fmt.Sprintf(
			"%s %s there. Give %s another place first.",
			say.List(r.Classes),
			say.Verb(len(r.Classes), "meets", "meet"),
			say.Verb(len(r.Classes), "it", "them"),
		)
	}
	return ""
}

// Keeps says, to follow "Took Reef out", what rests on it and is kept, and what goes with it.
func Keeps(kind store.Retirable, r store.Resting) (says string) {
	if kept := r.Kept(); kept != "" {
		says = ". " + kept + " rest on it and are kept"
		if r.Marks+r.Decisions+r.Sessions == 1 {
			says = ". " + kept + " rests on it and is kept"
		}
	}
	if kind == store.OutClass && r.Ahead > 0 {
		says += fmt.Sprintf(
			". %s that had not begun %s with it",
			say.Count(r.Ahead, "session"),
			say.Verb(r.Ahead, "goes", "go"),
		)
	}
	return says
}

// Few names the first four of a list.
func Few(names []string) string {
	if len(names) > 4 {
		names = append(slices.Clone(names[:3]), fmt.Sprintf("%d more", len(names)-3))
	}
	return say.List(names)
}
