// Package today is the first screen: what is on the stove, what could be next,
// how the last batches came out.
package today

import (
	"context"
	"embed"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/timetable"
	"kirdu/exchange"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Follow(ctx context.Context, c store.Cook, s *cook.State, at time.Time, of ...string) (learn.Live, error)
	Forecast(ctx context.Context, p *plan.Plan) (*forecast.Forecast, error)
	NextTasks(ctx context.Context, g store.Gathering, from, to time.Time) (*app.Table, []timetable.Task, error)
	Planned(ctx context.Context) ([]store.Pudding, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
	WantsStart(ctx context.Context) (bool, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	CountPuddings(ctx context.Context) (int, error)
	Gatherings(ctx context.Context) ([]store.Gathering, error)
	LatestLines(ctx context.Context, most int) ([]store.BookLine, error)
	OnStove(ctx context.Context) ([]store.Cook, error)
	Pots(ctx context.Context) ([]store.Pot, error)
}

// A Screen is Today.
type Screen struct {
	app     *frame.App
	kitchen kitchen
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "*.html")}
}

type view struct {
	Now      time.Time
	OnStove  []cooking
	Shelf    []pudding
	Next     []toBegin
	Suppers  []gathering
	Book     []batch
	NoPots   bool
	Puddings int
}

// toBegin is what must begin next for a pudding that has a time.
type toBegin struct {
	Path, Pudding, At, What, Serve string
	when                           time.Time
}

// gathering is one to come.
type gathering struct{ ID, Name, When, For string }

// aheadFor is how long before it begins a preparation is shown, and lateFor how
// long after.
const (
	aheadFor = 7 * 24 * time.Hour
	lateFor  = time.Hour
)

// next lists what must begin next for each pudding that has a time.
func (s *Screen) next(say words.Printer, ctx context.Context) ([]toBegin, error) {
	planned, err := s.kitchen.Planned(ctx)
	if err != nil {
		return nil, err
	}
	now := s.app.Now()
	var starts []toBegin
	for _, p := range planned {
		if p.ServeAt.Before(now) {
			continue
		}
		f, err := s.kitchen.Forecast(ctx, p.Plan)
		if err != nil {
			return nil, err
		}
		for _, at := range say.StartBy(p.Plan, f, p.ServeAt, s.app.Zone) {
			if at.When.Before(now.Add(-lateFor)) || at.When.After(now.Add(aheadFor)) {
				continue
			}
			starts = append(starts, toBegin{Path: "/puddings/" + p.ID, Pudding: p.Plan.Name, when: at.When, At: at.At, What: at.What,
				Serve: p.ServeAt.In(s.app.Zone).Format("Mon 15:04")})
			break
		}
	}
	return starts, nil
}

// nextOf adds the next tasks of a gathering.
func (s *Screen) nextOf(say words.Printer, ctx context.Context, g store.Gathering, v *view) error {
	const nearest = 2
	w, tasks, err := s.kitchen.NextTasks(ctx, g, v.Now.Add(-lateFor), v.Now.Add(aheadFor))
	if err != nil {
		return err
	}
	for _, task := range tasks[:min(len(tasks), nearest)] {
		p := w.Puddings[task.Pudding].Plan
		f, err := s.kitchen.Forecast(ctx, p)
		if err != nil {
			return err
		}
		at := exchange.Moment(g.ServeAt, task.Start).In(s.app.Zone)
		v.Next = append(v.Next, toBegin{Path: "/gatherings/" + g.ID, Pudding: p.Name, when: at, At: at.Format("Mon 15:04"),
			Serve: g.ServeAt.In(s.app.Zone).Format("Mon 15:04"),
			What:  say.Step(p, f, task.Step).Title})
	}
	return nil
}

type cooking struct{ ID, Name, Doing, Left, Bowl string }

type pudding struct{ ID, Name, Line, Times string }

type batch struct{ ID, Name, Day, Line string }

// most of each list that Today shows.
const most = 4

