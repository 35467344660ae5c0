package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"time"

	"github.com/spf13/cobra"

	"gruppo/internal/store"
)

// simulated is a pair of light gates that are not there.
type simulated struct {
	to, code               string
	runs, lane, station, n int
	seconds, spread        float64
	every                  time.Duration
	off                    time.Duration // by how much the program's clock is ahead of this one
}

// gateCommand is the stand-in of a timing gate: it sends what a real one would, to a session's door code.
func gateCommand() *cobra.Command {
	g := simulated{}
	c := &cobra.Command{
		Use:   "gate CODE",
		Short: "A simulated timing gate that sends crossings to a session's door code (docs/gate.md)",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			g.code = args[0]
			return g.run(c.Context(), c.OutOrStdout())
		},
	}
	f := c.Flags()
	f.StringVar(&g.to, "to", "http://127.0.0.1:8080", "the program's address")
	f.IntVar(&g.runs, "runs", 5, "how many run through")
	f.IntVar(&g.lane, "lane", 1, "the lane")
	f.Float64Var(&g.seconds, "seconds", 5.5, "about how long a run takes")
	f.Float64Var(&g.spread, "spread", 0.3, "by how much runs differ, in seconds")
	f.DurationVar(&g.every, "every", 8*time.Second, "from one start to the next")
	f.IntVar(&g.station, "count-at", 0, "count at this station instead, a ball counter or a jump mat")
	f.IntVar(&g.n, "by", 1, "and by how much each time")
	return c
}

// agree asks what time the program has: a gate and a hall are rarely of one clock.
func (g *simulated) agree(ctx context.Context) error {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, g.to+"/time", nil)
	if err != nil {
		return err
	}
	a, err := http.DefaultClient.Do(r)
	if err != nil {
		return err
	}
	defer a.Body.Close()
	var ms int64
	if _, err := fmt.Fscan(a.Body, &ms); err != nil {
		return fmt.Errorf("the program's time could not be read: %w", err)
	}
	g.off = time.Until(time.UnixMilli(ms))
	return nil
}

func (g simulated) run(ctx context.Context, out io.Writer) error {
	if err := g.agree(ctx); err != nil {
		return err
	}
	for i := range g.runs {
		if i > 0 {
			select {
			case <-ctx.Done():
				return nil
			case <-time.After(g.every):
			}
		}
		now := time.Now().Add(g.off)
		if g.station > 0 {
			if err := g.send(ctx, map[string]any{"id": store.NewID(), "what": "count", "station": g.station, "n": g.n, "at": now}); err != nil {
				return err
			}
			fmt.Fprintf(out, "%d more at station %d\n", g.n, g.station)
			continue
		}
		took := g.seconds + g.spread*rand.NormFloat64()
		ends := now.Add(time.Duration(took * float64(time.Second)))
		if err := g.send(ctx, map[string]any{"id": store.NewID(), "what": "start", "lane": g.lane, "at": now}); err != nil {
			return err
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(time.Until(ends.Add(-g.off))):
		}
		if err := g.send(ctx, map[string]any{"id": store.NewID(), "what": "finish", "lane": g.lane, "at": ends}); err != nil {
			return err
		}
		fmt.Fprintf(out, "run %d: %.2f s\n", i+1, took)
	}
	return nil
}

// send sends one thing until it has arrived: as it has an id, it counts once.
func (g simulated) send(ctx context.Context, item map[string]any) error {
	body, err := json.Marshal(map[string]any{"items": []any{item}})
	if err != nil {
		return err
	}
	for wait := 200 * time.Millisecond; ; wait *= 2 {
		r, err := http.NewRequestWithContext(ctx, http.MethodPost, g.to+"/gate/"+g.code, bytes.NewReader(body))
		if err != nil {
			return err
		}
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Accept", "application/json")
		res, err := http.DefaultClient.Do(r)
		if err == nil {
			text, _ := io.ReadAll(io.LimitReader(res.Body, 1<<16))
			res.Body.Close()
			if res.StatusCode == http.StatusOK {
				return g.answered(text)
			}
			if res.StatusCode < 500 {
				return fmt.Errorf("the program does not take it: %s", text)
			}
		}
		if wait > 10*time.Second {
			return fmt.Errorf("the program does not answer at %s", g.to)
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(wait):
		}
	}
}

// answered reads whether it was kept.
func (g simulated) answered(text []byte) error {
	var a struct {
		Answers []struct {
			Kept bool
			Why  string
		}
	}
	if err := json.Unmarshal(text, &a); err != nil || len(a.Answers) != 1 {
		return fmt.Errorf("the answer cannot be read: %.100s", text)
	}
	if !a.Answers[0].Kept {
		return fmt.Errorf("not taken: %s", a.Answers[0].Why)
	}
	return nil
}
