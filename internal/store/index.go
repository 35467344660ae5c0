package store

import (
	"context"
	"fmt"
	"slices"
	"sync"

	"golang.org/x/text/unicode/norm"

	"gruppo/internal/coach/suggest"
)

// Index is what a club's shelf is found by, in memory: every card, and which of them say a word. It is as of a version
// of the shelf, which the database counts; so any number of programs find the same.
type Index struct {
	member string
	cards  []*Card // by name, also private ones and those taken off
	said   map[string][]int
	words  []string
	drills *sync.Map // of each edition that was asked for, the drill
}

// Index is the shelf's, read again only after the shelf changed.
func (tx *Tx) Index(ctx context.Context) (Index, error) {
	x, err := keep(ctx, tx, "shelf", "index", func() (*Index, error) { return tx.index(ctx) })
	if err != nil {
		return Index{}, err
	}
	own := *x
	own.member = tx.Member
	return own, nil
}

func (tx *Tx) index(ctx context.Context) (*Index, error) {
	x := &Index{said: map[string][]int{}, drills: new(sync.Map)}
	rows, err := tx.Query(ctx, `select `+cardColumns+`, d.words from drill d order by d.name collate names, d.id`)
	if err != nil {
		return nil, fmt.Errorf("read the shelf: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		c := new(Card)
		var words []string
		if err := c.scan(rows, &words); err != nil {
			return nil, err
		}
		for _, w := range words {
			x.said[w] = append(x.said[w], len(x.cards))
		}
		x.cards = append(x.cards, c)
	}
	for w := range x.said {
		x.words = append(x.words, w)
	}
	slices.Sort(x.words)
	return x, rows.Err()
}

// Typed are the words of a search, and of each what it may be on this shelf.
func (x Index) Typed(words string) (out [][]string) {
	typed := suggest.Words(norm.NFD.String(words))
	for _, w := range typed[:min(len(typed), 8)] {
		out = append(out, suggest.Like(x.words, w))
	}
	return out
}

// Cards lists the drills that say one of each of the words and that who asks may see, by name: those on the shelf, or
// those taken off. They are everybody's: nobody may change them.
func (x Index) Cards(words [][]string, off bool) []*Card {
	hits := make([]int, len(x.cards)) // how many of the words each says
	for n, ways := range words {
		for _, w := range ways {
			for _, i := range x.said[w] {
				if hits[i] == n {
					hits[i]++
				}
			}
		}
	}
	var out []*Card
	for i, c := range x.cards {
		if hits[i] == len(words) && c.Off == off && (c.Shared != "private" || c.Owner == x.member) {
			out = append(out, c)
		}
	}
	return out
}
