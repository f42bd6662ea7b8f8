package kitchen

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/timetable"
	"kirdu/core/vessel"
	"kirdu/store"
	"kirdu/web/frame"
	"kirdu/words"
)

type testView struct {
	Burner  burnerView
	In      map[string]string
	Faults  map[string]string
	Pots    []choiceView
	Flames  []choiceView
	History []testedView
	Minutes int
}

type choiceView struct {
	Value, Label string
	Chosen       bool
}

type testedView struct {
	ID, Flame, Power, How, Day string
	InForce                    bool
}

// testMinutes is how long a water test takes at the boil.
const testMinutes = 10

// Test shows the water test of a burner.
func (s *Screen) Test(c *gin.Context) error {
	return s.showTest(c, http.StatusOK, frame.NewFields(c.Request.URL.Query(), map[string]string{
		"flame": string(vessel.High), "before_g": "", "after_g": "", "minutes": fmt.Sprint(testMinutes), "with_pot": ""}))
}

func (s *Screen) burner(c *gin.Context) (store.Burner, error) {
	burners, err := s.records.Burners(c.Request.Context())
	if err != nil {
		return store.Burner{}, err
	}
	k := slices.IndexFunc(burners, func(b store.Burner) bool { return b.ID == c.Param("id") })
	if k < 0 {
		return store.Burner{}, store.ErrNotFound
	}
	return burners[k], nil
}

func (s *Screen) showTest(c *gin.Context, status int, f *frame.Fields) error {
	say := frame.Words(c)
	ctx := c.Request.Context()
	burner, err := s.burner(c)
	if err != nil {
		return err
	}
	pots, err := s.records.Pots(ctx)
	if err != nil {
		return err
	}
	tests, err := s.records.WaterTests(ctx)
	if err != nil {
		return err
	}
	v := testView{Burner: newBurnerView(say, burner, tests), In: f.Values(), Faults: f.Faults(say), Minutes: testMinutes}
	for _, p := range pots {
		v.Pots = append(v.Pots, choiceView{p.ID, words.Capital(p.Name), p.ID == f.Text("pot")})
	}
	for _, flame := range vessel.Marks()[1:] {
		v.Flames = append(v.Flames, choiceView{string(flame), flameWords(flame), string(flame) == f.Text("flame")})
	}
	seen := map[vessel.Flame]bool{}
	for _, t := range tests {
		if t.BurnerID != burner.ID {
			continue
		}
		v.History = append(v.History, testedView{ID: t.ID, Flame: flameWords(t.Flame), Power: powerWords(say, t), InForce: !seen[t.Flame],
			How: fmt.Sprintf("%s to %s in %s, %s", say.Exact(t.Before), say.Exact(t.After), say.Minutes(t.Minutes), t.Pot),
			Day: say.Time(t.TestedAt.In(s.app.Zone), "2 January 2006")})
		seen[t.Flame] = true
	}
	return s.test.Show(c, status, frame.Frame{Title: "Water test, " + burner.Name, Section: "kitchen", Module: "water-test.js", Body: v})
}

func powerWords(say words.Printer, t store.WaterTest) string {
	r := vessel.Range(t.Power, t.SD)
	return say.Sprintf("%.0f W into the pot (likely %.0f to %.0f)", r.Value, r.Low, r.High)
}

// Faults of the test's form.
var (
	errPot   = measure.Code("kitchen.pot")
	errFlame = measure.Code("kitchen.flame")
	errEmpty = measure.Code("kitchen.empty")
)

