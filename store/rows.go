package store

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
)

// JSON is a jsonb column.
type JSON json.RawMessage

// Value and Scan make JSON a column; a nil JSON is NULL.
func (j JSON) Value() (driver.Value, error) {
	if j == nil {
		return nil, nil
	}
	return string(j), nil
}

// Scan reads the column.
func (j *JSON) Scan(src any) error {
	switch x := src.(type) {
	case nil:
		*j = nil
	case []byte:
		*j = append(JSON(nil), x...)
	case string:
		*j = JSON(x)
	default:
		return fmt.Errorf("jsonb from %T", src)
	}
	return nil
}

// MarshalJSON passes the text through.
func (j JSON) MarshalJSON() ([]byte, error) {
	if j == nil {
		return []byte("null"), nil
	}
	return j, nil
}

// UnmarshalJSON keeps the text.
func (j *JSON) UnmarshalJSON(b []byte) error { *j = append(JSON(nil), b...); return nil }

// The rows of the schema; see migrations for what each column means.
type (
	Firm struct {
		ID                                            uuid.UUID
		Name, Country, Currency, DateForm, UnitSystem string
		Timezone                                      string `gorm:"default:UTC"`
		OwnersSecondFactor                            bool
		PoisonCentre                                  string
		Phone, Email, Address, Website                string  // at the head of what a client gets
		WorkHours                                     float64 `gorm:"default:6"`  // of one person and day, besides driving
		WorkDays                                      int     `gorm:"default:63"` // bits, Monday the lowest
		KeepRecordsYears                              int     `gorm:"default:3"`  // names in the book of applications after a client is erased
		Version                                       int
	}
	Person struct {
		ID, FirmID           uuid.UUID
		Name, Email, Role    string
		PasswordHash         string
		LicenceNumber        string
		LicenceUntil         *time.Time
		UnitSystem, DateForm string
		MorningLetter        bool
		Active               bool
		TOTPSecret           string `gorm:"column:totp_secret"`
		TOTPOn               bool   `gorm:"column:totp_on"`
		TOTPStep             int64  `gorm:"column:totp_step"`
		Version              int
	}
	Session struct {
		TokenHash                    []byte    `gorm:"primaryKey"`
		ID                           uuid.UUID `gorm:"default:gen_random_uuid()"`
		FirmID, PersonID             uuid.UUID
		CSRF                         string `gorm:"column:csrf"`
		Network, Agent               string
		CreatedAt, ExpiresAt, SeenAt time.Time
	}
	RecoveryCode struct {
		FirmID   uuid.UUID
		PersonID uuid.UUID `gorm:"primaryKey"`
		CodeHash []byte    `gorm:"primaryKey"`
		UsedAt   *time.Time
	}
	PasswordLink struct {
		TokenHash            []byte `gorm:"primaryKey"`
		FirmID, PersonID     uuid.UUID
		SentBy               *uuid.UUID
		CreatedAt, ExpiresAt time.Time
		UsedAt               *time.Time
	}
	KnownDevice struct {
		FirmID     uuid.UUID
		PersonID   uuid.UUID `gorm:"primaryKey"`
		DeviceHash []byte    `gorm:"primaryKey"`
		UsedAt     time.Time
	}
	ZoneCourse struct {
		ZoneID          uuid.UUID `gorm:"primaryKey"`
		FirmID          uuid.UUID
		Verdict, Reason string
		JudgedOn        time.Time
	}
	Event struct {
		ID                     int64 `gorm:"primaryKey;->"`
		FirmID                 uuid.UUID
		At                     time.Time
		Kind                   string
		PersonID, AboutID      *uuid.UUID
		Network, Agent, Detail string
	}
	Station struct {
		ID                  uuid.UUID
		Name                string
		Latitude, Longitude float64
		Simulated           bool
		Seed                int64
		Revision            int64 `gorm:"->"` // counts the changes of its days
	}
	StationDay struct {
		StationID uuid.UUID
		Day       time.Time
		TMin      *float64 `gorm:"column:tmin_c"`
		TMax      *float64 `gorm:"column:tmax_c"`
		Rain      *float64 `gorm:"column:rain_mm"`
		RH        *float64 `gorm:"column:rh_mean"`
		Wind      *float64 `gorm:"column:wind_ms"`
		Snow      *float64 `gorm:"column:snow_cm"`
		Solar     *float64 `gorm:"column:solar_mj_m2"`
		Hours     Floats   `gorm:"type:real[]"`
	}
	SiteDay struct {
		FirmID, SiteID uuid.UUID
		Day            time.Time
		TMin           *float64 `gorm:"column:tmin_c"`
		TMax           *float64 `gorm:"column:tmax_c"`
		Rain           *float64 `gorm:"column:rain_mm"`
		RH             *float64 `gorm:"column:rh_mean"`
		Wind           *float64 `gorm:"column:wind_ms"`
		Snow           *float64 `gorm:"column:snow_cm"`
		Solar          *float64 `gorm:"column:solar_mj_m2"`
		Irrigation     *float64 `gorm:"column:irrigation_mm"`
		Hours          Floats   `gorm:"type:real[]"`
	}
	ZoneWatering struct {
		FirmID, ZoneID uuid.UUID
		Day            time.Time
		MM             float64 `gorm:"column:mm"`
	}
	Audit struct {
		ID, FirmID, VisitID, ZoneID uuid.UUID
		AuditedOn                   time.Time
		Minutes                     float64
		Cans                        JSON
		RateMMH                     float64 `gorm:"column:rate_mm_h"`
		Uniformity                  float64
		PersonID                    uuid.UUID
		RecordedAt                  time.Time
	}
	Client struct {
		ID, FirmID                uuid.UUID
		Name, Phone, Email, Notes string
		ErasedOn                  *time.Time
		Version                   int
	}
	Site struct {
		ID, FirmID, ClientID uuid.UUID
		StationID            *uuid.UUID
		Name, Address        string
		Latitude, Longitude  float64
		Timezone             string
		LinesLocatedOn       *time.Time
		AccessNotes          string
		WateringDays         string
		Place                string
		ErasedOn             *time.Time
		Version              int
	}
	Zone struct {
		ID, FirmID, SiteID uuid.UUID
		Name               string
		AreaM2             float64 `gorm:"column:area_m2"`
		AreaError          float64
		Species            JSON
		Form, Cultivar     string
		SownYear           *int
		Texture            string
		Irrigated          *bool
		TargetCover        float64
		Policy             JSON
		WaterM             *float64 `gorm:"column:water_m"`
		Version            int
	}
	MapEntry struct {
		ID, FirmID, SiteID uuid.UUID
		ZoneID             *uuid.UUID
		Kind, Name         string
		Geometry           JSON
		ReachM             float64 `gorm:"column:reach_m"`
		ErrorM             float64 `gorm:"column:error_m"`
		AreaError          float64
		How                string
		Version            int
	}
	Note struct {
		ID, FirmID, ZoneID, PersonID   uuid.UUID
		VisitID                        *uuid.UUID
		NotedOn                        time.Time
		RecordedAt                     time.Time
		Kind, Finding, Body, SoundType string
		EastM                          *float64 `gorm:"column:east_m"`
		NorthM                         *float64 `gorm:"column:north_m"`
	}
	Sound struct {
		NoteID uuid.UUID `gorm:"primaryKey"`
		FirmID uuid.UUID
		Sound  []byte
	}
	Photo struct {
		ID, FirmID, VisitID, ZoneID, PersonID uuid.UUID
		TakenAt, RecordedAt                   time.Time
		Kind, About, Spot, Note               string
		EastM                                 *float64 `gorm:"column:east_m"`
		NorthM                                *float64 `gorm:"column:north_m"`
		Tilt                                  *float64
		Width, Height                         int
		Wanted                                JSON
		Cover, CoverError, ColourIndex        *float64
		Faults                                JSON
	}
	Picture struct {
		PhotoID            uuid.UUID `gorm:"primaryKey"`
		FirmID             uuid.UUID
		SHA256             []byte `gorm:"column:sha256"`
		Picture, Thumbnail []byte
	}
	Visit struct {
		ID, FirmID, SiteID  uuid.UUID
		ZoneID, PersonID    *uuid.UUID
		Kind                string
		DueOn               time.Time
		Reason              string
		ArrivedAt, LeftAt   *time.Time
		StartedOn, ClosedOn *time.Time
		FollowsID           *uuid.UUID
		FromMinute          *int
		ToMinute            *int
		Version             int
	}
	Answer struct {
		ID                      uuid.UUID
		Seq                     int64 `gorm:"->"`
		FirmID, VisitID, ZoneID uuid.UUID
		Spot, Finding           string
		Value, Entered, Tally   JSON
		PersonID                uuid.UUID
		Base                    int64
		RecordedAt              time.Time
	}
	Diagnosis struct {
		ID, FirmID, VisitID, ZoneID uuid.UUID
		Knowledge                   string
		Leading                     string `gorm:"column:leading_cause"`
		Probability                 float64
		CaseFile, Result            JSON
		GivenOn                     time.Time
		PersonID                    uuid.UUID
		RecordedAt                  time.Time
	}
	TreatmentRecord struct {
		ID                        uuid.UUID
		Seq                       int64 `gorm:"->"`
		FirmID, VisitID, ZoneID   uuid.UUID
		CorrectsID                *uuid.UUID
		Voided                    bool
		Action                    string
		AppliedOn                 time.Time
		AreaM2                    float64 `gorm:"column:area_m2"`
		Product                   string
		Amount                    *float64
		AmountUnit                string
		AmountSI                  *float64 `gorm:"column:amount_si"`
		NGM2                      *float64 `gorm:"column:n_g_m2"`
		PGM2                      *float64 `gorm:"column:p_g_m2"`
		KGM2                      *float64 `gorm:"column:k_g_m2"`
		FeGM2                     *float64 `gorm:"column:fe_g_m2"`
		WaterMM                   *float64 `gorm:"column:water_mm"`
		Source                    string
		WindMS                    *float64 `gorm:"column:wind_ms"`
		AirC                      *float64 `gorm:"column:air_c"`
		Reentry, Note             string
		Outside, OutsideReason    string
		PersonID                  uuid.UUID
		SignedName, LicenceNumber string
		RecordedAt                time.Time
		ProductID, LabelID, LotID *uuid.UUID
		MachineID, SupervisorID   *uuid.UUID
		JobID                     *uuid.UUID
		Target                    string
		Rate, Carrier             *float64
		StartedAt, EndedAt        *time.Time
		ClosedUntil, WateredInAt  *time.Time
		MustWaterIn               bool
		Flags, Given, Details     JSON
	}
	Product struct {
		ID, FirmID uuid.UUID
		Name, Kind string
		LabelID    uuid.UUID
		Active     bool
		Version    int
	}
	ProductLabel struct {
		ID         uuid.UUID
		Seq        int64 `gorm:"->"`
		FirmID     uuid.UUID
		ProductID  uuid.UUID
		Number     int
		Label      JSON
		PersonID   uuid.UUID
		RecordedAt time.Time
	}
	ProductLot struct {
		ID, FirmID, ProductID uuid.UUID
		Lot                   string
		Amount                float64
		Price                 *float64
		ReceivedOn            time.Time
		OpenedOn, ExpiresOn   *time.Time
		WrittenOff            float64
		Version               int
	}
	LocalRule struct {
		ID, FirmID uuid.UUID
		Rule       JSON
		Active     bool
		Version    int
	}
	Machine struct {
		ID, FirmID uuid.UUID
		Name, Kind string
		Broken     bool
		Note       string
		Version    int
	}
	MachineLog struct {
		ID, FirmID, MachineID uuid.UUID
		Day                   time.Time
		Kind                  string
		Output                *float64
		Note                  string
		PersonID              uuid.UUID
		RecordedAt            time.Time
	}
	Job struct {
		ID, FirmID, SiteID, ZoneID uuid.UUID
		VisitID                    *uuid.UUID
		Action                     string
		ProductID                  *uuid.UUID
		Target                     string
		FromOn, ToOn, DueOn        time.Time
		Fixed                      bool
		Series                     *uuid.UUID
		Step                       int
		AfterID                    *uuid.UUID
		Amount                     JSON
		Reason, Moved, State       string
		RecordID, PersonID         *uuid.UUID
		Version                    int
	}
	WateringIn struct {
		RecordID, FirmID uuid.UUID
		At               time.Time
		PersonID         uuid.UUID
		RecordedAt       time.Time
	}
	SiteEvent struct {
		ID, FirmID, SiteID uuid.UUID
		Day                time.Time
		Name               string
		EndedAt            *time.Time
	}
	// Closing is the end of a zone's case; Ended is Mended or Stays.
	Closing struct {
		ID             uuid.UUID
		Seq            int64 `gorm:"->"`
		FirmID, ZoneID uuid.UUID
		VisitID        *uuid.UUID
		DiagnosisID    *uuid.UUID
		Cause, Ended   string
		Cover          *float64
		Note           string
		ClosedOn       time.Time
		PersonID       uuid.UUID
		RecordedAt     time.Time
	}
	// Hindsight is what a diagnosis looks like afterwards; Cause is what its case was closed with, empty while it is open.
	Hindsight struct {
		DiagnosisID            uuid.UUID `gorm:"primaryKey"`
		FirmID, ZoneID         uuid.UUID
		GivenOn                time.Time
		Cause, Knowledge       string
		Checks, Expected       JSON
		ToldMoney, GivenMoney  *float64
		WaterGiven, WaterAsked *float64
	}
	// FirmLessons are what the firm's closed cases teach: Lessons, and whether they are used, but those of the causes in Without.
	FirmLessons struct {
		FirmID    uuid.UUID `gorm:"primaryKey"`
		Used      bool
		Without   JSON
		Cases     int
		Lessons   JSON
		MadeOn    *time.Time
		ChangedBy *uuid.UUID
		ChangedAt *time.Time
		Version   int
	}
	ClientLink struct {
		ID             uuid.UUID
		TokenHash      []byte
		FirmID, SiteID uuid.UUID
		PersonID       uuid.UUID
		CreatedAt      time.Time
		ExpiresAt      time.Time
		WithdrawnAt    *time.Time
		Opened         int
		OpenedAt       *time.Time
	}
	Call struct {
		ID              uuid.UUID
		Seq             int64 `gorm:"->"`
		FirmID, ZoneID  uuid.UUID
		LinkID          uuid.UUID
		ToldAt, ToldOn  time.Time
		Picked, Answers JSON
		Note, Within    string
		PerDay          float64
		Because         JSON
		VisitID         *uuid.UUID
		AsideAt         *time.Time
		AsideBy         *uuid.UUID
	}
	Erasure struct {
		ID, FirmID, ClientID uuid.UUID
		AskedOn              time.Time
		PersonID             uuid.UUID
		KeepUntil            *time.Time
		Names                JSON
		FinishedAt           *time.Time
	}
	Message struct {
		ID, FirmID, Batch, ClientID uuid.UUID
		Kind                        string
		VisitID                     *uuid.UUID
		Email, Subject, Body, State string
		MadeOn                      time.Time
		SentAt                      *time.Time
		PersonID                    uuid.UUID
	}
	Trial struct {
		ID, FirmID, ZoneID       uuid.UUID
		Name, Question, DoseUnit string
		BeganOn                  time.Time
		ClosedOn                 *time.Time
		Version                  int
		PersonID                 uuid.UUID
	}
	TrialPlot struct {
		ID, FirmID, TrialID uuid.UUID
		Place               int
		Name, Treatment     string
		Dose                float64
		Void                string
	}
	TrialReading struct {
		ID         uuid.UUID
		Seq        int64 `gorm:"->"`
		FirmID     uuid.UUID
		PlotID     uuid.UUID
		Kind       string
		ReadOn     time.Time
		Value      float64
		PersonID   uuid.UUID
		RecordedAt time.Time
	}
	CallPicture struct {
		ID, CallID         uuid.UUID
		Place              int
		FirmID             uuid.UUID
		Picture, Thumbnail []byte
	}
	CalendarFeed struct {
		ID          uuid.UUID
		TokenHash   []byte
		FirmID      uuid.UUID
		PersonID    uuid.UUID
		SiteID      *uuid.UUID
		CreatedAt   time.Time
		WithdrawnAt *time.Time
	}
	Measure struct {
		ID                      uuid.UUID
		Seq                     int64 `gorm:"->"`
		FirmID, VisitID, ZoneID uuid.UUID
		MeasuredOn              time.Time
		Baseline                bool
		Cover                   float64
		LiveCrowns              *float64
		Spread, Note            string
		PersonID                uuid.UUID
		RecordedAt              time.Time
	}
	FirmPrices struct {
		FirmID                                                         uuid.UUID `gorm:"primaryKey"`
		LawnM2                                                         float64   `gorm:"column:lawn_m2"`
		Hour, Fungicide, Insecticide, Herbicide, Feed, Amendment, Seed float64
		WaterM3                                                        float64 `gorm:"column:water_m3"`
		Lab                                                            float64
		Version                                                        int
	}
	Sample struct {
		ID, FirmID          uuid.UUID
		Number              int
		VisitID, ZoneID     uuid.UUID
		Kind                string
		TakenOn, ExpectedOn time.Time
		Cores               int
		DepthMM             float64 `gorm:"column:depth_mm"`
		Note                string
		PersonID            uuid.UUID
		RecordedAt          time.Time
		ReturnedOn          *time.Time
		Origin, Laboratory  string
		Result              JSON
	}
	Reading struct {
		ID, FirmID, ZoneID uuid.UUID
		Day                time.Time
		Hour               *float64
		Finding            string
		Value              float64
		Origin             string
		PersonID           uuid.UUID
		RecordedAt         time.Time
	}
	WatchRun struct {
		ID, FirmID                         uuid.UUID
		Day                                time.Time
		Sites, Parts, SitesDone, PartsDone int
		Zones, Unchanged, Told, Ended      int
		StartedAt                          time.Time
		FinishedAt                         *time.Time
	}
	WatchZone struct {
		ZoneID   uuid.UUID `gorm:"primaryKey"`
		FirmID   uuid.UUID
		Day      time.Time
		MadeFrom []byte
	}
	WatchNotice struct {
		ID, FirmID, ZoneID uuid.UUID
		Kind, Subject      string
		Level              int
		Since              time.Time
		ComesOn            *time.Time
		Ahead              bool
		Detail             string
		ToldOn, SeenOn     time.Time
		EndedOn, NotedOn   *time.Time
		NotedBy            *uuid.UUID
	}
	Clock struct {
		One   bool `gorm:"primaryKey"`
		Today time.Time
	}
)

// TableName says what is watered in, not how often.
func (WateringIn) TableName() string { return "waterings_in" }

// TableName keeps the singular.
func (MachineLog) TableName() string { return "machine_log" }

// TableName keeps the singular of the one row.
func (Clock) TableName() string { return "clock" }

// TableName is the plural that it is.
func (FirmPrices) TableName() string { return "firm_prices" }

// TableName says "people".
func (Person) TableName() string { return "people" }

// Standing returns the records that still stand: neither corrected by a later one nor void.
func Standing(records []TreatmentRecord) []TreatmentRecord {
	replaced := map[uuid.UUID]bool{}
	for _, r := range records {
		if r.CorrectsID != nil {
			replaced[*r.CorrectsID] = true
		}
	}
	var out []TreatmentRecord
	for _, r := range records {
		if !replaced[r.ID] && !r.Voided {
			out = append(out, r)
		}
	}
	return out
}

// How a case ends: its cause is mended, or it stays and is lived with.
const (
	Mended = "mended"
	Stays  = "stays"
)
