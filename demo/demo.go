// Package demo is the sample kitchen: an invented household at a reservoir,
// its pots, its puddings for the rowing club's lantern supper, and batches
// that were cooked before.
package demo

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"kirdu/app"
	"kirdu/core/cook"
	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/core/measure"
	"kirdu/core/numeric"
	"kirdu/core/plan"
	"kirdu/core/rescue"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/words"
)

//go:embed plans/*.kirdu.json
var plans embed.FS

func grams(x measure.Gram) *measure.Gram { return &x }

var pots = []vessel.Pot{
	{Name: "the tall steel pot", Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110, MassG: grams(1180)},
	{Name: "the wide pan", Shape: vessel.Taper, BottomMM: 210, TopMM: 270, HeightMM: 125, MassG: grams(1460)},
	{Name: "the round-bottomed pot", Shape: vessel.Bowl, TopMM: 300, HeightMM: 130},
	{Name: "the boathouse pot", Shape: vessel.Straight, DiameterMM: 300, HeightMM: 190, MassG: grams(3150)},
}

var burners = []vessel.Burner{
	{Name: "front burner", Kind: "gas", PowerW: 2200, Efficiency: 0.45},
	{Name: "back burner", Kind: "gas", PowerW: 1500, Efficiency: 0.45},
}

// shelf lists the sample puddings, the one to be shown first last: the shelf
// begins with what was saved last.
var shelf = []string{"lentil-date-coconut", "sticky-rice-pomegranate", "broken-wheat-maple", "basmati-rose", "vermicelli-walnut-maple",
	"millet-palm-sugar", "rice-pear-bay"}

// A batch is a cook of the past. Its pot lost what the model says for a burner
// of Power times what was thought; this kitchen's gas is a little weak.
type batch struct {
	plan      string
	daysAgo   int
	power     float64
	weighAt   []float64 // shares of the way to the end of the flame
	noise     measure.Gram
	verdict   store.Verdict
	noWeighed bool // the yield
	rescued   bool // it stood too long on the flame, and was loosened
	tags      []string
}

var batches = []batch{
	{plan: "basmati-rose", daysAgo: 57, power: 0.87, weighAt: []float64{0.5}, noise: 8,
		verdict: store.Verdict{Eaten: "hot", Thickness: 2, Sweetness: "just right", Note: "The first one in this kitchen."}},
	{plan: "vermicelli-walnut-maple", daysAgo: 51, power: 0.83, weighAt: []float64{0.6}, noise: -7, tags: []string{"breakfast"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 4, Sweetness: "too sweet", NextThickness: 6,
			NextNote: "Stiff from the cold; eaten with milk."}},
	{plan: "sticky-rice-pomegranate", daysAgo: 46, power: 0.86, weighAt: []float64{0.45, 0.75}, noise: 5,
		verdict: store.Verdict{Eaten: "warm", Thickness: 5, Sweetness: "just right"}},
	{plan: "millet-palm-sugar", daysAgo: 40, power: 0.85, weighAt: []float64{0.5}, noise: -4, rescued: true, tags: []string{"rescued"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 4, Sweetness: "just right",
			Note: "Left too long while the boats came in; the hot milk saved it."}},
	{plan: "rice-pear-bay", daysAgo: 33, power: 0.84, weighAt: []float64{0.5, 0.8}, noise: 6, tags: []string{"trial for the supper"},
		verdict: store.Verdict{Eaten: "hot", Thickness: 4, Sweetness: "just right",
			Note: "The bay was plain to taste. Took longer than we thought."}},
	{plan: "broken-wheat-maple", daysAgo: 29, power: 0.86, weighAt: []float64{0.5}, noise: 3, tags: []string{"breakfast"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 5, Sweetness: "not sweet enough"}},
	{plan: "basmati-rose", daysAgo: 26, power: 0.88, weighAt: []float64{0.6}, noise: -9,
		verdict: store.Verdict{Eaten: "hot", Thickness: 2, Sweetness: "not sweet enough", Note: "Another spoon of sugar next time."}},
	{plan: "millet-palm-sugar", daysAgo: 19, power: 0.82, weighAt: []float64{0.4, 0.7}, noise: 4, tags: []string{"trial for the supper"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 5, Sweetness: "just right",
			Note: "Stood twenty minutes and was stiff; a cup of hot milk loosened it."}},
	{plan: "vermicelli-walnut-maple", daysAgo: 15, power: 0.85, weighAt: []float64{0.5}, noise: 7, tags: []string{"breakfast"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 4, Sweetness: "just right"}},
	{plan: "broken-wheat-maple", daysAgo: 12, power: 0.86, weighAt: []float64{0.55}, noise: 11, noWeighed: true,
		verdict: store.Verdict{Eaten: "chilled", Thickness: 6, Sweetness: "too sweet"}},
	{plan: "sticky-rice-pomegranate", daysAgo: 8, power: 0.84, weighAt: []float64{0.6}, noise: -6, tags: []string{"trial for the supper"},
		verdict: store.Verdict{Eaten: "warm", Thickness: 5, Sweetness: "just right", NextThickness: 7, NextNote: "Cut like a cake."}},
	{plan: "rice-pear-bay", daysAgo: 5, power: 0.85, weighAt: []float64{0.5}, noise: -5, tags: []string{"trial for the supper"},
		verdict: store.Verdict{Eaten: "hot", Thickness: 4, Sweetness: "just right",
			Note: "Weighed half-way, and the sugar mark came when Kirdu said."}},
}

