package server

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/units"
	"hodos/core/weather"
	"hodos/store"
)

// Messages are the letters that the office may send now.
type Messages struct {
	Mail      bool             `json:"mail" doc:"this server sends mail"`
	Stations  []MessageStation `json:"stations" nullable:"false" doc:"the firm's, the one with most sites first"`
	StationID *uuid.UUID       `json:"station_id,omitempty" doc:"the one whose weather is looked at"`
	Known     bool             `json:"known" doc:"there is a forecast"`
	Drafts    []Draft          `json:"drafts" nullable:"false"`
}

// MessageStation is a weather station with the firm's sites under it.
type MessageStation struct {
	ID    uuid.UUID `json:"id"`
	Name  string    `json:"name"`
	Sites int64     `json:"sites"`
}

// Draft is a letter that is not sent yet. Clients whose lawns need the same words share one.
type Draft struct {
	Key        string      `json:"key" doc:"tells drafts apart"`
	Kind       string      `json:"kind" enum:"hot,wet,frost,dry,visit"`
	From       string      `json:"from" format:"date"`
	To         string      `json:"to" format:"date"`
	For        string      `json:"for" doc:"whom it is for, in words"`
	Subject    string      `json:"subject"`
	Text       string      `json:"text" doc:"without greeting and signature"`
	VisitID    *uuid.UUID  `json:"visit_id,omitempty"`
	Recipients []Recipient `json:"recipients" nullable:"false"`
}

// Recipient is a client to whom a letter would go.
type Recipient struct {
	ClientID uuid.UUID `json:"client_id"`
	Name     string    `json:"name"`
	Email    string    `json:"email" doc:"empty where none is known"`
	Sites    string    `json:"sites"`
	ToldOn   string    `json:"told_on,omitempty" format:"date" doc:"when they were told of the same lately"`
}

// listMessages answers GET /messages: what could be told to clients now.
func (s *Server) listMessages(ctx context.Context, in *struct {
	StationID uuid.UUID `query:"station_id" format:"uuid" doc:"the one with most sites when left out"`
}) (*body[Messages], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := Messages{Mail: s.accounts.Mail != nil, Stations: []MessageStation{}, Drafts: []Draft{}}
	var station *store.Station
	var readers []casework.Reader
	var past []store.StationDay
	var firm store.Firm // its letters are in its own units and dates, whoever writes them
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&firm).Error; err != nil {
			return err
		}
		list, err := casework.StationsOf(tx)
		if err != nil {
			return err
		}
		for i, t := range list {
			out.Stations = append(out.Stations, MessageStation{t.ID, t.Name, t.Sites})
			if t.ID == in.StationID || in.StationID == uuid.Nil && i == 0 {
				station = &list[i].Station
			}
		}
		visits, err := casework.VisitsTomorrow(tx, today)
		if err != nil {
			return err
		}
		for _, v := range visits {
			d, err := visitDraft(v, units.In(firm.UnitSystem), dateForms[firm.DateForm][0])
			if err != nil {
				return err
			}
			out.Drafts = append(out.Drafts, d)
		}
		if station == nil {
			return nil
		}
		if readers, err = casework.ReadersUnder(tx, station.ID, today); err != nil {
			return err
		}
		return tx.Where("station_id = ? AND day <= ? AND day > ?", station.ID, today, today.AddDate(0, 0, -20)).Order("day").Find(&past).Error
	}); err != nil {
		return nil, err
	}
	if station != nil {
		ahead := s.forecast(ctx, *station, today, casework.ForecastDays)
		out.StationID, out.Known = &station.ID, len(ahead) > 0
		out.Drafts = append(out.Drafts, weatherDrafts(casework.DaysOf(past), ahead, readers, units.In(firm.UnitSystem),
			dateForms[firm.DateForm][0])...)
	}
	return answer(out), nil
}

// weatherDrafts are the letters of the weather ahead: one for each kind and each sort of lawn.
func weatherDrafts(past, ahead []weather.Day, readers []casework.Reader, say units.Saying, form string) []Draft {
	on := func(d time.Time) string { return d.Format("Monday, " + form) }
	var out []Draft
	at := map[string]int{}
	for _, warm := range []bool{false, true} {
		for _, spell := range client.SpellsAhead(past, ahead, warm) {
			for _, r := range readers {
				if r.Warm != warm {
					continue
				}
				key := string(spell.Kind) + " " + r.Key()
				i, ok := at[key]
				if !ok {
					subject, lines := spell.Message(r.Lawn, say, on)
					i = len(out)
					at[key] = i
					out = append(out, Draft{Key: key, Kind: string(spell.Kind), From: spell.From.Format(dateOnly), To: spell.To.Format(dateOnly),
						For: lawnsSaid(r.Lawn), Subject: subject, Text: strings.Join(lines, "\n\n"), Recipients: []Recipient{}})
				}
				x := Recipient{ClientID: r.ID, Name: r.Name, Email: r.Email, Sites: r.Sites}
				if t, told := r.Told[string(spell.Kind)]; told {
					x.ToldOn = t.Format(dateOnly)
				}
				out[i].Recipients = append(out[i].Recipients, x)
			}
		}
	}
	return out
}

// lawnsSaid says whose lawns a letter is for.
func lawnsSaid(l client.Lawn) string {
	said := []string{"not watered"}
	if l.Irrigated {
		said[0] = "watered"
	}
	if l.Warm {
		said = append(said, "warm-season grass")
	}
	if l.Sown {
		said = append(said, "sown lately")
	}
	return "Lawns " + strings.Join(said, ", ")
}

