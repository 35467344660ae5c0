// Package localpg runs a private PostgreSQL server from Debian's binaries for the demo and the tests:
// loopback only, on a port of its own, with password login, in a folder that belongs to one checkout.
package localpg

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Cluster is a running private server.
type Cluster struct {
	Dir      string // holds data/, port, password and log
	Port     int
	password string
	bin      string
	cred     *syscall.Credential // nil: the server runs as the caller
}

// Database names one database of a cluster by its two logins.
type Database struct {
	Owner string // connection string of the role that owns the tables and migrates them
	App   string // connection string of the role the program works as
}

// ErrNoServer is returned where Debian's server packages are not installed.
var ErrNoServer = errors.New(
	"no PostgreSQL server found under /usr/lib/postgresql; install it with: apt-get install postgresql",
)

// Start makes the cluster under dir when it is not there, starts it, and returns once it answers.
// A server left running by a killed program is taken over. Settings are name=value pairs for this start.
func Start(ctx context.Context, dir string, settings ...string) (*Cluster, error) {
	bin, err := findBin()
	if err != nil {
		return nil, err
	}
	c := &Cluster{bin: bin}
	if c.Dir, err = folder(dir); err != nil {
		return nil, err
	}
	if os.Geteuid() == 0 {
		if c.cred, err = unprivileged(); err != nil {
			return nil, err
		}
	}
	if err := c.ownFolder(); err != nil {
		return nil, err
	}
	unlock, err := c.lock()
	if err != nil {
		return nil, err
	}
	defer unlock()
	if err := c.create(ctx); err != nil {
		return nil, err
	}
	if err := c.run(ctx, settings); err != nil {
		return nil, err
	}
	return c, c.roles(ctx)
}

// folder is where the cluster of a folder is: elsewhere for a checkout under /root, which the server's user could not
// reach.
func folder(dir string) (string, error) {
	dir, err := filepath.Abs(dir)
	if err == nil && os.Geteuid() == 0 && !othersMayEnter(dir) {
		sum := sha256.Sum256([]byte(dir))
		dir = filepath.Join("/var/tmp", "gruppo-"+hex.EncodeToString(sum[:6]))
	}
	return dir, err
}

func findBin() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	sort.Slice(found, func(i, j int) bool { return major(found[i]) > major(found[j]) })
	for _, f := range found {
		if major(f) >= 15 {
			return filepath.Dir(f), nil
		}
	}
	return "", ErrNoServer
}

func major(path string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
	return n
}

// unprivileged is the account the server runs as when we are root: PostgreSQL refuses to run as root.
func unprivileged() (*syscall.Credential, error) {
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, err1 := strconv.ParseUint(u.Uid, 10, 32)
		gid, err2 := strconv.ParseUint(u.Gid, 10, 32)
		if err1 == nil && err2 == nil && uid != 0 {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("no unprivileged account (postgres or nobody) to run PostgreSQL as")
}

func othersMayEnter(dir string) bool {
	for d := filepath.Dir(dir); ; d = filepath.Dir(d) {
		if st, err := os.Stat(d); err == nil && st.Mode().Perm()&0o001 == 0 {
			return false
		}
		if d == "/" {
			return true
		}
	}
}

func (c *Cluster) ownFolder() error {
	if err := os.MkdirAll(c.Dir, 0o755); err != nil {
		return fmt.Errorf("make the database folder: %w", err)
	}
	if c.cred == nil {
		return nil
	}
	return os.Chown(c.Dir, int(c.cred.Uid), int(c.cred.Gid))
}

// lock keeps two programs from creating the same cluster at once.
func (c *Cluster) lock() (func(), error) {
	f, err := os.OpenFile(filepath.Join(c.Dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("lock the database folder: %w", err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX); err != nil {
		return nil, fmt.Errorf("lock the database folder: %w", err)
	}
	return func() { f.Close() }, nil
}

func (c *Cluster) data() string { return filepath.Join(c.Dir, "data") }

func (c *Cluster) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, name), args...)
	cmd.Dir = c.Dir
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8", "TZ=UTC")
	// A group of its own: Ctrl-C in the terminal reaches the program, which then stops the server in order.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.cred}
	return cmd
}

