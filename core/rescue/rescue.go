package rescue

import (
	"fmt"
	"math"
	"slices"

	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/pantry"
	"kirdu/core/plan"
	"kirdu/core/watch"
)

// A Symptom is what has gone wrong with a pudding.
type Symptom string

// The symptoms, in the order in which they are asked.
const (
	TooThick        Symptom = "too-thick"
	TooThin         Symptom = "too-thin"
	SplitDairy      Symptom = "split-dairy"
	SplitCoconut    Symptom = "split-coconut"
	Lumps           Symptom = "lumps"
	PearlsLumped    Symptom = "pearls-lumped"
	Scorched        Symptom = "scorched"
	HardGrain       Symptom = "hard-grain"
	Mushy           Symptom = "mushy"
	TooSweet        Symptom = "too-sweet"
	NotSweet        Symptom = "not-sweet"
	YogurtSyneresis Symptom = "weeping-yogurt"
	ScrambledEgg    Symptom = "scrambled-egg"
	GrittyMeal      Symptom = "gritty-meal"
	Skin            Symptom = "skin"
	TooSoftToCut    Symptom = "too-soft-to-cut"
)

// A complaint is a symptom, and how its repairs are found.
type complaint struct {
	of   Symptom
	mend func(*repairer) []Repair
}

var symptoms = []complaint{
	{TooThick, (*repairer).tooThick},
	{TooThin, (*repairer).tooThin},
	{SplitDairy, (*repairer).splitDairy},
	{SplitCoconut, (*repairer).splitCoconut},
	{Lumps, (*repairer).lumps},
	{PearlsLumped, (*repairer).pearlsLumped},
	{Scorched, (*repairer).scorched},
	{HardGrain, (*repairer).hardGrain},
	{Mushy, (*repairer).mushy},
	{TooSweet, (*repairer).tooSweet},
	{NotSweet, (*repairer).notSweet},
	{YogurtSyneresis, (*repairer).yogurtSyneresis},
	{ScrambledEgg, (*repairer).scrambledEgg},
	{GrittyMeal, (*repairer).hardGrain},
	{Skin, (*repairer).skin},
	{TooSoftToCut, (*repairer).tooSoftToCut},
}

// Symptoms lists what Rescue can be asked for.
func Symptoms() (all []Symptom) {
	for _, s := range symptoms {
		all = append(all, s.of)
	}
	return all
}

// A Trouble is a pudding that has gone wrong, as it stands.
type Trouble struct {
	Plan    *plan.Plan // the steps before Now as they went, the rest as it is meant to go on
	Now     int        // index of the first step that is not done, len(Steps) when all are
	Options forecast.Options

	// What is seen of the pot; nil, "" or 0 where only the forecast is known.
	Mass  *measure.Gram // what it weighs
	Grade *float64      // how thick it is now, 1 to 8
	Done  *float64      // how soft the grain or meal is
	Sweet float64       // by how much too sweet it tastes, as a share: 0.25 is a quarter too sweet, -0.25 lacks a quarter

	Wanted *float64 // grade as served; nil: the plan's aim, or what the plan gave before it was seen
	Liquid string   // slug of what loosens it; "": what it is cooked in
}

// Pantry returns what its materials are looked up in.
func (p Trouble) Pantry() *pantry.Pantry { return p.Plan.Pantry() }

// Tasted returns by how much too sweet a pudding is that is off by a share, for
// Trouble.Sweet: too little for NotSweet, nothing for what is no matter of taste.
func (s Symptom) Tasted(by float64) float64 {
	switch s {
	case TooSweet:
		return by
	case NotSweet:
		return -by
	}
	return 0
}

// A Taste is how far off a sweetness is, as a share.
type Taste struct {
	Key string // in the catalogue
	By  float64
}

// Tastes lists them. Source: our own judgement; a tongue tells about a tenth apart.
func Tastes() []Taste {
	return []Taste{{"taste.little", 0.1}, {"taste.clearly", 0.2}, {"taste.far", 0.4}}
}

// Faults of troubles.
var (
	ErrSymptom = measure.Code("rescue.symptom")
	ErrTrouble = measure.Code("rescue.trouble")
)

// An Outcome is a pudding as it is served.
type Outcome struct {
	Grade measure.Range
	Sweet measure.Range  // per cent
	Done  measure.Range  // of its grain, 0 where there is none
	Mass  measure.Range  // g
	Split forecast.Least // pH near the boil from now on, with what protects it; unseen where no fresh milk comes near it
}

