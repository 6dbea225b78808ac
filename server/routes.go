package server

import (
	"context"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"hodos/account"
)

// public is the right of routes that nobody has to be signed in for.
const public account.Right = ""

// route is one operation of the API: how it is reached, what it is called, what its caller needs, and who answers.
type route struct {
	method, path, id, summary, tag string
	right                          account.Right
	register                       func(*Server, huma.Operation)
}

// at lets a handler answer a route.
func at[I, O any](h func(*Server, context.Context, *I) (*O, error)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		huma.Register(s.api, op, func(ctx context.Context, in *I) (*O, error) { return h(s, ctx, in) })
	}
}

// raw is at for a body that its handler reads itself and refuses with finer reasons.
func raw[I, O any](h func(*Server, context.Context, *I) (*O, error)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		op.SkipValidateBody = true
		at(h)(s, op)
	}
}

// heavy is at for what costs much: a person has few of these under way at a time.
func heavy(register func(*Server, huma.Operation)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		op.Metadata["heavy"] = true
		register(s, op)
	}
}

// long is at for what takes its time outside of the database: the deadline of a request does not hold for it.
func long(register func(*Server, huma.Operation)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		op.Metadata["long"] = true
		register(s, op)
	}
}

// lines is at for an answer that comes line by line, each an L.
func lines[I, L any](h func(*Server, context.Context, *I) (*huma.StreamResponse, error)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		op.Metadata["long"] = true
		at(h)(s, op)
		schema := s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[L](), true, reflect.TypeFor[L]().Name())
		s.api.OpenAPI().Paths[op.Path].Post.Responses["200"] = &huma.Response{Description: "Lines of progress, the last with the result.",
			Content: map[string]*huma.MediaType{"application/x-ndjson": {Schema: schema}}}
	}
}

// file is at for a plain file as the body, answered by lines of progress.
func file(h func(*Server, context.Context, *fileInput) (*huma.StreamResponse, error)) func(*Server, huma.Operation) {
	return func(s *Server, op huma.Operation) {
		op.Metadata["long"], op.BodyReadTimeout = true, max(op.BodyReadTimeout, fileSending)
		at(h)(s, op)
		described := s.api.OpenAPI().Paths[op.Path].Post
		described.RequestBody = &huma.RequestBody{Required: true, Description: "A file in the dialect of docs/formats.md.",
			Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: "string"}}}}
		described.Responses["200"] = &huma.Response{Description: "Lines of progress, the last with taken: true.",
			Content: map[string]*huma.MediaType{"application/x-ndjson": {
				Schema: s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Progress](), true, "Progress")}}}
	}
}

// routes registers the whole API.
func (s *Server) routes() {
	for _, r := range routes {
		op := huma.Operation{OperationID: r.id, Method: r.method, Path: r.path, Summary: r.summary, Tags: []string{r.tag}, MaxBodyBytes: 8 << 20,
			BodyReadTimeout: s.sending, Metadata: map[string]any{}}
		if r.right == public {
			op.Metadata["public"] = true
		} else {
			op.Metadata["right"] = r.right
			op.Description = "Needs the right " + string(r.right) + "."
			op.Errors = []int{401, 403, 404, 409, 422}
		}
		r.register(s, op)
	}
}

