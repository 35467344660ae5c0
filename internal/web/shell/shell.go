// Package shell is what every page shares: the frame with its rail, signing in, who may do what, the shipped styles,
// scripts and fonts, and the way a handler answers.
package shell

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"mime"
	"net/http"
	"net/url"
	"os"
	"path"
	"regexp"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"gruppo/internal/coach"
	"gruppo/internal/day"
	"gruppo/internal/store"
	"gruppo/internal/web/live"
)

// Server is what handlers work with. Nothing in it changes after the start.
type Server struct {
	Store    *store.Store
	Now      func() time.Time
	Sessions *scs.SessionManager
	Live     *live.Notices
	Proxies  []string // addresses or networks of proxies whose word about who asks is believed; none: nobody's
	heavy    heavy
}

// GC lets five times what is in use gather before the garbage is collected, unless GOGC says otherwise: the program
// keeps little, and makes much for each page. It stays under about 200 MB.
func GC() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(400)
	}
}

// Route is one address, who may use it, and what answers.
type Route struct {
	Method, Path string
	Needs        Action
	Handle       func(*Ctx) error
	Body         int64 // bytes it takes, where that is a file or more than a form
	JSON         bool  // the body is a JSON document, not a form
	Heavy        bool  // takes a turn among the large works of its club
}

// stays reports whether the route's answer stays open and goes on telling what is new.
func (r Route) stays() bool { return strings.HasSuffix(r.Path, "/live") }

// Ctx is a request of a signed-in member. For routes that anyone may use Club and Member are empty.
type Ctx struct {
	*gin.Context
	S      *Server
	Club   store.Club
	Member store.Member
	Loc    *time.Location
	Now    time.Time // in the club's zone
	// versions of the club when it was asked who this is; nil: the request may change something, or stays open
	versions *store.Versions
	undo     *Undo
	Back     string // where an undo leads when it takes the page itself away; empty: to the page it was offered on

	TooLarge bool // what was sent passes the route's limit, and was thrown away
}

// Undo offers to take the last change back.
type Undo struct{ ID, To, Says string }

// Ctx returns the request's context.
func (c *Ctx) Ctx() context.Context { return c.Request.Context() }

// Today is the day it is where the club is.
func (c *Ctx) Today() day.Day { return day.Of(c.Now) }

// May reports whether the member may do it.
func (c *Ctx) May(a Action) bool { return May(c.Member.Role, a) }

// In runs f in a transaction of the member's club.
func (c *Ctx) In(f func(*store.Tx) error) error { return c.S.Store.In(c.Ctx(), c.Club.ID, c.asking(f)) }

// Rehearse runs f in a transaction of the member's club and takes back whatever it wrote: to read how something would
// be.
func (c *Ctx) Rehearse(f func(*store.Tx) error) error {
	c.versions = nil
	err := c.In(func(tx *store.Tx) error {
		if err := f(tx); err != nil {
			return err
		}
		return errRehearsed
	})
	if errors.Is(err, errRehearsed) {
		return nil
	}
	return err
}

var errRehearsed = errors.New("rehearsed")

// asking tells the store who asks.
func (c *Ctx) asking(f func(*store.Tx) error) func(*store.Tx) error {
	return func(tx *store.Tx) error {
		tx.Member, tx.Versions = c.Member.ID, c.versions
		return f(tx)
	}
}

// Change runs f like In, keeps it so that it can be undone, and offers that on the next page or part.
func (c *Ctx) Change(subject, says string, f func(*store.Tx) error) error {
	c.versions = nil
	id, err := c.S.Store.Change(c.Ctx(), c.Club.ID, c.Member.ID, subject, says, c.asking(f))
	if err == nil {
		c.undo = &Undo{ID: id, To: c.Back, Says: says}
	}
	return err
}

// Quiet leaves the undo offer out: the page has a way back of its own.
func (c *Ctx) Quiet() { c.undo = nil }

// Partial reports whether a part of the page is asked for, to be put in its place there; going back in the browser's
// history asks for the whole page.
func (c *Ctx) Partial() bool {
	return c.GetHeader("HX-Request") != "" && c.GetHeader("HX-History-Restore-Request") == ""
}

// To sends the browser on, with the undo offer for the page it comes to.
func (c *Ctx) To(path string) error {
	path = Own(path, "/")
	if c.undo != nil {
		c.S.Sessions.Put(c.Ctx(), "undo", strings.Join([]string{c.undo.ID, c.undo.To, c.undo.Says}, "\n"))
	}
	if c.GetHeader("HX-Request") != "" {
		c.Header("HX-Redirect", path)
		c.Status(http.StatusOK)
		return nil
	}
	c.Redirect(http.StatusSeeOther, path)
	return nil
}