// A Repair is one way to save a pudding.
type Repair struct {
	Key    string   // its name among the repairs of a symptom
	Text   string   // what the catalogue knows it by; "": its Key
	Title  Saying   // what to do
	Why    Saying   // what it does, and what it costs
	Until  Saying   // when to stop
	Beyond []Saying // what cannot be computed of it

	Steps  []plan.Step  // from Now on; a Note is the key of one in the catalogue
	Leaves int          // so many of the steps that were to come are left out
	Shift  measure.Gram // by so much the marks that are masses move
	Sugar  float64      // factor on the sweeteners that are still to come, 0 for as they are
	Lost   plan.Loss    // what is gone from the pot

	At       int        // where the steps are in Plan
	Plan     *plan.Plan // the whole, with the steps
	Forecast *forecast.Forecast
	After    Outcome
	Part     string          // whose doneness After tells, "" where there is no grain
	Minutes  measure.Range   // that the repair takes
	Warnings []watch.Finding // what the watchpoints say of it that they did not say before

	loss  [2]float64 // the least and the most of Lost, both 0 where it is known
	widen Outcome    // low and high of what the symptom itself leaves open, about the value 0
}

// A Rescued is what can be done about a pudding. Without repairs Cannot says why.
type Rescued struct {
	Symptom  Symptom
	Without  Outcome  // if nothing is done
	Wanted   float64  // grade as served
	Says     []Saying // what the computation says of the symptom
	Repairs  []Repair
	Fine     bool           // it needs nothing
	Cannot   *Saying        // why there is no repair, nil where there is one
	Spoilt   *watch.Finding // it must not be eaten, whatever is done; nil: nothing speaks against it
	Cautions []Saying
}

// A repairer is a trouble with what was seen laid over the plan, and what will come of
// it without any repair.
type repairer struct {
	symptom Symptom
	p       *plan.Plan
	now     int
	options forecast.Options
	seen    Trouble
	base    *forecast.Forecast
	before  Outcome
	wanted  float64
	liquid  string
	pot     string
	last    int // the last step of the served pot that is done
	says    Saying
	also    Saying // behind says
	stated  bool   // the wanted grade was said, not taken from the plan
	fine    bool
	cannot  Saying
}

// Rescue returns the repairs of a pudding that has gone wrong, computed for that
// pot; the advised one first. Errors: ErrSymptom, ErrPatient.
func Rescue(trouble Trouble, symptom Symptom) (Rescued, error) {
	k := slices.IndexFunc(symptoms, func(c complaint) bool { return c.of == symptom })
	if k < 0 {
		return Rescued{}, ErrSymptom
	}
	w, err := admit(trouble, symptom)
	if err != nil {
		return Rescued{}, err
	}
	r := Rescued{Symptom: symptom, Without: w.before, Cautions: w.cautions()}
	if r.Spoilt = w.spoilt(); r.Spoilt == nil {
		for _, repair := range symptoms[k].mend(w) {
			if w.finish(&repair) {
				r.Repairs = append(r.Repairs, repair)
			}
		}
	}
	r.Wanted, r.Fine = w.wanted, w.fine
	for _, one := range []Saying{w.says, w.also} {
		if one.Key != "" {
			r.Says = append(r.Says, one)
		}
	}
	if len(r.Repairs) == 0 && r.Spoilt == nil && !r.Fine {
		r.Cannot = &Saying{Key: "rescue.none"}
	}
	if w.cannot.Key != "" {
		r.Cannot = &w.cannot
	}
	return r, nil
}

// admit lays what was seen over the plan.
func admit(trouble Trouble, symptom Symptom) (*repairer, error) {
	w := &repairer{symptom: symptom, p: trouble.Plan.Clone(), now: trouble.Now, options: trouble.Options, seen: trouble, last: -1}
	w.pot = w.p.Served()[0]
	if w.now < 1 || w.now > len(w.p.Steps) {
		return nil, ErrTrouble
	}
	for i := range w.p.Steps[:w.now] {
		if s := &w.p.Steps[i]; !s.Do.IsPreparation() && s.PotName() == w.pot {
			w.last = i
		}
	}
	bad := func(x *float64, low, high float64) bool { return x != nil && !(*x >= low && *x <= high) }
	if w.last < 0 || bad(trouble.Grade, 1, 8) || bad(trouble.Wanted, 1, 8) || bad(trouble.Done, 0, 10) ||
		(trouble.Mass != nil && !(*trouble.Mass >= 1 && *trouble.Mass <= measure.MaxGrams)) || !(math.Abs(trouble.Sweet) < 1) {
		return nil, ErrTrouble
	}
	w.weigh()
	w.feel()
	w.setGoal()
	w.lookAt()
	w.base = forecast.Run(w.p, w.options)
	w.standMarks()
	w.before = w.outcome(w.p, w.base)
	w.liquid = w.cookedIn()
	return w, nil
}