// visitDraft is the letter that tells of a visit tomorrow.
func visitDraft(v casework.Expected, say units.Saying, form string) (Draft, error) {
	var actions []string
	if err := json.Unmarshal(v.Actions, &actions); err != nil {
		return Draft{}, err
	}
	when := "We are coming to " + v.SiteName + " tomorrow, " + v.DueOn.Format("Monday, "+form)
	if h := hoursOf(v.FromMinute, v.ToMinute); h != nil {
		when += ", between " + h.From + " and " + h.To
	}
	if v.PersonName != "" {
		when += ". " + v.PersonName + " will be there"
	}
	d := Draft{Key: "visit " + v.ID.String(), Kind: "visit", From: v.DueOn.Format(dateOnly), To: v.DueOn.Format(dateOnly), For: v.SiteName,
		Subject: "We are coming tomorrow: " + v.SiteName, VisitID: &v.ID,
		Text: strings.Join(append([]string{when + "."}, client.Beforehand(actions, say)...), "\n\n")}
	x := Recipient{ClientID: v.ClientID, Name: v.ClientName, Email: v.Email, Sites: v.SiteName}
	if v.ToldOn != nil {
		x.ToldOn = v.ToldOn.Format(dateOnly)
	}
	d.Recipients = []Recipient{x}
	return d, nil
}

// NewMessage is a letter as the office sends it.
type NewMessage struct {
	ID      uuid.UUID   `json:"id" doc:"version 7, made by the client: what is sent again goes to nobody twice"`
	Kind    string      `json:"kind" enum:"hot,wet,frost,dry,visit"`
	VisitID *uuid.UUID  `json:"visit_id,omitempty"`
	Subject string      `json:"subject" minLength:"3" maxLength:"150"`
	Text    string      `json:"text" minLength:"10" maxLength:"4000"`
	Clients []uuid.UUID `json:"clients" minItems:"1" maxItems:"100" nullable:"false"`
}

// SentMessage says to whom it went.
type SentMessage struct {
	Sent   int      `json:"sent"`
	Failed []string `json:"failed" nullable:"false" doc:"names of those whom it did not reach; sending again tries them again"`
}

// sendMessages answers POST /messages: send a letter to clients. No transaction is open while it goes out.
func (s *Server) sendMessages(ctx context.Context, in *body[NewMessage]) (*body[SentMessage], error) {
	m := in.Body
	if err := keyed(m.ID); err != nil {
		return nil, err
	}
	if s.accounts.Mail == nil {
		return nil, invalid("body.id", "this server sends no mail: copy the text and send it yourself")
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var firm store.Firm
	var names map[uuid.UUID]string
	var rows []store.Message
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if err := tx.First(&firm).Error; err != nil {
			return err
		}
		names, rows, err = queued(tx, m, who(ctx).Firm, who(ctx).Person, today)
		return err
	}); err != nil {
		return nil, err
	}
	out := SentMessage{Failed: []string{}}
	for _, r := range rows {
		state, at := "sent", s.now().UTC()
		text := fmt.Sprintf("Hello %s,\n\n%s\n\n%s\n%s\n", names[r.ClientID], r.Body, firm.Name, firm.Phone)
		if err := s.accounts.Mail.Send(ctx, r.Email, r.Subject, text); err != nil {
			s.log.Error("a letter was not sent", "error", err)
			state = "failed"
			out.Failed = append(out.Failed, names[r.ClientID])
		} else {
			out.Sent++
		}
		// a letter that has gone out is marked even where the request is given up: it must not go twice
		if err := s.inFirm(context.WithoutCancel(ctx), func(tx *gorm.DB) error {
			return tx.Model(&store.Message{}).Where("id = ?", r.ID).Updates(map[string]any{"state": state, "sent_at": at}).Error
		}); err != nil {
			return nil, err
		}
	}
	return answer(out), nil
}

// queued keeps the letters that are to go out, and gives those that have not gone yet.
func queued(tx *gorm.DB, m NewMessage, firm, person uuid.UUID, today time.Time) (map[uuid.UUID]string, []store.Message, error) {
	var clients []store.Client
	if err := tx.Where("id IN ? AND erased_on IS NULL", m.Clients).Find(&clients).Error; err != nil {
		return nil, nil, err
	}
	names := map[uuid.UUID]string{}
	for i, id := range m.Clients {
		at := slices.IndexFunc(clients, func(c store.Client) bool { return c.ID == id })
		where := fmt.Sprintf("body.clients[%d]", i)
		switch {
		case at < 0:
			return nil, nil, invalid(where, "is no client of this firm")
		case strings.TrimSpace(clients[at].Email) == "":
			return nil, nil, invalid(where, clients[at].Name+" has no email address")
		}
		names[id] = clients[at].Name
		key, err := uuid.NewV7()
		if err != nil {
			return nil, nil, err
		}
		if err := tx.Exec(`INSERT INTO messages (id, firm_id, batch, client_id, kind, visit_id, email, subject, body, made_on, person_id)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (firm_id, batch, client_id) DO UPDATE
			SET email = excluded.email, subject = excluded.subject, body = excluded.body WHERE messages.state <> 'sent'`,
			key, firm, m.ID, id, m.Kind, m.VisitID,
			clients[at].Email, m.Subject, m.Text, today, person).Error; err != nil {
			return nil, nil, err
		}
	}
	var rows []store.Message
	err := tx.Where("batch = ? AND client_id IN ? AND state <> 'sent'", m.ID, m.Clients).Order("id").Find(&rows).Error
	return names, rows, err
}
