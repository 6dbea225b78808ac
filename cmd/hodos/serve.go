package main

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"regexp"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
	"hodos/core/units"
	"hodos/demo"
	"hodos/mail"
	"hodos/night"
	"hodos/server"
	"hodos/standin"
	"hodos/store"
	"hodos/web"
)

// wallClock is the work clock of a real server: the date of each site and office.
type wallClock struct{}

func (wallClock) Now(context.Context) (casework.Moment, error) { return casework.At(time.Now()), nil }

func setting(name, otherwise string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return otherwise
}

// jobOptions reads how this server works the job queue.
func jobOptions() (*night.Options, error) {
	o := &night.Options{}
	if text := os.Getenv("HODOS_JOB_RESCUE"); text != "" {
		d, err := time.ParseDuration(text)
		if err != nil || d < time.Second {
			return nil, refused{fmt.Errorf("HODOS_JOB_RESCUE: %q is not a duration of a second and more", text)}
		}
		o.Rescue = d
	}
	if text := os.Getenv("HODOS_JOB_WORKERS"); text != "" {
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > 64 {
			return nil, refused{fmt.Errorf("HODOS_JOB_WORKERS: %q is not a number from 1 to 64", text)}
		}
		o.Workers = n
	}
	return o, nil
}

func addresses() (owner, app string, err error) {
	owner, app = os.Getenv("HODOS_OWNER_DATABASE_URL"), os.Getenv("HODOS_DATABASE_URL")
	if app == "" {
		return "", "", errors.New("HODOS_DATABASE_URL is not set (docs/operating.md)")
	}
	return owner, app, nil
}

func migrate([]string) error {
	owner, app, err := addresses()
	if err != nil {
		return err
	}
	if owner == "" {
		return errors.New("HODOS_OWNER_DATABASE_URL is not set (docs/operating.md)")
	}
	return store.Migrate(context.Background(), owner, app)
}

// opened migrates where the owner's address is given, and connects.
func opened(ctx context.Context) (*store.Store, error) {
	owner, app, err := addresses()
	if err != nil {
		return nil, err
	}
	if owner != "" {
		if err := store.Migrate(ctx, owner, app); err != nil {
			return nil, err
		}
	}
	return store.Open(app)
}

func untilStopped() (context.Context, context.CancelFunc) {
	return signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
}

func serve(args []string) error {
	fs := flag.NewFlagSet("serve", flag.ContinueOnError)
	listen := fs.String("listen", setting("HODOS_LISTEN", "127.0.0.1:8470"), "address to listen on")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	ctx, stop := untilStopped()
	defer stop()
	jobs, err := jobOptions()
	if err != nil {
		return err
	}
	front, err := proxies()
	if err != nil {
		return err
	}
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	post, err := mailServer()
	if err != nil {
		return err
	}
	log := slog.New(slog.NewJSONHandler(os.Stderr, nil))
	log.Info("listening", "address", *listen)
	return server.New(server.Options{
		Store:   s,
		Clock:   wallClock{},
		Weather: nil,
		Web:     web.Dist(),
		Log:     log,
		SecureCookies: setting(
			"HODOS_SECURE_COOKIES",
			"true",
		) != "false",
		Jobs:    jobs,
		Proxies: front,
		URL:     os.Getenv("HODOS_URL"),
		Mail:    post,
	}).Run(ctx, *listen)
}

// mailServer is where letters go: nil where no mail server is named, and links are handed over by hand.
func mailServer() (account.Mail, error) {
	address := os.Getenv("HODOS_MAIL_SERVER")
	if address == "" {
		return nil, nil
	}
	m, err := mail.New(address, os.Getenv("HODOS_MAIL_FROM"))
	if err != nil {
		return nil, refused{fmt.Errorf("HODOS_MAIL_SERVER and HODOS_MAIL_FROM: %w", err)}
	}
	return m, nil
}

func demonstrate(args []string) error {
	fs := flag.NewFlagSet("demo", flag.ContinueOnError)
	listen := fs.String("listen", "127.0.0.1:8470", "address to listen on, loopback only")
	fresh := fs.Bool("fresh", false, "start over with the first day")
	sites := fs.Int("sites", 0, "when the demo is loaded, give the firm so many sites more, to see a large firm")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	if h, _, err := net.SplitHostPort(*listen); err != nil || net.ParseIP(h) == nil || !net.ParseIP(h).IsLoopback() {
		return refused{fmt.Errorf("the demo listens on loopback only, not on %q", *listen)}
	}
	jobs, err := jobOptions()
	if err != nil {
		return err
	}
	ctx, stop := untilStopped()
	defer stop()
	if *fresh {
		owner, app, err := addresses()
		if err != nil {
			return err
		}
		if err := store.Drop(ctx, owner, app); err != nil {
			return err
		}
	}
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	loaded, err := demo.Load(ctx, s)
	if err != nil {
		return fmt.Errorf("load the demo: %w", err)
	}
	if loaded && *sites != 0 {
		if err := demo.Enlarge(ctx, s, *sites); err != nil {
			return err
		}
	}
	if loaded {
		fmt.Println("hodos: the demo firm has been loaded")
	}
	srv := server.New(server.Options{Store: s, Clock: demo.Clock{Store: s}, Weather: demo.Sky{}, Laboratory: standin.Laboratory{},
		Web: web.Dist(), Log: slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn})), DemoPeople: demo.People,
		DemoFirm: demo.Firm, Jobs: jobs, Mail: &standin.Mailbox{}, URL: "http://" + *listen})
	l, err := net.Listen("tcp", *listen)
	if err != nil {
		return fmt.Errorf("the port is taken: %w", err)
	}
	_ = l.Close()
	fmt.Printf("\n  Hodos is ready:  http://%s\n\n  Stop with Ctrl-C. The data stay; make demo-fresh starts over.\n\n", *listen)
	return srv.Run(ctx, *listen)
}