// Whole is an address of this program as it is handed on outside it.
func (c *Ctx) Whole(path string) string {
	scheme := "http"
	if c.S.Sessions.Cookie.Secure {
		scheme = "https"
	}
	return scheme + "://" + c.Request.Host + path
}

// Say shows a sentence on the next page; where an undo is offered there, beside that.
func (c *Ctx) Say(says string) {
	if c.undo != nil {
		c.undo.Says = says
		return
	}
	c.S.Sessions.Put(c.Ctx(), "undo", "-\n\n"+says)
}

// Problem is an answer that is not the page asked for: a status and a sentence for people.
type Problem struct {
	Status int
	Says   string
}

func (p *Problem) Error() string { return p.Says }

// NotFound is the problem of an address that leads nowhere.
func NotFound(says string) error { return &Problem{http.StatusNotFound, says} }

// Form is what was typed, and what was wrong with it, by field.
type Form struct {
	Values url.Values
	Errors map[string]string
	Units  coach.Units // that lengths are typed in
}

// NewForm is the request's form, which the door has read.
func NewForm(c *Ctx) *Form {
	if c.Request.PostForm == nil {
		c.Request.PostForm = url.Values{}
	}
	return &Form{Values: c.Request.PostForm, Errors: map[string]string{}, Units: c.Club.Units}
}

// Get is a field without surrounding space.
func (f *Form) Get(name string) string { return strings.TrimSpace(f.Values.Get(name)) }

// All are the values of a field with many.
func (f *Form) All(name string) []string { return f.Values[name] }

// Wrong notes what is wrong with a field; the first word about it stands.
func (f *Form) Wrong(name, format string, args ...any) {
	if f.Errors[name] == "" {
		f.Errors[name] = fmt.Sprintf(format, args...)
	}
}

// Refused is the word about a field that was refused; without a field it is about what stands before it.
type Refused struct{ Field, Says string }

// Refused is the word about a field, for the template "field-error"; empty where nothing is wrong with it.
func (f *Form) Refused(name string) Refused { return Refused{name, f.Errors[name]} }

// OK reports whether nothing is wrong.
func (f *Form) OK() bool { return len(f.Errors) == 0 }

// Int reads a whole number from low to high.
func (f *Form) Int(name string, low, high int, what string) int {
	n, err := strconv.Atoi(f.Get(name))
	if err != nil || n < low || n > high {
		f.Wrong(name, "%s: a whole number from %d to %d.", what, low, high)
	}
	return n
}

// Float reads a number from low to high; a comma may stand for the point.
func (f *Form) Float(name string, low, high float64, what string) float64 {
	x, err := strconv.ParseFloat(strings.Replace(f.Get(name), ",", ".", 1), 64)
	if err != nil || !(x >= low && x <= high) { // not a number is neither
		f.Wrong(name, "%s: a number from %g to %g.", what, low, high)
	}
	return x
}

// Length reads a length from low to high metres, in the club's unit or any that is written behind the figure. What
// stands as it was shown of the length before stays that length.
func (f *Form) Length(name string, low, high, was float64, what string) float64 {
	if was != 0 && f.Get(name) == f.Units.Length(was) {
		return was
	}
	m, ok := f.Units.ParseLength(f.Get(name))
	if !ok || !(m >= low && m <= high) {
		f.Wrong(
			name,
			"%s: from %s to %s; another unit is written behind, such as 7 m or 25 yd.",
			what,
			f.Units.Length(low),
			f.Units.Long(high),
		)
	}
	return m
}

// Back is the page that the form was on, if it names one of ours.
func (f *Form) Back(or string) string {
	if to := f.Get("to"); strings.HasPrefix(to, "/") && !strings.HasPrefix(to, "//") {
		return to
	}
	return or
}

// Day reads a day; need says that there has to be one.
func (f *Form) Day(name, need string) day.Day {
	d, err := day.Parse(f.Get(name))
	if err != nil || d.IsZero() && need != "" {
		if need == "" {
			need = "A date like 2026-12-12, or nothing."
		}
		f.Wrong(name, "%s", need)
	}
	return d
}

// Text reads words of at most max characters; need says they may not be empty.
func (f *Form) Text(name string, max int, need string) string {
	s := f.Get(name)
	if s == "" && need != "" {
		f.Wrong(name, "%s", need)
	}
	if len([]rune(s)) > max {
		f.Wrong(name, "That is %d characters; %d are the most.", len([]rune(s)), max)
	}
	return s
}

