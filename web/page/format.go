package page

import (
	"html/template"
	"time"
)

// functions are those of the templates. They only format.
func functions(a *App) template.FuncMap {
	return template.FuncMap{
		"clock":  func(t time.Time) string { return t.In(a.Zone).Format("15:04") },
		"day":    func(t time.Time) string { return t.In(a.Zone).Format("2 January 2006") },
		"millis": func(t time.Time) int64 { return t.UnixMilli() },
	}
}
