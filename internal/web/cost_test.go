package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// cost measures what requests take of the processors: of the program, the test's own client included, and of the
// database's connections, which are processes of their own.
type cost struct {
	program, database time.Duration
	questions, bytes  int64
	took              []time.Duration
}

func costs(s site) *cost {
	return &cost{program: -programTime(), database: -databaseTime(s), questions: -queries.Load()}
}

func (c *cost) request(do func() int) {
	start := time.Now()
	c.bytes += int64(do())
	c.took = append(c.took, time.Since(start))
}

// page asks for a page as a browser does, and leaves it packed: unpacking is not the program's work.
func (c *cost) page(br browser, path string) {
	c.request(func() int {
		ask, err := http.NewRequest(http.MethodGet, br.site.URL+path, nil)
		if err != nil {
			return 0
		}
		ask.Header.Set("Accept-Encoding", "gzip")
		res, err := br.Do(ask)
		if err != nil {
			return 0
		}
		defer res.Body.Close()
		n, _ := io.Copy(io.Discard, res.Body)
		return int(n)
	})
}

func (c *cost) report(b *testing.B, s site) {
	n := float64(len(c.took))
	ms := func(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 / n }
	b.ReportMetric(ms(c.program+programTime()), "program-ms")
	b.ReportMetric(ms(c.database+databaseTime(s)), "database-ms")
	b.ReportMetric(float64(c.questions+queries.Load())/n, "questions")
	b.ReportMetric(float64(c.bytes)/n/1000, "kB")
	slices.Sort(c.took)
	b.ReportMetric(float64(c.took[len(c.took)*95/100].Microseconds())/1000, "p95-ms")
	b.ReportMetric(0, "ns/op")
}

func programTime() time.Duration {
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		return 0
	}
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

// databaseTime sums the processes that answer for this database: the scheduler's own figure, in nanoseconds.
func databaseTime(s site) (sum time.Duration) {
	rows, err := s.st.Pool.Query(ctx, `select pid from pg_stat_activity where datname = current_database()`)
	if err != nil {
		return 0
	}
	defer rows.Close()
	for rows.Next() {
		var pid int
		if rows.Scan(&pid) != nil {
			continue
		}
		text, _ := os.ReadFile(filepath.Join("/proc", strconv.Itoa(pid), "schedstat"))
		ns, _, _ := strings.Cut(string(text), " ")
		n, _ := strconv.ParseInt(ns, 10, 64)
		sum += time.Duration(n)
	}
	return sum
}

// What every page costs at the demo's size, warm.
func BenchmarkPages(b *testing.B) {
	shell.GC()
	s := serve(b)
	br := s.as(b, "ines")
	tuesday := s.session(b, "Tuesday hall")
	player := in(b, s, func(tx *store.Tx) ([]store.Player, error) {
		return tx.Players(ctx, store.PlayerFilter{Class: tuesday.ClassID})
	})[0].ID
	plan := "/sessions/" + tuesday.ID
	var task, test string
	in(b, s, func(tx *store.Tx) (struct{}, error) {
		return struct{}{}, tx.QueryRow(ctx, `select (select id::text from home_task where class_id is not null limit 1),
			(select id::text from test limit 1)`).Scan(&task, &test)
	})
	for _, p := range []struct{ name, path string }{
		{"Today", "/"},
		{"Roster", "/roster"},
		{"Player", "/players/" + player},
		{"Shelf", "/shelf"},
		{"Sessions", "/sessions"},
		{"Plan", plan},
		{"Print", plan + "/print"},
		{"Cards", plan + "/print/cards"},
		{"WhatIf", plan + "/what-if"},
		{"Courtside", "/courtside/" + tuesday.ID},
		{"BigScreen", "/courtside/" + tuesday.ID + "/hall"},
		{"State", "/courtside/" + tuesday.ID + "/state"},
		{"Marks", "/marks"},
		{"Stairs", "/stairs"},
		{"Past", "/stairs?back=40"},
		{"Meeting", "/stairs/meeting"},
		{"Places", "/stairs/places"},
		{"Season", "/season"},
		{"Club", "/season/club"},
		{"Practice", "/season/home/" + task},
		{"Test", "/season/tests/" + test},
		{"Guardian", s.linkFor(b, player)},
	} {
		b.Run(p.name, func(b *testing.B) {
			if code, body := br.get(p.path); code != 200 {
				b.Fatalf("%s: %d %.200s", p.path, code, body)
			}
			c := costs(s)
			for b.Loop() {
				c.page(br, p.path)
			}
			c.report(b, s)
		})
	}
}

// What one change of a plan costs, from the click to the answer, and one tap in the hall.
func BenchmarkChanges(b *testing.B) {
	shell.GC()
	s := serve(b)
	tuesday := s.session(b, "Tuesday hall")
	ines := s.as(b, "ines")
	p := &onPlan{ines, "/sessions/" + tuesday.ID, strconv.Itoa(tuesday.Version)}
	b.Run("Edit", func(b *testing.B) {
		c := costs(s)
		for i := 0; b.Loop(); i++ {
			c.request(func() int {
				p.send("/plan", url.Values{"do": {"work"}, "value": {strconv.Itoa(300 + 30*(i%2))}, "tab": {"ledger"}})
				return 0
			})
		}
		c.report(b, s)
	})
	b.Run("Tap", func(b *testing.B) {
		player := tuesday.Plan.Deals[0].Players[0][0]
		c := costs(s)
		for i := 0; b.Loop(); i++ {
			c.request(func() int {
				tap := item("tally", player, "drill", tuesday.Plan.Stations()[0].Drill, "tries", "1011", "revision", 4+i)
				body, _ := json.Marshal(map[string]any{"items": []any{tap}})
				code, answer := ines.do("POST", fmt.Sprintf("/courtside/%s/inbox", tuesday.ID), "application/json", bytes.NewReader(body))
				if code != 200 {
					b.Fatalf("%d %s", code, answer)
				}
				return len(answer)
			})
		}
		c.report(b, s)
	})
}
