package server

import (
	"context"

	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
	"hodos/core/morning"
)

// MorningLetter is the letter of the morning as it would be sent now.
type MorningLetter struct {
	To      string `json:"to"`
	Subject string `json:"subject"`
	Text    string `json:"text"`
	Empty   bool   `json:"empty" doc:"there is nothing to say: none is sent"`
	Hour    int    `json:"hour" doc:"from when on it is sent, by the clock of the office"`
	Mail    bool   `json:"mail" doc:"this server sends letters"`
}

// readMorning answers GET /me/morning.
func (s *Server) readMorning(ctx context.Context, _ *struct{}) (*body[MorningLetter], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var l morning.Letter
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		l, err = casework.ReadMorning(tx, who(ctx).Person, account.May(who(ctx).Role, account.KeepSites), today)
		return err
	})
	return answer(MorningLetter{who(ctx).Email, l.Subject(), l.Text(s.accounts.URL), l.Empty(), morning.Hour, s.accounts.Mail != nil}), err
}