// weigh pins the mass to what was weighed.
func (w *repairer) weigh() {
	if w.seen.Mass != nil {
		w.options.Seen = w.pin(forecast.Run(w.p, w.course()), *w.seen.Mass)
	}
}

// pin returns the weighings with one that makes the pot weigh so much now: at the
// end of the last step that took time, what has gone in since counted off.
func (w *repairer) pin(f *forecast.Forecast, mass measure.Gram) []forecast.Seen {
	const just = 1e-3 // min: before the step is over, so that it counts for what is done
	for i := w.last; i >= 0; i-- {
		s, one := &w.p.Steps[i], &f.Steps[i]
		if s.Do.IsPreparation() || s.PotName() != w.pot || one.EndMin-one.StartMin <= just {
			continue
		}
		since := measure.Gram(*f.Steps[w.last].MassG - *one.MassG)
		return append(slices.Clone(w.options.Seen), forecast.Seen{Minute: measure.Minute(one.EndMin - just), Mass: max(1, mass-since)})
	}
	return w.options.Seen
}

// feel makes the grain cook as fast or slowly as its softness now says.
func (w *repairer) feel() {
	part, material := w.grain()
	if w.seen.Done == nil || part == "" {
		return
	}
	if w.p.Calibration.CookTime == nil {
		w.p.Calibration.CookTime = map[string]plan.Learnt{}
	}
	was := 1.0
	if learnt, ok := w.p.Calibration.CookTime[material]; ok {
		was = learnt.Value
	}
	const sd = 0.1 // of the cooking time once it was felt
	at := func(factor float64) float64 {
		spread := sd * factor * was
		w.p.Calibration.CookTime[material] = plan.Learnt{Value: factor * was, SD: &spread}
		return forecast.Run(w.p, w.course()).Steps[w.last].Doneness[part]
	}
	const slowest, fastest = 3.0, 0.4
	at(halve(fastest, slowest, func(x float64) bool { return at(x) > *w.seen.Done }))
}

// setGoal fixes what is wanted before the look at the pot changes what is
// expected.
func (w *repairer) setGoal() {
	w.stated = true
	switch {
	case w.seen.Wanted != nil:
		w.wanted = *w.seen.Wanted
	case w.p.Aim != nil && w.p.Aim.Thickness != nil:
		w.wanted = *w.p.Aim.Thickness
	default:
		w.stated = false
		w.wanted = w.served(forecast.Run(w.p, w.nominal())).Value
	}
}

// eyeSD is how exactly a thickness is seen, in grades: by an eye that compares, our
// own judgement.
const eyeSD = 0.35

// lookAt makes it as thick as it is seen to be.
func (w *repairer) lookAt() {
	if w.seen.Grade == nil {
		return
	}
	is := forecast.Run(w.p, w.course()).Steps[w.last].Thickness
	if is == nil {
		return
	}
	spread, offset := eyeSD, *w.seen.Grade-*is
	if learnt := w.p.Calibration.ThicknessOffset; learnt != nil {
		offset += learnt.Value
	}
	const most = 3 // of the plan format
	offset = min(max(offset, -most), most)
	w.p.Calibration.ThicknessOffset = &plan.Learnt{Value: offset, SD: &spread}
}

// standMarks turns the marks to come into masses, so that what goes in or out
// can move them.
func (w *repairer) standMarks() {
	for i := w.now; i < len(w.p.Steps); i++ {
		s := &w.p.Steps[i]
		if u := s.Until; u != nil && s.PotName() == w.pot && (u.RemainingPct != nil || u.MassG != nil) && w.base.Steps[i].MassG != nil {
			until, mass := *u, measure.Gram(*w.base.Steps[i].MassG)
			until.RemainingPct, until.OfStep, until.MassG = nil, nil, &mass
			s.Until = &until
		}
	}
}

func (w *repairer) nominal() forecast.Options {
	return forecast.Options{NominalOnly: true, Seen: w.options.Seen}
}

func (w *repairer) course() forecast.Options {
	return forecast.Options{CourseOnly: true, Seen: w.options.Seen}
}

