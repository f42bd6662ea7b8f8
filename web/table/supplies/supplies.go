// Package supplies is what is in the house and what must be bought: which
// puddings can be made now, and one list for all that are planned.
package supplies

import (
	"bytes"
	"context"
	"database/sql"
	"embed"
	"encoding/csv"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/stock"
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
	Pudding(ctx context.Context, id string) (store.Pudding, error)
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
}

// Records are what it reads and writes of the data by itself.
type records interface {
	AtHand(ctx context.Context) (map[string]sql.Null[measure.Gram], error)
	BuyFor(ctx context.Context, b store.Buy, at time.Time) error
	Buying(ctx context.Context) ([]store.Buy, map[string]measure.Gram, error)
	Home(ctx context.Context) (plan.Home, error)
	NotBuyFor(ctx context.Context, puddingID string) error
	NoteAtHand(ctx context.Context, slug string, mass sql.Null[measure.Gram], at time.Time) error
	Puddings(ctx context.Context, most int) ([]store.Pudding, error)
	SavePlan(ctx context.Context, id string, base int, p *plan.Plan, at time.Time) error
	Tick(ctx context.Context, slug string, mass measure.Gram, at time.Time) error
	UsedUp(ctx context.Context, slug string) error
}

// A Screen is both lists.
type Screen struct {
	app          *frame.App
	kitchen      kitchen
	records      records
	have, buying *frame.Template
}

// New returns the screen.
func New(app *frame.App, kitchen kitchen, records records) *Screen {
	return &Screen{app, kitchen, records, app.Template(files, "have.html"), app.Template(files, "buying.html")}
}

// mostPuddings bounds what is reckoned for one page.
const mostPuddings = 100

type haveView struct {
	Bowls, Fault string
	In           map[string]string
	Faults       map[string]string
	Stock        []stockView
	Puddings     []madeView
	Names        []string
}

type stockView struct{ Slug, Name, Mass string }

type madeView struct {
	ID, Name, Readiness, Class string
	Swaps, Missing, Without    []string
	After                      string
}

var haveStandard = map[string]string{"bowls": "6", "material": "", "amount": ""}

// Have shows what can be made from what is in the house.
func (s *Screen) Have(c *gin.Context) error {
	return s.showHave(c, http.StatusOK, frame.NewFields(c.Request.URL.Query(), haveStandard))
}

func (s *Screen) showHave(c *gin.Context, status int, f *frame.Fields) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	all := plan.HomePantry(home)
	at, err := s.records.AtHand(ctx)
	if err != nil {
		return err
	}
	bowls := int(f.Number("bowls", 1, 200, "6"))
	v := haveView{In: f.Values()}
	have := stock.Stock{}
	for _, m := range all.All() {
		v.Names = append(v.Names, m.Name)
		mass, there := at[m.Slug]
		if !there {
			continue
		}
		one := stockView{Slug: m.Slug, Name: m.Name, Mass: "enough"}
		have[m.Slug] = stock.Enough
		if mass.Valid {
			have[m.Slug], one.Mass = mass.V, amount(say, home, mass.V, m)
		}
		v.Stock = append(v.Stock, one)
	}
	if f.Err() == nil {
		shelf, err := s.kitchen.Puddings(ctx, mostPuddings)
		if err != nil {
			return err
		}
		for _, p := range shelf {
			v.Puddings = append(v.Puddings, newMade(say, p.ID, p.Plan, bowls, have))
		}
		slices.SortStableFunc(v.Puddings, func(a, b madeView) int {
			return strings.Compare(a.Class+fmt.Sprintf("%03d", len(a.Missing)), b.Class+fmt.Sprintf("%03d", len(b.Missing)))
		})
	} else if status == http.StatusOK {
		status = http.StatusUnprocessableEntity
	}
	v.Faults = f.Faults(say)
	return s.have.Show(c, status, frame.Frame{Title: "What have I got?", Section: "puddings", Body: v})
}

