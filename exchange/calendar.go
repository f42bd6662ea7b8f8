package exchange

import (
	"fmt"
	"strings"
	"time"
	"unicode"

	ics "github.com/arran4/golang-ical"
)

// An Appointment is one task of a timetable for a calendar.
type Appointment struct {
	ID         string // stays the same when the timetable is sent again
	Start, End time.Time
	Title      string
	Detail     string
	Alarm      bool // rings when it begins
}

// oneLine is a name as a calendar shows it.
func oneLine(text string) string {
	return strings.Join(strings.FieldsFunc(text, func(c rune) bool { return unicode.IsSpace(c) || unicode.IsControl(c) }), " ")
}

// Calendar writes appointments as iCalendar (RFC 5545), with alarms; stamp is
// when it was written.
func Calendar(name string, list []Appointment, stamp time.Time) string {
	c := ics.NewCalendarFor("Kirdu")
	c.SetMethod(ics.MethodPublish)
	c.SetName(oneLine(name))
	for _, one := range list {
		e := c.AddEvent(one.ID)
		e.SetDtStampTime(stamp)
		e.SetStartAt(one.Start)
		end := one.End
		if !end.After(one.Start) {
			end = one.Start.Add(time.Minute) // calendars hide what has no length
		}
		e.SetEndAt(end)
		one.Title = oneLine(one.Title)
		e.SetSummary(one.Title)
		if one.Detail != "" {
			e.SetDescription(one.Detail)
		}
		if one.Alarm {
			a := e.AddAlarm()
			a.SetAction(ics.ActionDisplay)
			a.SetTrigger("PT0S")
			a.SetProperty(ics.ComponentPropertyDescription, fmt.Sprintf("Now: %s", one.Title))
		}
	}
	return c.Serialize(ics.WithNewLineWindows)
}
