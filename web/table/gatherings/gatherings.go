// Package gatherings joins puddings for one table: when what must begin, on which
// burner, by whose hands.
package gatherings

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/exchange"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

//go:embed *.html *.css *.js
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Begin(ctx context.Context, c store.Cook) error
	KeepTimetable(ctx context.Context, g store.Gathering, w *app.Table, t *timetable.Timetable) error
	LoadGathering(ctx context.Context, g store.Gathering, now time.Time) (*app.Table, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
	Timetable(ctx context.Context, g store.Gathering, now time.Time) (*app.Table, error)
	WorkOutTimetable(ctx context.Context, id string, anew bool) error
}

// Records are what it reads and writes of the data by itself.
type records interface {
	BuyForAll(ctx context.Context, buys []store.Buy, at time.Time) error
	DropShare(ctx context.Context, gatheringID, puddingID string) error
	Gathering(ctx context.Context, id string) (store.Gathering, error)
	Gatherings(ctx context.Context) ([]store.Gathering, error)
	RemoveGathering(ctx context.Context, id string, at time.Time) error
	RestoreGathering(ctx context.Context, id string) error
	SaveGathering(ctx context.Context, g store.Gathering, at time.Time) error
	SetShare(ctx context.Context, gatheringID string, share store.Share, at time.Time) error
	Shares(ctx context.Context, gatheringID string) ([]store.Share, error)
}

// A Screen is the gatherings.
type Screen struct {
	app       *frame.App
	kitchen   kitchen
	records   records
	list, one *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "list.html"), app.Template(files, "one.html")}
}

type listView struct {
	Gatherings []row
	In         map[string]string
	Faults     map[string]string
}

type row struct{ ID, Name, When, For string }

// clock is how a form writes a day and a time.
const clock = "2006-01-02T15:04"

// List shows all gatherings and the form for a new one.
func (s *Screen) List(c *gin.Context) error { return s.showList(c, http.StatusOK, nil) }

func (s *Screen) showList(c *gin.Context, status int, f *frame.Fields) error {
	say := frame.Words(c)
	stored, err := s.records.Gatherings(c.Request.Context())
	if err != nil {
		return err
	}
	v := listView{In: map[string]string{"guests": "6", "hands": "1"}}
	if f != nil {
		v.In, v.Faults = f.Values(), f.Faults(say)
	}
	for _, g := range stored {
		v.Gatherings = append(v.Gatherings, row{g.ID, g.Name, say.Time(g.ServeAt.In(s.app.Zone), "Monday 2 January 2006, 15:04"),
			fmt.Sprintf("%d guests", g.Guests)})
	}
	frame := frame.Frame{Title: "Gatherings", Section: "gatherings", Body: v}
	if id := c.Query("removed"); id != "" {
		frame.Notice, frame.UndoPath = "The gathering was taken away. Its puddings stay on the shelf.", "/gatherings/"+id+"/restore"
	}
	return s.list.Show(c, status, frame)
}

var errNoTime = measure.Code("gatherings.no-time")

var errTime = measure.Code("gatherings.time")

// read reads the frame of a gathering.
func (s *Screen) read(f *frame.Fields, id string) store.Gathering {
	g := store.Gathering{ID: id, Name: f.Name("name", 80)}
	at, err := time.ParseInLocation(clock, f.Text("at"), s.app.Zone)
	if err != nil || at.Year() < 2000 || at.Year() > 2200 {
		f.Fault("at", errTime)
	}
	if err == nil && at.Format(clock) != f.Text("at") {
		f.Fault("at", errNoTime)
	}
	g.ServeAt = at
	g.Guests, g.Hands = wholeNumber(f, "guests", 500, "14"), wholeNumber(f, "hands", 12, "2")
	return g
}

func wholeNumber(f *frame.Fields, name string, most float64, example string) int {
	x := f.Number(name, 1, most, example)
	if x != math.Trunc(x) {
		f.Fault(name, measure.Code("gatherings.whole").With(example))
	}
	return int(x)
}

// Create makes a gathering.
func (s *Screen) Create(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	g := s.read(f, app.NewID())
	if f.Err() != nil {
		return s.showList(c, http.StatusUnprocessableEntity, f)
	}
	return s.changed(c, s.records.SaveGathering(c.Request.Context(), g, s.app.Now()), g.ID)
}

