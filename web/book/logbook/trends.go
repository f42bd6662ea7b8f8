package logbook

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/core/forecast"
	"kirdu/core/learn"
	"kirdu/web/frame"
	"kirdu/web/picture"
	"kirdu/words"
)

// trendsView is what changes from batch to batch.
type trendsView struct {
	Trends []trend
	Few    bool // there is nothing to draw yet
}

type trend struct {
	Key, Title, Says string
	Picture          picture.Trend
	Rows             []trendRow
}

type trendRow struct{ Pudding, ID, Day, Value string }

// looked is how many of the latest batches are drawn.
const looked = 40

// Trends draws what the latest batches have in common.
func (s *Screen) Trends(c *gin.Context) error {
	say := frame.Words(c)
	list, err := s.trends(say, c.Request.Context())
	if err != nil {
		return err
	}
	return s.trend.Show(c, http.StatusOK, frame.Frame{Title: "Trends", Section: "logbook", Body: trendsView{list, len(list) == 0}})
}

func (s *Screen) trends(say words.Printer, ctx context.Context) ([]trend, error) {
	book, err := s.records.Book(ctx, looked)
	if err != nil {
		return nil, err
	}
	lessons, err := s.records.Lessons(ctx)
	if err != nil {
		return nil, err
	}
	taught := map[string][]learn.Observation{}
	for _, l := range lessons {
		taught[l.CookID] = l.Observations
	}
	slices.Reverse(book) // the oldest first
	byTitle := map[string]*trend{}
	samples := map[string][]picture.Sample{}
	var order []string
	add := func(key, title string, sample picture.Sample, row trendRow) {
		if byTitle[key] == nil {
			byTitle[key] = &trend{Key: fmt.Sprint(len(order)), Title: title}
			order = append(order, key)
		}
		samples[key] = append(samples[key], sample)
		byTitle[key].Rows = append(byTitle[key].Rows, row)
	}
	for i := range book {
		k := &book[i]
		state := k.State()
		row := trendRow{Pudding: k.Plan.Name, ID: k.ID, Day: say.Time(k.BegunAt.In(s.app.Zone), "2 Jan 2006")}
		sample := picture.Sample{At: k.BegunAt.In(s.app.Zone), Name: k.Plan.Name}
		if state.Yield > 0 {
			planned := forecast.Run(k.Plan, forecast.Options{NominalOnly: true}).Yield.MassG.Value
			sample.Value, sample.SD = 100*float64(state.Yield)/planned, 0
			row.Value = say.Percent(sample.Value, 0)
			add("yield", "Yield, of what was planned", sample, row)
		}
		for _, o := range taught[k.ID] {
			switch o.Quantity {
			case learn.Power:
				sample.Value, sample.SD = 100*math.Exp(o.Mean), 100*math.Exp(o.Mean)*o.SD
				row.Value = say.Percent(sample.Value, 0)
				add("power "+o.Key+o.Pot, "Boils away, "+o.Pot+" on the "+o.Key, sample, row)
			case learn.Thickness:
				sample.Value, sample.SD = o.Mean, o.SD
				row.Value = grades(say, sample.Value)
				add("thickness", "Thicker than expected, as it ate", sample, row)
			case learn.Sweet:
				sample.Value, sample.SD = o.Mean, o.SD
				row.Value = say.Number(sample.Value, 1) + " %"
				add("sweet", "Liked sweeter than it was", sample, row)
			}
		}
	}
	var list []trend
	for _, key := range order {
		one := byTitle[key]
		switch key {
		case "thickness":
			one.Picture = picture.NewTrend(say, samples[key], 0, "as expected", func(x float64) string { return grades(say, x) })
		case "sweet":
			one.Picture = picture.NewTrend(say, samples[key], 0, "just right", func(x float64) string { return say.Number(x, 1) + " %" })
		default:
			one.Picture = picture.NewTrend(say, samples[key], 100, "as planned", func(x float64) string { return say.Percent(x, 0) })
		}
		one.Says = drift(say, samples[key])
		slices.Reverse(one.Rows)
		list = append(list, *one)
	}
	return list, nil
}

func grades(say words.Printer, x float64) string {
	if x > 0 {
		return "+" + say.Number(x, 1)
	}
	return say.Number(x, 1)
}

// drift says whether it goes up or down.
func drift(say words.Printer, samples []picture.Sample) string {
	values := make([]float64, len(samples))
	for i, s := range samples {
		values[i] = s.Value
	}
	by, told := learn.Drift(values)
	switch {
	case len(values) < learn.LeastToDrift:
		return fmt.Sprintf("%d so far: too few to see a drift.", len(samples))
	case !told:
		return "No drift that stands out from the scatter."
	case by < 0:
		return fmt.Sprintf("It goes down: the later half lies %s lower than the earlier, more than the scatter.", say.Number(-by, 1))
	}
	return fmt.Sprintf("It goes up: the later half lies %s higher than the earlier, more than the scatter.", say.Number(by, 1))
}
