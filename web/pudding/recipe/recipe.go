// Package recipe takes over a list of ingredients from anywhere and makes a
// pudding of it: what is understood is shown, what is not is asked.
package recipe

import (
	"bytes"
	"context"
	"embed"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/design"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/pot"
	"kirdu/core/recipe"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/core/watch"
	"kirdu/exchange"
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
	Burners(ctx context.Context) ([]store.Burner, error)
	CreatePudding(ctx context.Context, id string, p *plan.Plan, at time.Time) error
	Fittings(ctx context.Context, usual store.Fittings) (store.Fittings, error)
	Home(ctx context.Context) (plan.Home, error)
	Pots(ctx context.Context) ([]store.Pot, error)
}

// A Screen is the intake of lists.
type Screen struct {
	app         *frame.App
	records     records
	paste, read *frame.Template
}

// New returns the screen.
func New(app *frame.App, records records) *Screen {
	return &Screen{app, records, app.Template(files, "paste.html"), app.Template(files, "read.html")}
}

type pasteView struct {
	In     map[string]string
	Faults map[string]string
}

const usualBowls, mostBowls = 4, 500

var standard = map[string]string{"list": "", "name": "", "bowls": strconv.Itoa(usualBowls), "serve": string(plan.Hot), "method": "",
	"school": "", "notes": "", "around": ""}

// Show shows where a list is pasted.
func (s *Screen) Show(c *gin.Context) error {
	return s.showPaste(c, http.StatusOK, frame.NewFields(nil, standard))
}

func (s *Screen) showPaste(c *gin.Context, status int, f *frame.Fields) error {
	return s.paste.Show(c, status, frame.Frame{Title: "From a recipe", Section: "puddings", Body: pasteView{f.Values(),
		f.Faults(frame.Words(c))}})
}

// Faults of a list.
var (
	errEmpty  = measure.Code("recipe.empty")
	errNoList = measure.Code("recipe.no-list")
	errFile   = measure.Code("recipe.file")
)

// Read reads a pasted list or a recipe file and shows what was understood.
func (s *Screen) Read(c *gin.Context) error {
	f, err := s.form(c)
	if err != nil {
		return err
	}
	home, err := s.records.Home(c.Request.Context())
	if err != nil {
		return err
	}
	if id, taken := s.file(c, f, home); taken {
		c.Redirect(http.StatusSeeOther, "/puddings/"+id)
		return nil
	}
	if _, again := f.Typed["material0"]; f.Err() == nil && !again {
		split(f)
	}
	var lines []recipe.Line
	reader := recipe.NewReader(plan.HomePantry(home), home.Measures)
	if f.Err() == nil {
		if f.Text("list") == "" { // it is told without one
			f.Typed.Set("list", strings.Join(reader.ListOf(f.Text("method")), "\n"))
		}
		if lines, err = reader.Read(f.Text("list")); err != nil {
			f.Fault("list", err)
		} else if len(lines) == 0 && f.Text("method") != "" {
			f.Fault("list", errNoList)
		} else if len(lines) == 0 {
			f.Fault("list", errEmpty)
		}
	}
	if f.Err() != nil {
		return s.showPaste(c, http.StatusUnprocessableEntity, f)
	}
	return s.showRead(c, http.StatusOK, f, reader, lines, home)
}

// split takes apart what was pasted: a page with all that it has around its recipe, in one field or in two.
func split(f *frame.Fields) {
	whole, err := recipe.Split(f.Text("list"))
	if err != nil {
		f.Fault("list", err)
		return
	}
	if typed := f.Text("method"); typed != "" {
		method := recipe.SplitMethod(typed)
		whole.Notes = joinLines(whole.Notes, whole.Method, method.Notes)
		whole.Around = joinLines(whole.Around, method.Around)
		whole.Method = method.Method
		if whole.Bowls == 0 {
			whole.Bowls = method.Bowls
		}
	}
	f.Typed.Set("list", whole.List)
	f.Typed.Set("method", whole.Method)
	f.Typed.Set("notes", whole.Notes)
	f.Typed.Set("around", whole.Around)
	if f.Text("name") == "" {
		f.Typed.Set("name", shorten(whole.Name))
	}
	if whole.Bowls > 0 && f.Text("bowls") == standard["bowls"] {
		f.Typed.Set("bowls", strconv.Itoa(whole.Bowls))
	}
}