func (c *Cluster) create(ctx context.Context) error {
	pw := filepath.Join(c.Dir, "password")
	if b, err := os.ReadFile(pw); err == nil {
		c.password = strings.TrimSpace(string(b))
	}
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err == nil && c.password != "" {
		return nil
	}
	if err := os.RemoveAll(c.data()); err != nil { // a half-made cluster
		return err
	}
	secret := make([]byte, 18)
	rand.Read(secret)
	c.password = hex.EncodeToString(secret)
	if err := os.WriteFile(pw, []byte(c.password+"\n"), 0o600); err != nil {
		return err
	}
	if c.cred != nil {
		if err := os.Chown(pw, int(c.cred.Uid), int(c.cred.Gid)); err != nil {
			return err
		}
	}
	out, err := c.command(ctx, "initdb", "-D", c.data(), "-U", "gruppo_admin", "-A", "scram-sha-256", "--pwfile", pw,
		"-E", "UTF8", "--locale", "C.UTF-8", "--no-sync").CombinedOutput()
	if err != nil {
		os.RemoveAll(c.data())
		return fmt.Errorf("initdb: %w\n%s", err, out)
	}
	return nil
}

func (c *Cluster) run(ctx context.Context, settings []string) error {
	portFile := filepath.Join(c.Dir, "port")
	if c.command(ctx, "pg_ctl", "-D", c.data(), "status").Run() == nil {
		if b, err := os.ReadFile(portFile); err == nil {
			c.Port, _ = strconv.Atoi(strings.TrimSpace(string(b)))
		}
		if c.Port > 0 && c.ping(ctx) == nil {
			return nil // left running by a program that was killed: take it over
		}
		if err := c.Stop(); err != nil && !c.forgetDead() {
			return err
		}
	}
	var last error
	// the free port can be taken between asking and starting, and a killed server's children take a moment to go
	for try := range 8 {
		time.Sleep(time.Duration(try) * 250 * time.Millisecond)
		port, err := freePort()
		if err != nil {
			return err
		}
		c.Port = port
		opts := []string{"-c", "listen_addresses=127.0.0.1", "-p", strconv.Itoa(port), "-c", "unix_socket_directories="}
		for _, s := range settings {
			opts = append(opts, "-c", s)
		}
		logFile := filepath.Join(c.Dir, "log")
		out, err := c.command(ctx, "pg_ctl", "-D", c.data(), "-w", "-t", "60", "-l", logFile, "-o", strings.Join(opts, " "), "start").
			CombinedOutput()
		if err == nil {
			if err := os.WriteFile(portFile, []byte(strconv.Itoa(port)), 0o644); err != nil {
				return err
			}
			return c.ping(ctx)
		}
		tail, _ := os.ReadFile(logFile)
		last = fmt.Errorf("start PostgreSQL: %w\n%s\n%s", err, out, tail[max(0, len(tail)-800):])
	}
	return last
}

// forgetDead removes the lock file of a server that was killed and whose process nobody has collected yet: it looks
// alive to PostgreSQL's own tools. It reports whether that was so.
func (c *Cluster) forgetDead() bool {
	lock := filepath.Join(c.data(), "postmaster.pid")
	b, err := os.ReadFile(lock)
	if err != nil {
		return os.IsNotExist(err)
	}
	pid, _, _ := strings.Cut(string(b), "\n")
	stat, err := os.ReadFile("/proc/" + pid + "/stat")
	if err == nil && !strings.Contains(string(stat), ") Z ") {
		return false
	}
	return os.Remove(lock) == nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// passwordOf is the password of a role: each has its own, and knowing one tells nothing of another.
func (c *Cluster) passwordOf(role string) string {
	if role == "gruppo_admin" {
		return c.password
	}
	mac := hmac.New(sha256.New, []byte(c.password))
	mac.Write([]byte(role))
	return hex.EncodeToString(mac.Sum(nil))
}

func (c *Cluster) url(role, database string) string {
	u := url.URL{
		Scheme:   "postgres",
		User:     url.UserPassword(role, c.passwordOf(role)),
		Host:     "127.0.0.1:" + strconv.Itoa(c.Port),
		Path:     database,
		RawQuery: "sslmode=disable",
	}
	return u.String()
}

func (c *Cluster) ping(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, c.url("gruppo_admin", "postgres"))
	if err != nil {
		return fmt.Errorf("reach the private PostgreSQL: %w", err)
	}
	return conn.Close(ctx)
}

