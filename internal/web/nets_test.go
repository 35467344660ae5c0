package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/plan/work"
	"gruppo/internal/coach/rotate"
	"gruppo/internal/demo"
	"gruppo/internal/store"
	"gruppo/internal/web/shell"
)

// ledger is everything the database keeps, but for who is signed in and what lists the refused.
type ledger struct {
	*pgx.Conn
	t      testing.TB
	tables string
}

// look opens a view of all tables with the owner's eyes; club limits it to the rows of one.
func (s site) look(t testing.TB, club string) ledger {
	t.Helper()
	conn, err := pgx.Connect(ctx, s.owner)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { conn.Close(ctx) })
	rows, err := conn.Query(
		ctx,
		`select table_schema || '.' || quote_ident(table_name), exists (select from information_schema.columns c where c.table_schema = t.table_schema and c.table_name = t.table_name and column_name = 'club_id')
		from information_schema.tables t where table_schema in ('public', 'web') and table_type = 'BASE TABLE' and table_name not in ('refused', 'goose_db_version', 'sessions', 'known_device', 'sign_in_failure', 'version') order by 1`,
	)
	if err != nil {
		t.Fatal(err)
	}
	l := ledger{Conn: conn, t: t}
	var parts []string
	for rows.Next() {
		var name string
		var own bool
		if err := rows.Scan(&name, &own); err != nil {
			t.Fatal(err)
		}
		where := ""
		if own && club != "" {
			where = " where club_id = '" + club + "'"
		}
		parts = append(
			parts,
			fmt.Sprintf(
				`select '%s' as name, count(*) || ' ' || coalesce(sum(hashtextextended(x::text, 0)), 0) as h from %s x%s`,
				name,
				name,
				where,
			),
		)
	}
	if len(parts) < 20 {
		t.Fatalf("only %d tables are seen", len(parts))
	}
	l.tables = strings.Join(parts, " union all ")
	return l
}

// hash is what each table holds.
func (l ledger) hash() map[string]string {
	l.t.Helper()
	rows, err := l.Query(ctx, l.tables)
	if err != nil {
		l.t.Fatal(err)
	}
	out := map[string]string{}
	for rows.Next() {
		var name, h string
		if err := rows.Scan(&name, &h); err != nil {
			l.t.Fatal(err)
		}
		out[name] = h
	}
	return out
}

// writes counts the transactions that wrote or tried to: while it stands still, nothing has changed.
func (l ledger) writes() (n int64) {
	l.t.Helper()
	if err := l.QueryRow(ctx, `select pg_snapshot_xmax(pg_current_snapshot())::text::bigint`).Scan(&n); err != nil {
		l.t.Fatal(err)
	}
	return n
}

func differ(a, b map[string]string) (out []string) {
	for name := range b {
		if a[name] != b[name] {
			out = append(out, name)
		}
	}
	return out
}

// form is an address with a body that is taken.
type form struct {
	path string
	body url.Values
	json string
	any  bool // what is taken is not looked for here: it has a test of its own
}