// served returns the thickness in the bowl; that of the next colder state for a
// pudding that is no longer warm enough.
func (w *repairer) served(f *forecast.Forecast) measure.Range {
	t := f.Thickness
	if w.symptom == TooSoftToCut && t.Chilled != nil {
		return *t.Chilled
	}
	for _, r := range []*measure.Range{t.As(w.p.Serve), t.Warm, t.Room, t.Chilled} {
		if r != nil {
			return *r
		}
	}
	return measure.Range{Value: 1, Low: 1, High: 1}
}

func (w *repairer) outcome(p *plan.Plan, f *forecast.Forecast) Outcome {
	part, _ := w.grain()
	o := Outcome{Grade: w.served(f), Sweet: f.Sweetness.Pct, Done: f.Doneness[part], Mass: f.Yield.MassG}
	for i := w.now; i < len(p.Steps); i++ {
		if ph := f.Trace[i].SplitPH; ph.Seen {
			o.Split.See(ph.Value)
		}
	}
	return o
}

// grain returns the part that is served in the greatest mass, "" where there is
// none, and its material.
func (w *repairer) grain() (part, material string) {
	most := measure.Gram(0)
	w.p.Uses(func(m *pantry.Material, mass measure.Gram, step int) {
		if m.Kinetics == nil || step >= w.now {
			return
		}
		if m.Behaviour == pantry.Grain {
			const before = 1000 // any grain comes before fruit and vegetables
			mass *= before
		}
		if mass <= most {
			return
		}
		if w.symptom == PearlsLumped && m.Kind != "pearl" {
			return
		}
		most, material, part = mass, m.Slug, m.Slug
		if s := &w.p.Steps[step]; s.Do.IsPreparation() && s.Name != "" {
			part = s.Name
		}
	})
	return part, material
}

// cookedIn returns what the pudding is mostly cooked in, of what may be boiled.
func (w *repairer) cookedIn() string {
	if w.seen.Liquid != "" {
		return w.seen.Liquid
	}
	masses := map[string]measure.Gram{}
	best := "water"
	w.p.Uses(func(m *pantry.Material, mass measure.Gram, _ int) {
		if m.Behaviour != pantry.Liquid || m.Sweetness() > 0.05 || m.IsFirstPress() || m.Has("cultured") || m.Kind == "sweetener" {
			return
		}
		masses[m.Slug] += mass
		if masses[m.Slug] > masses[best] {
			best = m.Slug
		}
	})
	return best
}

// holds reports whether something that is in the pot by now fits.
func (w *repairer) holds(fits func(*pantry.Material) bool) bool {
	found := false
	w.p.Uses(func(m *pantry.Material, _ measure.Gram, step int) { found = found || (step < w.now && fits(m)) })
	return found
}

// fragile reports whether the pot must not boil: egg, yogurt or first-press
// coconut is in it.
func (w *repairer) fragile() bool {
	return w.holds((*pantry.Material).MustNotBoil)
}

// Readings of the pot as it stands.
func (w *repairer) mass() float64    { return *w.base.Steps[w.last].MassG }
func (w *repairer) celsius() float64 { return *w.base.Steps[w.last].TempC }

// over returns the step that the pot is in the middle of, nil if it is none over
// a flame.
func (w *repairer) over() *plan.Step {
	if w.now < len(w.p.Steps) {
		if s := &w.p.Steps[w.now]; s.Do == plan.Heat && s.PotName() == w.pot && s.Burns() {
			return s
		}
	}
	return nil
}

// heatAhead reports whether the pot will be over a flame again.
func (w *repairer) heatAhead() bool {
	return slices.ContainsFunc(w.p.Steps[w.now:], func(s plan.Step) bool {
		return s.Do == plan.Heat && s.PotName() == w.pot && s.Burns()
	})
}

// with returns the plan with steps at Now in the place of so many.
func (w *repairer) with(r *Repair) *plan.Plan {
	p := w.p.Clone()
	p.Lose(w.now, r.Lost)
	later := slices.Clone(p.Steps[min(w.now+r.Leaves, len(p.Steps)):])
	for i := range later {
		if u := later[i].Until; r.Shift != 0 && u != nil && u.MassG != nil && later[i].PotName() == w.pot {
			until, mass := *u, max(*u.MassG+r.Shift, 1)
			until.MassG = &mass
			later[i].Until = &until
		}
	}
	p.Steps = slices.Concat(p.Steps[:w.now], r.Steps, later)
	if r.Sugar > 0 {
		p.ScaleSweetenersFrom(w.now+len(r.Steps), r.Sugar)
	}
	for i := range p.Steps {
		p.EnsurePot(p.Steps[i].PotName())
	}
	return p
}