// Show renders Today.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	if empty, err := s.kitchen.WantsStart(c.Request.Context()); err != nil {
		return err
	} else if empty {
		c.Redirect(http.StatusSeeOther, "/start")
		return nil
	}
	ctx := app.WithHome(c.Request.Context())
	v := view{Now: s.app.Now()}
	cooks, err := s.records.OnStove(ctx)
	if err != nil {
		return err
	}
	for _, k := range cooks {
		one, err := s.cooking(ctx, say, k)
		if err != nil {
			return err
		}
		v.OnStove = append(v.OnStove, one)
	}
	gatherings, err := s.records.Gatherings(ctx)
	if err != nil {
		return err
	}
	for i := len(gatherings) - 1; i >= 0 && len(v.Suppers) < most; i-- { // the latest come first
		if g := gatherings[i]; g.ServeAt.After(v.Now) {
			if err := s.nextOf(say, ctx, g, &v); err != nil {
				return err
			}
			v.Suppers = append(v.Suppers, gathering{g.ID, g.Name, say.Time(g.ServeAt.In(s.app.Zone), "Mon 2 Jan, 15:04"),
				fmt.Sprintf("%d guests", g.Guests)})
		}
	}
	shelf, err := s.kitchen.Puddings(ctx, most)
	if err != nil {
		return err
	}
	if v.Puddings, err = s.records.CountPuddings(ctx); err != nil {
		return err
	}
	for _, p := range shelf {
		f, err := s.kitchen.Forecast(ctx, p.Plan)
		if err != nil {
			return err
		}
		v.Shelf = append(v.Shelf, pudding{ID: p.ID, Name: p.Plan.Name, Times: say.Span(timetable.Alone(p.Plan, f).Whole(f)),
			Line: fmt.Sprintf("%d bowls, %s", p.Plan.Serves, say.Thickness(f, p.Plan.Serve))})
	}
	book, err := s.records.LatestLines(ctx, most)
	if err != nil {
		return err
	}
	for _, k := range book {
		v.Book = append(v.Book, batch{ID: k.ID, Name: k.Name, Day: say.Time(k.BegunAt.In(s.app.Zone), "2 January"), Line: verdictLine(k)})
	}
	own, err := s.next(say, ctx)
	if err != nil {
		return err
	}
	v.Next = append(v.Next, own...)
	slices.SortStableFunc(v.Next, func(a, b toBegin) int { return a.when.Compare(b.when) })
	pots, err := s.records.Pots(ctx)
	if err != nil {
		return err
	}
	v.NoPots = len(pots) == 0
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "Today", Section: "today", Body: v, Refresh: 60})
}

func (s *Screen) cooking(ctx context.Context, say words.Printer, k store.Cook) (cooking, error) {
	state := k.State()
	one := cooking{ID: k.ID, Name: k.Plan.Name, Doing: "All steps are done: weigh it and write it down."}
	if state.Done() {
		return one, nil
	}
	now := app.Moment(k, k.Now(s.app.Now()))
	live, err := s.kitchen.Follow(ctx, k, &state, now)
	if err != nil {
		return one, err
	}
	one.Doing = say.Step(state.Plan, live.Forecast, state.Step).Title
	clock := learn.ClockOf(&state, &live, now)
	bowl := clock.Bowl(live.Forecast)
	total := live.Forecast.Time.TotalMin
	middle := bowl.Sub(now).Minutes() - total.Value
	left := measure.Range{Value: max(0, middle+total.Value), Low: max(0, middle+total.Low), High: max(0, middle+total.High)}
	one.Left = say.Span(left)
	one.Bowl = bowl.In(s.app.Zone).Format("15:04")
	return one, nil
}

// verdictLine says how a batch came out.
func verdictLine(k store.BookLine) string {
	if k.Verdict == nil {
		return "not judged yet"
	}
	line := ""
	if k.Verdict.Thickness > 0 {
		line = pot.ThicknessWord(float64(k.Verdict.Thickness))
	}
	if k.Verdict.Sweetness != "" {
		if line != "" {
			line += ", "
		}
		line += k.Verdict.Sweetness
	}
	if line == "" {
		line = k.Verdict.Note
	}
	return line
}