// Lines reads a list, one item a line.
func (f *Form) Lines(name string, most int) []string {
	var out []string
	for _, l := range strings.Split(f.Values.Get(name), "\n") {
		if l = strings.TrimSpace(l); l != "" {
			out = append(out, l)
		}
	}
	if len(out) > most {
		f.Wrong(name, "That is %d lines; %d are the most.", len(out), most)
	}
	return out
}

// mostWords and longestWord bound a list separated by commas.
const mostWords, longestWord = 30, 80

// Commas reads a list separated by commas: at most 30 of at most 80 letters.
func (f *Form) Commas(name string) []string {
	var out []string
	for _, w := range strings.Split(f.Values.Get(name), ",") {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	if len(out) > mostWords {
		f.Wrong(name, "That is %d; %d are the most.", len(out), mostWords)
		return out[:mostWords]
	}
	for _, w := range out {
		if n := len([]rune(w)); n > longestWord {
			f.Wrong(name, "One of them has %d characters; %d are the most.", n, longestWord)
		}
	}
	return out
}

// Frame is the data of every template: the frame's own, and V, the page's view.
type Frame struct {
	Title, Place string
	Club         store.Club
	Member       store.Member
	Now          time.Time
	Undo         *Undo
	Rail         []RailItem
	V            any // the page's view
	Of           any // what a part of the page is about, when it is one of many
}

// Local is a moment as the club's clocks and calendars have it, wherever the server stands.
func (f Frame) Local(t time.Time) time.Time { return t.In(f.Now.Location()) }

// RailItem is a place in the rail.
type RailItem struct {
	Name, Path, Key string
	Here            bool
}

var rail = []struct {
	RailItem
	needs Action
}{
	{RailItem{Name: "Today", Path: "/", Key: "t"}, SeeToday},
	{RailItem{Name: "Roster", Path: "/roster", Key: "r"}, SeeRoster},
	{RailItem{Name: "Drill shelf", Path: "/shelf", Key: "d"}, SeeShelf},
	{RailItem{Name: "Season", Path: "/season", Key: "e"}, SeeSessions},
	{RailItem{Name: "Sessions", Path: "/sessions", Key: "s"}, SeeSessions},
	{RailItem{Name: "Marks", Path: "/marks", Key: "m"}, SeeMarks},
	{RailItem{Name: "Stairs", Path: "/stairs", Key: "a"}, SeeMarks},
}

// Pages are a place's templates on top of the shared ones.
type Pages struct {
	place string
	set   *template.Template            // bare pages and parts
	whole map[string]*template.Template // each page inside the frame
}

// NewPages parses a place's templates. The place is the rail's name for it. Broken templates are a programming error:
// it panics.
func NewPages(place string, files fs.FS) *Pages {
	set := template.New("").Funcs(funcs)
	parse(set, shared, "templates/*.html")
	if files != nil {
		parse(set, files, "*.html")
	}
	whole := map[string]*template.Template{}
	for _, t := range set.Templates() {
		if name := t.Name(); strings.HasSuffix(name, ".html") {
			whole[name] = template.Must(
				template.Must(set.Clone()).New("content").Parse(`{{template "` + name + `" .}}`),
			)
		}
	}
	return &Pages{place, template.Must(set.New("content").Parse("")), whole}
}

// parse adds the templates of files. They are indented for those who read them, not for those who are sent them.
func parse(set *template.Template, files fs.FS, pattern string) {
	names, err := fs.Glob(files, pattern)
	if err != nil {
		panic(err)
	}
	for _, name := range names {
		text, err := fs.ReadFile(files, name)
		if err != nil {
			panic(err)
		}
		template.Must(set.New(path.Base(name)).Parse(indentation.ReplaceAllString(string(text), "\n")))
	}
}

var indentation = regexp.MustCompile(`\n\s+`)

func (c *Ctx) frame(p *Pages, title string, v any) Frame {
	f := Frame{Title: title, Place: p.place, Club: c.Club, Member: c.Member, Now: c.Now, Undo: c.undo, V: v}
	for _, r := range rail {
		if c.May(r.needs) {
			r.Here = r.Name == p.place
			f.Rail = append(f.Rail, r.RailItem)
		}
	}
	return f
}

// Page answers with a whole page: the named template inside the frame.
func (c *Ctx) Page(p *Pages, status int, name, title string, v any) error {
	f := c.frame(p, title, v)
	if c.undo == nil && c.Member.ID != "" {
		if u := strings.SplitN(c.S.Sessions.PopString(c.Ctx(), "undo"), "\n", 3); len(u) == 3 {
			f.Undo = &Undo{u[0], u[1], u[2]}
		}
	}
	return c.write(p.whole[name], status, "frame.html", f)
}

// Bare answers with a whole page that has no rail: signing in, courtside, print.
func (c *Ctx) Bare(p *Pages, status int, name, title string, v any) error {
	return c.write(p.set, status, name, c.frame(p, title, v))
}

// Part answers with a piece of a page, and the undo offer beside it.
func (c *Ctx) Part(p *Pages, name string, v any) error { return c.PartAs(http.StatusOK, p, name, v) }

// PartAs is Part with a status of its own: what was refused is not said to have worked.
func (c *Ctx) PartAs(status int, p *Pages, name string, v any) error {
	f := c.frame(p, "", v)
	var b bytes.Buffer
	if err := p.set.ExecuteTemplate(&b, name, f); err != nil {
		return err
	}
	if f.Undo != nil {
		if err := p.set.ExecuteTemplate(&b, "undo-beside", f); err != nil {
			return err
		}
	}
	c.Data(status, "text/html; charset=utf-8", b.Bytes())
	return nil
}

// Attach says that the answer is a file of that name.
func (c *Ctx) Attach(name string) {
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// Calendar answers with a calendar.
func (c *Ctx) Calendar(text string) error {
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(text))
	return nil
}

// Drawing answers with a drawing of a page as an SVG file that stands by itself: the template of that name, with its
// "-style" put in.
func (c *Ctx) Drawing(p *Pages, name string, v any) error {
	text, err := c.DrawingText(p, name, c.frame(p, "", v))
	if err == nil {
		c.Data(http.StatusOK, "image/svg+xml", []byte(text))
	}
	return err
}

// DrawingText is such a file of a view without the frame.
func (c *Ctx) DrawingText(p *Pages, name string, v any) (string, error) {
	var b, style bytes.Buffer
	if err := p.set.ExecuteTemplate(&b, name, v); err != nil {
		return "", err
	}
	if err := p.set.ExecuteTemplate(&style, name+"-style", v); err != nil {
		return "", err
	}
	open, rest, _ := strings.Cut(strings.TrimSpace(b.String()), ">")
	if !strings.Contains(open, "xmlns=") {
		open = strings.Replace(open, "<svg", `<svg xmlns="http://www.w3.org/2000/svg"`, 1)
	}
	return open + ">" + strings.TrimSpace(style.String()) + rest, nil
}

func (c *Ctx) write(set *template.Template, status int, name string, f Frame) error {
	var b bytes.Buffer
	if err := set.ExecuteTemplate(&b, name, f); err != nil {
		return err
	}
	c.Data(status, "text/html; charset=utf-8", b.Bytes())
	return nil
}

// Handler puts the routes together behind the guards that every request passes.
func (s *Server) Handler(routes []Route) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	if err := e.SetTrustedProxies(s.Proxies); err != nil {
		panic(err) // the command line has checked them
	}
	e.Use(gin.CustomRecovery(func(g *gin.Context, err any) {
		slog.Error("panic", "path", g.FullPath(), "error", err)
		s.answerError(&Ctx{Context: g, S: s, Loc: time.UTC, Now: s.Now()}, fmt.Errorf("panic: %v", err))
	}), guard, measure, compress())
	s.assets(e)
	s.health(e)
	for _, r := range routes {
		e.Handle(r.Method, r.Path, s.handler(r))
		if r.Method == http.MethodGet {
			e.HEAD(r.Path, s.handler(r))
		}
	}
	e.NoRoute(s.handler(Route{Needs: SeeToday, Handle: func(*Ctx) error {
		return NotFound("There is no page at this address.")
	}}))
	cross := http.NewCrossOriginProtection()
	cross.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		http.Error(w, "This change came from another site and was not made.", http.StatusForbidden)
	}))
	s.Sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		g, _ := gin.CreateTestContext(w)
		g.Request = r
		guardHeaders(w.Header())
		s.answerError(&Ctx{Context: g, S: s, Loc: time.UTC, Now: s.Now()}, fmt.Errorf("the browser's session: %w", err))
	}
	return bounded(cross.Handler(s.Sessions.LoadAndSave(e)))
}

// guard sets the headers that keep a page from loading or sending anything it should not.
func guard(g *gin.Context) {
	guardHeaders(g.Writer.Header())
	g.Next()
}

func guardHeaders(h http.Header) {
	h.Set(
		"Content-Security-Policy",
		"default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
	)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cache-Control", "no-store")
}