// amount says a mass in grams and in the kitchen's own measures.
func amount(say words.Printer, home plan.Home, mass measure.Gram, m *pantry.Material) string {
	text := say.Grams(mass)
	if own := home.Household(mass, m); own != "" {
		text += ", " + own
	}
	return text
}

func newMade(say words.Printer, id string, p *plan.Plan, bowls int, have stock.Stock) madeView {
	made := stock.Have(p, bowls, have)
	v := madeView{ID: id, Name: p.Name, Readiness: "can be made now", Class: "1-now"}
	switch made.Readiness {
	case stock.WithSwap:
		v.Readiness, v.Class = "can be made with a swap", "2-swap"
		v.After = say.Sprintf("Then %s instead of %s thick, %s sweet, grain at %.1f for %.1f; the mark and the sugar are set anew.",
			say.Number(made.Outcome.Thickness, 1), say.Number(made.Before.Thickness, 1), say.Percent(made.Outcome.Sweet, 1), made.Outcome.Done,
			made.Before.Done)
	case stock.Missing:
		v.Readiness, v.Class = "something is missing", "3-missing"
	}
	for _, swap := range made.Swaps {
		v.Swaps = append(v.Swaps, fmt.Sprintf("%s %s for %s %s", say.Grams(swap.ToMass), words.Lower(swap.To.ShortName()),
			say.Grams(swap.FromMass), words.Lower(swap.From.ShortName())))
	}
	for _, need := range made.Needs {
		said := say.Grams(need.Mass) + " " + words.Lower(need.Material.ShortName())
		if need.Has > 0 {
			said += " (" + say.Grams(need.Has) + " are there)"
		}
		if need.Optional {
			v.Without = append(v.Without, words.Lower(need.Material.ShortName()))
		} else {
			v.Missing = append(v.Missing, said)
		}
	}
	return v
}

var errMaterial = measure.Code("supplies.material")

// Note notes that a material is in the house.
func (s *Screen) Note(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, haveStandard)
	if err != nil {
		return err
	}
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	all := plan.HomePantry(home)
	m, known := all.Find(f.Text("material"))
	if !known {
		f.Fault("material", errMaterial)
	}
	var mass sql.Null[measure.Gram]
	if text := f.Text("amount"); text != "" && known {
		amount, err := measure.ParseAmount(text)
		if err == nil {
			mass.V, err = home.Measures.Grams(amount, m.Body())
		}
		if err != nil {
			f.Fault("amount", err)
		}
		mass.Valid = true
	}
	if f.Err() != nil {
		return s.showHave(c, http.StatusUnprocessableEntity, f)
	}
	if err := s.records.NoteAtHand(ctx, m.Slug, mass, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/supplies?bowls="+strconv.Itoa(int(f.Number("bowls", 1, 200, "6"))))
	return nil
}

