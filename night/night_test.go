package night_test

import (
	"context"
	"errors"
	"log/slog"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/night"
	"hodos/standin"
	"hodos/store"
)

// firm is the demo's database, with a mailbox and a clock that the test moves.
type firm struct {
	*testing.T
	store *store.Store
	mail  *standin.Mailbox
	now   time.Time
	watch night.Watcher
}

func newFirm(t *testing.T) *firm {
	f := &firm{T: t, mail: &standin.Mailbox{}, now: time.Date(2026, 8, 24, 10, 0, 0, 0, time.UTC)}
	f.store = testdb.Copy(t, "demo", func(s *store.Store) error {
		_, err := demo.Load(context.Background(), s)
		return err
	})
	f.watch = night.Watcher{Store: f.store, Weather: demo.Sky{}, Now: func() time.Time { return f.now }, Mail: f.mail,
		URL: "https://hodos.example", Log: slog.New(slog.DiscardHandler)}
	return f
}

func (f *firm) do(what string, args ...any) {
	f.Helper()
	require.NoError(f, f.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error { return tx.Exec(what, args...).Error }))
}

// wanted lets some roles have the letter, and no one else.
func (f *firm) wanted(roles ...string) {
	f.do("UPDATE people SET morning_letter = role IN ?", append(roles, ""))
}

func (f *firm) deliver(now casework.Moment) int {
	f.Helper()
	sent, err := f.watch.Deliver(context.Background(), now)
	require.NoError(f, err)
	return sent
}

func TestEverybodyGetsTheirOwnMorning(t *testing.T) {
	f := newFirm(t)
	today := casework.OnDay(demo.Start)
	f.wanted()
	require.Zero(t, f.deliver(today), "nobody wants one")
	f.wanted("technician", "office")
	require.Equal(t, 2, f.deliver(today))
	require.Zero(t, f.deliver(today), "once a day")
	var tech, office string
	for _, l := range f.mail.Letters() {
		if strings.Contains(l.Text, "Good morning Tam") {
			tech = l.Subject + "\n" + l.Text
		} else {
			office = l.Text
		}
	}
	require.Contains(t, tech, "visits")
	require.Contains(t, tech, "14 Quill Lane: Back lawn browning in spite of watering")
	require.Contains(t, tech, "Side gate, latch sticks.")
	require.Contains(t, tech, "Expected 09:00 to 11:00", "somebody waits on Larkspur Drive")
	require.Contains(t, tech, "Verge by the path bare again (due 21 Aug)")
	require.NotContains(t, tech, "Clients have told us of", "that is the office's")
	require.NotContains(t, tech, "8 Bracken Walk", "not before Wednesday")
	require.Contains(t, office, "Clients have told us of")
	require.NotContains(t, office, "14 Quill Lane: Back lawn browning", "it is not theirs to drive")
	require.Contains(t, office, "https://hodos.example/")

	require.Equal(t, 2, f.deliver(casework.OnDay(demo.Start.AddDate(0, 0, 1))), "the next day the next")
	require.Zero(t, f.deliver(today), "and no day twice")
	f.do("UPDATE visits SET closed_on = due_on, started_on = due_on")
	f.do("UPDATE jobs SET state = 'dropped'")
	f.wanted("technician")
	require.Zero(t, f.deliver(casework.OnDay(demo.Start.AddDate(0, 0, 2))), "nothing to say: no letter")
	f.do("UPDATE people SET licence_until = ? WHERE role = 'technician'", demo.Start.AddDate(0, 0, 20))
	require.Equal(t, 1, f.deliver(casework.OnDay(demo.Start.AddDate(0, 0, 3))), "but that the licence ends")
}

// In real time the letter goes out in the morning of the office, wherever that is.
func TestTheMorningIsThatOfTheOffice(t *testing.T) {
	f := newFirm(t)
	f.wanted("technician")
	f.do("UPDATE firms SET timezone = 'America/Denver'") // six hours behind UTC in August
	at := func(hour, minute int) casework.Moment {
		f.now = time.Date(2026, 8, 24, hour, minute, 0, 0, time.UTC)
		return casework.At(f.now)
	}
	require.Zero(t, f.deliver(at(10, 50)), "ten to five")
	require.Equal(t, 1, f.deliver(at(11, 10)))
	require.Zero(t, f.deliver(at(11, 20)))
	f.do("DELETE FROM morning_letters")
	require.Zero(t, f.deliver(at(18, 10)), "no letter of the morning in the afternoon")
}