func joinLines(texts ...string) string {
	return strings.Join(slices.DeleteFunc(texts, func(text string) bool { return text == "" }), "\n")
}

// form reads a form that may bring a file.
func (s *Screen) form(c *gin.Context) (*frame.Fields, error) {
	err := c.Request.ParseMultipartForm(exchange.MaxRecipeBytes)
	if errors.Is(err, http.ErrNotMultipart) {
		err = c.Request.ParseForm()
	}
	if err != nil {
		return nil, frame.Stop(http.StatusBadRequest, "The form could not be read.",
			fmt.Sprintf("A list or a recipe file is at most %d MB. Go back and send it again.", exchange.MaxRecipeBytes>>20))
	}
	return frame.NewFields(c.Request.PostForm, standard), nil
}

// file takes over a recipe file, if there is one. A plan file becomes a pudding
// at once; taken is true then and id its address.
func (s *Screen) file(c *gin.Context, f *frame.Fields, home plan.Home) (id string, taken bool) {
	if c.Request.MultipartForm == nil || len(c.Request.MultipartForm.File["file"]) == 0 {
		return "", false
	}
	header := c.Request.MultipartForm.File["file"][0]
	if header.Size == 0 && header.Filename == "" {
		return "", false
	}
	file, err := header.Open()
	if err != nil {
		f.Fault("file", errFile)
		return "", false
	}
	defer file.Close()
	data, err := io.ReadAll(io.LimitReader(file, exchange.MaxRecipeBytes+1))
	if err != nil {
		f.Fault("file", errFile)
		return "", false
	}
	if bytes.Contains(data, []byte(plan.Format)) {
		return s.planFile(c, f, header.Filename, data, home)
	}
	recipe, err := exchange.ReadRecipe(data)
	if err != nil {
		f.Fault("file", measure.Code("recipe.file-is").With(header.Filename, err))
		return "", false
	}
	if recipe.Page != "" {
		f.Typed.Set("list", recipe.Page)
		return "", false
	}
	f.Typed.Set("list", strings.Join(recipe.Ingredients, "\n"))
	f.Typed.Set("method", recipe.Notes)
	if f.Text("name") == "" {
		f.Typed.Set("name", shorten(recipe.Name))
	}
	if recipe.Bowls > 0 {
		f.Typed.Set("bowls", strconv.Itoa(recipe.Bowls))
	}
	return "", false
}

// planFile puts a plan file on the shelf. Its measures are another kitchen's:
// what they give otherwise here is written in grams.
func (s *Screen) planFile(c *gin.Context, f *frame.Fields, name string, data []byte, home plan.Home) (id string, taken bool) {
	p, err := plan.Read(data)
	if err == nil {
		p.Settle(home)
		p, err = plan.Reread(p)
	}
	if faults, ok := errors.AsType[measure.Faults](err); ok {
		const most = 5
		shown := faults[:min(len(faults), most)]
		f.Fault("file", measure.Code("recipe.plan-faults").With(name, len(faults), shown))
		return "", false
	}
	if err == nil {
		id = app.NewID()
		err = s.records.CreatePudding(c.Request.Context(), id, p, s.app.Now())
	}
	if err != nil {
		s.app.Log.Error("take over a plan file", "error", err)
		f.Fault("file", errFile)
		return "", false
	}
	return id, true
}

func shorten(name string) string {
	const most = 80
	if runes := []rune(name); len(runes) > most {
		return string(runes[:most])
	}
	return name
}

type readView struct {
	In     map[string]string
	Faults map[string]string
	Lines  []lineView
	Names  []string
	Right  int
	All    int

	Method   []sentenceView
	Things   []string     // what a sentence may be put right with
	ByList   bool         // there is a method, and it could not be followed
	Prepared []stepView   // what the lines say is done beforehand
	Unplaced []string     // what the method does not speak of
	Unclear  int          // sentences of which nothing was made
	Foreign  bool         // hardly a line is in words that the pantry knows
	Schools  []schoolView // how it may be cooked, where no method says it
	Doubtful int          // sentences with something to look at
	Looked   int          // sentences that are looked at though nothing is doubted
	Outcome  *outcomeView // what comes of the method; nil where it could not be followed
}

// schoolView is one way of cooking the list, with what comes of it.
type schoolView struct {
	Value, Label, Why, Result string
	On                        bool
}

