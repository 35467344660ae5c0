// Command gruppo serves the web application for coaches.
package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"os/signal"
	"strings"
	"syscall"
	"time"
	_ "time/tzdata"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/spf13/cobra"

	"gruppo/internal/app"
	"gruppo/internal/demo"
	"gruppo/internal/localpg"
	"gruppo/internal/store"
	"gruppo/internal/web"
	"gruppo/internal/web/account"
	"gruppo/internal/web/live"
	"gruppo/internal/web/shell"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := command().ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "gruppo:", err)
		os.Exit(1)
	}
}

type options struct {
	addr, clock, dir string
	https            bool
	proxies          []string
	connections      int32
}

func command() *cobra.Command {
	var o options
	root := &cobra.Command{
		Use:           "gruppo",
		Short:         "For coaches of club and school programs",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.PersistentFlags().StringVar(&o.addr, "addr", "127.0.0.1:"+env("PORT", "8080"), "where to listen")
	root.PersistentFlags().
		StringVar(&o.clock, "clock", "", "start the program's clock at this time (RFC 3339), for demos and tests")
	root.PersistentFlags().
		BoolVar(&o.https, "https", false, "a TLS proxy stands in front: cookies are Secure on loopback too")
	root.PersistentFlags().
		StringSliceVar(&o.proxies, "proxy", nil, "address or network of a proxy in front, whose word about who asks is believed; without it nobody's is")
	root.PersistentFlags().
		Int32Var(&o.connections, "connections", store.Connections, "how many connections to the database to take at most; one more listens for notices")
	root.PersistentFlags().StringVar(&o.dir, "dir", ".run/pg", "folder of the private database (demo and run)")
	root.AddCommand(
		&cobra.Command{
			Use:   "serve",
			Short: "Serve with the database of DATABASE_URL",
			RunE: func(c *cobra.Command, _ []string) error {
				if os.Getenv("DATABASE_URL") == "" {
					return errors.New("set DATABASE_URL to the login of gruppo_app; the README shows how to make it")
				}
				if owner := os.Getenv("MIGRATE_URL"); owner != "" {
					if err := store.Migrate(c.Context(), owner); err != nil {
						return err
					}
				}
				return serve(c.Context(), o, os.Getenv("DATABASE_URL"), nil)
			},
		},
		&cobra.Command{
			Use:   "migrate",
			Short: "Bring the database of MIGRATE_URL up to date",
			RunE: func(c *cobra.Command, _ []string) error {
				if os.Getenv("MIGRATE_URL") == "" {
					return errors.New("set MIGRATE_URL to the login of gruppo_owner")
				}
				return store.Migrate(c.Context(), os.Getenv("MIGRATE_URL"))
			},
		},
		&cobra.Command{
			Use:   "reset NAME",
			Short: "Make a link by which a lead, by name or address, chooses a new password",
			Args:  cobra.ExactArgs(1),
			RunE: func(c *cobra.Command, args []string) error {
				return reset(c.Context(), o, args[0])
			},
		},
		gateCommand(),
		&cobra.Command{
			Use:   "demo",
			Short: "Serve the demo club from a private database in this folder",
			RunE: func(c *cobra.Command, _ []string) error {
				return private(c.Context(), o, "gruppo_demo", true)
			},
		},
		&cobra.Command{
			Use:   "run",
			Short: "Serve your own clubs from a private database in this folder",
			RunE: func(c *cobra.Command, _ []string) error {
				return private(c.Context(), o, "gruppo", false)
			},
		},
	)
	return root
}

// reset prints a link for each lead of that name or address. It asks as the owner: the database of MIGRATE_URL, else
// the private one of this folder, which the program keeps running.
func reset(ctx context.Context, o options, who string) error {
	owners := []string{os.Getenv("MIGRATE_URL")}
	if owners[0] == "" {
		var err error
		if owners, err = localpg.Running(ctx, o.dir, "gruppo", "gruppo_demo"); err != nil {
			return fmt.Errorf(
				"set MIGRATE_URL to the login of gruppo_owner, or start the program of this folder first: %w",
				err,
			)
		}
	}
	now, err := clockFrom(o.clock)
	if err != nil {
		return err
	}
	found := 0
	for _, owner := range owners {
		st, err := store.Open(ctx, owner)
		if err != nil {
			return err
		}
		links, err := st.Reset(ctx, who, now().Add(account.WayInTime), account.NewWayIn)
		st.Pool.Close()
		if err != nil {
			return err
		}
		for w, secret := range links {
			found++
			fmt.Printf(
				"%s of %s, %s: once, within a day, at the program's address with\n  %s\n",
				w.Name,
				w.Club,
				w.Email,
				account.WayInPath(secret),
			)
		}
	}
	if found == 0 {
		return fmt.Errorf("no lead is called %q or has that address", who)
	}
	return nil
}

func env(name, other string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return other
}

// private serves from a PostgreSQL of this folder, which it starts and stops.
func private(ctx context.Context, o options, name string, withDemo bool) (err error) {
	cluster, err := localpg.Start(ctx, o.dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, cluster.Stop()) }()
	db, err := cluster.Database(ctx, name)
	if err != nil {
		return err
	}
	if err := store.Migrate(ctx, db.Owner); err != nil {
		return err
	}
	return serve(ctx, o, db.App, func(st *store.Store, now time.Time) error {
		if !withDemo {
			fmt.Println("Start your club at the address below; everything stays in", o.dir)
			return nil
		}
		hash, err := shell.HashPassword(ctx, demo.Password)
		if err == nil {
			err = demo.Load(ctx, st, now, hash)
		}
		if err != nil {
			return err
		}
		fmt.Printf("\n  Demo club: %s\n", demo.ClubName)
		for _, m := range demo.Members {
			fmt.Printf("    %-7s %-28s password %s\n", m.Role, m.Email, demo.Password)
		}
		return nil
	})
}