type broken struct{ tried int }

func (b *broken) Send(context.Context, string, string, string) error {
	b.tried++
	return errors.New("the mail server is away")
}

func TestALetterThatFailsIsTriedAgain(t *testing.T) {
	f := newFirm(t)
	f.wanted("technician")
	away := &broken{}
	f.watch.Mail = away
	today := casework.OnDay(demo.Start)
	require.Zero(t, f.deliver(today))
	require.Equal(t, 1, away.tried)
	require.Zero(t, f.deliver(today))
	require.Equal(t, 1, away.tried, "not at once: another server may be at it")
	f.now = f.now.Add(16 * time.Minute)
	f.watch.Mail = f.mail
	require.Equal(t, 1, f.deliver(today))
	f.now = f.now.Add(16 * time.Minute)
	require.Zero(t, f.deliver(today), "sent is sent")
	f.watch.Mail = nil
	require.Zero(t, f.deliver(casework.OnDay(demo.Start.AddDate(0, 0, 1))), "a server without mail keeps quiet")
}

// The first firm asked has a date that no calendar has: the others have their letters all the same, and what failed is said.
func TestAFirmThatFailsHoldsUpNobodyElsesLetters(t *testing.T) {
	f := newFirm(t)
	f.wanted("technician")
	first := uuid.UUID{15: 1}
	require.NoError(t, f.store.InFirm(context.Background(), first, func(tx *gorm.DB) error {
		if err := tx.Create(&store.Firm{ID: first, Name: "Early", Country: "US", Currency: "USD", DateForm: "mdy", UnitSystem: "us",
			Timezone: "America/Chicago", Version: 1}).Error; err != nil {
			return err
		}
		return tx.Exec(`INSERT INTO people (id, firm_id, name, email, role, password_hash, morning_letter, licence_until)
			VALUES (?, ?, 'E', 'e@early.example', 'technician', '', true, 'infinity')`, uuid.UUID{15: 2}, first).Error
	}))
	sent, err := f.watch.Deliver(context.Background(), casework.OnDay(demo.Start))
	require.ErrorContains(t, err, first.String())
	require.Equal(t, 1, sent)
	require.Len(t, f.mail.Letters(), 1)
}

