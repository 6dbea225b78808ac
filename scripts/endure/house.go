package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// house is a server and its database, in a folder that goes with them.
type house struct {
	dir     string
	mounted bool // the folder is a disk of its own
	owner   string
	app     string
	listen  string
	server  *exec.Cmd
}

// room of the disk: the database with the demo takes about a third of it, and starting one asks for 600 MB.
const room = "900m"

func build(ctx context.Context) (*house, error) {
	dir, err := os.MkdirTemp("", "hodos-endure-")
	if err != nil {
		return nil, err
	}
	if err := os.Chmod(dir, 0o755); err != nil { // the database's own user goes through it
		return nil, err
	}
	h := &house{dir: dir}
	if os.Getuid() == 0 {
		h.mounted = syscall.Mount("tmpfs", dir, "tmpfs", 0, "size="+room+",mode=0755") == nil
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	h.listen = l.Addr().String()
	if err := l.Close(); err != nil {
		return nil, err
	}
	if err := h.openDatabase(ctx); err != nil {
		h.leave()
		return nil, err
	}
	if err := h.openServer(ctx); err != nil {
		h.leave()
		return nil, err
	}
	return h, nil
}

func (h *house) script(ctx context.Context, verb string) ([]byte, error) {
	cmd := exec.CommandContext(ctx, "scripts/postgres.sh", verb, "endure-pg")
	cmd.Env = append(os.Environ(), "HODOS_STATE="+h.dir, "HODOS_PG_PORT=54930")
	cmd.Stderr = os.Stderr
	return cmd.Output()
}

var address = regexp.MustCompile(`export (\w+)='([^']+)'`)

// openDatabase starts the database where it does not run.
func (h *house) openDatabase(ctx context.Context) error {
	said, err := h.script(ctx, "start")
	if err != nil {
		return fmt.Errorf("the database does not start: %w", err)
	}
	for _, m := range address.FindAllStringSubmatch(string(said), -1) {
		switch m[1] {
		case "HODOS_OWNER_DATABASE_URL":
			h.owner = m[2]
		case "HODOS_DATABASE_URL":
			h.app = m[2]
		}
	}
	if h.owner == "" || h.app == "" {
		return errors.New("the database does not say where it is")
	}
	return nil
}

// openServer starts the server and waits until it is ready.
func (h *house) openServer(ctx context.Context) error {
	log, err := os.OpenFile(filepath.Join(os.TempDir(), "hodos-endure.log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	h.server = exec.Command("bin/hodos", "demo", "--listen", h.listen)
	h.server.Env = append(os.Environ(), "HODOS_OWNER_DATABASE_URL="+h.owner, "HODOS_DATABASE_URL="+h.app)
	h.server.Stdout, h.server.Stderr = log, log
	if err := h.server.Start(); err != nil {
		return err
	}
	for began := time.Now(); time.Since(began) < time.Minute; {
		asked, cancel := context.WithTimeout(ctx, time.Second)
		req, err := http.NewRequestWithContext(asked, "GET", "http://"+h.listen+"/readyz", nil)
		if err != nil {
			cancel()
			return err
		}
		res, err := http.DefaultClient.Do(req)
		cancel()
		if err == nil {
			_ = res.Body.Close()
			if res.StatusCode == http.StatusOK {
				return nil
			}
		}
		if err := wait(ctx, 50*time.Millisecond); err != nil {
			return err
		}
	}
	return fmt.Errorf("the server is not ready after a minute: %s", log.Name())
}

func (h *house) killServer() {
	_ = h.server.Process.Kill()
	_ = h.server.Wait()
}

// processes of the database, the one that watches over the others first.
func (h *house) processes() (ids []int, err error) {
	text, err := os.ReadFile(filepath.Join(h.dir, "endure-pg", "data", "postmaster.pid"))
	if err != nil {
		return nil, err
	}
	first, _, _ := strings.Cut(string(text), "\n")
	top, err := strconv.Atoi(strings.TrimSpace(first))
	if err != nil {
		return nil, err
	}
	ids = append(ids, top)
	children, err := os.ReadFile(fmt.Sprintf("/proc/%d/task/%d/children", top, top))
	if err != nil {
		return nil, err
	}
	for _, c := range strings.Fields(string(children)) {
		if id, err := strconv.Atoi(c); err == nil {
			ids = append(ids, id)
		}
	}
	return ids, nil
}

func (h *house) signal(s syscall.Signal) error {
	ids, err := h.processes()
	if err != nil {
		return err
	}
	for _, id := range ids {
		if err := syscall.Kill(id, s); err != nil && !errors.Is(err, syscall.ESRCH) {
			return err
		}
	}
	return nil
}

// killServers ends the server so many times and starts it again at once.
func (h *house) killServers(ctx context.Context, times int, pause func(least, most time.Duration) error) error {
	for range times {
		h.killServer()
		if err := h.openServer(ctx); err != nil {
			return err
		}
		if err := pause(500*time.Millisecond, 3*time.Second); err != nil {
			return err
		}
	}
	return nil
}

// killDatabases ends the database so many times, with all that it had not written, and starts it again after a while.
func (h *house) killDatabases(ctx context.Context, times int, pause func(least, most time.Duration) error) error {
	for range times {
		if err := h.signal(syscall.SIGKILL); err != nil {
			return err
		}
		if err := pause(time.Second, 3*time.Second); err != nil {
			return err
		}
		if err := h.openDatabase(ctx); err != nil {
			return err
		}
		if err := pause(3*time.Second, 6*time.Second); err != nil {
			return err
		}
	}
	return nil
}

// heldStill stops every process of the database for a while, as a machine that is out of breath does.
func (h *house) heldStill(ctx context.Context, long time.Duration) error {
	if err := h.signal(syscall.SIGSTOP); err != nil {
		return err
	}
	stood := wait(ctx, long)
	if err := errors.Join(h.signal(syscall.SIGCONT), stood); err != nil {
		return err
	}
	return wait(ctx, 5*time.Second)
}

// full fills the disk for a while, and starts the database again where it gave up. Without a disk of its own it is left out.
func (h *house) full(ctx context.Context, long time.Duration) error {
	if !h.mounted {
		fmt.Println("a full disk: left out, for only root can mount one")
		return nil
	}
	ballast := filepath.Join(h.dir, "ballast")
	for began := time.Now(); time.Since(began) < long; {
		if err := fill(ballast); err != nil {
			return err
		}
		if err := wait(ctx, time.Second); err != nil {
			return err
		}
	}
	if err := os.Remove(ballast); err != nil {
		return err
	}
	if err := wait(ctx, 3*time.Second); err != nil {
		return err
	}
	if err := h.openDatabase(ctx); err != nil {
		return err
	}
	return wait(ctx, 8*time.Second)
}

// fill writes until nothing more fits.
func fill(path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer f.Close()
	for _, size := range []int{1 << 20, 4096} {
		block := make([]byte, size)
		for {
			if _, err := f.Write(block); errors.Is(err, syscall.ENOSPC) {
				break
			} else if err != nil {
				return err
			}
		}
	}
	return nil
}

// leave ends everything and takes it away.
func (h *house) leave() {
	if h.server != nil && h.server.Process != nil {
		h.killServer()
	}
	if _, err := h.script(context.Background(), "remove"); err != nil {
		fmt.Fprintln(os.Stderr, "endure: the database is left running:", err)
		return
	}
	if h.mounted {
		if err := syscall.Unmount(h.dir, 0); err != nil {
			fmt.Fprintln(os.Stderr, "endure:", h.dir, err)
		}
	}
	_ = os.RemoveAll(h.dir)
}
