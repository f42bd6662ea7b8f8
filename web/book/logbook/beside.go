package logbook

import (
	"context"
	"net/http"

	"github.com/gin-gonic/gin"

	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

// besideView is two batches beside each other.
type besideView struct {
	A, B   string // names with their days
	AID    string
	Others []choice // to choose the second from
	With   string
	Rows   []besideRow
	Plan   []words.Difference
	Lines  picture.PotLines
	Chosen bool
}

type besideRow struct {
	What, A, B string
	Differs    bool
}

// Beside compares two batches.
func (s *Screen) Beside(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	first, err := s.records.Cook(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	const most = 60
	book, err := s.records.Book(ctx, most)
	if err != nil {
		return err
	}
	title := func(k *store.Cook) string {
		return k.Plan.Name + ", " + say.Time(k.BegunAt.In(s.app.Zone), "2 January 2006")
	}
	v := besideView{A: title(&first), AID: first.ID, With: c.Query("with")}
	for i := range book {
		if book[i].ID != first.ID {
			v.Others = append(v.Others, choice{book[i].ID, title(&book[i])})
		}
	}
	if v.With != "" {
		second, err := s.records.Cook(ctx, v.With)
		if err != nil {
			return err
		}
		if a, b := first.State(), second.State(); a.Finished.IsZero() || b.Finished.IsZero() {
			return frame.Stop(http.StatusUnprocessableEntity, "One of them is still on the stove.", "Two batches of the book can be compared.")
		}
		v.Chosen, v.B = true, title(&second)
		if err := s.fill(ctx, &v, say, &first, &second); err != nil {
			return err
		}
	}
	return s.beside.Show(c, http.StatusOK, frame.Frame{Title: "Two batches", Section: "logbook", Body: v})
}

func (s *Screen) fill(ctx context.Context, v *besideView, say words.Printer, first, second *store.Cook) error {
	a, b := first.State(), second.State()
	la, err := s.kitchen.Follow(ctx, *first, &a, a.Finished)
	if err != nil {
		return err
	}
	lb, err := s.kitchen.Follow(ctx, *second, &b, b.Finished)
	if err != nil {
		return err
	}
	add := func(what, x, y string) { v.Rows = append(v.Rows, besideRow{what, x, y, x != y}) }
	add("From the flame to the end", say.Minutes(cookMinutes(&a)), say.Minutes(cookMinutes(&b)))
	mass := func(k *store.Cook, m float64) string {
		if state := k.State(); state.Yield > 0 {
			return say.Exact(state.Yield)
		}
		return say.Grams(measure.Gram(m)) + ", computed"
	}
	add("Yield", mass(first, la.Forecast.Yield.MassG.Value), mass(second, lb.Forecast.Yield.MassG.Value))
	add("Lost over the flame", rateSeen(say, &a, la), rateSeen(say, &b, lb))
	power := func(l learn.Live) string { return say.Percent(100*l.Power.Factor, 0) + " of what was planned with" }
	add("Power into the pot", power(la), power(lb))
	add("Sweetness, computed", say.Percent(la.Forecast.Sweetness.Pct.Value, 1), say.Percent(lb.Forecast.Sweetness.Pct.Value, 1))
	thickness := func(l learn.Live, serve plan.Serve) string {
		if r := l.Forecast.Thickness.As(serve); r != nil {
			return say.Sprintf("%.1f, %s", r.Value, say.Serving(serve))
		}
		return "not warm enough"
	}
	add("Thickness, computed", thickness(la, first.Plan.Serve), thickness(lb, second.Plan.Serve))
	said := func(k *store.Cook) string {
		if k.Verdict == nil {
			return "not judged yet"
		}
		if said := verdictWords(*k.Verdict); said != "" {
			return said
		}
		return "not said"
	}
	add("How it ate", said(first), said(second))
	note := func(k *store.Cook) string {
		if k.Verdict == nil {
			return ""
		}
		return k.Verdict.Note
	}
	add("Note", note(first), note(second))
	// What was learnt is in both alike, and no difference of the plans.
	pa, pb := a.Plan.Clone(), b.Plan.Clone()
	pa.Calibration, pb.Calibration = plan.Calibration{}, plan.Calibration{}
	v.Plan = say.Differences(pa, pb)
	v.Lines = picture.NewPotLines(say, la.Plan, la.Forecast,
		picture.PotLineOptions{Beside: &picture.Beside{Plan: lb.Plan, Forecast: lb.Forecast}})
	return nil
}