// A round has the day of each firm's office: late in the evening of the Pacific it is not tomorrow yet.
func TestEachFirmHasItsOwnDay(t *testing.T) {
	f := newFirm(t)
	ctx := context.Background()
	other := uuid.Must(uuid.NewV7())
	require.NoError(t, f.store.InFirm(ctx, other, func(tx *gorm.DB) error {
		client, site := uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7())
		for _, row := range []any{
			&store.Firm{ID: other, Name: "Far West", Country: "US", Currency: "USD", DateForm: "mdy", UnitSystem: "us",
				Timezone: "Pacific/Honolulu", Version: 1},
			&store.Client{ID: client, FirmID: other, Name: "C", Version: 1},
			&store.Site{ID: site, FirmID: other, ClientID: client, Name: "S", Latitude: 21, Longitude: -157, Timezone: "Pacific/Honolulu",
				Version: 1},
			&store.Zone{ID: uuid.Must(uuid.NewV7()), FirmID: other, SiteID: site, Name: "Z", AreaM2: 100, AreaError: .1,
				Species: store.JSON(`["zoysiagrass"]`), TargetCover: .9, Policy: store.JSON("{}"), Version: 1},
		} {
			if err := tx.Create(row).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	f.do("UPDATE firms SET timezone = 'Pacific/Auckland' WHERE id = ?", demo.Firm)
	days := func(now casework.Moment) map[uuid.UUID]string {
		out := map[uuid.UUID]string{}
		require.NoError(t, f.store.Shared(ctx).Transaction(func(tx *gorm.DB) error {
			parts, err := f.watch.Plan(ctx, tx, now, "", nil)
			for _, p := range parts {
				out[p.Firm] = p.Day
			}
			return err
		}))
		return out
	}
	evening := time.Date(2026, 8, 25, 6, 0, 0, 0, time.UTC) // eight in the evening in Honolulu, six in the evening in Auckland
	require.Equal(t, map[uuid.UUID]string{other: "2026-08-24", demo.Firm: "2026-08-25"}, days(casework.At(evening)))
	require.Equal(t, map[uuid.UUID]string{other: "2026-08-25", demo.Firm: "2026-08-26"}, days(casework.At(evening.Add(8*time.Hour))))
	require.Equal(t, map[uuid.UUID]string{other: "2026-08-24", demo.Firm: "2026-08-24"}, days(casework.OnDay(demo.Start)), "a simulated day is the same everywhere")
}

// What a client told is judged anew by the weather of each day; the office hears once of what has become urgent.
func TestAWaitingCallIsJudgedAnew(t *testing.T) {
	f := newFirm(t)
	ctx := context.Background()
	within := func() (of map[string]int) {
		of = map[string]int{}
		require.NoError(t, f.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			var list []store.Call
			err := tx.Find(&list).Error
			for _, c := range list {
				of[c.Within]++
			}
			return err
		}))
		return of
	}
	run := func() {
		f.now = f.now.Add(time.Hour)
		require.NoError(t, f.watch.Night(ctx, casework.OnDay(demo.Start)))
	}
	before := within()
	require.Positive(t, before["today"])
	run()
	require.Equal(t, before, within(), "the same weather says the same")
	require.Empty(t, f.mail.Letters(), "no news")
	f.do("UPDATE calls SET within = 'next-tour', per_day = 0, because = '[]' WHERE within = 'today'")
	run()
	require.Equal(t, before, within())
	letters := f.mail.Letters()
	require.Len(t, letters, before["today"])
	require.Equal(t, "office@averley.example", letters[0].To)
	require.Contains(t, letters[0].Subject, "Today or tomorrow: 27 Stonecrop Rise")
	require.Contains(t, letters[0].Text, "https://hodos.example/calls/")
	run()
	require.Len(t, f.mail.Letters(), before["today"], "said once")
	f.do("UPDATE calls SET within = 'next-tour', aside_at = now(), aside_by = ?", demo.People["office"])
	run()
	require.Equal(t, map[string]int{"next-tour": before["today"] + before["this-week"] + before["next-tour"]}, within(), "what was put aside is")
}

// A diagnosis whose file cannot be read is looked back upon once, with nothing seen, and holds up nobody.
func TestAnUnreadableCaseHoldsUpNobody(t *testing.T) {
	f := newFirm(t)
	ctx := context.Background()
	count := func(where string) (n int64) {
		require.NoError(t, f.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			return tx.Model(&store.Hindsight{}).Where(where).Count(&n).Error
		}))
		return n
	}
	all := count("true")
	require.Positive(t, all)
	require.Zero(t, count("checks = '[]'"))
	zone, visit := uuid.Nil, uuid.Nil
	require.NoError(t, f.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		var v store.Visit
		if err := tx.First(&v, "zone_id IS NOT NULL AND NOT EXISTS (SELECT FROM diagnoses d WHERE d.visit_id = visits.id)").Error; err != nil {
			return err
		}
		zone, visit = *v.ZoneID, v.ID
		return tx.Create(&store.Diagnosis{ID: uuid.Must(uuid.NewV7()), FirmID: demo.Firm, VisitID: visit, ZoneID: zone, Knowledge: "old",
			Leading: "rust", Probability: .6, CaseFile: store.JSON(`{"from":"an older program"}`), Result: store.JSON("{}"),
			GivenOn: demo.Start.AddDate(0, 0, -30), PersonID: demo.People["technician"], RecordedAt: demo.Start}).Error
	}))
	require.NoError(t, f.watch.Night(ctx, casework.OnDay(demo.Start)))
	require.Equal(t, all+1, count("true"))
	require.Equal(t, int64(1), count("checks = '[]'"))
	f.do("UPDATE hindsights SET knowledge = 'of last year', checks = '[]'")
	require.NoError(t, f.watch.Night(ctx, casework.OnDay(demo.Start)))
	require.Equal(t, int64(1), count("checks = '[]'"), "other tables: looked back upon anew")
}