// UsedUp forgets a material.
func (s *Screen) UsedUp(c *gin.Context) error {
	if err := s.records.UsedUp(c.Request.Context(), c.Param("slug")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/supplies")
	return nil
}

// TakeSwap makes the swapped plan a version of the pudding.
func (s *Screen) TakeSwap(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	pudding, err := s.kitchen.Pudding(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	bowls, err := strconv.Atoi(f.Text("bowls"))
	if err != nil || bowls < 1 || bowls > 200 {
		return frame.Stop(http.StatusUnprocessableEntity, "For how many bowls?", "Give a whole number from 1 to 200.")
	}
	have, err := s.stock(c)
	if err != nil {
		return err
	}
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	made := stock.Have(pudding.Plan, bowls, have)
	taken, err := plan.Reread(made.Plan.In(home))
	if err == nil {
		err = s.records.SavePlan(ctx, pudding.ID, pudding.Version, taken, s.app.Now())
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+pudding.ID)
	return nil
}

func (s *Screen) stock(c *gin.Context) (stock.Stock, error) {
	at, err := s.records.AtHand(c.Request.Context())
	have := stock.Stock{}
	for slug, mass := range at {
		have[slug] = stock.Enough
		if mass.Valid {
			have[slug] = mass.V
		}
	}
	return have, err
}

type buyingView struct {
	Puddings []buyView
	Others   []choice
	Kinds    []kindView
	Left     int
	Fault    string
}

type buyView struct {
	ID, Name string
	Bowls    string
}

type choice struct{ ID, Name string }

type kindView struct {
	Name  string
	Lines []lineView
}

type lineView struct {
	Slug, Name, Mass, Pieces, For string
	Grams                         string
	Ticked, Short                 bool
}

// Buying shows the list.
func (s *Screen) Buying(c *gin.Context) error { return s.showBuying(c, http.StatusOK, "") }

func (s *Screen) showBuying(c *gin.Context, status int, fault string) error {
	say := frame.Words(c)
	list, bought, err := s.list(c)
	if err != nil {
		return err
	}
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	v := buyingView{Fault: fault}
	shelf, err := s.records.Puddings(c.Request.Context(), mostPuddings)
	if err != nil {
		return err
	}
	buys, _, err := s.records.Buying(c.Request.Context())
	if err != nil {
		return err
	}
	for _, p := range shelf {
		k := slices.IndexFunc(buys, func(b store.Buy) bool { return b.PuddingID == p.ID })
		if k < 0 {
			v.Others = append(v.Others, choice{p.ID, p.Plan.Name})
			continue
		}
		v.Puddings = append(v.Puddings, buyView{p.ID, p.Plan.Name, strconv.Itoa(buys[k].Bowls)})
	}
	for _, line := range list {
		name := words.Capital(strings.ReplaceAll(line.Material.Kind, "-", " "))
		if n := len(v.Kinds); n == 0 || v.Kinds[n-1].Name != name {
			v.Kinds = append(v.Kinds, kindView{Name: name})
		}
		one := newLine(say, line, bought)
		if !one.Ticked {
			v.Left++
		}
		if one.Pieces == "" {
			one.Pieces = home.Household(line.Mass, line.Material)
		}
		k := &v.Kinds[len(v.Kinds)-1]
		k.Lines = append(k.Lines, one)
	}
	return s.buying.Show(c, status, frame.Frame{Title: "Buying", Section: "buying", Body: v})
}

func newLine(say words.Printer, line stock.Purchase, bought map[string]measure.Gram) lineView {
	const tolerance = 0.5 // g: what was ticked for as much as is needed now
	ticked, there := bought[line.Material.Slug]
	one := lineView{Slug: line.Material.Slug, Name: line.Material.Name, Mass: say.Grams(line.Mass), For: say.Join(line.Puddings),
		Grams: say.Number(float64(line.Mass), 1), Ticked: there && ticked+tolerance >= line.Mass, Short: there && ticked+tolerance < line.Mass}
	if line.Pieces > 0 {
		one.Pieces = pieces(say, line)
	}
	if one.Short {
		one.Mass += ", " + say.Grams(line.Mass-ticked) + " more than is in the basket"
	}
	return one
}

func pieces(say words.Printer, line stock.Purchase) string {
	return fmt.Sprintf("%s of about %s", measure.CountPieces(line.Pieces, line.Material.PieceName), say.Grams(line.Material.Piece))
}

// list reckons what the chosen puddings need.
func (s *Screen) list(c *gin.Context) ([]stock.Purchase, map[string]measure.Gram, error) {
	ctx := c.Request.Context()
	buys, bought, err := s.records.Buying(ctx)
	if err != nil {
		return nil, nil, err
	}
	var plans []*plan.Plan
	for _, b := range buys {
		pudding, err := s.kitchen.Pudding(ctx, b.PuddingID)
		if err != nil {
			return nil, nil, err
		}
		wanted := pudding.Plan.Clone()
		wanted.ScaleWithTaste(b.Bowls)
		plans = append(plans, wanted)
	}
	return stock.Buy(plans), bought, nil
}

var errBowls = measure.Code("supplies.bowls")

// BuyFor puts a pudding on the list or changes its bowls.
func (s *Screen) BuyFor(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	id := f.Text("pudding")
	bowls, err := strconv.Atoi(f.Text("bowls"))
	if err != nil || bowls < 1 || bowls > 500 {
		return s.showBuying(c, http.StatusUnprocessableEntity, frame.Words(c).Fault(&measure.FieldError{Value: strconv.Quote(f.Text("bowls")),
			Err: errBowls}))
	}
	if err := s.records.BuyFor(c.Request.Context(), store.Buy{PuddingID: id, Bowls: bowls}, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/buying")
	return nil
}

// NotBuyFor takes a pudding off the list.
func (s *Screen) NotBuyFor(c *gin.Context) error {
	if err := s.records.NotBuyFor(c.Request.Context(), c.Param("id")); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/buying")
	return nil
}

// Tick notes that something is in the basket, or takes it out.
func (s *Screen) Tick(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	slug := c.Param("slug")
	list, _, err := s.list(c)
	if err != nil {
		return err
	}
	mass := measure.Gram(0)
	if f.Text("in") != "" {
		k := slices.IndexFunc(list, func(p stock.Purchase) bool { return p.Material.Slug == slug })
		if k < 0 {
			return frame.Stop(http.StatusNotFound, "That is no longer on the list.", "The puddings may have been changed.")
		}
		mass = list[k].Mass
	}
	if err := s.records.Tick(c.Request.Context(), slug, mass, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/buying#"+slug)
	return nil
}

// Text sends the list as plain text.
func (s *Screen) Text(c *gin.Context) error {
	say := frame.Words(c)
	list, bought, err := s.list(c)
	if err != nil {
		return err
	}
	var b strings.Builder
	kind := ""
	for _, line := range list {
		if line.Material.Kind != kind {
			kind = line.Material.Kind
			fmt.Fprintf(&b, "\n%s\n", strings.ToUpper(kind))
		}
		one := newLine(say, line, bought)
		mark := " "
		if one.Ticked {
			mark = "x"
		}
		fmt.Fprintf(&b, "[%s] %s, %s", mark, one.Name, one.Mass)
		if one.Pieces != "" {
			fmt.Fprintf(&b, " (%s)", one.Pieces)
		}
		b.WriteByte('\n')
	}
	c.Header("Content-Disposition", `attachment; filename="buying.txt"`)
	c.Data(http.StatusOK, "text/plain; charset=utf-8", []byte(strings.TrimLeft(strings.ReplaceAll(b.String(), "\u202f", " "), "\n")))
	return nil
}

// CSV sends the list as a table.
func (s *Screen) CSV(c *gin.Context) error {
	say := frame.Words(c)
	list, bought, err := s.list(c)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	rows := [][]string{{"kind", "material", "mass_g", "pieces", "piece", "in_basket", "for"}}
	for _, line := range list {
		one := newLine(say, line, bought)
		rows = append(rows, []string{line.Material.Kind, safeCell(line.Material.Name), say.Number(float64(line.Mass), 1), count(say, line),
			line.Material.PieceName, yesNo(one.Ticked), safeCell(strings.Join(line.Puddings, "; "))})
	}
	if err := w.WriteAll(rows); err != nil {
		return err
	}
	c.Header("Content-Disposition", `attachment; filename="buying.csv"`)
	c.Data(http.StatusOK, "text/csv; charset=utf-8", b.Bytes())
	return nil
}

func count(say words.Printer, line stock.Purchase) string {
	if line.Pieces <= 0 {
		return ""
	}
	return say.Number(line.Pieces, 0)
}

func yesNo(yes bool) string {
	if yes {
		return "yes"
	}
	return "no"
}

// safeCell keeps a spreadsheet from taking a name for a formula.
func safeCell(text string) string {
	if text != "" && strings.ContainsAny(text[:1], "=+-@\t\r") {
		return "'" + text
	}
	return text
}
