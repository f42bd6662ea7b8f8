package workbench

import (
	"math"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

type historyView struct {
	ID, Name string
	Present  int
	Versions []version
	Older    int // the version below which there are more, 0 for none
}

// version is one row of the history.
type version struct {
	Number  int
	Saved   string
	Present bool
	Begins  bool // nothing is known before it
	Changes []words.Difference

	Unreadable bool
}

// versionsShown is how many versions a page of the history has.
const versionsShown = 30

// History lists the versions of a plan with what changed in each.
func (s *Screen) History(c *gin.Context) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	pudding, err := s.records.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	below := math.MaxInt32
	if text := c.Query("below"); text != "" {
		if below, err = strconv.Atoi(text); err != nil || below < 1 {
			return frame.Stop(http.StatusUnprocessableEntity, "There is no such version.", "Go back to the history and choose one there.")
		}
	}
	stored, err := s.records.Versions(ctx, pudding.ID, below, versionsShown+1)
	if err != nil {
		return err
	}
	v := historyView{ID: pudding.ID, Name: pudding.Plan.Name, Present: pudding.Version}
	for k, one := range stored {
		if k == versionsShown {
			v.Older = stored[k-1].Version
			break
		}
		row := version{Number: one.Version, Saved: say.Time(one.SavedAt.In(s.app.Zone), "2 January 2006, 15:04"),
			Present: one.Version == pudding.Version}
		switch {
		case one.Plan == nil:
			row.Unreadable = true
		case k+1 < len(stored) && stored[k+1].Plan == nil:
		case k+1 < len(stored):
			row.Changes = say.Differences(stored[k+1].Plan, one.Plan)
		default:
			row.Begins = true
		}
		v.Versions = append(v.Versions, row)
	}
	return s.history.Show(c, http.StatusOK, frame.Frame{Title: "Versions of " + pudding.Plan.Name, Section: "puddings", Body: v})
}

// Restore makes another version the present one, as a new version.
func (s *Screen) Restore(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	pudding, err := s.records.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	wanted, err := strconv.Atoi(f.Text("version"))
	if err != nil {
		return store.ErrNotFound
	}
	found, err := s.records.Versions(ctx, pudding.ID, wanted+1, 1)
	if err != nil {
		return err
	}
	if len(found) == 0 || found[0].Version != wanted || found[0].Plan == nil {
		return store.ErrNotFound
	}
	if err := s.records.SavePlan(ctx, pudding.ID, pudding.Version, found[0].Plan, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

// Duplicate puts a copy on the shelf and opens it.
func (s *Screen) Duplicate(c *gin.Context) error {
	ctx := c.Request.Context()
	pudding, err := s.records.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	copied := pudding.Plan.Clone()
	copied.Name = copyName(copied.Name)
	id := app.NewID()
	if err := s.records.CreatePudding(ctx, id, copied, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
	return nil
}

// copyName marks a copy, within what a name may have.
func copyName(name string) string {
	const suffix, most = ", a copy", 80
	runes := []rune(name)
	return string(runes[:min(len(runes), most-len(suffix))]) + suffix
}