// withMore gives the session's game its sides, so that there is somebody to be put on another, and a ladder at the end.
func withMore(t *testing.T, s site, now store.Session) store.Session {
	t.Helper()
	g := slices.IndexFunc(now.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Game })
	if g < 0 || slices.ContainsFunc(now.Plan.Blocks, func(b doc.Block) bool { return b.Kind == doc.Ladder }) {
		return now
	}
	p := now.Plan.Clone()
	p.Blocks[g].Game = &rotate.Game{Areas: 2, A: 4, B: 4}
	first := p.Stations()[0]
	p.Blocks = append(p.Blocks, doc.Block{Kind: doc.Ladder, Title: "Ladder", Minutes: 10, Steps: []doc.Task{
		{Drill: first.Drill, Edition: first.Edition},
	}})
	p.Name()
	by := now.Leaders[0].Member
	_, err := s.st.Change(ctx, s.club, by, now.ID, "A game", func(tx *store.Tx) (err error) {
		now.Version, err = tx.SetPlan(ctx, now.ID, now.Version, p, by, evening)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	now.Plan = p
	return now
}

// tuesdayPlayer is somebody of a session's class.
func tuesdayPlayer(t *testing.T, s site, of store.Session) string {
	t.Helper()
	return in(t, s, func(tx *store.Tx) (id string, err error) {
		err = tx.QueryRow(ctx, `select player_id from class_player where class_id = $1 order by player_id limit 1`, of.ClassID).Scan(&id)
		return id, err
	})
}

// forms has a body for every address that changes something. The last ones end what the others need.
func forms(t *testing.T, s site) []form {
	tuesday := withMore(t, s, s.session(t, "Tuesday hall"))
	p := handball(t, s)
	shore, k := p.Stages[0], p.Stages[0].Criteria[0]
	bo, wen, femi := player(t, s, "Bo Lindahl").ID, player(t, s, "Aino Laine").ID, player(t, s, "Femi Adeyemi")
	at, _ := femi.In(p.ID)
	drill, other := drillNamed(t, s, "Lob and catch"), drillNamed(t, s, "Colour call")
	if drill == "" {
		drill = tuesday.Plan.Stations()[0].Drill
	}
	id, class := tuesday.ID, tuesday.ClassID
	venue := tuesday.Venue.ID
	term := in(t, s, func(tx *store.Tx) (string, error) {
		var term string
		err := tx.QueryRow(ctx, `select id from term order by from_on desc limit 1`).Scan(&term)
		return term, err
	})
	mark := in(t, s, func(tx *store.Tx) (string, error) {
		var id string
		return id, tx.QueryRow(ctx, `select id from mark limit 1`).Scan(&id)
	})
	off := in(t, s, func(tx *store.Tx) (string, error) {
		var id string
		return id, tx.QueryRow(ctx, `select id from day_off limit 1`).Scan(&id)
	})
	task := in(t, s, func(tx *store.Tx) (string, error) {
		var id string
		return id, tx.QueryRow(ctx, `select id from home_task where class_id is not null limit 1`).Scan(&id)
	})
	code := in(t, s, func(tx *store.Tx) (string, error) {
		return tx.SessionCode(ctx, tuesday.ID, tuesday.Leaders[0].Member, false, evening)
	})
	link := s.linkFor(t, tuesdayPlayer(t, s, tuesday))
	test := in(t, s, func(tx *store.Tx) (string, error) {
		var id string
		return id, tx.QueryRow(ctx, `select id from test limit 1`).Scan(&id)
	})
	v := func(pairs ...string) url.Values {
		out := url.Values{}
		for i := 0; i+1 < len(pairs); i += 2 {
			out.Add(pairs[i], pairs[i+1])
		}
		return out
	}
	criterion := v(
		"wording",
		k.Wording,
		"skill",
		k.Skill,
		"measure",
		"makes",
		"want",
		"8",
		"of",
		"10",
		"good",
		"2",
		"last",
		"3",
		"days",
		"2",
		"people",
		"1",
		"weeks",
		"8",
		"must",
		"must",
		"judged",
		"result",
		"tolerance",
		"",
		"points",
		"",
		"keys",
		"one\ntwo",
		"seen",
		"",
	)
	date := tuesday.StartsAt.AddDate(0, 0, 5).Format(time.DateOnly)
	version := strconv.Itoa(tuesday.Version)
	return []form{
		{path: "/account/care", body: v("adult", "12")},
		{path: "/account/people", body: v("name", "Noor Vance", "email", "noor@saltmarsh.example", "role", "coach")},
		{path: "/courtside/" + id + "/door", body: v("open", "1"), any: true},
		{path: "/courtside/" + id + "/form", json: `{"station":0,"group":0,"by":1}`, any: true},
		{path: "/courtside/" + id + "/target", json: `{"station":0,"n":6}`},
		{path: "/courtside/" + id + "/bridge", json: `{"station":0,"group":0,"player":""}`, any: true},
		{path: "/courtside/" + id + "/give", json: `{"words":"Game out"}`, any: true},
		{path: "/courtside/" + id + "/redeal", json: `{}`},
		{path: "/courtside/" + id + "/key", json: `{"key":"soft hands"}`},
		{
			path: "/courtside/" + id + "/inbox",
			json: `{"items":[{"id":"` + store.NewID() + `","kind":"said","player":"` + bo + `","state":"present","at":"2026-11-24T17:15:00Z"}]}`,
		},
		{
			path: "/players/" + femi.ID + "/decide",
			body: v("kind", "up", "program", p.ID, "stage", at.Stage, "why", "", "from", "", "visits", "", "class", ""),
			any:  true,
		},
		{path: "/season/home/new", body: v("player", bo, "what-0", "Hops", "much-0", "2 min", "sets", "2", "day", "1", "from", "2026-11-24",
			"until", "2026-12-24", "more", "1", "most", "3", "percent", "", "levels", "10, 20", "unit", "hops", "name", "", "says", "")},
		{path: "/season/home/" + task + "/change", body: v("class", class, "what-0", "Hops", "much-0", "20", "what-1", "Lunges", "sets", "2", "from", "2026-11-24",
			"until", "2026-12-24")},
		{path: link + "/day", body: v("task", task, "day", tuesday.StartsAt.Format(time.DateOnly), "about", "1", "felt", "hard", "figure", "", "words", "a word")},
		{path: link + "/days", json: `{"items":[{"id":"1","task":"` + task + `","day":"` + tuesday.StartsAt.Format(time.DateOnly) + `","done":true,"felt":"easy","figure":null,"words":"","at":1}]}`, any: true},
		{path: "/season/tests/new", body: v("name", "Hops", "class", class, "tries", "2", "every", "1", "from", "2026-11-24", "unit-0", "hops", "measure-0", "")},
		{path: "/season/tests/" + test + "/change", body: v("name", "Hops", "tries", "2", "every", "1", "from", "2026-11-24", "measure-0", "Jumps",
			"measure-1", "Trips", "unit-0", "hops", "conditions", "")},
		{path: "/season/tests/" + test + "/pad", body: v("day", "2026-11-24", bo+" 0 0", "12")},
		{path: "/season/tests/" + test + "/figures", json: `{"items":[{"id":"1","day":"2026-11-24","player":"` + bo + `","measure":0,"try":0,"figure":3,"at":1}]}`, any: true},
		{path: "/season/tests/" + test + "/end", body: v("back", "")},
		{path: "/gate/" + code, json: `{"items":[{"id":"` + store.NewID() + `","what":"start","lane":1,"station":1,"n":1,"at":"` + evening.Format(time.RFC3339) + `"}]}`, any: true},
		{path: "/reminders/" + strings.Repeat("0", 48), body: v()},
		{path: "/calendars", body: v("class", class)},
		{path: "/calendars/" + store.NewID() + "/withdraw", body: v(), any: true},
		{path: "/season/calendar", body: v("file", ""), any: true},
		{path: "/season/calendar/take", body: v("name-0", "Break", "from-0", "2026-12-20", "until-0", "2026-12-21", "as-0", "holiday")},
		{path: link + "/mail", body: v("mail", "somebody@example.org", "end", "")},
		{path: "/season/home/" + task + "/end", body: v("back", "")},
		{path: "/season/home/" + task + "/open", body: v("player", bo, "parts", "2")},
		{path: "/players/" + bo + "/link", body: v("label", "father", "weeks", "12")},
		{
			path: "/roster/new",
			body: v(
				"name",
				"Zed Zimmer",
				"born",
				"2015",
				"tags",
				"left",
				"cannot",
				"",
				"limit",
				"",
				"until",
				"",
				"stage-"+p.ID,
				"",
				"another",
				"",
			),
		},
		{path: "/roster/import", body: v("text", "name,born\nAnna Ash,2014\n", "class", "")},
		{path: "/roster/import/take", body: v("text", "name,born\nAnna Ash,2014\n", "class", "")},
		{
			path: "/roster/player/" + wen,
			body: v("name", "Aino Laine", "born", "2013", "tags", "", "limit", "", "until", "", "stage-"+p.ID, ""),
			any:  true,
		},
		{path: "/sessions", body: v("class", class, "date", date)},
		{path: "/sessions/" + id + "/coming", body: v("player", bo, "name", "Bo Lindahl", "away", "1")},
		{path: "/sessions/" + id + "/copy", body: v("class", class, "date", date)},
		{
			path: "/sessions/" + id + "/leader",
			body: v("member", tuesday.Leaders[1].Member, "from", "5", "until", "60", "off", ""),
		},
		{path: "/sessions/" + id + "/ladder/6", body: v("by", "pair")},
		{path: "/sessions/" + id + "/teams/4", body: v("player", bo, "side", "1")},
		{path: "/sessions/" + id + "/partners/1/choose", body: v("player", bo, "partner", wen), any: true},
		{path: "/sessions/" + id + "/partners/0", body: v("turn", "0", "a0", "4", "a1", "7"), any: true},
		{
			path: "/sessions/" + id + "/plan",
			body: v("do", "work", "at", "", "value", "330", "version", version),
			any:  true,
		},
		{
			path: "/sessions/" + id + "/propose",
			body: v("shape", "circuit", "aim", "skill passing", "take", "1", "version", version),
			any:  true,
		},
		{path: "/sessions/" + id + "/plan.json", body: v("file", ""), any: true},
		{path: "/sessions/" + id + "/undo", body: v("version", version), any: true},
		{path: "/sessions/" + id + "/redo", body: v("version", version), any: true},
		{path: "/sessions/" + id + "/refused", body: v("item", "")},
		{
			path: "/sessions/" + id + "/what-if",
			body: v(
				"absent",
				bo,
				"late",
				wen,
				"late-at",
				"15",
				"hurt",
				wen,
				"hurt-no",
				"jumping",
				"gone",
				tuesday.Leaders[1].Member,
				"gone-at",
				"30",
				"guest",
				"new",
				"guest-name",
				"Lou",
				"lost",
				"0",
				"time",
				"10",
				"venue",
				venue,
				"version",
				version,
			),
		},
		{
			path: "/sessions/" + id + "/what-if/take",
			body: v("absent", bo, "late", wen, "late-at", "15", "time", "5", "version", version),
			any:  true,
		},
		{
			path: "/sessions/class/" + class,
			body: v(
				"name",
				"Tuesday hall",
				"weekday",
				"2",
				"starts",
				"18:00",
				"minutes",
				"90",
				"places",
				"24",
				"program",
				p.ID,
				"venue",
				venue,
				"stage",
				shore.ID,
				"member",
				tuesday.Leaders[0].Member,
				"until-"+tuesday.Leaders[0].Member,
				"",
				"player",
				bo,
			),
		},
		{
			path: "/sessions/class/new",
			body: v(
				"name",
				"Friday",
				"weekday",
				"5",
				"starts",
				"18:00",
				"minutes",
				"90",
				"places",
				"24",
				"program",
				p.ID,
				"venue",
				"",
				"venue-name",
				"Field",
				"floor",
				"hall",
				"length",
				"30",
				"width",
				"20",
			),
		},
		{path: "/season/themes", body: v("theme", "words", "words", "Show", "says", "Come all", "pinned", "1", "repeat", "other", "cell", class+" 2026-12-01")},
		{path: "/season/move", body: v("from", class+" 2026-12-01", "to", class+" 2026-12-15")},
		{path: "/season/dates", body: v("only", class), any: true},
		{path: "/season/fill", body: v("only", class), any: true},
		{path: "/season/off", body: v("kind", "holiday", "name", "Shut", "from", "2026-12-20", "until", "2026-12-28")},
		{path: "/season/off/" + off + "/drop", body: v(), any: true},
		{path: "/sessions/kit", body: v("name-0", "beach ball", "count-0", "2", "stands-0", "")},
		{
			path: "/sessions/venue",
			body: v(
				"name",
				"Pier court",
				"floor",
				"hall",
				"length",
				"20",
				"width",
				"10",
				"zone-name-0",
				"west",
				"zone-x-0",
				"0",
				"zone-y-0",
				"0",
				"zone-l-0",
				"10",
				"zone-w-0",
				"10",
			),
		},
		{
			path: "/sessions/venue/" + venue,
			body: v(
				"name",
				"Salt hall",
				"floor",
				"hall",
				"length",
				"40",
				"width",
				"20",
				"zone-name-0",
				"",
				"blocked-name-0",
				"",
			),
		},
		{path: "/shelf/drawing", body: v("doc", `{"floor":"hall","l":12,"w":9,"things":[]}`, "step", "0"), any: true},
		{path: "/shelf/drill/" + drill + "/copy", body: v()},
		{
			path: "/shelf/drill/" + drill + "/drawing",
			body: v("doc", `{"floor":"hall","l":12,"w":9,"things":[]}`, "edition", "1"),
			any:  true,
		},
		{path: "/shelf/drill/" + drill + "/edit", body: written("name", "Long lines too", "edition", "1"), any: true},
		{path: "/shelf/drill/" + drill + "/editions", body: v("edition", "1", "original", ""), any: true},
		{
			path: "/shelf/drill/" + drill + "/links",
			body: v("kind", "after", "name", "Colour call", "other", other, "drop", ""),
			any:  true,
		},
		{path: "/shelf/drill/" + drill + "/notes", body: v("says", "Too long a queue", "drop", "")},
		{path: "/shelf/drill/" + drill + "/off", body: v("off", "1"), any: true},
		{path: "/shelf/drill/" + drill + "/share", body: v("with", "club"), any: true},
		{path: "/shelf/drill/" + drill + "/star", body: v()},
		{path: "/shelf/gives", body: written()},
		{path: "/shelf/new", body: written("name", "Never written before")},
		{path: "/shelf/other/" + drill + "/copy", body: v(), any: true},
		{path: "/shelf/pack", body: v("text", `{"format":"x"}`), any: true},
		{path: "/shelf/pack/take", body: v("text", `{"format":"x"}`), any: true},
		{path: "/stairs/criterion/" + k.ID, body: criterion, any: true},
		{path: "/stairs/criterion/" + k.ID + "/drill", body: v("drill", drill, "shows", "no", "back", "")},
		{path: "/stairs/criterion/" + k.ID + "/drill", body: v("drill", drill, "shows", "no", "back", "drill")},
		{path: "/stairs/criterion/" + k.ID + "/move", body: v("to", "down")},
		{path: "/stairs/criterion/" + k.ID + "/try", body: criterion},
		{
			path: "/stairs/decide",
			body: v(
				"program",
				p.ID,
				"player",
				femi.ID,
				"kind-"+femi.ID,
				"keep",
				"why-"+femi.ID,
				"not yet",
				"stage-"+femi.ID,
				at.Stage,
				"from",
				"",
				"visits-"+femi.ID,
				"",
				"class-"+femi.ID,
				"",
				"add",
				"",
			),
			any: true,
		},
		{path: "/stairs/ladder", body: v("name", "Another ladder", "text", ""), any: true},
		{path: "/stairs/ladder/" + p.ID + "/copy", body: v()},
		{path: "/stairs/meeting", body: v("program", p.ID, "by", "2026-12-18")},
		{path: "/stairs/places/" + term + "/put", body: v("program", p.ID, "player", bo, "to", class), any: true},
		{
			path: "/stairs/places/" + term + "/wish",
			body: v("player", bo, "likes", wen, "returns", "1", "cannot", class),
			any:  true,
		},
		{
			path: "/stairs/places/" + term + "/class",
			body: v(
				"class",
				"",
				"class-name",
				"Saturday two",
				"weekday",
				"6",
				"starts",
				"10:00",
				"minutes",
				"60",
				"places",
				"12",
				"venue",
				venue,
				"stage",
				shore.ID,
			),
			any: true,
		},
		{path: "/stairs/places/" + term + "/out", body: v("class", class), any: true},
		{
			path: "/stairs/places/term",
			body: v("program", p.ID, "term", "", "name", "Spring fling", "from", "2027-04-01", "until", "2027-06-30"),
		},
		{path: "/stairs/places/" + term + "/take-over", body: v("program", p.ID), any: true},
		{
			path: "/stairs/stage/" + shore.ID,
			body: v("name", "Shore", "about", "", "colour", shore.Colour, "choose", "0", "visits", "0", "weeks", "0"),
			any:  true,
		},
		{
			path: "/marks/cell",
			body: v(
				"player",
				bo,
				"criterion",
				k.ID,
				"day",
				"2026-11-20",
				"class",
				"",
				"side",
				"",
				"taps",
				"",
				"tries",
				"8 of 10",
				"good",
				"8",
				"of",
				"10",
				"value",
				"3",
				"figure",
				"3",
			),
			any: true,
		},
		{path: "/marks/" + mark + "/strike", body: v("why", "wrong child", "to", "/marks")},
		{path: "/notes/" + store.NewID() + "/done", body: v("to", "/"), any: true},
		{path: "/links/" + store.NewID() + "/withdraw", body: v(), any: true},
		{path: "/decisions/" + store.NewID() + "/sign", body: v("yes", "1"), any: true},
		{path: "/undo/" + store.NewID(), body: v("to", "/"), any: true},
		{path: "/account/deciding", body: v("two", "1")},
		{path: "/roster/player/" + wen + "/leave", body: v("on", "2026-11-24"), any: true},
		{path: "/account/people/" + tuesday.Leaders[1].Member + "/end", body: v(), any: true},
		{path: "/stairs/out/criterion/" + k.ID, body: v(), any: true},
		{path: "/roster/stages", body: v("program", p.ID, "stage", shore.ID, "player", bo), any: true},
		{path: "/account/people/" + tuesday.Leaders[1].Member + "/link", body: v()},
		{
			path: "/account/club",
			body: v("club", "Saltmarsh Sports School", "zone", "Europe/Lisbon", "units", "imperial"),
		},
		{path: "/sessions/" + id + "/move", body: v("to-day", "2026-12-02", "to-time", "19:00"), any: true},
		{path: "/sessions/" + id + "/off", body: v("back", ""), any: true},
		{path: "/sessions/" + id + "/off", body: v("back", "1"), any: true},
		{path: "/sessions/out/class/" + class, body: v("back", ""), any: true},
		{path: "/sessions/" + id + "/delete", body: v(), any: true},
	}
}

// send posts a form and says how it went.
func (b browser) send(f form) (code int, body string) {
	if f.json != "" {
		return b.do("POST", f.path, "application/json", strings.NewReader(f.json))
	}
	return b.post(f.path, f.body)
}

// A page that says what was wrong stands at the address that the form was sent to: what is relative there leads astray.
var relative = regexp.MustCompile(`(?:href|action|hx-[a-z]+)="(?:\?|[a-z0-9-]+[/?])[^"]*"`)

// Whatever is done, the page that comes after it is there.
func TestEveryFormLeadsSomewhere(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	led := 0
	for _, f := range forms(t, s) {
		if f.json != "" || strings.HasSuffix(f.path, "/delete") || strings.HasPrefix(f.path, "/sign-out") {
			continue
		}
		if code, to, _ := b.sent(f.path, f.body); code == http.StatusSeeOther {
			led++
			if code, _ := b.get(to); code >= 400 {
				t.Errorf("%s leads to %s: %d", f.path, to, code)
			}
		}
	}
	if led < 20 {
		t.Errorf("only %d forms led on", led)
	}
	s.keptIsAsStored(t)
}

// keptIsAsStored compares what the program keeps in memory with what a program that starts now reads: no page has
// changed a list that it was only lent.
func (s site) keptIsAsStored(t *testing.T) {
	t.Helper()
	anew, err := store.Open(ctx, s.st.Pool.Config().ConnString())
	if err != nil {
		t.Fatal(err)
	}
	defer anew.Pool.Close()
	read := func(st *store.Store) (kept [6]any) {
		err := st.In(ctx, s.club, func(tx *store.Tx) (err error) {
			for i, read := range []func() (any, error){
				func() (any, error) { return tx.Ladders(ctx) },
				func() (any, error) { return tx.AllLadders(ctx) },
				func() (any, error) { return tx.Classes(ctx) },
				func() (any, error) { return tx.Terms(ctx) },
				func() (any, error) { return tx.Venues(ctx) },
				func() (any, error) { drills, _, err := tx.Shelf(ctx, doc.Plan{}); return drills, err },
			} {
				if kept[i], err = read(); err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
		return kept
	}
	kept, stored := read(s.st), read(anew)
	for i, what := range []string{"ladders", "all ladders", "classes", "terms", "places", "drills"} {
		if !reflect.DeepEqual(kept[i], stored[i]) {
			t.Errorf("the %s that are kept are not those that are stored", what)
		}
	}
}

// Every address that changes something, with every field missing, garbled, negative, huge, with a NUL byte and with
// what is no text: an answer below 500 always, and where it is refused nothing at all has changed. Then, as it stands,
// it is taken.
func TestNoWrongInputBreaksOrChangesAnything(t *testing.T) {
	t.Parallel()
	const shares = 3 // worked through side by side, each in a database of its own
	for share := range shares {
		t.Run(fmt.Sprint(share+1, " of ", shares), func(t *testing.T) { t.Parallel(); wrongInput(t, share, shares) })
	}
}

// wrongInput sends wrong input to every address in its share of them.
func wrongInput(t *testing.T, share, shares int) {
	s := serve(t)
	b := s.as(t, "ines")
	l := s.look(t, "")
	garbles := []string{
		"",
		"-1",
		"99999999999999999999",
		"a\x00b",
		"\xff\xfe",
		"<b>x",
		strings.Repeat("long ", 800),
		"urn:uuid:00000000-0000-4000-8000-000000000001",
		store.NewID(),
		"1e999",
		"2026-13-40",
	}
	check := func(f form, what string) {
		mark := l.writes()
		code, body := b.send(f)
		if away := relative.FindString(body); away != "" {
			t.Errorf("%s with %s answers a page on which %s leads astray", f.path, what, away)
		}
		if code >= 500 {
			t.Errorf("%s with %s: %d", f.path, what, code)
		}
		if code >= 400 && l.writes() != mark { // something was written and, let us see, taken back
			before := l.hash()
			b.send(f)
			if d := differ(before, l.hash()); len(d) > 0 {
				t.Errorf("%s with %s was refused (%d) and changed %v", f.path, what, code, d)
			}
		}
	}
	covered, tries := map[string]bool{}, 0
	for i, f := range forms(t, s) {
		covered[routeOf(f.path)] = true
		if i%shares != share {
			continue
		}
		if f.json != "" {
			var whole any
			if err := json.Unmarshal([]byte(f.json), &whole); err != nil {
				t.Fatal(err)
			}
			for _, bad := range []string{"", "{", "null", "[]", "[null]", "[1]", `"x"`, strings.Repeat("[", 2000)} {
				check(form{path: f.path, json: bad + " "}, bad[:min(9, len(bad))])
			}
			fields, _ := whole.(map[string]any)
			if list, ok := fields["items"].([]any); ok {
				fields, _ = list[0].(map[string]any)
			}
			for name, was := range fields {
				for _, x := range []any{nil, -1, 1e30, "\x00", "x", []int{}, strings.Repeat("y", 9000)} {
					fields[name] = x
					doc, _ := json.Marshal(whole)
					check(form{path: f.path, json: string(doc)}, fmt.Sprintf("%s=%.9v", name, x))
				}
				fields[name] = was
			}
		}
		for name := range f.body {
			if name == "version" {
				continue // a plan changed meanwhile has tests of its own
			}
			for i := range garbles {
				if tries++; os.Getenv("NETS") != "all" && (i+tries)%3 > 0 {
					continue // a third of them, others for the next field; all of them with NETS=all
				}
				g := garbles[i]
				v := url.Values{}
				for k, x := range f.body {
					v[k] = x
				}
				v[name] = []string{g}
				check(form{path: f.path, body: v}, fmt.Sprintf("%s=%.12q", name, g))
			}
		}
	}
	for _, r := range Routes {
		if own := map[string]bool{"/sign-in": true, "/sign-out": true, "/sign-out-everywhere": true, "/start": true, "/join": true, "/account/password": true, "/in/:secret": true}; r.Method == http.MethodPost &&
			!covered[r.Path] &&
			!own[r.Path] {
			t.Errorf("no body is tried for POST %s", r.Path)
		}
	}
	s.keptIsAsStored(t)
}

// routeOf is the pattern an address matches.
func routeOf(path string) string {
	parts := strings.Split(path, "/")
	best := ""
	for _, r := range Routes {
		of := strings.Split(r.Path, "/")
		if r.Method != http.MethodPost || len(of) != len(parts) {
			continue
		}
		ok, exact := true, 0
		for i := range of {
			if of[i] == parts[i] {
				exact++
			} else if !strings.HasPrefix(of[i], ":") {
				ok = false
			}
		}
		if ok && (best == "" || exact > len(parts)-strings.Count(best, ":")-1) {
			best = r.Path
		}
	}
	return best
}

// Every form that its own club takes, sent by another club's lead, coach and helper: never taken, and not a row of the
// first club is touched.
func TestAnotherClubsIdsAreNeverTaken(t *testing.T) {
	t.Parallel()
	s := serve(t)
	all := forms(t, s)
	ola := s.browser(t)
	ola.at(
		"/start",
		url.Values{
			"club":     {"Other"},
			"program":  {"Judo"},
			"name":     {"Ola"},
			"email":    {"ola@other.example"},
			"password": {"a long enough one"},
			"family":   {"ball"},
			"zone":     {"Pacific/Auckland"},
		},
	)
	others := map[string]browser{"lead": ola}
	club, _, err := accountOf(s.st, "ola@other.example")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := shell.HashPassword(ctx, demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	for _, role := range []string{"coach", "helper"} {
		err := s.st.In(ctx, club, func(tx *store.Tx) error {
			return tx.AddMember(
				ctx,
				store.Member{
					ID:           store.NewID(),
					Name:         "A " + role,
					Email:        role + "@other.example",
					Role:         role,
					PasswordHash: hash,
				},
			)
		})
		if err != nil {
			t.Fatal(err)
		}
		b := s.browser(t)
		if code, _ := b.post("/sign-in", url.Values{"email": {role + "@other.example"}, "password": {demo.Password}}); code != http.StatusSeeOther {
			t.Fatalf("the other %s could not sign in: %d", role, code)
		}
		others[role] = b
	}
	l := s.look(t, s.club)
	before := l.hash()
	for role, b := range others {
		for _, f := range all {
			if strings.HasPrefix(f.path, "/for/") || strings.HasPrefix(f.path, "/gate/") {
				continue // whoever has the link, or the code, may
			}
			code, _ := b.send(f)
			// which says so on the page
			named := strings.Count(f.path, "-") >= 4 && !strings.HasPrefix(f.path, "/undo/")
			if code >= 500 || named && code < 400 && !strings.HasSuffix(f.path, "/inbox") {
				t.Errorf("%s of another club by its %s: %d", f.path, role, code)
			}
		}
		if d := differ(before, l.hash()); len(d) > 0 {
			t.Fatalf("the other club's %s changed %v", role, d)
		}
	}
	// And its own club takes them.
	ines := s.as(t, "ines")
	for _, f := range all {
		if code, _ := ines.send(f); !f.any && code >= 400 {
			t.Errorf("%s is not taken by its own club: %d", f.path, code)
		}
	}
}

// Any sound plan can be shown on every page that shows one, before, in the middle of and after the session, to who
// leads and who helps.
func TestAnyPlanCanBeShown(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ines, bea := s.as(t, "ines"), s.as(t, "bea")
	session := s.session(t, "Tuesday hall")
	seeds := 6
	if n, err := strconv.Atoi(os.Getenv("PLANS")); err == nil {
		seeds = n
	}
	for n := range seeds {
		seed := n
		if n%3 == 2 { // with a second block of stations
			seed = plantest.FirstWithTwo + n - 2
		}
		put := func(now store.Session) (p doc.Plan) {
			p = planFor(t, s, now, uint64(seed))
			_, err := s.st.Change(
				ctx,
				s.club,
				session.Leaders[0].Member,
				now.ID,
				"Another plan",
				func(tx *store.Tx) error {
					_, err := tx.SetPlan(ctx, now.ID, now.Version, p, session.Leaders[0].Member, evening)
					return err
				},
			)
			if err != nil {
				t.Fatal(err)
			}
			return p
		}
		now := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, session.ID) })
		p := put(now)
		for _, stage := range []string{"before", "during", "after"} {
			if stage != "before" {
				do := map[string]string{"during": "start", "after": "end"}[stage]
				item := fmt.Sprintf(
					`{"items":[{"id":"%s","kind":"clock","do":"%s","at":"%s"}]}`,
					store.NewID(),
					do,
					evening.Add(time.Duration(n)*time.Minute).Format(time.RFC3339),
				)
				if code, body := ines.do("POST", "/courtside/"+session.ID+"/inbox", "application/json", strings.NewReader(item)); code != 200 {
					t.Fatalf("seed %d, %s: %d %s", seed, do, code, body)
				}
			}
			for _, r := range Routes {
				if r.Method != http.MethodGet ||
					!strings.HasPrefix(r.Path, "/sessions/:id") && !strings.HasPrefix(r.Path, "/courtside/:id") ||
					strings.HasSuffix(r.Path, "/live") {
					continue
				}
				for i := range max(1, len(p.Blocks)) {
					path := strings.NewReplacer(":id", session.ID, ":block", strconv.Itoa(i), ":n", strconv.Itoa(i), ":what", []string{"cards", "kit", "list"}[i%3]).
						Replace(r.Path)
					for who, b := range map[string]browser{"lead": ines, "helper": bea} {
						if code, body := b.get(path); code >= 500 || strings.Contains(body, "null,\"") ||
							who == "lead" && code >= 400 && !strings.Contains(r.Path, ":block") && !strings.Contains(r.Path, ":n") &&
								!strings.Contains(r.Path, ":what") {
							t.Errorf("seed %d, %s, %s as %s: %d", seed, stage, path, who, code)
						}
					}
					if !strings.Contains(r.Path, ":block") && !strings.Contains(r.Path, ":n") &&
						!strings.Contains(r.Path, ":what") {
						break
					}
				}
			}
			if stage == "before" { // an edit, taken back, leaves the very same document
				was := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, session.ID) })
				doc, _ := json.Marshal(was.Plan)
				edits := plantest.Edits(work.Input{Plan: p, Shelf: plantest.Input(uint64(seed)).Shelf})
				e := edits[(7*n+3)%len(edits)]
				code, _ := ines.do(
					"POST",
					"/sessions/"+session.ID+"/plan",
					"application/x-www-form-urlencoded",
					strings.NewReader(
						url.Values{
							"do":      {e.Do},
							"at":      {e.At},
							"value":   {ofDemo(t, s, was, e.Value)},
							"version": {strconv.Itoa(was.Version)},
						}.Encode(),
					),
					"HX-Request",
					"true",
				)
				if code >= 500 {
					t.Errorf("seed %d: %+v: %d", seed, e, code)
				}
				edited := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, session.ID) })
				if edited.Version != was.Version {
					ines.do(
						"POST",
						"/sessions/"+session.ID+"/undo",
						"application/x-www-form-urlencoded",
						strings.NewReader(url.Values{"version": {strconv.Itoa(edited.Version)}}.Encode()),
						"HX-Request",
						"true",
					)
				}
				back := in(t, s, func(tx *store.Tx) (store.Session, error) { return tx.Session(ctx, session.ID) })
				if again, _ := json.Marshal(back.Plan); string(again) != string(doc) {
					t.Errorf("seed %d: %+v and undo: %s\nis not %s", seed, e, again, doc)
				}
			}
		}
		if _, err := s.look(t, "").Exec(ctx, `delete from run_event where session_id = $1`, session.ID); err != nil { // the next plan begins again
			t.Fatal(err)
		}
	}
}