// gives returns what comes of a repair, without its range.
func (w *repairer) after(r Repair) Outcome {
	p := w.with(&r)
	o := w.nominal()
	o.Seen = w.left(o.Seen, r.Lost)
	return w.outcome(p, forecast.Run(p, o))
}

// left returns what would have been weighed without what is lost.
func (w *repairer) left(weighings []forecast.Seen, lost plan.Loss) []forecast.Seen {
	if lost.Share == 0 || len(weighings) == 0 {
		return weighings
	}
	factor := 1 - measure.Ratio(float64(w.p.Holds(w.now, lost.Of)), float64(w.p.Holds(w.now, "")))*lost.Share
	scaled := slices.Clone(weighings)
	for i := range scaled {
		scaled[i].Mass *= measure.Gram(factor)
	}
	return scaled
}

// finish computes a repair with its ranges. It reports false where the plan does
// not work with it.
func (w *repairer) finish(r *Repair) bool {
	p := w.with(r)
	if read, err := plan.Reread(p); err != nil {
		return false
	} else {
		p = read
	}
	o := w.options
	o.Seen = w.left(o.Seen, r.Lost)
	r.At, r.Plan, r.Forecast = w.now, p, forecast.Run(p, o)
	r.After = w.outcome(p, r.Forecast)
	r.Part, _ = w.grain()
	if w.seen.Grade != nil {
		r.After.Grade = w.fromNow(r)
	}
	for _, pair := range []struct{ of, by *measure.Range }{{&r.After.Grade, &r.widen.Grade}, {&r.After.Sweet, &r.widen.Sweet},
		{&r.After.Done, &r.widen.Done}, {&r.After.Mass, &r.widen.Mass}} {
		pair.of.Low = pair.of.Value - math.Hypot(pair.of.Value-pair.of.Low, pair.by.Low)
		pair.of.High = pair.of.Value + math.Hypot(pair.of.High-pair.of.Value, pair.by.High)
	}
	const scaleSD = 10 // g: of any scale or gauge, and what clings to spoon and lid
	mass, off := &r.After.Mass, measure.Percentile90*scaleSD
	mass.Low, mass.High = max(0, mass.Value-math.Hypot(mass.Value-mass.Low, off)), mass.Value+math.Hypot(mass.High-mass.Value, off)
	r.After.Grade.Low, r.After.Grade.High = max(1, r.After.Grade.Low), min(8, r.After.Grade.High)
	r.Minutes = w.minutes(r)
	r.sayings()
	known := map[watch.ID]bool{}
	for _, one := range watch.Findings(w.p, w.base) {
		known[one.Rule] = true
	}
	for _, one := range watch.Findings(p, r.Forecast) {
		if !known[one.Rule] && one.Severity != forecast.Note && one.Step >= w.now {
			r.Warnings = append(r.Warnings, one)
		}
	}
	return true
}

// hasBeyond are the texts that say what cannot be computed.
var hasBeyond = map[string]bool{"fold": true, "sieve": true, "sieve-egg": true, "smooth": true, "whisk-coconut": true}

// sayings fills in what a repair says by its name.
func (r *Repair) sayings() {
	text := r.Text
	if text == "" {
		text = r.Key
	}
	for of, part := range map[*Saying]string{&r.Title: "title", &r.Why: "why", &r.Until: "until"} {
		if of.Key == "" {
			of.Key = "repair." + text + "." + part
		}
	}
	if hasBeyond[text] {
		r.Beyond = append([]Saying{saying("repair." + text + ".beyond")}, r.Beyond...)
	}
}