// serve answers until ctx ends, then lets the requests under way finish.
func serve(ctx context.Context, o options, databaseURL string, before func(*store.Store, time.Time) error) error {
	now, err := clockFrom(o.clock)
	if err != nil {
		return err
	}
	for _, p := range o.proxies {
		if _, err := netip.ParseAddr(p); err == nil {
			continue
		}
		if _, err := netip.ParsePrefix(p); err != nil {
			return fmt.Errorf("--proxy %q is no address such as 127.0.0.1 and no network such as 10.0.0.0/8", p)
		}
	}
	if o.connections < 2 {
		return errors.New("--connections: at least 2 are needed")
	}
	st, err := store.Open(ctx, databaseURL, func(c *pgxpool.Config) { c.MaxConns = o.connections })
	if err != nil {
		return err
	}
	defer st.Pool.Close()
	if before != nil {
		if err := before(st, now()); err != nil {
			return err
		}
	}
	shell.GC()
	l, err := net.Listen("tcp", o.addr)
	if err != nil {
		return fmt.Errorf("listen: %w (another program there? choose another with PORT=…)", err)
	}
	host, _, _ := net.SplitHostPort(o.addr)
	ip := net.ParseIP(host)
	loopback := host == "localhost" || ip != nil && ip.IsLoopback()
	requests, cancel := context.WithCancel(context.Background())
	defer cancel()
	s := &shell.Server{
		Store:    st,
		Now:      now,
		Sessions: shell.NewSessions(st, o.https || !loopback),
		Live:     live.Listen(requests, st),
		Proxies:  o.proxies,
	}
	srv := &http.Server{
		Handler:           web.Handler(s),
		ReadHeaderTimeout: 10 * time.Second,
		IdleTimeout:       2 * time.Minute,
		BaseContext:       func(net.Listener) context.Context { return requests },
	}
	fmt.Printf(
		"\n  Gruppo is at http://%s\n  It takes up to %d connections to the database.\n  Ctrl-C stops it.\n\n",
		strings.Replace(l.Addr().String(), "[::]", "localhost", 1),
		o.connections+1,
	)
	go everyMinute(requests, st, now)
	failed := make(chan error, 1)
	go func() { failed <- srv.Serve(l) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	cancel() // ends the live streams
	wait, done := context.WithTimeout(context.Background(), 5*time.Second)
	defer done()
	if err := srv.Shutdown(wait); err != nil {
		slog.Warn("some requests were cut off", "error", err)
	}
	fmt.Println("Stopped.")
	return nil
}

// everyMinute carries out the decisions that hold from a later day, soon after that day begins, ends sessions that
// nobody ended, reminds, and forgets wrong tries that are over.
func everyMinute(ctx context.Context, st *store.Store, now func() time.Time) {
	every := time.NewTicker(time.Minute)
	defer every.Stop()
	for {
		if n, err := st.StepUpDue(ctx, now()); err != nil && ctx.Err() == nil {
			slog.Error("steps up that are due", "error", err)
		} else if n > 0 {
			slog.Info("stepped up", "players", n)
		}
		if n, err := app.EndLeftOpen(ctx, st, now()); err != nil && ctx.Err() == nil {
			slog.Error("sessions that nobody ended", "error", err)
		} else if n > 0 {
			slog.Info("ended by themselves", "sessions", n)
		}
		if err := app.RemindAll(ctx, st, now()); err != nil && ctx.Err() == nil {
			slog.Error("reminders", "error", err)
		}
		if err := st.Purge(ctx, time.Now()); err != nil && ctx.Err() == nil {
			slog.Error("forget wrong tries", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-every.C:
		}
	}
}

// began is when the program was started: a clock that is held begins there, not after the database is up.
var began = time.Now()

// clockFrom is the program's clock: the real one, or one that starts at the given time and runs on.
func clockFrom(start string) (func() time.Time, error) {
	if start == "" {
		return time.Now, nil
	}
	at, err := time.Parse(time.RFC3339, start)
	if err != nil {
		return nil, fmt.Errorf("--clock: %w", err)
	}
	offset := at.Sub(began)
	return func() time.Time { return time.Now().Add(offset) }, nil
}