// newFirm makes a firm with its first owner; the password comes from standard input.
func newFirm(args []string) error {
	fs := flag.NewFlagSet("new-firm", flag.ContinueOnError)
	name := fs.String("name", "", "name of the firm")
	owner := fs.String("owner", "", "name of the first owner")
	email := fs.String("email", "", "the owner's address")
	country := fs.String("country", "US", "ISO 3166 code")
	currency := fs.String("currency", "USD", "ISO 4217 code")
	timezone := fs.String("timezone", "UTC", "time zone of the office, such as America/New_York")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	if *name == "" || *owner == "" || *email == "" {
		return refused{errors.New("usage: hodos new-firm --name NAME --owner PERSON --email ADDRESS, the password on standard input")}
	}
	line, _ := bufio.NewReader(os.Stdin).ReadString('\n')
	password := strings.TrimRight(line, "\r\n")
	if err := account.Check(password, *name, *owner, *email, "hodos"); err != nil {
		return refused{fmt.Errorf("the password %w", err)}
	}
	if !plainAddress.MatchString(*email) {
		return refused{fmt.Errorf("--email: %q is not an address", *email)}
	}
	if _, err := time.LoadLocation(*timezone); err != nil || *timezone == "" {
		return refused{fmt.Errorf("--timezone: %q is not an IANA time zone such as America/New_York", *timezone)}
	}
	ctx := context.Background()
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	firm, err := uuid.NewV7()
	if err != nil {
		return err
	}
	person, err := uuid.NewV7()
	if err != nil {
		return err
	}
	return s.InFirm(ctx, firm, func(tx *gorm.DB) error {
		if err := tx.Create(
			&store.Firm{ID: firm, Name: *name, Country: *country, Currency: *currency, DateForm: "dmy", UnitSystem: "metric", Timezone: *timezone,
				Version: 1},
		).Error; err != nil {
			return err
		}
		return tx.Create(&store.Person{ID: person, FirmID: firm, Name: *owner, Email: strings.ToLower(*email), Role: "owner",
			PasswordHash: account.Hash(password), Active: true, Version: 1}).Error
	})
}

// plainAddress is what the API takes as an email address.
var plainAddress = regexp.MustCompile(`^[^\s<>@"']+@[^\s<>@"']+\.[^\s<>@"']+$`)

// setPassword gives somebody a new password, read from standard input: for when no owner of a firm can sign in any more.
func setPassword(args []string) error {
	fs := flag.NewFlagSet("set-password", flag.ContinueOnError)
	email := fs.String("email", "", "the person's address")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	if *email == "" {
		return refused{errors.New("usage: hodos set-password --email ADDRESS, the password on standard input")}
	}
	line, _ := bufio.NewReader(os.Stdin).ReadString('\n')
	ctx := context.Background()
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	err = account.Reset(ctx, s, *email, strings.TrimRight(line, "\r\n"))
	var weak account.Weak
	if errors.As(err, &weak) {
		return refused{fmt.Errorf("the password %w", err)}
	}
	return err
}

// proxies reads the networks of the proxies in front from HODOS_TRUSTED_PROXIES: addresses or CIDR, with commas.
func proxies() ([]*net.IPNet, error) {
	var out []*net.IPNet
	for _, text := range strings.Split(os.Getenv("HODOS_TRUSTED_PROXIES"), ",") {
		text = strings.TrimSpace(text)
		if text == "" {
			continue
		}
		cidr := text
		if ip := net.ParseIP(text); ip != nil && ip.To4() != nil {
			cidr += "/32"
		} else if ip != nil {
			cidr += "/128"
		}
		_, n, err := net.ParseCIDR(cidr)
		if err != nil {
			return nil, refused{fmt.Errorf("HODOS_TRUSTED_PROXIES: %q is no address and no network", text)}
		}
		out = append(out, n)
	}
	return out, nil
}

func openapi([]string) error {
	b, err := server.New(server.Options{Clock: wallClock{}}).OpenAPI()
	if err != nil {
		return err
	}
	fmt.Println(string(b))
	return nil
}

// unitTable prints the units and which stand for each other, for the front end: there is one table of them.
func unitTable([]string) error {
	type unit struct {
		Label  string  `json:"label"`
		Factor float64 `json:"factor"`
		Offset float64 `json:"offset"`
		Of     string  `json:"of"` // what it measures
	}
	out := struct {
		Units map[string]unit   `json:"units"`
		US    map[string]string `json:"us"`
	}{map[string]unit{}, map[string]string{}}
	for _, u := range units.All() {
		out.Units[u.ID] = unit{u.Label, u.Factor, u.Offset, string(u.Dimension)}
	}
	for _, p := range units.Pairs() {
		out.US[p[0]] = p[1]
	}
	b, err := json.MarshalIndent(out, "", "  ")
	if err == nil {
		fmt.Println(string(b))
	}
	return err
}
