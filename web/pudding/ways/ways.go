// Package ways is where a new pudding starts: from a way of cooking and three
// or four choices.
package ways

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

//go:embed *.html *.css
var files embed.FS

// Assets are the styles and modules of the screen.
var Assets = frame.Assets(files)

// A kitchen is what the screen asks of the application.
type kitchen interface {
	Fresh(ctx context.Context, choice plan.WayChoice, pots []vessel.Pot) (*plan.Plan, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	CreatePudding(ctx context.Context, id string, p *plan.Plan, at time.Time) error
	Home(ctx context.Context) (plan.Home, error)
	Pots(ctx context.Context) ([]store.Pot, error)
}

// A Screen is the ways of cooking.
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
	Ways   []way
	NoPots bool
}

type way struct {
	Key, Name, About, Loved string
	Mark                    picture.WayMark
	Chosen                  *chosen // nil for the ways that are only listed
}

// chosen is the way whose choices stand open.
type chosen struct {
	In                                map[string]string
	Faults                            map[string]string
	BaseWord, LiquidWord              string
	Bases, Liquids, Serve, Finishes   []option
	LeastBowls                        int
	HasFinishes, HasBases, HasLiquids bool
}

type option struct {
	Value, Label string
	On           bool
}

// Show lists the ways, with the choices of one of them.
func (s *Screen) Show(c *gin.Context) error {
	f := frame.NewFields(c.Request.URL.Query(), map[string]string{"bowls": "4"})
	return s.show(c, http.StatusOK, f)
}

func (s *Screen) show(c *gin.Context, status int, f *frame.Fields) error {
	say := frame.Words(c)
	pots, err := s.records.Pots(c.Request.Context())
	if err != nil {
		return err
	}
	v := view{NoPots: len(pots) == 0}
	for _, w := range plan.Ways() {
		one := way{Key: w.Name, Name: words.Capital(w.Name), About: w.About, Loved: loved(w), Mark: picture.WayMarks()[w.Name]}
		if w.Name == f.Text("way") {
			one.Chosen = choices(say, w, f)
		}
		v.Ways = append(v.Ways, one)
	}
	return s.page.Show(c, status, frame.Frame{Title: "A new pudding", Section: "puddings", Body: v})
}

// loved says what a way is loved for: "Spoon hot, Mound chilled, 12 % sweet".
func loved(w plan.Way) string {
	cold := pot.ThicknessWord(w.Aim.Chilled) + " chilled"
	sweet := fmt.Sprintf(", %s %% sweet", strconv.FormatFloat(w.Aim.Sweet, 'f', -1, 64))
	if math.IsNaN(w.Aim.Hot) {
		return cold + sweet
	}
	return pot.ThicknessWord(w.Aim.Hot) + " hot, " + words.Lower(cold) + sweet
}

func choices(say words.Printer, w plan.Way, f *frame.Fields) *chosen {
	v := &chosen{In: f.Values(), Faults: f.Faults(say), BaseWord: w.BaseWord, LiquidWord: w.LiquidWord, LeastBowls: w.Least}
	v.Bases, v.Liquids = materials(w.Bases, f.Text("base")), materials(w.Liquids, f.Text("liquid"))
	for k, serve := range w.Serve {
		v.Serve = append(v.Serve, option{string(serve), say.Serving(serve), string(serve) == f.Text("serve") ||
			(f.Text("serve") == "" && k == 0)})
	}
	for k, finish := range w.Finishes {
		v.Finishes = append(v.Finishes, option{finish.Name, finish.Name, finish.Name == f.Text("finish") || (f.Text("finish") == "" && k == 0)})
	}
	v.HasBases, v.HasLiquids, v.HasFinishes = len(v.Bases) > 1, len(v.Liquids) > 1, len(v.Finishes) > 1
	return v
}

func materials(slugs []string, on string) []option {
	var list []option
	for _, slug := range slugs {
		if m, ok := pantry.Standard().Material(slug); ok {
			list = append(list, option{slug, m.Name, slug == on})
		}
	}
	return list
}

// Faults of the form.
var (
	errBowls = measure.Code("ways.bowls")
	errPot   = measure.Code("ways.pot")
)

// mostBowls is what a household's largest pot could be asked for.
const mostBowls = 60

// Create makes the plan.
func (s *Screen) Create(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	choice := plan.WayChoice{Way: f.Text("way"), Base: f.Text("base"), Liquid: f.Text("liquid"), Finish: f.Text("finish"),
		Serve: plan.Serve(f.Text("serve"))}
	w, known := plan.WayNamed(choice.Way)
	if !known {
		return frame.Stop(http.StatusUnprocessableEntity, "There is no such way of cooking.", "Choose one from the list under New pudding.")
	}
	bowls, err := strconv.Atoi(f.Text("bowls"))
	if err != nil || bowls < 1 || bowls > mostBowls {
		f.Fault("bowls", errBowls)
	}
	choice.Bowls = bowls
	if _, err := w.Check(choice); f.FaultsOf(err) != nil {
		return err
	}
	pots, err := s.pots(c)
	if err != nil {
		return err
	}
	if len(pots) == 0 {
		f.Fault("bowls", errPot)
	}
	if f.Err() != nil {
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	if err := s.fillIn(c, &choice); err != nil {
		return err
	}
	fresh, err := s.kitchen.Fresh(ctx, choice, pots)
	if errors.Is(err, design.ErrNoUse) {
		f.Fault("bowls", design.ErrNoUse)
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	if cannot, ok := errors.AsType[*design.Cannot](err); ok {
		f.Fault("bowls", cannot)
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	if err != nil {
		return err
	}
	id := app.NewID()
	if err := s.records.CreatePudding(ctx, id, fresh, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
	return nil
}

func (s *Screen) pots(c *gin.Context) ([]vessel.Pot, error) {
	stored, err := s.records.Pots(c.Request.Context())
	var pots []vessel.Pot
	for _, p := range stored {
		pots = append(pots, p.Pot)
	}
	return pots, err
}

// fillIn fills in the burner, with its water tests, and the air of the room.
func (s *Screen) fillIn(c *gin.Context, choice *plan.WayChoice) error {
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	choice.Burner, choice.Kitchen = vessel.DefaultBurner(), home.Kitchen
	if len(home.Burners) > 0 {
		choice.Burner = home.Burners[0]
	}
	return nil
}
