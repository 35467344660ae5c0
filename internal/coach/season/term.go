package season

import (
	"slices"
	"time"

	"gruppo/internal/day"
)

// Term is a stretch of the year for which classes and places are planned. Its zero value is none.
type Term struct {
	ID, Name    string
	From, Until day.Day // the last included
	TakenOver   *time.Time
}

// TermAt is the term that a day is in, and the first that begins after it; the terms are in order.
func TermAt(terms []Term, today day.Day) (now, next Term) {
	for _, t := range terms {
		if !t.From.After(today) && t.Until.Holds(today) {
			now = t
		}
		if t.From.After(today) && next.ID == "" {
			next = t
		}
	}
	return now, next
}

// theseWeeks is the id of the weeks about today that no term has.
const theseWeeks = "now"

// Chosen is the term that is asked for by its id, or the one that today is in, with all there are to choose from. Where
// today is in none, the weeks about it stand among them, and are chosen unless they are a break between two.
func Chosen(terms []Term, today day.Day, id string) (chosen Term, all []Term) {
	now, next := TermAt(terms, today)
	chosen, all = now, terms
	if now.ID == "" {
		weeks, at := aboutToday(terms, today)
		all = slices.Insert(slices.Clone(terms), at, weeks)
		chosen = weeks
		if at > 0 && next.ID != "" {
			chosen = next
		}
	}
	if i := slices.IndexFunc(all, func(t Term) bool { return id != "" && t.ID == id }); i >= 0 {
		chosen = all[i]
	}
	return chosen, all
}

// aboutToday is sixteen weeks from four ago, as far as no term has them, and the place that they have among the terms. They
// have no id where there is no term at all: nothing is to be chosen.
func aboutToday(terms []Term, today day.Day) (weeks Term, at int) {
	weeks = Term{Name: "These weeks", From: today.Add(-4 * 7), Until: today.Add(12 * 7)}
	for _, t := range terms {
		weeks.ID = theseWeeks
		if t.From.After(today) {
			if !t.From.After(weeks.Until) {
				weeks.Until = t.From.Add(-1)
			}
			break
		}
		if at++; !t.Until.Before(weeks.From) {
			weeks.From = t.Until.Add(1)
		}
	}
	return weeks, at
}