// onStove is the pudding that is cooking when the demo starts, and for how
// many minutes.
const (
	onStove        = "millet-palm-sugar"
	onStoveMinutes = 22.0
	onStovePower   = 0.86
)

// kitchenDays is how long ago the household set its kitchen up.
const kitchenDays = 60

// Fill puts the sample kitchen into an empty one, as of now.
func Fill(ctx context.Context, kitchen *app.Kitchen) error {
	kitchen.Demo = true
	s, now, zone := kitchen.Store, kitchen.Now(), kitchen.Zone
	moved := now.AddDate(0, 0, -kitchenDays)
	for i, p := range pots {
		if err := s.AddPot(ctx, store.Pot{ID: newID(), Pot: p}, moved.Add(time.Duration(i)*time.Minute)); err != nil {
			return err
		}
	}
	for i, b := range burners {
		if err := s.AddBurner(ctx, store.Burner{ID: newID(), Burner: b}, moved.Add(time.Duration(i)*time.Minute)); err != nil {
			return err
		}
	}
	ids := map[string]string{}
	sample := map[string]*plan.Plan{}
	for i, name := range shelf {
		data, err := plans.ReadFile("plans/" + name + ".kirdu.json")
		if err != nil {
			return err
		}
		p, err := plan.Read(data)
		if err != nil {
			return fmt.Errorf("sample plan %s: %w", name, err)
		}
		ids[name], sample[name] = newID(), p
		if err := s.CreatePudding(ctx, ids[name], p, moved.Add(time.Duration(i)*time.Minute)); err != nil {
			return err
		}
	}
	for _, b := range batches {
		begun := evening(now, b.daysAgo, zone)
		k := store.Cook{ID: newID(), PuddingID: ids[b.plan], Plan: sample[b.plan], BegunAt: begun, Zone: zone.String()}
		if err := record(ctx, s, k, b.events(k.Plan, begun)); err != nil {
			return err
		}
		judged, err := s.Cook(ctx, k.ID)
		if err != nil {
			return err
		}
		if err := kitchen.Judge(ctx, judged, b.verdict, b.tags); err != nil {
			return err
		}
	}
	if err := furnish(ctx, s, ids, now, moved, zone); err != nil {
		return err
	}
	return startOne(ctx, s, ids[onStove], sample[onStove], now, zone)
}

// measurings are what the household's cups and tins were found to hold; the
// cup was weighed twice.
var measurings = []store.Measuring{
	{Name: "cup", Unit: "ml", Size: 240, How: "typed in"},
	{Name: "cup", Unit: "ml", Size: 226, How: "weighed full of water: 226 g"},
	{Name: "glass", Unit: "ml", Size: 190, How: "weighed full of water: 190 g"},
	{Name: "blue mug", Unit: "ml", Size: 312, How: "weighed full of water: 312 g"},
	{Name: "tablespoon", Unit: "ml", Size: 14, How: "weighed full of water: 14 g"},
}

// atHand is what is in the house, 0 g where nobody counts.
var atHand = []struct {
	slug string
	mass measure.Gram
}{
	{"milk-whole", 3000}, {"rice-short", 800}, {"rice-basmati", 500}, {"jaggery", 450}, {"sugar-white", 0}, {"bay-leaf", 0}, {"salt", 0},
	{"ghee", 300},
}

