package frame

import (
	"html/template"
	"time"

	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/core/measure"
	"kirdu/core/rehearse"
	"kirdu/words"
)

const preferencesKey = "preferences"

// Prefer reads how the household has things written, once for each request.
func (a *App) Prefer(c *gin.Context) {
	preferences, err := a.Kitchen.Preferences(c.Request.Context())
	if err != nil {
		a.Fail(c, err)
		return
	}
	c.Set(preferencesKey, preferences)
}

// PreferencesOf returns what Prefer has read.
func PreferencesOf(c *gin.Context) app.Preferences {
	preferences, _ := c.MustGet(preferencesKey).(app.Preferences)
	return preferences
}

// Words returns the printer of a request.
func Words(c *gin.Context) words.Printer { return words.Printer{Style: PreferencesOf(c).Style} }

// functions are those of the templates. They only format.
func functions(say words.Printer, zone *time.Location) template.FuncMap {
	return template.FuncMap{
		"clock":      func(t time.Time) string { return t.In(zone).Format("15:04") },
		"day":        func(t time.Time) string { return say.Time(t.In(zone), words.Day) },
		"tasks":      tasks,
		"millis":     func(t time.Time) int64 { return t.UnixMilli() },
		"celsius":    func(t float64) string { return say.Celsius(measure.Celsius(t)) },
		"difference": func(d float64) string { return say.Difference(measure.Kelvin(d)) },
		"number":     say.Number,
		"sign":       func(name, version string) sign { return sign{name, version} },
		"field":      field,
		"choice":     choice,
	}
}

// A Task is one that a rehearsal may have.
type Task struct{ Value, Label string }

func tasks() (list []Task) {
	for _, task := range rehearse.Tasks()[1:] {
		list = append(list, Task{string(task), words.TaskName(task)})
	}
	return list
}

// sign is an icon of the sprite of a version.
type sign struct{ Name, Version string }