// AddTest stores a water test: from then on every forecast over that flame uses
// it.
func (s *Screen) AddTest(c *gin.Context) error {
	ctx := c.Request.Context()
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	burner, err := s.burner(c)
	if err != nil {
		return err
	}
	pots, err := s.records.Pots(ctx)
	if err != nil {
		return err
	}
	room, err := s.records.Room(ctx)
	if err != nil {
		return err
	}
	test, pot := waterTest(f, pots, room)
	flame := vessel.Flame(f.Text("flame"))
	if !slices.Contains(vessel.Marks()[1:], flame) {
		f.Fault("flame", errFlame)
	}
	var power, sd measure.Watt
	if f.Err() == nil {
		if power, sd, err = test.Power(); err != nil {
			field := "after_g"
			if errors.Is(err, vessel.ErrTestTime) {
				field = "minutes"
			}
			f.Fault(field, err)
		}
	}
	if f.Err() != nil {
		return s.showTest(c, http.StatusUnprocessableEntity, f)
	}
	err = s.kitchen.AddWaterTest(ctx, burner.Name, store.WaterTest{ID: app.NewID(), BurnerID: burner.ID, Flame: flame, Power: power, SD: sd,
		Before: test.Before, After: test.After, Minutes: test.Minutes, Pot: pot.Name, TestedAt: s.app.Now()})
	return s.then(c, err, "/burners/"+burner.ID+"/test#tested")
}

// waterTest reads the form of a test.
func waterTest(f *frame.Fields, pots []store.Pot, room *plan.Kitchen) (vessel.WaterTest, store.Pot) {
	const most, longest = 60_000, 120
	t := vessel.WaterTest{Ambient: 24}
	if room != nil {
		t.Ambient, t.AltitudeM = room.AmbientC, room.AltitudeM
	}
	before, after := f.Number("before_g", 1, most, "1000"), f.Number("after_g", 0, most, "800")
	t.Minutes = measure.Minute(f.Number("minutes", 0, longest, "10"))
	k := slices.IndexFunc(pots, func(p store.Pot) bool { return p.ID == f.Text("pot") })
	if k < 0 {
		f.Fault("pot", errPot)
		return t, store.Pot{}
	}
	t.Pot = pots[k].Pot
	if f.Text("with_pot") != "" {
		empty, weighed := t.Pot.Mass()
		if !weighed {
			f.Fault("with_pot", errEmpty)
		}
		before, after = before-float64(empty), after-float64(empty)
		if weighed && (before <= 0 || after <= 0) && f.Err() == nil {
			f.Fault("after_g", measure.Code("kitchen.less-than-empty").With(math.Round(float64(empty))))
		}
	}
	t.Before, t.After = measure.Gram(before), measure.Gram(after)
	return t, pots[k]
}

// RemoveTest takes a test back: the one before it is in force again.
func (s *Screen) RemoveTest(c *gin.Context) error {
	return s.then(c, s.records.RemoveWaterTest(c.Request.Context(), c.Param("test"), s.app.Now()), "/burners/"+c.Param("id")+"/test")
}

// SetRoom stores the air and the tap of the kitchen.
func (s *Screen) SetRoom(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	room := plan.Kitchen{
		AmbientC:    measure.Celsius(f.Within("ambient_c", plan.RoomBounds["ambient_c"], "22")),
		HumidityPct: f.Within("humidity_pct", plan.RoomBounds["humidity_pct"], "50"),
		AltitudeM:   f.Within("altitude_m", plan.RoomBounds["altitude_m"], "350"),
		TapC:        measure.Celsius(f.Within("tap_c", plan.RoomBounds["tap_c"], "15")),
		ScaleLimitG: measure.Gram(f.Within("scale_limit_g", plan.RoomBounds["scale_limit_g"], "5000")),
	}
	fittings, err := s.records.Fittings(c.Request.Context(), usualFittings)
	if err != nil {
		return err
	}
	if x, given := f.Optional("ovens", 0, timetable.MostOvens, "1"); given {
		if fittings.Ovens = int(x); float64(fittings.Ovens) != x {
			f.Fault("ovens", measure.Code("kitchen.ovens"))
		}
	}
	if x, given := f.Optional("fridge_l", 0, timetable.MostFridgeL, "60"); given {
		fittings.FridgeL = x
	}
	if units := f.Text("units"); units != "metric" && units != store.UnitsUS {
		f.Fault("units", measure.Code("kitchen.units"))
	}
	if f.Err() != nil {
		return s.showRoom(c, http.StatusUnprocessableEntity, f)
	}
	err = s.records.SetRoom(c.Request.Context(), room)
	if err == nil {
		err = s.records.SetFittings(c.Request.Context(), fittings)
	}
	if err == nil {
		err = s.records.SetSetting(c.Request.Context(), store.SettingUnits, f.Text("units"))
	}
	return s.then(c, err, "#room")
}