// planned are the puddings for tonight: how many hours from now, to the next
// half-hour, they are to be on the table.
var planned = []struct {
	plan  string
	hours time.Duration
}{{"basmati-rose", 5}, {"broken-wheat-maple", 9}}

// supperBowls is how many come to the lantern supper.
const supperBowls = 14

// furnish fills in what the household has found out about its kitchen.
func furnish(ctx context.Context, s *store.Store, ids map[string]string, now, moved time.Time, zone *time.Location) error {
	for i, m := range measurings {
		m.ID, m.TakenAt = newID(), moved.AddDate(0, 0, i)
		if err := s.AddMeasuring(ctx, m); err != nil {
			return err
		}
	}
	kitchenBurners, err := s.Burners(ctx)
	if err != nil {
		return err
	}
	back := kitchenBurners[1]
	for i, after := range []measure.Gram{861, 849} {
		test := vessel.WaterTest{Pot: pots[0], Before: 1004, After: after, Minutes: 10, Ambient: 22}
		power, sd, err := test.Power()
		if err != nil {
			return err
		}
		if err := s.AddWaterTest(ctx, store.WaterTest{ID: newID(), BurnerID: back.ID, Flame: vessel.High, Power: power, SD: sd,
			Before: test.Before, After: after, Minutes: test.Minutes, Pot: pots[0].Name, TestedAt: moved.AddDate(0, 0, 1+20*i)}, nil); err != nil {
			return err
		}
	}
	for _, at := range atHand {
		if err := s.NoteAtHand(ctx, at.slug, sql.Null[measure.Gram]{V: at.mass, Valid: at.mass > 0}, now); err != nil {
			return err
		}
	}
	const half = 30 * time.Minute
	for i, p := range planned {
		if err := s.ServeAt(ctx, ids[p.plan], now.Add(p.hours*time.Hour).In(zone).Truncate(half).Add(half)); err != nil {
			return err
		}
		if err := s.BuyFor(ctx, store.Buy{PuddingID: ids[p.plan], Bowls: supperBowls}, now.Add(time.Duration(i)*time.Second)); err != nil {
			return err
		}
	}
	if err := supper(ctx, s, ids, now, zone); err != nil {
		return err
	}
	return s.Tick(ctx, "rice-basmati", 1000, now)
}

// supperTable is what stands on the table of the lantern supper, in bowls.
var supperTable = []struct {
	plan  string
	bowls int
}{{"rice-pear-bay", 6}, {"lentil-date-coconut", 6}, {"sticky-rice-pomegranate", 5}}

// supper sets the lantern supper for three days from now in the evening.
func supper(ctx context.Context, s *store.Store, ids map[string]string, now time.Time, zone *time.Location) error {
	day := now.In(zone).AddDate(0, 0, 3)
	g := store.Gathering{ID: newID(), Name: "Lantern supper of the rowing club", Guests: supperBowls, Hands: 2,
		ServeAt: time.Date(day.Year(), day.Month(), day.Day(), 19, 30, 0, 0, zone)}
	if err := s.SaveGathering(ctx, g, now); err != nil {
		return err
	}
	for i, one := range supperTable {
		if err := s.SetShare(ctx, g.ID, store.Share{PuddingID: ids[one.plan], Bowls: one.bowls},
			now.Add(time.Duration(i)*time.Second)); err != nil {
			return err
		}
	}
	return nil
}

func newID() string { return uuid.Must(uuid.NewV7()).String() }

// evening is half past five some days ago.
func evening(now time.Time, daysAgo int, zone *time.Location) time.Time {
	day := now.In(zone).AddDate(0, 0, -daysAgo)
	const hour, minute = 17, 30
	return time.Date(day.Year(), day.Month(), day.Day(), hour, minute, 0, 0, zone)
}

func record(ctx context.Context, s *store.Store, k store.Cook, events []cook.Event) error {
	log := learn.LogOf(k.Plan, k.BegunAt, events)
	k.Line, events = log.Line, log.Events
	if err := s.StartCook(ctx, k); err != nil {
		return err
	}
	for _, e := range events {
		if err := s.AppendEvent(ctx, k.ID, e, e.At); err != nil {
			return err
		}
	}
	return nil
}

// course is how a plan goes over a flame of another power than it says.
func course(p *plan.Plan, power float64) *forecast.Forecast {
	really := p.Clone()
	really.Calibration.Evaporation = &plan.Learnt{Value: power}
	return forecast.Run(really, forecast.Options{NominalOnly: true})
}