// schools says how the list may be cooked, if no method does.
func (v *readView) schools(say words.Printer, f *frame.Fields, lines []recipe.Line, all *pantry.Pantry, home plan.Home,
	pots []vessel.Pot, kit kit) {
	if f.Text("method") != "" && !v.ByList || len(pots) == 0 {
		return
	}
	given, _, _ := answers(frame.NewFields(f.Typed, standard), lines, all, home)
	for k, school := range recipe.Schools(given, all, kit.cooker, kit.oven) {
		p, err := app.Draft(likely(f, pots, kit), school, given, home, pots)
		if err != nil {
			continue
		}
		one := schoolView{Value: string(school), Label: say.School(school), Why: say.WhySchool(school),
			On: f.Text("school") == string(school) || f.Text("school") == "" && k == 0}
		one.Result = outcome(say, p)
		v.Schools = append(v.Schools, one)
	}
}

// outcome says what comes of a plan: how long it takes, how thick it is, what speaks against it.
func outcome(say words.Printer, p *plan.Plan) string {
	forecasted := forecast.Run(p, forecast.Options{NominalOnly: true})
	said := []string{say.Minutes(measure.Minute(forecasted.Time.PrepMin + forecasted.Time.TotalMin.Value))}
	r := forecasted.Thickness.Hot
	if p.Serve == plan.Chilled {
		r = forecasted.Thickness.Chilled
	}
	if r != nil {
		said = append(said, words.Lower(pot.ThicknessWord(r.Value)))
	}
	said = append(said, say.Sprintf("%.0f g", forecasted.Yield.MassG.Value))
	for _, one := range watch.Findings(p, forecasted) {
		if one.Severity != forecast.Note {
			said = append(said, say.Finding(p, one).Message)
			break
		}
	}
	return strings.Join(said, " · ")
}

// kit is what a kitchen has beside its pots.
type kit struct {
	cooker, oven bool
	burner       vessel.Burner
}

func (s *Screen) kit(c *gin.Context) ([]vessel.Pot, kit, error) {
	ctx := c.Request.Context()
	stored, err := s.records.Pots(ctx)
	if err != nil {
		return nil, kit{}, err
	}
	k := kit{burner: vessel.DefaultBurner()}
	var pots []vessel.Pot
	for _, p := range stored {
		pots = append(pots, p.Pot)
		k.cooker = k.cooker || p.Pot.Shape != vessel.Tray && p.Pot.May(vessel.UnderPress)
	}
	fittings, err := s.records.Fittings(ctx, store.Fittings{Ovens: timetable.DefaultOvens, FridgeL: timetable.DefaultFridgeL})
	if err != nil {
		return nil, kit{}, err
	}
	k.oven = fittings.Ovens > 0
	burners, err := s.records.Burners(ctx)
	if err == nil && len(burners) > 0 {
		k.burner = burners[0].Burner
	}
	return pots, k, err
}

// likely is what the form asks for so far: what is not said yet, or not as it must be, is as usual.
func likely(f *frame.Fields, pots []vessel.Pot, kit kit) plan.WayChoice {
	choice := plan.WayChoice{Bowls: usualBowls, Serve: plan.Serve(f.Text("serve")), Burner: kit.burner}
	if n, err := strconv.Atoi(f.Text("bowls")); err == nil && n > 0 && n <= mostBowls {
		choice.Bowls = n
	}
	if choice.Serve != plan.Chilled {
		choice.Serve = plan.Hot
	}
	var err error
	if choice.Pot, err = design.PotFor(pots, choice.Bowls, vessel.OnStove); err != nil {
		choice.Pot = vessel.Pot{Shape: vessel.Straight, DiameterMM: 240, HeightMM: 160}
	}
	return choice
}

