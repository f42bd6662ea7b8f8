package gatherings

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/timetable"
	"kirdu/store"
	"kirdu/web/frame"
)

// Anew works the timetable out as if nothing had been put by hand.
func (s *Screen) Anew(c *gin.Context) error {
	return s.done(c, s.kitchen.WorkOutTimetable(c.Request.Context(), c.Param("id"), true), c.Param("id"))
}

// mostMoved is how far a task is moved at once, in minutes.
const mostMoved = 1440.0

// Move puts a task elsewhere: so many minutes later or earlier, on a burner.
func (s *Screen) Move(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	g, err := s.records.Gathering(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	step := f.Number("step", 0, 1000, "3")
	by := measure.Minute(f.Number("by", -mostMoved, mostMoved, "-10"))
	w, err := s.kitchen.Timetable(ctx, g, s.app.Now())
	if err != nil {
		return err
	}
	pudding := slices.IndexFunc(w.Puddings, func(p app.Serving) bool { return p.ID == f.Text("pudding") })
	at := slices.IndexFunc(w.Laid.Tasks, func(t timetable.Task) bool { return t.Pudding == pudding && t.Step == int(step) })
	if f.Err() == nil && at < 0 {
		f.Fault("move", timetable.ErrNoTask)
	}
	if f.Err() == nil {
		moved, err := timetable.Move(w.Whole, w.Options, w.Laid.Places, pudding, int(step), w.Laid.Tasks[at].Start+by, f.Text("burner"))
		if err == nil {
			return s.done(c, s.kitchen.KeepTimetable(ctx, g, w, moved), g.ID)
		}
		f.Fault("move", measure.Code("gatherings.cannot-move").With(w.Puddings[pudding].Plan.Name, err))
	}
	return s.showOne(c, http.StatusUnprocessableEntity, g, f)
}

// Late moves what is not begun, all of it or one pudding.
func (s *Screen) Late(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	g, err := s.records.Gathering(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	by := measure.Minute(f.Number("late_by", 1, mostLate, "20"))
	w, err := s.kitchen.Timetable(ctx, g, s.app.Now())
	if err != nil {
		return err
	}
	only := -1
	if id := f.Text("pudding"); id != "" {
		if only = slices.IndexFunc(w.Puddings, func(p app.Serving) bool { return p.ID == id }); only < 0 {
			f.Fault("late_by", measure.Code("gatherings.late-by"))
		}
	}
	if f.Err() != nil {
		return s.showOne(c, http.StatusUnprocessableEntity, g, f)
	}
	now := measure.Minute(s.app.Now().Sub(g.ServeAt).Minutes())
	return s.done(c, s.kitchen.KeepTimetable(ctx, g, w, timetable.Later(w.Whole, w.Options, w.Laid.Places, now, by, only)), g.ID)
}

// Cook puts a pudding of the table on the stove, in its size.
func (s *Screen) Cook(c *gin.Context) error {
	ctx := c.Request.Context()
	g, err := s.records.Gathering(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	w, err := s.kitchen.LoadGathering(ctx, g, s.app.Now())
	if err != nil {
		return err
	}
	i := slices.IndexFunc(w.Puddings, func(p app.Serving) bool { return p.ID == c.Param("pudding") })
	if i < 0 {
		return store.ErrNotFound
	}
	if id := w.Puddings[i].OnStove; id != "" {
		c.Redirect(http.StatusSeeOther, "/stove/"+id)
		return nil
	}
	begun := store.Cook{ID: app.NewID(), PuddingID: w.Puddings[i].ID, Plan: w.OnItsBurners(i), BegunAt: s.app.Now(),
		Zone: s.app.Zone.String(), GatheringID: g.ID}
	if err := s.kitchen.Begin(ctx, begun); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/stove/"+begun.ID)
	return nil
}
