package shell

import (
	"context"
	"errors"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/store"
)

// What one request may ask for, all in this one place. Fields have limits of their own where they are read.
const (
	mostForm   = 256 << 10        // bytes of a form that brings no file
	mostFields = 6000             // values of a form
	mostQuery  = 8 << 10          // bytes behind an address
	mostTime   = 30 * time.Second // to answer; a file may take fileTime
	fileTime   = 2 * time.Minute
	readTime   = 15 * time.Second // to send a form

	mostDrained = 64 << 20 // bytes past the limit that are read and thrown away
)

// bounded gives every request a time by which it has to be read. What changes something is done also when nobody waits
// for the answer any more.
func bounded(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost {
			r = r.WithContext(context.WithoutCancel(r.Context()))
		}
		if r.ContentLength != 0 {
			limit := readTime
			if strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/") {
				limit = fileTime
			}
			_ = http.NewResponseController(w).SetReadDeadline(time.Now().Add(limit)) // a test's recorder has none
		}
		next.ServeHTTP(w, r)
	})
}

// handler makes a gin handler of a route: it lets in who may, reads what was sent, and turns errors into sentences.
func (s *Server) handler(r Route) gin.HandlerFunc {
	return func(g *gin.Context) {
		c := &Ctx{Context: g, S: s, Loc: time.UTC, Now: s.Now()}
		if !r.stays() {
			limit := mostTime
			if r.Body > 0 {
				limit = fileTime
			}
			ctx, cancel := context.WithTimeout(g.Request.Context(), limit)
			defer cancel()
			g.Request = g.Request.WithContext(ctx)
		}
		if err := s.admit(c, r); err != nil {
			s.answerError(c, err)
			return
		}
		if c.IsAborted() {
			return
		}
		err := c.read(r)
		if err == nil {
			err = s.inTurn(c, r)
		}
		if err != nil {
			s.answerError(c, err)
		}
	}
}

// inTurn runs the route; large work takes its turn.
func (s *Server) inTurn(c *Ctx, r Route) error {
	if r.Heavy {
		done, err := s.heavy.enter(c.Ctx(), c.Club.ID)
		if err != nil {
			return err
		}
		defer done()
	}
	return r.Handle(c)
}

// read takes the address and the form in, and refuses what no page of ours sends: too much of it, or letters that are
// none.
func (c *Ctx) read(r Route) error {
	for _, p := range c.Params {
		if p.Key == "id" || p.Key == "change" {
			if !store.IsID(p.Value) {
				return store.ErrNone
			}
		} else if !readable(p.Value) {
			return store.ErrNone
		}
	}
	if len(c.Request.URL.RawQuery) > mostQuery {
		return &Problem{http.StatusRequestURITooLong, "That address is too long."}
	}
	query, err := url.ParseQuery(c.Request.URL.RawQuery)
	if err != nil || !allReadable(query) {
		return errUnreadable
	}
	if c.Request.Method != http.MethodPost {
		return nil
	}
	most := r.Body
	if most == 0 {
		most = mostForm
	}
	all := c.Request.Body
	c.Request.Body = http.MaxBytesReader(nil, all, most)
	if r.JSON {
		return nil
	}
	if strings.HasPrefix(c.GetHeader("Content-Type"), "multipart/") {
		err = c.Request.ParseMultipartForm(1 << 20)
	} else {
		err = c.Request.ParseForm()
	}
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &large) && r.Body > 0: // read on, so that the browser hears why
		_, _ = io.Copy(io.Discard, io.LimitReader(all, mostDrained))
		c.Request.PostForm, c.TooLarge = url.Values{}, true
		return nil
	case errors.As(err, &large):
		return &Problem{
			http.StatusRequestEntityTooLarge,
			"That is more than a form can hold. What you typed is still in the page before: go back and take some of it out.",
		}
	case err != nil:
		return errUnreadable
	}
	if form := c.Request.MultipartForm; form != nil {
		context.AfterFunc(c.Ctx(), func() { _ = form.RemoveAll() }) // what lies on disk goes with the request
	}
	if n := fields(c.Request.PostForm); n > mostFields {
		return &Problem{
			http.StatusRequestEntityTooLarge,
			"That form has more fields than this page can send. Load the page again.",
		}
	}
	if !allReadable(c.Request.PostForm) {
		return errUnreadable
	}
	return nil
}

var errUnreadable = &Problem{
	http.StatusUnprocessableEntity,
	"Some of the letters typed cannot be read, so nothing was kept. What you typed is still in the page before: go back and type it anew.",
}

func fields(v url.Values) (n int) {
	for _, list := range v {
		n += len(list)
	}
	return n
}

// readable reports whether PostgreSQL can keep it as text.
func readable(s string) bool { return utf8.ValidString(s) && !strings.ContainsRune(s, 0) }

func allReadable(v url.Values) bool {
	for k, list := range v {
		if !readable(k) {
			return false
		}
		for _, s := range list {
			if !readable(s) {
				return false
			}
		}
	}
	return true
}