// method reads the method with the lines as they stand now. At first it is served as it says.
func (v *readView) method(say words.Printer, f *frame.Fields, reader *recipe.Reader, lines []recipe.Line, all *pantry.Pantry,
	home plan.Home, pots []vessel.Pot, kit kit, first bool) {
	if f.Text("method") == "" {
		return
	}
	draft := frame.NewFields(f.Typed, standard)
	given, of, _ := answers(draft, lines, all, home)
	corrected := corrections(f, given, all)
	choice := likely(f, pots, kit)
	cooked, err := reader.Cook("draft", choice, given, f.Text("method"), corrected, recipe.OpenPot)
	if err == nil && first && cooked.Chilled && choice.Serve != plan.Chilled {
		f.Typed.Set("serve", string(plan.Chilled))
		v.In["serve"], choice.Serve = string(plan.Chilled), plan.Chilled
		cooked, err = reader.Cook("draft", choice, given, f.Text("method"), corrected, recipe.OpenPot)
	}
	if err != nil {
		v.ByList = true
		return
	}
	p, err := plan.Reread(cooked.Plan.In(home))
	if err != nil {
		v.ByList = true
		return
	}
	p = design.Apart(design.InRoom(p, pots), pots)
	forecasted := forecast.Run(p, forecast.Options{})
	v.ByList, v.Faults = cooked.ByList, f.Faults(say)
	v.Things = thingsOf(given, all)
	for _, s := range cooked.Sentences {
		one := v.sentence(say, f, len(v.Method), s)
		for _, i := range s.Steps {
			title := say.Step(p, forecasted, i).Title
			if pot := p.Steps[i].PotName(); pot != plan.MainPot && !p.Steps[i].Do.IsPreparation() {
				title = say.InPan(pot, title)
			}
			one.Steps = append(one.Steps, stepView{title, say.Figures(p, forecasted, i)})
		}
		switch {
		case !s.Understood():
			v.Unclear++
		case len(s.Doubts) > 0:
			v.Doubtful++
		case len(s.Looks) > 0:
			v.Looked++
		}
		v.Method = append(v.Method, one)
	}
	for _, i := range cooked.Prepared {
		v.Prepared = append(v.Prepared, stepView{say.Step(p, forecasted, i).Title, say.Figures(p, forecasted, i)})
	}
	for _, i := range cooked.Unplaced {
		v.Unplaced = append(v.Unplaced, given[i].Text)
	}
	for i, stops := range cooked.Trails {
		v.Lines[of[i]].Trail = trail(say, stops)
	}
	if !v.ByList {
		v.Outcome = newOutcome(say, p, forecasted, cooked.Sentences)
	}
}

// An outcomeView is what comes of a method as it was read.
type outcomeView struct {
	Time, Bowl, Thick string
	Grains            []string
	Against           []againstView
}

// An againstView is what speaks against it, with the sentence that it is of.
type againstView struct {
	Text, Key string
	Number    int
}

// newOutcome says what comes of a plan.
func newOutcome(say words.Printer, p *plan.Plan, f *forecast.Forecast, sentences []recipe.Sentence) *outcomeView {
	total := f.Time.TotalMin
	total.Low, total.High = total.Low+f.Time.PrepMin, total.High+f.Time.PrepMin
	v := &outcomeView{Time: say.Span(total), Thick: strings.ToLower(say.Thickness(f, p.Serve))}
	mass := f.Yield.MassG
	v.Bowl = say.Sprintf("%s to %s in all, %d bowls of about %s", strings.TrimSuffix(say.Grams(measure.Gram(mass.Low)), " g"),
		say.Grams(measure.Gram(mass.High)), p.Serves, say.Grams(measure.Gram(mass.Value/float64(p.Serves))))
	for _, name := range slices.Sorted(maps.Keys(f.Doneness)) {
		done, texture := f.Doneness[name], p.Texture(name)
		low, high := pot.DonenessWord(texture, done.Low), pot.DonenessWord(texture, done.High)
		if low != high {
			low += " to " + high
		}
		v.Grains = append(v.Grains, p.PartName(name)+": "+low)
	}
	const most = 4
	for _, one := range watch.Findings(p, f) {
		if one.Severity == forecast.Note || len(v.Against) == most {
			continue
		}
		against := againstView{Text: say.Finding(p, one).Message}
		for k := range sentences {
			if slices.Contains(sentences[k].Steps, one.Step) {
				against.Key, against.Number = strconv.Itoa(k), k+1
				break
			}
		}
		v.Against = append(v.Against, against)
	}
	return v
}

type lineView struct {
	Key                                   string
	Number                                int
	Text, Material, Amount, Also, Note    string
	Supplied                              recipe.Supplied // where the list gives none
	Asks                                  []string
	Heading, Understood, NoAmount, Differ bool
	Skip                                  bool
	MaterialFault, AmountFault            string
	AmountText, AlsoText, MeasureText     string
	Trust                                 string
	Trail                                 []stopView // where it goes by the method
}