// fromNow returns the grade as served with its range, for a pot whose thickness is
// seen: however it came to it, only what is still to happen is uncertain, and the
// eye.
func (w *repairer) fromNow(r *Repair) measure.Range {
	o := w.pinned()
	o.Seen, o.CourseOnly, o.NominalOnly = w.left(o.Seen, r.Lost), false, true
	change := func(p *plan.Plan) float64 {
		f := forecast.Run(p, o)
		if now := f.Steps[w.last].Thickness; now != nil {
			return w.served(f).Value - *now
		}
		return 0
	}
	nominal := change(r.Plan)
	var up, down float64
	note := func(p *plan.Plan) {
		d := change(p) - nominal
		up, down = up+square(max(d, 0)), down+square(min(d, 0))
	}
	for _, sign := range []float64{-1, 1} {
		p := r.Plan.Clone()
		value, sd := forecast.PowerInto(w.p, w.pot)
		p.Calibration.Evaporation = &plan.Learnt{Value: value * max(0.2, 1+sign*sd)}
		note(p)
		p = r.Plan.Clone()
		if p.Calibration.CookTime == nil {
			p.Calibration.CookTime = map[string]plan.Learnt{}
		}
		const cookSD = 0.15 // the model, section 14
		p.Uses(func(m *pantry.Material, _ measure.Gram, _ int) {
			if m.Kinetics != nil {
				was := 1.0
				if learnt, ok := r.Plan.Calibration.CookTime[m.Slug]; ok {
					was = learnt.Value
				}
				p.Calibration.CookTime[m.Slug] = plan.Learnt{Value: was * (1 + sign*cookSD)}
			}
		})
		note(p)
	}
	value := r.After.Grade.Value
	return measure.Range{Value: value, Low: value - measure.Percentile90*math.Sqrt(down+square(eyeSD)),
		High: value + measure.Percentile90*math.Sqrt(up+square(eyeSD))}
}

func square(x float64) float64 { return x * x }

// minutes returns how long the steps of a repair take. Its range is that of the
// power that reaches the pot, by what is known of it.
func (w *repairer) minutes(r *Repair) measure.Range {
	lasts := func(f *forecast.Forecast) (sum float64) {
		for i := range r.Steps {
			one := f.Steps[w.now+i]
			sum += one.EndMin - one.StartMin
		}
		return sum
	}
	value := lasts(r.Forecast)
	out := measure.Range{Value: value, Low: value, High: value}
	factor, sd := forecast.PowerInto(w.p, w.pot)
	// The pot as it is now stays as it is: only what is to come is faster or slower.
	pinned := w.pinned()
	pinned.Seen = w.left(pinned.Seen, r.Lost)
	for _, sign := range []float64{-measure.Percentile90, measure.Percentile90} {
		p := r.Plan.Clone()
		p.Calibration.Evaporation = &plan.Learnt{Value: factor * max(0.2, 1+sign*sd)}
		m := lasts(forecast.Run(p, pinned))
		out.Low, out.High = min(out.Low, m), max(out.High, m)
	}
	for _, share := range r.loss {
		if other := r.losing(share); share > 0 {
			o := w.course()
			o.Seen = w.left(o.Seen, other.Lost)
			m := lasts(forecast.Run(w.with(&other), o))
			out.Low = value - math.Hypot(value-out.Low, max(0, value-m))
			out.High = value + math.Hypot(out.High-value, max(0, m-value))
		}
	}
	return out
}

// pinned holds the mass now where it is.
func (w *repairer) pinned() forecast.Options {
	o := w.course()
	if w.seen.Mass == nil {
		o.Seen = w.pin(w.base, measure.Gram(w.mass()))
	}
	return o
}

// halve returns the x between low and high from which on above no longer holds;
// above(low) is taken to hold.
func halve(low, high float64, above func(x float64) bool) float64 {
	const halvings = 11
	found, _ := numeric.Halve(numeric.Bracket{Low: low, High: high}, halvings, above)
	return found.Middle()
}

// spoilt returns why it must not be eaten whatever is done, nil if nothing speaks
// against it.
func (w *repairer) spoilt() *watch.Finding {
	past := w.p.Clone()
	past.Steps = past.Steps[:w.now]
	for _, one := range watch.Of(watch.WarmTooLong, past, w.base) {
		return &one
	}
	return nil
}

// cautions go with every rescue of hot food.
func (w *repairer) cautions() []Saying {
	second := saying("rescue.caution.stood")
	if w.celsius() >= float64(watch.Hot) {
		second = saying("rescue.caution.hot")
	}
	return []Saying{saying("rescue.caution.taste"), second}
}

func celsiusOf(c float64) *measure.Celsius { t := measure.Celsius(c); return &t }

func portion(material string, grams float64) plan.Item {
	return plan.Item{Material: material, Amount: fmt.Sprintf("%g g", float64(weighable(grams)))}
}

func weighable(grams float64) measure.Gram {
	const least = 0.5
	return max(measure.Weighable(measure.Gram(grams)), least)
}

// Served returns the thickness by which a rescue is judged: as the pudding is
// served, or chilled where it is to be cut.
func Served(symptom Symptom, p *plan.Plan, f *forecast.Forecast) float64 {
	w := repairer{symptom: symptom, p: p}
	return w.served(f).Value
}