func (c *Cluster) exec(ctx context.Context, database string, statements ...string) error {
	conn, err := pgx.Connect(ctx, c.url("gruppo_admin", database))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	for _, s := range statements {
		if _, err := conn.Exec(ctx, s); err != nil {
			return fmt.Errorf("%s: %w", strings.SplitN(s, "\n", 2)[0], err)
		}
	}
	return nil
}

// roles makes the two logins every database uses: the owner of the tables and the program's own.
func (c *Cluster) roles(ctx context.Context) error {
	var do strings.Builder
	for _, role := range []string{"gruppo_owner", "gruppo_app"} {
		fmt.Fprintf(
			&do,
			"if not exists (select from pg_roles where rolname = '%[1]s') then create role %[1]s login; end if;\nalter role %[1]s password '%[2]s';\n",
			role,
			c.passwordOf(role),
		)
	}
	return c.exec(ctx, "postgres", "do $$ begin\n"+do.String()+"end $$")
}

// Database returns the logins of the named database, made when it is not there.
func (c *Cluster) Database(ctx context.Context, name string) (Database, error) {
	return c.copyOf(ctx, "template1", name)
}

// copyOf returns the logins of the named database, made as a copy of one to which nobody is connected when it is not
// there.
func (c *Cluster) copyOf(ctx context.Context, from, name string) (Database, error) {
	err := c.exec(
		ctx,
		"postgres",
		fmt.Sprintf(
			"create database %s template %s owner gruppo_owner",
			pgx.Identifier{name}.Sanitize(),
			pgx.Identifier{from}.Sanitize(),
		),
	)
	if err != nil && !strings.Contains(err.Error(), "42P04") { // already there
		return Database{}, fmt.Errorf("create the database: %w", err)
	}
	return Database{Owner: c.url("gruppo_owner", name), App: c.url("gruppo_app", name)}, nil
}

// Name is the database's own.
func (d Database) Name() string {
	return d.Owner[strings.LastIndexByte(d.Owner, '/')+1 : strings.LastIndexByte(d.Owner, '?')]
}

// Drop removes the named database and everyone connected to it.
func (c *Cluster) Drop(ctx context.Context, name string) error {
	return c.exec(
		ctx,
		"postgres",
		fmt.Sprintf("drop database if exists %s with (force)", pgx.Identifier{name}.Sanitize()),
	)
}

// Running finds which of the databases a private PostgreSQL that was started elsewhere serves from the folder, as their
// owner.
func Running(ctx context.Context, dir string, names ...string) (owners []string, err error) {
	c := &Cluster{}
	if c.Dir, err = folder(dir); err != nil {
		return nil, err
	}
	password, err := os.ReadFile(filepath.Join(c.Dir, "password"))
	if err != nil {
		return nil, err
	}
	port, err := os.ReadFile(filepath.Join(c.Dir, "port"))
	if err != nil {
		return nil, err
	}
	c.password = strings.TrimSpace(string(password))
	if c.Port, err = strconv.Atoi(strings.TrimSpace(string(port))); err != nil {
		return nil, err
	}
	for _, name := range names {
		owner := c.url("gruppo_owner", name)
		conn, err := pgx.Connect(ctx, owner)
		var pg *pgconn.PgError
		if errors.As(err, &pg) && pg.Code == "3D000" { // there is no such database here
			continue
		}
		if err != nil {
			return nil, err
		}
		owners = append(owners, owner)
		if err := conn.Close(ctx); err != nil {
			return nil, err
		}
	}
	return owners, nil
}

// Stop ends the server after its open transactions were rolled back and everything committed is on disk.
func (c *Cluster) Stop() error {
	out, err := c.command(context.Background(), "pg_ctl", "-D", c.data(), "-m", "fast", "-w", "stop").CombinedOutput()
	if err != nil {
		return fmt.Errorf("stop PostgreSQL: %w\n%s", err, out)
	}
	return nil
}