func (s *Screen) showRead(c *gin.Context, status int, f *frame.Fields, reader *recipe.Reader, lines []recipe.Line, home plan.Home) error {
	say := frame.Words(c)
	all := plan.HomePantry(home)
	faults := f.Faults(say)
	v := readView{In: f.Values(), Faults: faults}
	for _, m := range all.All() {
		v.Names = append(v.Names, m.Name)
	}
	bowls, _ := strconv.Atoi(strings.TrimSpace(f.Text("bowls")))
	supplied := reader.Supply(lines, f.Text("method"), bowls)
	for i, l := range lines {
		key := strconv.Itoa(i)
		one := lineView{Key: key, Number: l.Number, Text: l.Text, Heading: l.Heading, Amount: l.Amount, Also: l.Also, Note: l.Note,
			Understood: l.Understood(), NoAmount: l.Amount == "" && l.Material != "" && len(l.Asks) == 0,
			MaterialFault: faults["material"+key], AmountFault: faults["amount"+key]}
		if m, ok := all.Material(l.Material); ok {
			one.Material = m.Name
		}
		for _, ask := range l.Asks {
			one.Asks = append(one.Asks, say.Fault(ask.Why))
		}
		if one.NoAmount {
			one.Amount, one.Supplied = supplied[i].Amount, supplied[i]
		}
		if typed, again := f.Typed["material"+key]; again {
			one.Material, one.Amount = typed[0], f.Text("amount"+key)
			one.Skip = f.Text("skip"+key) != ""
		}
		if d, differ := plan.CompareAmounts(plan.Item{Material: l.Material, Amount: l.Amount, Also: l.Also}, home); differ {
			one.Differ, one.Trust = true, f.Text("trust"+key)
			one.AmountText, one.AlsoText = reading(say, d.Amount), reading(say, d.Also)
			if d.MeasureName != "" {
				one.MeasureText = say.Sprintf("They would agree with a %s of %.0f ml; yours counts as %.0f ml.", d.MeasureName,
					float64(d.MeasureML), float64(d.PresentML))
			}
		}
		if !l.Heading {
			v.All++
		}
		if one.Understood && !one.Differ {
			v.Right++
		}
		v.Lines = append(v.Lines, one)
	}
	_, again := f.Typed["material0"]
	if !again {
		for i, l := range v.Lines { // as they would be sent unchanged
			f.Typed.Set("material"+strconv.Itoa(i), l.Material)
			f.Typed.Set("amount"+strconv.Itoa(i), l.Amount)
		}
	}
	const fewLines, share = 3, 3
	known := 0
	for _, l := range v.Lines {
		if l.Material != "" && !l.Heading {
			known++
		}
	}
	v.Foreign = v.All >= fewLines && share*known < v.All
	pots, kit, err := s.kit(c)
	if err != nil {
		return err
	}
	v.method(say, f, reader, lines, all, home, pots, kit, !again)
	v.schools(say, f, lines, all, home, pots, kit)
	if status == http.StatusOK && f.Err() != nil {
		status = http.StatusUnprocessableEntity
	}
	return s.read.Show(c, status, frame.Frame{Title: "What was understood", Section: "puddings", Body: v})
}

// reading says an amount and what it weighs here.
func reading(say words.Printer, r plan.StatedAmount) string {
	if strings.HasSuffix(r.Text, " g") {
		return r.Text
	}
	return r.Text + ", " + say.Grams(r.Mass) + " here"
}

// Faults of the answers.
var (
	errMaterial = measure.Code("recipe.material")
	errAmount   = measure.Code("recipe.amount")
	errPot      = measure.Code("recipe.pot")
	errBowls    = measure.Code("recipe.bowls")
	errServe    = measure.Code("recipe.serve")
)

