package shell

import (
	"bytes"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"html/template"
	"io/fs"
	"math"
	"mime"
	"net/http"
	"path"
	"reflect"
	"strings"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/promauto"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"github.com/microcosm-cc/bluemonday"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"

	"gruppo/internal/coach"
	"gruppo/internal/coach/say"
)

//go:embed templates/*.html
var shared embed.FS

//go:embed assets
var assetFiles embed.FS

// shipped are the files that browsers fetch.
var shipped = func() map[string]shippedFile {
	m := map[string]shippedFile{}
	ship := func(name string, text []byte) {
		sum := sha256.Sum256(text)
		m[name] = shippedFile{text, hex.EncodeToString(sum[:5])}
	}
	all, err := styles()
	if err != nil {
		panic(err)
	}
	ship("gruppo.css", all)
	err = fs.WalkDir(assetFiles, "assets", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := assetFiles.ReadFile(p)
		ship(strings.TrimPrefix(p, "assets/"), b)
		return err
	})
	if err != nil {
		panic(err)
	}
	return m
}()

// shippedFile is what a browser fetches and the stamp in its address: that changes when the file does, so browsers may
// keep it.
type shippedFile struct {
	text  []byte
	stamp string
}

// bundled are the names of the client's modules as they were bundled: a name changes when what is in it does.
var bundled = func() (names map[string]string) {
	if err := json.Unmarshal(shipped["client/names.json"].text, &names); err != nil {
		panic(err)
	}
	return names
}()

func asset(name string) (string, error) {
	if module, ok := strings.CutPrefix(name, "client/"); ok && bundled[module] != "" {
		return "/assets/client/" + bundled[module], nil
	}
	f, ok := shipped[name]
	if !ok {
		return "", fmt.Errorf("no shipped file %q", name)
	}
	return "/assets/" + name + "?v=" + f.stamp, nil
}

// lasts reports whether a file never changes under its address.
func lasts(name, stamp string) bool {
	return stamp != "" || path.Ext(name) == ".woff2" || strings.HasPrefix(name, "client/")
}