// Change stores what was changed of one.
func (s *Screen) Change(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	old, err := s.records.Gathering(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	g := s.read(f, old.ID)
	if f.Err() != nil {
		return s.showOne(c, http.StatusUnprocessableEntity, old, f)
	}
	return s.changed(c, s.records.SaveGathering(c.Request.Context(), g, s.app.Now()), g.ID)
}

// changed is done, and works the timetable out before.
func (s *Screen) changed(c *gin.Context, err error, id string) error {
	if err == nil {
		err = s.kitchen.WorkOutTimetable(c.Request.Context(), id, false)
	}
	return s.done(c, err, id)
}

func (s *Screen) done(c *gin.Context, err error, id string) error {
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/gatherings/"+id)
	return nil
}

// Remove takes one away.
func (s *Screen) Remove(c *gin.Context) error {
	id := c.Param("id")
	if err := s.records.RemoveGathering(c.Request.Context(), id, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/gatherings?removed="+id)
	return nil
}

// Restore brings it back.
func (s *Screen) Restore(c *gin.Context) error {
	return s.done(c, s.records.RestoreGathering(c.Request.Context(), c.Param("id")), c.Param("id"))
}

// SetShare puts a pudding on the table, or changes its bowls.
func (s *Screen) SetShare(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	g, err := s.records.Gathering(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	share := store.Share{PuddingID: f.Text("pudding"), Bowls: wholeNumber(f, "bowls", 500, "6"), ServeAfter: s.serveAfter(f, g)}
	if f.Err() == nil {
		err := s.records.SetShare(ctx, g.ID, share, s.app.Now())
		if errors.Is(err, store.ErrNotFound) {
			f.Fault("pudding", measure.Code("gatherings.pudding"))
		} else {
			return s.changed(c, err, g.ID)
		}
	}
	return s.showOne(c, http.StatusUnprocessableEntity, g, f)
}

var errServed = measure.Code("gatherings.served")

// serveAfter reads when a pudding is on the table, within half a day of the others; with the rest if nothing is
// said.
func (s *Screen) serveAfter(f *frame.Fields, g store.Gathering) int {
	text := f.Text("served")
	if text == "" {
		return 0
	}
	at, err := time.Parse("15:04", text)
	if err != nil {
		f.Fault("served", errServed)
		return 0
	}
	const day, half = 24 * 60, 12 * 60
	serve := g.ServeAt.In(s.app.Zone)
	after := at.Hour()*60 + at.Minute() - serve.Hour()*60 - serve.Minute()
	return (after+half+day)%day - half
}

// DropShare takes a pudding off the table.
func (s *Screen) DropShare(c *gin.Context) error {
	return s.changed(c, s.records.DropShare(c.Request.Context(), c.Param("id"), c.Param("pudding")), c.Param("id"))
}

// Buy puts all of a gathering on the buying list.
func (s *Screen) Buy(c *gin.Context) error {
	ctx := c.Request.Context()
	shares, err := s.records.Shares(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	var buys []store.Buy
	for _, share := range shares {
		buys = append(buys, store.Buy{PuddingID: share.PuddingID, Bowls: share.Bowls})
	}
	if err := s.records.BuyForAll(ctx, buys, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/buying")
	return nil
}

// oneView is a gathering with its timetable.
type oneView struct {
	ID, Name, When, At string
	In, Faults         map[string]string
	Shares             []share
	Others             []option
	Lanes              picture.Lanes
	plans              []*plan.Plan
	HasTable           bool
	Days               []day
	Late               []string
	Starts             string
	Past               bool
	Slipped            bool     // what cooks already has moved the rest
	Unreadable         []option // puddings of the table, by where to read what can be done
	Moved              string   // why a task could not be moved
	Free               string   // when hands are free
	Short              string   // when they are not enough
	GuestsLate         string
}

type share struct {
	Number                              int
	ID, Name, Bowls, Ready, Wait, Serve string
	NoFlame                             string   // when it waits hot and no burner is free
	Served                              string   // when it is on the table, 15:04
	Findings                            []string // what speaks against it on the burners that it has
	Cook                                string   // on the stove; "" if not
	Over                                bool     // it was cooked
	Locked                              bool     // put where it is by hand
	IfLate                              string   // what waiting for guests does to it
}

type option struct{ Value, Label string }

// day is the tasks of one day.
type day struct {
	Name  string
	Tasks []task
}

type task struct {
	At, Until, What, Pudding, Where string
	Number                          int
	Step                            int
	ID                              string // of the pudding
	Begun                           bool
	Slack                           string // how much later it may begin
}

// Show renders a gathering.
func (s *Screen) Show(c *gin.Context) error {
	g, err := s.records.Gathering(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	return s.showOne(c, http.StatusOK, g, nil)
}

// most minutes that guests are waited for.
const mostLate = 240.0

func (s *Screen) showOne(c *gin.Context, status int, g store.Gathering, f *frame.Fields) error {
	say := frame.Words(c)
	v, err := s.view(say, c.Request.Context(), g)
	if err != nil {
		return err
	}
	if f != nil {
		for name, value := range f.Values() {
			v.In[name] = value
		}
		v.Faults = f.Faults(say)
		v.Moved = v.Faults["move"]
	}
	if text := c.Query("guests_late"); text != "" {
		v.GuestsLate = text
		late, ok := frame.Number(text)
		if !ok || late < 1 || late > mostLate {
			v.Faults = map[string]string{"guests_late": say.Sprintf("give minutes from 1 to %.0f, such as 30", mostLate)}
			status = http.StatusUnprocessableEntity
		} else {
			v.waitFor(say, late)
		}
	}
	return s.one.Show(c, status, frame.Frame{Title: g.Name, Section: "gatherings", Module: "gatherings.js", Body: v})
}

// mostShelf bounds the puddings to choose from.
const mostShelf = 200

func (s *Screen) view(say words.Printer, ctx context.Context, g store.Gathering) (oneView, error) {
	now := s.app.Now()
	v := oneView{ID: g.ID, Name: g.Name, When: say.Time(g.ServeAt.In(s.app.Zone), "Monday 2 January, 15:04"), Past: g.ServeAt.Before(now),
		In: map[string]string{"name": g.Name, "at": g.ServeAt.In(s.app.Zone).Format(clock), "guests": strconv.Itoa(g.Guests),
			"hands": strconv.Itoa(g.Hands), "bowls": strconv.Itoa(min(g.Guests, 500))}}
	t, err := s.kitchen.Timetable(ctx, g, now)
	if err != nil {
		return v, err
	}
	table, puddings := t.Laid, t.Puddings
	v.Slipped = t.Slipped
	for _, bad := range t.Unreadable {
		v.Unreadable = append(v.Unreadable, option{frame.UnreadablePath(bad), bad.Name})
	}
	spans := func(list []timetable.Span) string {
		const most = 4
		var said []string
		for _, one := range list[:min(len(list), most)] {
			said = append(said, exchange.Moment(g.ServeAt, one.Start).In(s.app.Zone).Format("15:04")+"–"+
				exchange.Moment(g.ServeAt, one.End).In(s.app.Zone).Format("15:04"))
		}
		return say.Join(said)
	}
	on := map[string]bool{}
	var names []string
	for k, one := range puddings {
		on[one.ID] = true
		names = append(names, one.Plan.Name)
		v.plans = append(v.plans, one.Plan)
		row := share{Number: k + 1, ID: one.ID, Cook: one.OnStove, Over: one.Over, Name: one.Plan.Name, Bowls: strconv.Itoa(one.Plan.Serves),
			Serve: say.Serving(one.Plan.Serve), Served: exchange.Moment(g.ServeAt, measure.Minute(one.ServeAfter)).In(s.app.Zone).Format("15:04")}
		for _, found := range table.Findings[k] {
			row.Findings = append(row.Findings, say.Finding(one.Plan, found).Message)
		}
		if ready := table.Ready[k]; ready != nil {
			row.Ready = exchange.Moment(g.ServeAt, *ready).In(s.app.Zone).Format("15:04")
			early := measure.Minute(one.ServeAfter) - *ready
			row.Wait = waitWords(say, one.Plan, float64(early))
			if early >= timetable.LongWait && one.Plan.Serve != plan.Chilled && one.Plan.Serve != plan.Room {
				v.Late = append(v.Late, fmt.Sprintf("%s would wait %s kept hot, since burners, pots or hands are taken by the others: borrow a "+
					"burner or a pair of hands, serve it cold, or drop one.", one.Plan.Name, say.Minutes(early)))
			}
		}
		if off := table.NoFlame[k]; len(off) > 0 {
			row.NoFlame = say.NoFlame(spans(off))
		}
		if p := slices.IndexFunc(table.Places, func(p timetable.Place) bool { return p.Pudding == k }); p >= 0 {
			row.Locked = table.Places[p].Locked
		}
		v.Shares = append(v.Shares, row)
	}
	shelf, err := s.kitchen.Puddings(ctx, mostShelf)
	if err != nil {
		return v, err
	}
	for _, p := range shelf {
		if !on[p.ID] {
			v.Others = append(v.Others, option{p.ID, p.Plan.Name})
		}
	}
	if len(puddings) == 0 {
		return v, nil
	}
	v.HasTable = len(table.Tasks) > 0
	v.Lanes = picture.NewLanes(say, table, names, g.ServeAt, now, s.app.Zone)
	if v.HasTable {
		v.Starts = exchange.Moment(g.ServeAt, table.Tasks[0].Start).In(s.app.Zone).Format("Monday 15:04")
	}
	v.Free, v.Short = spans(table.HandsFree), spans(table.Short)
	for _, late := range table.Late {
		why, remedy := say.Late(t.Whole, late)
		text := fmt.Sprintf("%s cannot be cooked so: %s. %s", names[late.Pudding], why, remedy)
		if late.Minutes > 0 {
			text = fmt.Sprintf("%s is %s late: %s. %s", names[late.Pudding], say.Minutes(measure.Minute(late.Minutes)), why, remedy)
		}
		v.Late = append(v.Late, text)
	}
	v.days(say, table, puddings, func(m measure.Minute) time.Time { return exchange.Moment(g.ServeAt, m).In(s.app.Zone) })
	return v, nil
}

// waitFor says what becomes of each pudding if the guests come late.
func (v *oneView) waitFor(say words.Printer, late float64) {
	for k, p := range v.plans {
		v.Shares[k].IfLate = "stays cold, and is as good"
		if said := waitWords(say, p, late); said != "" {
			v.Shares[k].IfLate = said
		}
	}
}

// waitWords says what a pudding that is ready early comes to meanwhile.
func waitWords(say words.Printer, p *plan.Plan, minutes float64) string {
	if minutes < 2 || p.Serve == plan.Chilled {
		return ""
	}
	waits := timetable.KeptHot(p, measure.Minute(math.Round(minutes)))
	now, then := forecast.Run(p, forecast.Options{NominalOnly: true}).Thickness.As(p.Serve),
		forecast.Run(waits, forecast.Options{NominalOnly: true}).Thickness.As(p.Serve)
	text := "waits " + say.Minutes(measure.Minute(minutes)) + ", kept at " + say.Celsius(timetable.HotHold)
	const noticed = 0.1
	switch {
	case now == nil || then == nil:
	case math.Abs(then.Value-now.Value) < noticed:
		text += say.Sprintf(": thickness %.1f, as before", then.Value)
	default:
		text += say.Sprintf(": thickness %.1f, not %.1f", then.Value, now.Value)
	}
	return text
}

// days writes the tasks in the order of their beginning, by day. What follows by
// itself, such as putting something in, is told with the step before it.
func (v *oneView) days(say words.Printer, t *timetable.Timetable, puddings []app.Serving, at func(measure.Minute) time.Time) {
	forecasts := courses(puddings)
	for _, one := range wholeTasks(t.Tasks, puddings) {
		p := puddings[one.Pudding].Plan
		name := say.Time(at(one.Start), "Monday 2 January")
		if n := len(v.Days); n == 0 || v.Days[n-1].Name != name {
			v.Days = append(v.Days, day{Name: name})
		}
		where := one.Burner
		last := &p.Steps[one.Steps[len(one.Steps)-1]]
		if where == "" {
			where = one.Pot
		}
		if last.Do.Descriptor().Fridge || last.Where == plan.Fridge {
			where = "refrigerator"
		}
		row := task{At: at(one.Start).Format("15:04"), What: wholeWords(say, one, puddings[one.Pudding], forecasts[one.Pudding]), Pudding: p.Name,
			Where: where, Number: one.Pudding + 1,
			Step: one.Step, ID: puddings[one.Pudding].ID, Begun: puddings[one.Pudding].OnStove != "" || puddings[one.Pudding].Over}
		if one.End-one.Start >= 1 {
			row.Until = at(one.End).Format("15:04")
		}
		if one.Slack >= 1 {
			row.Slack = say.Minutes(one.Slack)
		}
		today := &v.Days[len(v.Days)-1]
		today.Tasks = append(today.Tasks, row)
	}
}

// courses returns the forecast of each, for the words of its steps.
func courses(puddings []app.Serving) []*forecast.Forecast {
	all := make([]*forecast.Forecast, len(puddings))
	for k := range puddings {
		all[k] = forecast.Run(puddings[k].Plan, forecast.Options{CourseOnly: true})
	}
	return all
}

// Calendar sends the timetable as iCalendar.
func (s *Screen) Calendar(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	g, err := s.records.Gathering(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	t, err := s.kitchen.Timetable(ctx, g, s.app.Now())
	if err != nil {
		return err
	}
	table, puddings := t.Laid, t.Puddings
	forecasts := courses(puddings)
	var list []exchange.Appointment
	for _, one := range wholeTasks(table.Tasks, puddings) {
		p := puddings[one.Pudding].Plan
		said := say.Step(p, forecasts[one.Pudding], one.Step)
		list = append(list, exchange.Appointment{ID: fmt.Sprintf("%s-%s-%d@kirdu", g.ID, puddings[one.Pudding].ID, one.Step),
			Start: exchange.Moment(g.ServeAt, one.Start), End: exchange.Moment(g.ServeAt, one.End), Title: wholeWords(say, one,
				puddings[one.Pudding],
				forecasts[one.Pudding]) + " (" + p.Name + ")",
			Detail: said.Detail, Alarm: true})
	}
	c.Header("Content-Disposition", `attachment; filename="timetable.ics"`)
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(exchange.Calendar(g.Name, list, s.app.Now())))
	return nil
}