// Own is a path of this program, or the other where it could lead elsewhere: a redirect never leaves the house.
func Own(path, other string) string {
	u, err := url.Parse(path)
	switch {
	case err != nil, u.Scheme != "", u.Host != "", u.User != nil, u.Opaque != "",
		!strings.HasPrefix(path, "/"), strings.HasPrefix(path, "//"), strings.Contains(path, `\`),
		strings.ContainsFunc(path, func(r rune) bool { return r < 0x20 || r == 0x7f }):
		return other
	}
	return path
}

// problemOf is what people are told of an error, and whether it is ours and to be noted.
func problemOf(err error) (p *Problem, ours bool) {
	var in *doc.ErrInput
	var large *http.MaxBytesError
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	switch {
	case errors.As(err, &p):
		return p, false
	case errors.As(err, &in):
		return &Problem{http.StatusUnprocessableEntity, in.Says}, false
	case errors.As(err, &large):
		return &Problem{http.StatusRequestEntityTooLarge, "That is too large. Nothing was taken."}, false
	case errors.Is(err, store.ErrNone):
		return &Problem{
			http.StatusNotFound,
			"There is nothing here. It may have been taken away, or the address is not quite right.",
		}, false
	case errors.Is(err, store.ErrChangedSince):
		return &Problem{
			http.StatusConflict,
			"Somebody changed this in the meantime, so nothing was done. Load the page again to see it as it is now.",
		}, false
	case errors.Is(err, context.DeadlineExceeded):
		return &Problem{
			http.StatusServiceUnavailable,
			"That took too long and was stopped; nothing was changed. Try again in a moment, or with less at once.",
		}, true
	case errors.As(err, &pg) && !errors.As(err, &connect):
		return problemOfDatabase(pg)
	case away(err):
		return &Problem{
			http.StatusServiceUnavailable,
			"The database does not answer just now. Nothing was changed, and what you typed is still in the page before: try again in a moment.",
		}, true
	}
	return &Problem{
		http.StatusInternalServerError,
		"Something went wrong on our side, and it is noted. What you typed is still in the page before: go back and try again.",
	}, true
}

// Refusal is why a single thing cannot be taken, whenever it is sent; final is false where trying again may help.
func Refusal(err error) (p *Problem, final bool) {
	p, _ = problemOf(err)
	var pg *pgconn.PgError
	switch {
	case p.Status >= 500:
		return p, false
	case errors.As(err, &pg) && pg.Code != pgForeignKey && pg.Code != pgCheck && !strings.HasPrefix(pg.Code, "22"):
		return p, false
	}
	return p, true
}

// problemOfDatabase says what PostgreSQL refused.
func problemOfDatabase(pg *pgconn.PgError) (*Problem, bool) {
	switch {
	case pg.Code == pgForeignKey:
		return &Problem{
			http.StatusNotFound,
			"Something this rests on is not there any more. Load the page again to see it as it is now.",
		}, false
	case pg.Code == pgCheck, strings.HasPrefix(pg.Code, "22"): // a value that cannot be
		return &Problem{
			http.StatusUnprocessableEntity,
			"One of the values sent cannot be kept, so nothing was. Go back, look at what was typed, and try again.",
		}, true
	case pg.Code == pgUnique, pg.Code == "40001", pg.Code == "40P01":
		return &Problem{
			http.StatusConflict,
			"Somebody changed this in the same moment, so nothing was done. Load the page again to see it as it is now.",
		}, false
	case pg.Code == "57014":
		return problemOf(context.DeadlineExceeded)
	case strings.HasPrefix(pg.Code, "57P"),
		strings.HasPrefix(pg.Code, "53"),
		strings.HasPrefix(pg.Code, "08"),
		pg.Code == "25P03":
		return problemOf(net.ErrClosed)
	}
	return problemOf(errors.New("refused"))
}

const pgForeignKey, pgCheck, pgUnique = "23503", "23514", "23505"

// away reports whether the database could not be reached at all.
func away(err error) bool {
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, net.ErrClosed) ||
		pgconn.SafeToRetry(err) ||
		errors.Is(err, pgx.ErrTxClosed) ||
		strings.Contains(err.Error(), "conn closed") ||
		strings.Contains(err.Error(), "unexpected EOF")
}

var shellPages = NewPages("", nil)

func (s *Server) answerError(c *Ctx, err error) {
	if errors.Is(err, context.Canceled) {
		return // the browser has gone
	}
	p, ours := problemOf(err)
	if ours {
		slog.Error("request failed", "method", c.Request.Method, "path", c.FullPath(), "status", p.Status, "error", err)
	}
	if c.Writer.Written() {
		return
	}
	if p.Status == http.StatusServiceUnavailable {
		c.Header("Retry-After", "5")
	}
	if strings.Contains(c.GetHeader("Accept"), "application/json") {
		c.JSON(p.Status, gin.H{"says": p.Says})
		return
	}
	var werr error
	switch {
	case c.GetHeader("HX-Request") != "":
		c.Header("HX-Retarget", "#notice")
		c.Header("HX-Reswap", "innerHTML")
		werr = c.PartAs(p.Status, shellPages, "notice", p)
	case c.Member.ID != "":
		werr = c.Page(shellPages, p.Status, "problem.html", "Not this way", p)
	default:
		werr = c.Bare(shellPages, p.Status, "problem-bare.html", "Not this way", p)
	}
	if werr != nil {
		slog.Error("answer failed", "error", werr)
		c.Status(http.StatusInternalServerError)
	}
}