func (s *Server) assets(e *gin.Engine) {
	e.GET("/sw.js", func(g *gin.Context) { // at the top, so that it may answer for the pages of the hall
		g.Header("Cache-Control", "no-cache")
		g.Data(http.StatusOK, "text/javascript; charset=utf-8", shipped["client/sw.js"].text)
	})
	e.GET("/assets/*name", func(g *gin.Context) {
		name := strings.TrimPrefix(path.Clean(g.Param("name")), "/")
		f, ok := shipped[name]
		if !ok {
			g.Status(http.StatusNotFound)
			return
		}
		tag := `"` + f.stamp + `"`
		g.Header("Cache-Control", "no-cache")
		g.Header("ETag", tag)
		if lasts(name, g.Query("v")) {
			g.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		if g.GetHeader("If-None-Match") == tag {
			g.Status(http.StatusNotModified)
			return
		}
		g.Data(http.StatusOK, mime.TypeByExtension(path.Ext(name)), f.text)
	})
}

func compress() gin.HandlerFunc {
	return gzip.Gzip(
		gzip.BestSpeed,
		gzip.WithExcludedExtensions([]string{".woff2"}),
		gzip.WithExcludedPathsRegexs([]string{".*/live$"}),
	)
}

var requestSeconds = promauto.NewHistogramVec(
	prometheus.HistogramOpts{Name: "gruppo_request_seconds", Help: "Time to answer, by route.",
		Buckets: []float64{.002, .005, .01, .02, .05, .1, .25, 1, 5}},
	[]string{"route", "status"},
)

func measure(g *gin.Context) {
	start := time.Now()
	g.Next()
	if route := g.FullPath(); route != "" && !strings.HasSuffix(route, "/live") {
		requestSeconds.WithLabelValues(route, fmt.Sprint(g.Writer.Status())).Observe(time.Since(start).Seconds())
	}
}

// health answers whether the program lives, whether it can work, and what it measured.
func (s *Server) health(e *gin.Engine) {
	e.GET("/healthz", func(g *gin.Context) { g.String(http.StatusOK, "ok\n") })
	e.GET("/readyz", func(g *gin.Context) {
		ctx, cancel := context.WithTimeout(g.Request.Context(), 3*time.Second)
		defer cancel()
		if err := s.Store.Pool.Ping(ctx); err != nil {
			g.String(http.StatusServiceUnavailable, "the database does not answer\n")
			return
		}
		g.String(http.StatusOK, "ok\n")
	})
	own := prometheus.NewRegistry()
	own.MustRegister(
		prometheus.NewGaugeFunc(
			prometheus.GaugeOpts{
				Name: "gruppo_connections_most",
				Help: "Connections to the database that may be taken, besides the one that listens.",
			},
			func() float64 { return float64(s.Store.Pool.Config().MaxConns) },
		),
		prometheus.NewGaugeFunc(
			prometheus.GaugeOpts{Name: "gruppo_connections_busy", Help: "Connections that answer a question just now."},
			func() float64 { return float64(s.Store.Pool.Stat().AcquiredConns()) },
		),
	)
	e.GET(
		"/metrics",
		gin.WrapH(promhttp.HandlerFor(prometheus.Gatherers{prometheus.DefaultGatherer, own}, promhttp.HandlerOpts{})),
	)
}

// shapes are the outlines of the groups' shapes in a box from −10 to 10.
var shapes = map[string]string{
	"circle":   "M-9 0A9 9 0 1 0 9 0A9 9 0 1 0-9 0Z",
	"triangle": "M0-9.5L9.8 8H-9.8Z",
	"square":   "M-8-8H8V8H-8Z",
	"diamond":  "M0-10.5L10.5 0L0 10.5L-10.5 0Z",
	"pentagon": "M0-10L9.5-3.1L5.9 8.1H-5.9L-9.5-3.1Z",
	"star":     "M0-10.5L2.9-3.6L10.2-3.2L4.6 1.6L6.4 8.8L0 4.9L-6.4 8.8L-4.6 1.6L-10.2-3.2L-2.9-3.6Z",
	"hexagon":  "M5-8.7L10 0L5 8.7H-5L-10 0L-5-8.7Z",
	"cross":    "M-3.4-10H3.4V-3.4H10V3.4H3.4V10H-3.4V3.4H-10V-3.4H-3.4Z",
}

// funcs are the words templates know beyond Go's own.
var funcs = template.FuncMap{
	"asset":   asset,
	"clock":   coach.Clock,
	"minutes": coach.Minutes,
	"figure":  coach.Figure,
	"plural":  say.Count,
	"unit":    func(n float64, one string) string { return say.Of(int(math.Round(n)), one) },
	"verb":    say.Verb,
	"list":    say.List,
	"times":   say.Times,
	"shape":   func(key string) string { return shapes[key] },
	"half":    func(x float64) float64 { return math.Round(x*50) / 100 },
	"diagramStyle": func() (template.CSS, error) { // for a drawing that stands by itself
		b, err := styleFiles.ReadFile("styles/diagram.css")
		return template.CSS(b), err
	},
	"markdown": Markdown,
	"initials": Initials,
	"round":    func(x float64) int { return int(math.Round(x)) },
	"percent":  func(x float64) int { return int(math.Round(x * 100)) },
	"product":  func(a, b float64) float64 { return a * b },
	"sub":      func(a, b float64) float64 { return a - b },
	"share":    func(a, of int) float64 { return math.Min(1, float64(a)/math.Max(1, float64(of))) },
	"these":    func(xs ...any) []any { return xs },
	"add":      func(a, b int) int { return a + b },
	"join":     strings.Join,
	"fixed":    func(x float64) string { return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.2f", x), "0"), ".") },
	"first":    say.First,
	"refusal": func(word any) Refused { // of a form; or a word alone, that is about no one field
		if r, known := word.(Refused); known {
			return r
		}
		return Refused{Says: word.(string)}
	},
	"minus": func(a int) int { return -a },
	"act": func(do, at string) template.HTML { // opens the form of a change to a plan
		return template.HTML(`<form class="inline" data-do="` + template.HTMLEscapeString(do) +
			`" data-at="` + template.HTMLEscapeString(at) + `">`)
	},
	"pairs": func(xs ...string) [][2]string {
		var out [][2]string
		for i := 0; i+1 < len(xs); i += 2 {
			out = append(out, [2]string{xs[i], xs[i+1]})
		}
		return out
	},
	"strike": func(id, mark, to string) map[string]any { // a mark to strike out, and where that leads back to
		return map[string]any{"ID": id, "Mark": mark, "To": to}
	},
	"notesBack": func(notes any, to string) any { // notes that come back, and where one is led after ticking one off
		return map[string]any{"Notes": notes, "To": to}
	},
	"wrap":     func(f Frame, v any) Frame { f.V = v; return f },        // a part of a page with a view of its own
	"of":       func(f Frame, item any) Frame { f.Of = item; return f }, // a part of a page about one of many
	"families": func() []coach.Family { return coach.Families },
	// a named string as the code knows it, not in a coach's words
	"raw": func(v any) string { return reflect.ValueOf(v).String() },
	"numbers": func(from, to int) []int {
		var out []int
		for n := from; n <= to; n++ {
			out = append(out, n)
		}
		return out
	},
	"in": func(list []string, s string) bool {
		for _, x := range list {
			if x == s {
				return true
			}
		}
		return false
	},
}

// clean keeps of what Markdown makes only what text needs: no scripts, no styles, and no pictures, which would tell
// another server who reads.
var clean = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	p.AllowElements(
		"p",
		"ul",
		"ol",
		"li",
		"em",
		"strong",
		"br",
		"hr",
		"h3",
		"h4",
		"blockquote",
		"code",
		"pre",
		"table",
		"thead",
		"tbody",
		"tr",
		"th",
		"td",
	)
	p.AllowAttrs("href").OnElements("a")
	p.AllowURLSchemes("http", "https")
	p.RequireParseableURLs(true)
	p.RequireNoFollowOnLinks(true)
	p.RequireNoReferrerOnLinks(true)
	return p
}()

// written is Markdown as a coach writes it, with tables.
var written = goldmark.New(goldmark.WithExtensions(extension.Table))

// Markdown is a description as a coach wrote it, as HTML that carries nothing but text.
func Markdown(s string) template.HTML {
	var b bytes.Buffer
	if err := written.Convert([]byte(s), &b); err != nil {
		return template.HTML(template.HTMLEscapeString(s))
	}
	return template.HTML(clean.SanitizeBytes(b.Bytes()))
}

// Initials are the first letters of the first and last word of a name, in any script.
func Initials(name string) string {
	words := strings.Fields(name)
	if len(words) == 0 {
		return "?"
	}
	out := []rune(words[0])[:1]
	if len(words) > 1 {
		out = append(out, []rune(words[len(words)-1])[0])
	}
	return strings.ToUpper(string(out))
}

// ShapePath is the outline of a group's shape.
func ShapePath(key string) string { return shapes[key] }
