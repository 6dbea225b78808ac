// Package testdb gives each test a database of its own on a real PostgreSQL.
package testdb

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/store"
)

var (
	once       sync.Once
	owner, app string
	failed     error
)

// addresses come from make test; without it the project's own script starts a private PostgreSQL.
func addresses() (string, string, error) {
	once.Do(func() {
		owner, app = os.Getenv("HODOS_OWNER_DATABASE_URL"), os.Getenv("HODOS_DATABASE_URL")
		if owner != "" && app != "" {
			return
		}
		_, here, _, _ := runtime.Caller(0)
		script := filepath.Join(filepath.Dir(here), "..", "..", "scripts", "postgres.sh")
		// packages are tested side by side: one of them starts it, the others wait
		lock, err := os.OpenFile(filepath.Join(os.TempDir(), fmt.Sprintf("hodos-test-pg-%d.start", os.Getuid())), os.O_CREATE|os.O_RDWR, 0o600)
		if err == nil {
			defer lock.Close()
			err = syscall.Flock(int(lock.Fd()), syscall.LOCK_EX)
		}
		// a file rather than a pipe: the server that is started would keep a pipe open
		var said *os.File
		if err == nil {
			said, err = os.CreateTemp("", "hodos-test-pg")
		}
		if err == nil {
			defer os.Remove(said.Name())
			defer said.Close()
			cmd := exec.Command(script, "start", "test-pg")
			cmd.Env = append(os.Environ(), "HODOS_PG_PORT=54810")
			cmd.Stdout = said
			err = cmd.Run()
		}
		var out []byte
		if err == nil {
			out, err = os.ReadFile(said.Name())
		}
		if err != nil {
			failed = fmt.Errorf("no PostgreSQL for the tests (make test installs it): %w", err)
			return
		}
		for _, m := range regexp.MustCompile(`export (\w+)='([^']+)'`).FindAllStringSubmatch(string(out), -1) {
			if m[1] == "HODOS_OWNER_DATABASE_URL" {
				owner = m[2]
			} else {
				app = m[2]
			}
		}
	})
	return owner, app, failed
}

// New makes a migrated database and drops it with the test. It returns the addresses of the owner and the application.
func New(t testing.TB) (ownerURL, appURL string) {
	t.Helper()
	o, a, err := addresses()
	require.NoError(t, err)
	u, err := url.Parse(a)
	require.NoError(t, err)
	u.Path = fmt.Sprintf("/hodos_test_%d_%d", os.Getpid(), time.Now().UnixNano())
	ctx := context.Background()
	require.NoError(t, store.Migrate(ctx, o, u.String()))
	t.Cleanup(func() { _ = store.Drop(ctx, o, u.String()) })
	return o, u.String()
}

// Open makes a database and connects the application role.
func Open(t testing.TB) *store.Store {
	t.Helper()
	_, a := New(t)
	s, err := store.Open(a)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// templates are databases of this process that others are copied from, by name.
var templates struct {
	sync.Mutex
	made map[string]string
}

// Copy opens a database of its own that holds what fill puts into one, which is done once a process: copying takes a fraction of the
// time. Rights on the database itself are not copied.
func Copy(t testing.TB, name string, fill func(*store.Store) error) *store.Store {
	t.Helper()
	o, a, err := addresses()
	require.NoError(t, err)
	ctx := context.Background()
	admin, err := sql.Open("pgx", o)
	require.NoError(t, err)
	defer admin.Close()
	u, err := url.Parse(a)
	require.NoError(t, err)
	from := template(t, o, *u, name, fill)
	to := fmt.Sprintf("hodos_test_%d_%d", os.Getpid(), time.Now().UnixNano())
	_, err = admin.ExecContext(ctx, fmt.Sprintf(`CREATE DATABASE %q TEMPLATE %q`, to, from))
	require.NoError(t, err)
	u.Path = "/" + to
	t.Cleanup(func() { _ = store.Drop(ctx, o, u.String()) })
	s, err := store.Open(u.String())
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// template is the name of the database to copy from. It stays until the server of the tests is stopped.
func template(t testing.TB, owner string, app url.URL, name string, fill func(*store.Store) error) string {
	t.Helper()
	templates.Lock()
	defer templates.Unlock()
	if made, ok := templates.made[name]; ok {
		return made
	}
	// a process of this number may have been here before
	made := fmt.Sprintf("hodos_template_%d_%d_%s", os.Getpid(), time.Now().UnixNano(), name)
	app.Path = "/" + made
	require.NoError(t, store.Migrate(context.Background(), owner, app.String()))
	s, err := store.Open(app.String())
	require.NoError(t, err)
	err = fill(s)
	require.NoError(t, errors.Join(err, s.Close()))
	if templates.made == nil {
		templates.made = map[string]string{}
	}
	templates.made[name] = made
	return made
}