// routes is the API, a line an operation.
var routes = []route{
	{http.MethodPost, "/sign-in", "sign-in", "Sign in with address and password", "session", public, at((*Server).signIn)},
	{http.MethodPost, "/sign-in/demo", "sign-in-demo", "Sign in as one of the demo's people", "session", public, at((*Server).signInDemo)},
	{http.MethodGet, "/welcome", "welcome", "What the sign-in page offers", "session", public, at((*Server).welcome)},
	{http.MethodPost, "/sign-out", "sign-out", "Sign out", "session", account.See, at((*Server).signOut)},
	{http.MethodGet, "/me", "me", "Who is signed in", "session", account.See, at((*Server).me)},
	{http.MethodPost, "/demo/clock", "advance-clock", "Move the demo's clock on", "session", account.See, at((*Server).advanceClock)},
	{http.MethodGet, "/me/sessions", "list-sessions", "Where one is signed in", "session", account.See, at((*Server).listSessions)},
	{http.MethodDelete, "/me/sessions/{id}", "end-session", "End one of one's sessions", "session", account.See, at((*Server).endSession)},
	{http.MethodPost, "/me/sessions/end-others", "end-other-sessions", "End all of one's sessions but this one", "session", account.See, at((*Server).endOtherSessions)},
	{http.MethodPut, "/me/password", "change-my-password", "Change your own password; your other sessions end", "session", account.See, at((*Server).changeMyPassword)},
	{http.MethodPost, "/me/second-factor", "begin-second-factor", "Begin to set up the code of an authenticator app", "session", account.See, at((*Server).beginSecondFactor)},
	{http.MethodPost, "/me/second-factor/confirm", "confirm-second-factor", "Turn it on with a right code; the recovery codes are shown this once", "session", account.See, at((*Server).confirmSecondFactor)},
	{http.MethodPost, "/me/second-factor/end", "end-second-factor", "Turn it off, with one's password", "session", account.See, at((*Server).endSecondFactor)},
	{http.MethodPost, "/people/{id}/password-link", "send-password-link", "Send somebody a link to set a password, once and within a day", "session", account.KeepPeople, at((*Server).sendPasswordLink)},
	{http.MethodPost, "/people/{id}/second-factor/end", "end-second-factor-of", "Turn off the second factor of somebody who has lost it", "session", account.KeepPeople, at((*Server).endSecondFactorOf)},
	{http.MethodPost, "/password-link", "read-password-link", "Whose password a link would set", "session", public, at((*Server).readPasswordLink)},
	{http.MethodPost, "/password-link/use", "use-password-link", "Set the password by a link", "session", public, at((*Server).usePasswordLink)},
	{http.MethodGet, "/events", "list-events", "What happened to the firm's accounts, the newest first", "firm", account.SeeLog, at((*Server).listEvents)},
	{http.MethodGet, "/demo/letters", "list-letters", "The letters of the demo's simulated mail", "session", public, at((*Server).listLetters)},
	{http.MethodGet, "/vocabulary", "get-vocabulary", "Stations, checks, causes, actions and grasses by name", "guide", account.See, at((*Server).getVocabulary)},
	{http.MethodGet, "/causes", "likely-causes", "Causes by what is likely in a month", "guide", account.See, at((*Server).likelyCauses)},
	{http.MethodGet, "/causes/{id}", "get-cause", "A cause in the field guide", "guide", account.See, at((*Server).getCause)},
	{http.MethodGet, "/causes/{id}/apart/{other}", "compare-causes", "The checks that tell two causes apart on any lawn", "guide", account.See, at((*Server).compareCauses)},
	{http.MethodGet, "/clients", "list-clients", "Clients by name, a page at a time", "sites", account.See, at((*Server).listClients)},
	{http.MethodGet, "/clients/{id}", "get-client", "One client", "sites", account.See, at((*Server).getClient)},
	{http.MethodPost, "/clients", "create-client", "Add a client", "sites", account.KeepSites, at((*Server).createClient)},
	{http.MethodPut, "/clients/{id}", "change-client", "Change a client", "sites", account.KeepSites, at((*Server).changeClient)},
	{http.MethodGet, "/clients/{id}/erasure", "preview-erasure", "What erasing a client would come to", "sites", account.KeepFirm, at((*Server).previewErasure)},
	{http.MethodPost, "/clients/{id}/erasure", "erase-client", "Forget a client; it cannot be taken back", "sites", account.KeepFirm, at((*Server).eraseClient)},
	{http.MethodGet, "/sites", "list-sites", "Sites by name with their zones, a page at a time", "sites", account.See, at((*Server).listSites)},
	{http.MethodGet, "/sites/{id}", "get-site", "A site with its zones", "sites", account.See, at((*Server).getSite)},
	{http.MethodGet, "/zones/{id}/site", "get-site-of-zone", "The site that a zone belongs to", "sites", account.See, at((*Server).getSiteOfZone)},
	{http.MethodPost, "/sites", "create-site", "Add a site", "sites", account.KeepSites, at((*Server).createSite)},
	{http.MethodPut, "/sites/{id}", "change-site", "Change a site", "sites", account.KeepSites, at((*Server).changeSite)},
	{http.MethodGet, "/sites/{id}/history", "get-site-history", "A site's visits and the diagnoses given on them", "sites", account.See, at((*Server).getSiteHistory)},
	{http.MethodGet, "/sites/{id}/map", "get-map", "What is mapped of a site: lawns, edges, trees, sprinklers, slopes, what is buried", "sites", account.See, at((*Server).getMap)},
	{http.MethodPut, "/sites/{id}/map/{entry}", "keep-map-entry", "Map a lawn or something on it, or take it anew", "sites", account.AnswerChecks, at((*Server).keepMapEntry)},
	{http.MethodDelete, "/sites/{id}/map/{entry}", "drop-map-entry", "Take something off the map", "sites", account.AnswerChecks, at((*Server).dropMapEntry)},
	{http.MethodGet, "/sites/{id}/map/geojson", "export-map", "The map of a site as GeoJSON", "sites", account.See, at((*Server).exportMap)},
	{http.MethodPost, "/sites/{id}/map/geojson", "import-map", "Take a GeoJSON map in, in place of what is mapped of the site", "sites", account.AnswerChecks, heavy(raw((*Server).importMap))},
	{http.MethodGet, "/zones/{id}/grid", "get-grid", "The step grid of a zone, clipped to its lawn", "sites", account.See, at((*Server).getGrid)},
	{http.MethodPost, "/zones/{id}/pattern", "read-pattern", "What the damage marked on a zone comes to, and which values follow", "visits", account.See, at((*Server).readPattern)},
	{http.MethodPost, "/zones", "create-zone", "Add a zone to a site", "sites", account.KeepSites, at((*Server).createZone)},
	{http.MethodPut, "/zones/{id}", "change-zone", "Change a zone", "sites", account.KeepSites, at((*Server).changeZone)},
	{http.MethodGet, "/people", "list-people", "Everybody of the firm", "firm", account.See, at((*Server).listPeople)},
	{http.MethodPost, "/people", "create-person", "Add somebody", "firm", account.KeepPeople, at((*Server).createPerson)},
	{http.MethodPut, "/people/{id}", "change-person", "Change somebody's entry", "firm", account.KeepPeople, at((*Server).changePerson)},
	{http.MethodGet, "/me/morning", "read-morning", "The morning e-mail as it would be sent now", "firm", account.See, at((*Server).readMorning)},
	{http.MethodPut, "/me/settings", "change-my-settings", "One's own units, date form and letter; empty follows the firm", "firm", account.See, at((*Server).changeMySettings)},
	{http.MethodGet, "/firm", "get-firm", "The firm's settings", "firm", account.See, at((*Server).getFirm)},
	{http.MethodPut, "/firm", "change-firm", "Change the firm's settings", "firm", account.KeepFirm, at((*Server).changeFirm)},
	{http.MethodPost, "/visits", "book-visit", "Book a visit", "visits", account.BookVisits, at((*Server).bookVisit)},
	{http.MethodPut, "/visits/{id}", "change-visit", "Change the day, reason or person of a visit", "visits", account.BookVisits, at((*Server).changeVisit)},
	{http.MethodGet, "/visits/{id}", "get-visit", "A visit with its site, zones and what was given and done", "visits", account.See, at((*Server).getVisit)},
	{http.MethodPost, "/visits/{id}/arrive", "arrive", "Note the arrival", "visits", account.AnswerChecks, at((*Server).arrive)},
	{http.MethodPost, "/visits/{id}/leave", "leave", "Note the leaving and close the visit", "visits", account.AnswerChecks, at((*Server).leave)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/scales", "get-scales", "What was answered in a zone, and what it comes to", "visits", account.See, at((*Server).getScales)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/offers", "list-offers", "What records, former visits and other zones answer", "visits", account.See, at((*Server).offers)},
	{http.MethodPost, "/visits/{id}/zones/{zone}/answers", "answer-checks", "Answer checks", "visits", account.AnswerChecks, at((*Server).answerChecks)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/apart", "tell-apart", "The checks that tell two causes apart", "visits", account.See, at((*Server).tellApart)},
	{http.MethodPost, "/visits/{id}/zones/{zone}/diagnoses", "give-diagnosis", "Save the diagnosis as it stands; it is never changed afterwards", "visits", account.AnswerChecks, at((*Server).giveDiagnosis)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/case", "export-case", "The zone on this visit as a case file", "visits", account.See, at((*Server).exportCase)},
	{http.MethodPost, "/diagnose", "diagnose-case", "Weigh a case file", "visits", account.See, heavy(raw((*Server).diagnoseCase))},
	{http.MethodPost, "/visits/{id}/records", "record-treatment", "Record a treatment and book its follow-up", "records", account.RecordTreatment, at((*Server).recordTreatment)},
	{http.MethodPost, "/visits/{id}/zones/{zone}/proposal", "propose-job", "How a job would be done, everything known filled in, and what stands against it", "records", account.See, at((*Server).propose)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/jobs", "get-zone-jobs", "The plan of a zone as jobs with dates, and what is booked", "jobs", account.See, at((*Server).zoneJobs)},
	{http.MethodPost, "/visits/{id}/zones/{zone}/jobs", "book-jobs", "Book jobs of the plan on the days that were found", "jobs", account.BookVisits, at((*Server).bookJobs)},
	{http.MethodGet, "/jobs", "list-jobs", "The calendar of the firm or of a site", "jobs", account.See, at((*Server).listJobs)},
	{http.MethodGet, "/jobs/{id}/move", "try-move", "What putting a job on another day would break", "jobs", account.See, at((*Server).tryMove)},
	{http.MethodPut, "/jobs/{id}", "change-job", "Put a job on another day, drop it or take it up again", "jobs", account.BookVisits, at((*Server).changeJob)},
	{http.MethodPost, "/jobs/replan", "replan", "Find days anew for what is booked and not fixed", "jobs", account.BookVisits, heavy(lines[replanning, ReplanLine]((*Server).replan))},
	{http.MethodGet, "/jobs/csv", "year-plan-csv", "The year plan as a file", "jobs", account.See, at((*Server).yearCSV)},
	{http.MethodGet, "/jobs/pdf", "year-plan-pdf", "The year plan on paper", "jobs", account.See, heavy(at((*Server).yearPDF))},
	{http.MethodGet, "/jobs/ics", "jobs-calendar", "The calendar as an iCalendar file", "jobs", account.See, at((*Server).icalendar)},
	{http.MethodGet, "/figures", "get-figures", "The firm's figures of a span, with how well they are known", "firm", account.KeepSites, heavy(at((*Server).getFigures))},
	{http.MethodGet, "/figures/cases", "list-cases", "The cases behind a figure", "firm", account.KeepSites, heavy(at((*Server).listCases))},
	{http.MethodGet, "/figures/csv", "cases-csv", "The cases behind a figure, as a file", "firm", account.KeepSites, heavy(at((*Server).casesCSV))},
	{http.MethodGet, "/sites/{id}/client-page", "preview-client-page", "What a site's client sees", "client", account.See, at((*Server).previewClientPage)},
	{http.MethodGet, "/sites/{id}/client-page/pdf", "client-sheet", "The client's page on paper", "client", account.See, heavy(at((*Server).clientSheet))},
	{http.MethodGet, "/sites/{id}/links", "list-client-links", "The links that were made for a site's client", "client", account.See, at((*Server).listClientLinks)},
	{http.MethodPost, "/sites/{id}/links", "make-client-link", "A secret address for a client; it is told once", "client", account.KeepSites, at((*Server).makeClientLink)},
	{http.MethodDelete, "/links/{id}", "withdraw-client-link", "Withdraw a client's link", "client", account.KeepSites, at((*Server).withdrawClientLink)},
	{http.MethodGet, "/for/{token}", "open-client-page", "The client's page for whoever has its link", "client", public, at((*Server).openClientPage)},
	{http.MethodGet, "/for/{token}/pdf", "open-client-sheet", "The client's page on paper for whoever has its link", "client", public, at((*Server).openClientSheet)},
	{http.MethodGet, "/for/{token}/questions", "ask-client", "What a client can tell before a visit", "client", public, at((*Server).askClient)},
	{http.MethodPost, "/for/{token}/calls", "take-call", "What a client tells of a lawn", "client", public, at((*Server).takeCall)},
	{http.MethodPut, "/for/{token}/calls/{call}/pictures/{place}", "take-call-picture", "A picture to what a client tells", "client", public, at((*Server).takeCallPicture)},
	{http.MethodGet, "/messages", "list-messages", "What could be told to clients now: weather ahead, visits of tomorrow", "client", account.See, at((*Server).listMessages)},
	{http.MethodPost, "/messages", "send-messages", "Send a letter to clients", "client", account.KeepSites, long(at((*Server).sendMessages))},
	{http.MethodGet, "/calls", "list-calls", "What clients told and nobody has gone to yet, the most urgent first", "client", account.See, at((*Server).listCalls)},
	{http.MethodGet, "/calls/{id}", "get-call", "What a client told, what it may be, and what only a visit can tell", "client", account.See, at((*Server).getCall)},
	{http.MethodGet, "/calls/{id}/pictures/{place}", "get-call-picture", "A picture that a client sent", "client", account.See, at((*Server).callPicture)},
	{http.MethodPut, "/calls/{id}/visit", "give-call-visit", "The visit on which a call is looked at", "client", account.BookVisits, at((*Server).giveCallVisit)},
	{http.MethodPost, "/calls/{id}/aside", "put-call-aside", "Put a call aside: nobody needs to come", "client", account.BookVisits, at((*Server).putCallAside)},
	{http.MethodGet, "/for/{token}/pictures/{photo}", "open-client-picture", "A picture of the client's page", "client", public, at((*Server).openClientPicture)},
	{http.MethodGet, "/feeds", "list-feeds", "The secret addresses that one has made for a calendar", "jobs", account.See, at((*Server).listFeeds)},
	{http.MethodPost, "/feeds", "make-feed", "A secret address for a calendar; it is told once", "jobs", account.See, at((*Server).makeFeed)},
	{http.MethodDelete, "/feeds/{id}", "withdraw-feed", "Withdraw a secret address", "jobs", account.See, at((*Server).withdrawFeed)},
	{http.MethodGet, "/feeds/{token}/jobs.ics", "feed-calendar", "The calendar for whoever has the secret address", "jobs", public, at((*Server).feed)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/budget", "get-budget", "The year's budget of a zone", "jobs", account.See, at((*Server).zoneBudget)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/mix-sheet", "get-mix-sheet", "Product, water and fills for the tailgate, on paper", "records", account.See, at((*Server).mixSheet)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/sign", "get-sign", "The sign that is put up, on paper", "records", account.See, at((*Server).signSheet)},
	{http.MethodGet, "/book", "list-book", "The applications of a period", "records", account.See, at((*Server).listBook)},
	{http.MethodGet, "/book/csv", "book-csv", "The book of applications as a file", "records", account.See, heavy(at((*Server).bookCSV))},
	{http.MethodGet, "/book/pdf", "book-pdf", "The book of applications on paper", "records", account.See, heavy(at((*Server).bookPDF))},
	{http.MethodGet, "/products", "list-products", "What is on the shelf", "shelf", account.See, at((*Server).listProducts)},
	{http.MethodGet, "/products/csv", "shelf-csv", "The shelf as a file", "shelf", account.See, at((*Server).shelfCSV)},
	{http.MethodPost, "/products/csv", "take-shelf", "Take a file of products in, whole or not at all", "shelf", account.KeepShelf, heavy(raw((*Server).takeShelf))},
	{http.MethodPost, "/products", "create-product", "Put a product on the shelf with its label", "shelf", account.KeepShelf, at((*Server).createProduct)},
	{http.MethodPut, "/products/{id}", "change-product", "Another version of a product's label, or off the shelf", "shelf", account.KeepShelf, at((*Server).changeProduct)},
	{http.MethodPut, "/products/{id}/lots/{lot}", "keep-lot", "Receive, open, write off or correct a lot", "shelf", account.KeepShelf, at((*Server).keepLot)},
	{http.MethodGet, "/shelf/today", "glance", "What each product may still do today, on which lawns, and what stops it", "shelf", account.See, heavy(at((*Server).glance))},
	{http.MethodGet, "/sites/{id}/events", "list-site-events", "What the client has coming up", "jobs", account.See, at((*Server).listSiteEvents)},
	{http.MethodPut, "/sites/{id}/events/{event}", "keep-site-event", "Enter or take off an event of the client: jobs are counted back from it", "jobs", account.BookVisits, at((*Server).keepSiteEvent)},
	{http.MethodGet, "/review", "review", "What of each zone is worth a look when the season turns", "jobs", account.See, at((*Server).reviewSites)},
	{http.MethodGet, "/rules", "list-rules", "The firm's local rules", "shelf", account.See, at((*Server).listRules)},
	{http.MethodPut, "/rules/{id}", "keep-rule", "Enter a local rule, change it or put it out of force", "shelf", account.KeepShelf, at((*Server).keepRule)},
	{http.MethodGet, "/machines", "list-machines", "The firm's machines with their logs", "shelf", account.See, at((*Server).listMachines)},
	{http.MethodPut, "/machines/{id}", "keep-machine", "A new machine, or a change to one", "shelf", account.KeepShelf, at((*Server).keepMachine)},
	{http.MethodPost, "/machines/{id}/log", "log-machine", "What was done to a machine", "shelf", account.RecordTreatment, at((*Server).logMachine)},
	{http.MethodPost, "/records/{id}/watered-in", "water-in", "What had to be watered in has been", "records", account.RecordTreatment, at((*Server).waterIn)},
	{http.MethodGet, "/zones/{id}/records", "list-records", "All records of a zone, the corrected ones too", "records", account.See, at((*Server).listRecords)},
	{http.MethodPut, "/visits/{id}/zones/{zone}/photos/{photo}", "take-photo", "Keep a photograph of a zone, measured", "visits", account.AnswerChecks, heavy(at((*Server).takePhoto))},
	{http.MethodGet, "/visits/{id}/zones/{zone}/photos", "list-photos", "The photographs of a zone on a visit, and what they come to", "visits", account.See, at((*Server).listPhotos)},
	{http.MethodGet, "/zones/{id}/photos", "list-zone-photos", "The photographs of a zone, the newest first", "visits", account.See, at((*Server).listZonePhotos)},
	{http.MethodGet, "/photos/{id}/picture", "get-picture", "A photograph", "visits", account.See, at((*Server).getPicture)},
	{http.MethodGet, "/photos/{id}/thumbnail", "get-thumbnail", "A photograph, small", "visits", account.See, at((*Server).getThumbnail)},
	{http.MethodDelete, "/photos/{id}", "drop-photo", "Take a photograph away while its visit is open", "visits", account.AnswerChecks, at((*Server).dropPhoto)},
	{http.MethodPut, "/zones/{id}/notes/{note}", "take-note", "Keep a note on a zone, typed, spoken or of what was seen on a round", "visits", account.AnswerChecks, at((*Server).takeNote)},
	{http.MethodGet, "/zones/{id}/notes", "list-notes", "The notes on a zone, the newest first", "visits", account.See, at((*Server).listNotes)},
	{http.MethodGet, "/notes/{id}/sound", "get-sound", "A spoken note", "visits", account.See, at((*Server).getSound)},
	{http.MethodDelete, "/notes/{id}", "drop-note", "Take one's own note back, within a day", "visits", account.AnswerChecks, at((*Server).dropNote)},
	{http.MethodGet, "/counts", "list-protocols", "How things are counted, and with what", "visits", account.See, at((*Server).listProtocols)},
	{http.MethodPost, "/counts/{finding}", "weigh-count", "What a count comes to, how sure it is, and whether another place is worth its time", "visits", account.See, at((*Server).weighCount)},
	{http.MethodGet, "/plots/{seed}", "draw-plot", "A drawn piece of lawn with a known damaged share, to train the eye", "visits", account.See, at((*Server).drawPlot)},
	{http.MethodGet, "/bench", "list-bench", "Every calculation with what it asks for", "bench", account.See, at((*Server).listBench)},
	{http.MethodPost, "/bench/{id}", "work-out", "Do a calculation", "bench", account.See, at((*Server).workOut)},
	{http.MethodGet, "/zones/{id}/recovery", "get-recovery", "The recovery of a zone", "recovery", account.See, at((*Server).getRecovery)},
	{http.MethodGet, "/zones/{id}/trials", "list-trials", "The trials in a zone", "recovery", account.See, at((*Server).listTrials)},
	{http.MethodPost, "/trials", "make-trial", "Lay out a trial", "recovery", account.AnswerChecks, at((*Server).makeTrial)},
	{http.MethodGet, "/trials/{id}", "get-trial", "A trial with what it tells", "recovery", account.See, at((*Server).getTrial)},
	{http.MethodPost, "/trials/{id}/readings", "read-plots", "What the plots of a trial show on a day", "recovery", account.AnswerChecks, at((*Server).readPlots)},
	{http.MethodPut, "/trials/{id}/plots/{plot}/void", "void-plot", "Leave a plot out, with the reason, or take that back", "recovery", account.AnswerChecks, at((*Server).voidPlot)},
	{http.MethodPost, "/trials/{id}/close", "close-trial", "Nothing more is read of a trial", "recovery", account.AnswerChecks, at((*Server).closeTrial)},
	{http.MethodGet, "/zones/{id}/opinions", "list-opinions", "What was thought of a zone when, and what turned it", "recovery", account.See, at((*Server).listOpinions)},
	{http.MethodPost, "/visits/{id}/closings", "close-case", "Close a zone's case: what it was after all, and whether it is mended", "recovery", account.AnswerChecks, at((*Server).closeCase)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/alike", "like-lawns", "A zone against the firm's like lawns of these weeks, without names", "visits", account.See, at((*Server).getAlike)},
	{http.MethodGet, "/sites/{id}/nearby", "list-nearby", "Confirmed cases of the firm round about, without names", "recovery", account.See, at((*Server).listNearby)},
	{http.MethodPost, "/visits/{id}/measures", "record-measure", "Measure the recovery of a zone", "recovery", account.AnswerChecks, at((*Server).recordMeasure)},
	{http.MethodGet, "/day", "get-day", "What is due, what the weather allows, what has gone off course", "day", account.See, at((*Server).getDay)},
	{http.MethodGet, "/figures/lessons", "get-lessons", "What the firm's own closed cases teach beside the tables", "firm", account.KeepSites, at((*Server).getLessons)},
	{http.MethodPut, "/figures/lessons", "use-lessons", "Whether the scales use what the firm's cases teach", "firm", account.KeepFirm, at((*Server).useLessons)},
	{http.MethodGet, "/prices", "get-prices", "The figures from which the marks for checking and acting follow", "firm", account.See, at((*Server).getPrices)},
	{http.MethodPut, "/prices", "change-prices", "Change the firm's figures", "firm", account.KeepFirm, at((*Server).changePrices)},
	{http.MethodPost, "/prices/preview", "preview-prices", "What other figures would change in the diagnoses given so far", "firm", account.See, heavy(at((*Server).previewPrices))},
	{http.MethodPost, "/visits/{id}/samples", "take-sample", "Take a sample for the laboratory", "samples", account.AnswerChecks, at((*Server).takeSample)},
	{http.MethodGet, "/samples", "list-samples", "Samples, the newest first", "samples", account.See, at((*Server).listSamples)},
	{http.MethodGet, "/samples/{id}/form", "get-sample-form", "The form that goes with a sample", "samples", account.See, at((*Server).getSampleForm)},
	{http.MethodPost, "/samples/{id}/result", "take-result", "Take in a laboratory's result", "samples", account.AnswerChecks, heavy(at((*Server).takeResult))},
	{http.MethodGet, "/zones/{id}/sky", "get-zone-sky", "Weather and ground of a zone today, without a visit", "sky", account.See, at((*Server).getZoneSky)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/sky", "get-sky", "Weather and ground of a zone on one time axis", "sky", account.See, at((*Server).getSky)},
	{http.MethodPost, "/sites/{id}/weather", "import-weather", "Import weather measured on a site; it replaces the station's values", "sky", account.AnswerChecks, heavy(file((*Server).importWeather))},
	{http.MethodGet, "/sites/{id}/weather", "export-weather", "The weather of a site as a file: the station under what was measured on site", "sky", account.See, heavy(at((*Server).exportWeather))},
	{http.MethodPost, "/sites/{id}/readings", "import-readings", "Take in readings of probes and thermometers, and soil tests, of a site's zones", "sky", account.AnswerChecks, heavy(file((*Server).importReadings))},
	{http.MethodGet, "/sites/{id}/readings", "export-readings", "The readings and soil tests of a site's zones as a file", "sky", account.See, at((*Server).exportReadings)},
	{http.MethodGet, "/visits/{id}/zones/{zone}/watering", "get-watering", "Minutes, cycles, litres and cost, both policies side by side", "sky", account.See, at((*Server).getWatering)},
	{http.MethodGet, "/zones/{id}/watering", "get-zone-watering", "The same for a zone today, without a visit", "sky", account.See, at((*Server).getZoneWatering)},
	{http.MethodPost, "/visits/{id}/audits", "record-audit", "Record a catch-can audit; rate and uniformity go onto the scales", "sky", account.AnswerChecks, at((*Server).recordAudit)},
	{http.MethodPut, "/sites/{id}/watering-days", "set-watering-days", "Set the weekdays on which a site may be watered", "sky", account.BookVisits, at((*Server).setWateringDays)},
	{http.MethodPut, "/zones/{id}/waterings", "log-watering", "Note the water that a zone was given on a day", "sky", account.AnswerChecks, at((*Server).logWatering)},
	{http.MethodGet, "/watch/notices", "list-notices", "Every lawn of which one thing stands", "day", account.See, at((*Server).listNotices)},
	{http.MethodPost, "/watch/noted", "note-notices", "Put one thing that the watch tells away as noted, for all lawns; it stays among what stands", "day", account.BookVisits, at((*Server).noteNotices)},
	{http.MethodPost, "/watch", "ask-watch", "Let the watch look now at what has changed since it looked last", "day", account.BookVisits, at((*Server).askWatch)},
}