// Create makes a pudding of the lines, as they were corrected.
func (s *Screen) Create(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := s.form(c)
	if err != nil {
		return err
	}
	home, err := s.records.Home(ctx)
	if err != nil {
		return err
	}
	all := plan.HomePantry(home)
	reader := recipe.NewReader(all, home.Measures)
	lines, err := reader.Read(f.Text("list"))
	if err != nil || len(lines) == 0 {
		if err == nil {
			err = errEmpty
		}
		f.Fault("list", err)
		return s.showPaste(c, http.StatusUnprocessableEntity, f)
	}
	choice := s.choice(c, f)
	items, _, notes := answers(f, lines, all, home)
	var made *plan.Plan
	byList := false
	if f.Err() == nil {
		cooked, err := reader.Cook(f.Name("name", 80), choice, items, f.Text("method"), corrections(f, items, all),
			recipe.School(f.Text("school")))
		switch {
		case errors.Is(err, recipe.ErrLongMethod):
			f.Fault("method", err)
		case err != nil:
			f.Fault("list", err)
		}
		made, byList = cooked.Plan, cooked.ByList
	}
	if f.Err() == nil {
		made.Notes = shortNotes(notes, f.Text("method"), f.Text("notes"))
		if made, err = plan.Reread(made.In(home)); err != nil {
			f.Fault("list", err)
		}
	}
	if f.Err() == nil {
		pots, _, err := s.kit(c)
		if err != nil {
			return err
		}
		if made = design.Apart(design.InRoom(made, pots), pots); byList {
			made, _ = design.Quiet(made, pots, nil)
		}
	}
	if f.Err() != nil {
		return s.showRead(c, http.StatusUnprocessableEntity, f, reader, lines, home)
	}
	id := app.NewID()
	if err := s.records.CreatePudding(ctx, id, made, s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/puddings/"+id)
	return nil
}

// choice reads bowls and serving, and takes pot and burner from the kitchen.
func (s *Screen) choice(c *gin.Context, f *frame.Fields) plan.WayChoice {
	choice := plan.WayChoice{Serve: plan.Serve(f.Text("serve")), Burner: vessel.DefaultBurner()}
	f.Name("name", 80)
	bowls, err := strconv.Atoi(f.Text("bowls"))
	if err != nil || bowls < 1 || bowls > mostBowls {
		f.Fault("bowls", errBowls)
	}
	choice.Bowls = bowls
	if choice.Serve != plan.Hot && choice.Serve != plan.Chilled {
		f.Fault("serve", errServe)
	}
	pots, kit, err := s.kit(c)
	if err != nil {
		f.Fault("list", errPot)
		return choice
	}
	if choice.Pot, err = design.PotFor(pots, bowls, recipe.School(f.Text("school")).Use()); err != nil {
		f.Fault("list", errPot)
		return choice
	}
	choice.Burner = kit.burner
	return choice
}

// answers turns the lines, as they were corrected, into items. Lines that are
// left out, and those without an amount, go into the notes. of is the line of each.
func answers(f *frame.Fields, lines []recipe.Line, all *pantry.Pantry, home plan.Home) (given []recipe.Given, of []int, notes []string) {
	section := ""
	for i, l := range lines {
		key := strconv.Itoa(i)
		if l.Heading {
			section = l.Note
		}
		if l.Heading || f.Text("skip"+key) != "" {
			notes = append(notes, l.Text)
			continue
		}
		name, amount := f.Text("material"+key), f.Text("amount"+key)
		m, known := all.Find(name)
		if !known {
			f.Fault("material"+key, errMaterial)
			continue
		}
		if amount == "" {
			if slices.ContainsFunc(l.Asks, func(a recipe.Ask) bool { return a.Field == "amount" }) {
				f.Fault("amount"+key, errAmount)
			}
			notes = append(notes, l.Text)
			continue
		}
		item := plan.Item{Material: m.Slug, Amount: amount, State: l.State}
		if amount == l.Amount && m.Slug == l.Material && l.Also != "" {
			item.Also = l.Also
			if _, differ := plan.CompareAmounts(item, home); differ {
				switch f.Text("trust" + key) {
				case "amount":
					item.Also = ""
				case "also":
					item.Amount, item.Also = l.Also, ""
				}
			}
		}
		if err := plan.CheckAmount(item, all, home); err != nil {
			f.Fault("amount"+key, err)
			continue
		}
		if l.Note != "" {
			notes = append(notes, l.Text)
		}
		given, of = append(given, recipe.Given{Item: item, Text: l.Text, Note: l.Note, Section: section}), append(of, i)
	}
	return given, of, notes
}

// shortNotes puts what the list says beside the amounts into the notes.
func shortNotes(lines []string, method, beside string) string {
	const most = 4000
	text := strings.Trim(strings.Trim(strings.Join(lines, "\n")+"\n\n"+method, "\n")+"\n\n"+beside, "\n")
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return text
}