// fillMinutes is how long it takes to put the first things in.
const fillMinutes = 3.0

// events are the taps and weigh-ins of a batch.
func (b batch) events(p *plan.Plan, begun time.Time) []cook.Event {
	f := course(p, b.power)
	// Minute 0 of the course is when the flame is lit: this household soaks
	// first, and then fills the pot.
	soaked := begun
	for i := range p.Steps {
		if p.Steps[i].Do.IsPreparation() {
			soaked = soaked.Add(minutes(float64(p.Steps[i].FullMinutes())))
		}
	}
	lit := soaked.Add(minutes(fillMinutes))
	var weighings []cook.Event
	for _, share := range b.weighAt {
		at := share * f.Time.FlameMin.Value
		mass := numeric.Interpolate(f.Curve.Minute, f.Curve.MassG, at) + float64(b.noise)
		weighings = append(weighings, cook.Event{ID: newID(), Kind: cook.Weighed, At: lit.Add(minutes(at)), Mass: measure.Gram(math.Round(mass))})
	}
	var events []cook.Event
	for i := range p.Steps {
		end := lit.Add(minutes(f.Steps[i].EndMin))
		if p.Steps[i].Do.IsPreparation() {
			end = soaked
		}
		for len(weighings) > 0 && weighings[0].At.Before(end) {
			weighings[0].Step = i
			events, weighings = append(events, weighings[0]), weighings[1:]
		}
		events = append(events, cook.Event{ID: newID(), Kind: cook.Next, At: end, Step: i})
	}
	const leftInPot = 12
	yield := f.Yield.MassG.Value
	if b.rescued {
		events, yield = rescued(p, begun, events, yield)
	}
	finished := cook.Event{ID: newID(), Kind: cook.Finished, At: events[len(events)-1].At.Add(time.Minute)}
	if !b.noWeighed {
		finished.Mass = measure.Gram(math.Round(yield - leftInPot))
	}
	return append(events, finished)
}

// rescued is what was done about a pot that stood over the flame for some minutes
// more than it should have: the advised repair, step by step.
func rescued(p *plan.Plan, begun time.Time, events []cook.Event, yield float64) ([]cook.Event, float64) {
	const late, wanted, each = 9 * time.Minute, 3.5, 90 * time.Second
	reduced := slices.IndexFunc(events, func(e cook.Event) bool {
		u := p.Steps[e.Step].Until
		return e.Kind == cook.Next && u != nil && u.RemainingPct != nil
	})
	for i := max(reduced, 0); i < len(events); i++ {
		events[i].At = events[i].At.Add(late)
	}
	state := learn.LogOf(p, begun, events).Fold()
	at := events[len(events)-1].At.Add(time.Minute)
	grade := wanted
	trouble, err := learn.TroubleOf(&state, at)
	if err == nil {
		trouble.Wanted = &grade
		if r, err := rescue.Rescue(trouble, rescue.TooThick); err == nil && len(r.Repairs) > 0 {
			events = append(events, cook.Event{ID: newID(), Kind: cook.Mended, At: at, Mend: words.Printer{}.Mend(rescue.TooThick, &r.Repairs[0])})
			yield = r.Repairs[0].After.Mass.Value
		}
	}
	state = learn.LogOf(p, begun, events).Fold()
	for !state.Done() {
		at = at.Add(each)
		events = append(events, cook.Event{ID: newID(), Kind: cook.Next, At: at, Step: state.ID()})
		state = learn.LogOf(p, begun, events).Fold()
	}
	return events, yield
}

func minutes(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }

// startOne puts a pudding on the stove, some way into its reduction.
func startOne(ctx context.Context, s *store.Store, id string, p *plan.Plan, now time.Time, zone *time.Location) error {
	f := course(p, onStovePower)
	lit := now.Add(-minutes(onStoveMinutes))
	k := store.Cook{ID: newID(), PuddingID: id, Plan: p, BegunAt: lit.Add(-minutes(fillMinutes)), Zone: zone.String()}
	events := []cook.Event{
		{ID: newID(), Kind: cook.Next, At: lit, Step: 0},
		{ID: newID(), Kind: cook.Next, At: lit.Add(minutes(f.Steps[1].EndMin)), Step: 1},
	}
	return record(ctx, s, k, events)
}