// planFor is a made plan for the people and drills of a session.
func planFor(t testing.TB, s site, of store.Session, seed uint64) (p doc.Plan) {
	t.Helper()
	doc, err := json.Marshal(plantest.Input(seed).Plan)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(ofDemo(t, s, of, string(doc))), &p); err != nil {
		t.Fatal(err)
	}
	return p
}

// ofDemo puts the demo's players, drills and leaders in the place of made ones.
func ofDemo(t testing.TB, s site, of store.Session, words string) string {
	t.Helper()
	var pairs []string
	err := s.st.In(ctx, s.club, func(tx *store.Tx) error {
		players, _, err := tx.Expected(ctx, of)
		if err != nil {
			return err
		}
		for i := range 40 {
			id := store.NewID()
			if i < len(players) {
				id = players[i].ID
			}
			pairs = append(pairs, fmt.Sprintf("00000000-0000-4000-8000-%012d", i+1), id)
		}
		cards, err := tx.Cards(ctx)
		for i := range 10 {
			pairs = append(pairs, fmt.Sprintf("00000000-0000-4000-a000-%012d", i+1), cards[i].ID)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	for i := range 3 {
		pairs = append(pairs, fmt.Sprintf("00000000-0000-4000-9000-%012d", i+1), of.Leaders[i%len(of.Leaders)].Member)
	}
	return strings.NewReplacer(pairs...).Replace(words)
}

// Whoever follows every link of every page, in the demo and in a new club of another sport west of UTC, in every role,
// comes to a page, and is shown no button that they may not press.
func TestEveryLinkLeadsSomewhere(t *testing.T) {
	t.Parallel()
	s := serve(t)
	ola := s.browser(t)
	ola.at(
		"/start",
		url.Values{
			"club":     {"Bay Judo"},
			"program":  {"Judo"},
			"name":     {"Ola"},
			"email":    {"ola@other.example"},
			"password": {"a long enough one"},
			"family":   {"ball"},
			"zone":     {"America/Los_Angeles"},
		},
	)
	ola.at("/roster/new", url.Values{"name": {"Zed Zimmer"}, "born": {"2015"}})
	ola.at("/shelf/new", written("name", "Breakfalls", "skills", "falling", "target", ""))
	program := ""
	for _, m := range regexp.MustCompile(`name="program"[^>]*>\s*<option value="([0-9a-f-]{36})"`).FindAllStringSubmatch(second(ola.get("/sessions/class/new")), -1) {
		program = m[1]
	}
	class := ola.at(
		"/sessions/class/new",
		url.Values{
			"name":       {"Friday"},
			"weekday":    {"5"},
			"starts":     {"18:00"},
			"minutes":    {"60"},
			"places":     {"24"},
			"program":    {program},
			"venue":      {""},
			"venue-name": {"Dojo"},
			"floor":      {"hall"},
			"length":     {"12"},
			"width":      {"10"},
		},
	)
	if class == "" {
		t.Fatal("no class of another sport")
	}
	mustHave(t, second(ola.get("/season/club")), "No date was run yet.") // and nothing is said of who came
	for _, who := range []struct {
		name         string
		browser      browser
		kinds, forms int // at least
	}{{"a helper", s.as(t, "bea"), 8, 1}, {"a club of another sport", ola, 30, 40}, {"a coach", s.as(t, "tomasz"), 30, 40}} {
		seen, said := map[string]int{}, map[string]bool{}
		var all []sheet
		kinds := who.browser.crawl(func(from, at string, code int, page string) {
			if code != http.StatusOK && code != http.StatusSeeOther {
				t.Errorf("%s comes from %s to %s: %d", who.name, from, at, code)
			}
			for _, says := range grammar(page) {
				if !said[says] {
					said[says] = true
					t.Errorf("%s reads at %s: “%s”", who.name, at, says)
				}
			}
			for _, f := range sheets(t, at, page) {
				if kind := ids.ReplaceAllString(f.action, "*"); seen[kind] < 2 && f.button && !strings.HasPrefix(kind, "/sign-out") {
					seen[kind]++
					all = append(all, f)
				}
			}
		})
		if kinds < who.kinds || len(all) < who.forms {
			t.Errorf("%s finds only %d kinds of pages and %d forms", who.name, kinds, len(all))
		}
		for _, f := range all {
			// what another form has taken out meanwhile is gone, and no fault
			if code, _ := who.browser.post(f.action, f.as()); code == http.StatusForbidden || code >= http.StatusInternalServerError {
				t.Errorf("%s is shown %s: %d", who.name, f.action, code)
			}
		}
	}
	s.keptIsAsStored(t)
}

var (
	link = regexp.MustCompile(`(?:href|src|hx-get)="(/[^"#]*)`)
	ids  = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f-]{27}|\d{4}-\d\d-\d\d`)
)

// crawl follows every link of every page from the start, four of each kind, and says how many kinds there are.
func (b browser) crawl(see func(from, at string, code int, page string)) int {
	todo, from, kinds := []string{"/"}, map[string]string{"/": ""}, map[string]int{}
	for len(todo) > 0 && len(from) < 2000 {
		at := todo[0]
		todo = todo[1:]
		code, page := b.get(at)
		see(from[at], at, code, page)
		if code >= http.StatusBadRequest {
			continue
		}
		for _, m := range link.FindAllStringSubmatch(page, -1) {
			to := strings.ReplaceAll(m[1], "&amp;", "&")
			kind := ids.ReplaceAllString(to, "*")
			if _, known := from[to]; known || kinds[kind] >= 4 || strings.HasSuffix(to, "/live") ||
				strings.HasPrefix(to, "/assets/") && kinds[kind] > 0 {
				continue // four of each kind are enough
			}
			kinds[kind]++
			from[to] = at
			todo = append(todo, to)
		}
	}
	return len(kinds)
}

func second[A, B any](_ A, b B) B { return b }

// Whatever offers to be undone is undone: what the database keeps is then as it was.
func TestWhatOffersToBeUndoneIsUndone(t *testing.T) {
	t.Parallel()
	s := serve(t)
	b := s.as(t, "ines")
	l := s.look(t, "")
	offer := regexp.MustCompile(`action="(/undo/[0-9a-f-]+)"`)
	undone := 0
	for _, f := range forms(t, s) {
		if strings.HasPrefix(f.path, "/sign-out") {
			continue
		}
		b.get("/") // an offer of before is not this one
		was := l.hash()
		code, to, page := b.sent(f.path, f.body)
		if code == http.StatusSeeOther {
			_, page = b.get(to)
		}
		m := offer.FindStringSubmatch(page)
		if m == nil {
			continue
		}
		undone++
		b.post(m[1], nil)
		// what is kept so that it can be undone; a mail is out, and one more says so; a way in that has ended stays shut
		left := slices.DeleteFunc(differ(was, l.hash()), func(table string) bool {
			return slices.Contains([]string{"public.change", "public.change_row", "public.mail", "public.session_code"}, table)
		})
		if len(left) > 0 {
			t.Errorf("%s: undone, and other than before: %v", f.path, left)
		}
	}
	if undone < 40 {
		t.Errorf("only %d offered to be undone", undone)
	}
}
