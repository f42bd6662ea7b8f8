// Package review shows what a rehearsal was, and what would have been better.
package review

import (
	"context"
	"embed"
	"net/http"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// Records are what it reads and writes of the data by itself.
type records interface {
	Cook(ctx context.Context, id string) (store.Cook, error)
}

// A Screen is the review.
type Screen struct {
	app     *frame.App
	records records
	page    *frame.Template
}

// New returns the screen.
func New(app *frame.App, records records) *Screen {
	return &Screen{app, records, app.Template(files, "review.html")}
}

type view struct {
	Pudding, Name string
	Task, Verdict string
	Done          bool
	Happened      []string
	Changes       []string
	Wrong         []words.Finding
}

// Show renders it.
func (s *Screen) Show(c *gin.Context) error {
	say := frame.Words(c)
	k, err := s.records.Cook(c.Request.Context(), c.Param("id"))
	if err != nil {
		return err
	}
	if state := k.State(); !k.Rehearsal || state.Finished.IsZero() {
		c.Redirect(http.StatusSeeOther, "/stove/"+k.ID)
		return nil
	}
	r := app.Review(k)
	v := view{Pudding: k.PuddingID, Name: k.Plan.Name, Happened: say.Happened(&r), Wrong: say.Findings(r.Plan, r.Wrong)}
	for _, change := range r.Changes {
		v.Changes = append(v.Changes, say.Changed(k.Plan, change))
	}
	for i := range v.Wrong {
		v.Wrong[i].Message = words.Capital(v.Wrong[i].Message)
	}
	if r.Task != nil {
		v.Task, v.Verdict, v.Done = words.TaskName(r.Task.Task), say.Judged(r.Task), r.Task.Done
	}
	return s.page.Show(c, http.StatusOK, frame.Frame{Title: "Rehearsed: " + k.Plan.Name, Section: "stove", Body: v})
}
