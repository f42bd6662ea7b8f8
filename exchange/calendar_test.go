package exchange_test

import (
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/require"

	"kirdu/exchange"
)

func TestCalendarIsReadBack(t *testing.T) {
	begin := time.Date(2026, 11, 28, 18, 5, 0, 0, time.FixedZone("", 3600))
	text := exchange.Calendar("Supper; with commas, too", []exchange.Appointment{
		{ID: "a@kirdu", Start: begin, End: begin.Add(7 * time.Minute), Title: "Bring to the boil", Detail: "1 l milk, 90 g rice; stir",
			Alarm: true},
		{ID: "b@kirdu", Start: begin, End: begin, Title: "Sugar in"},
	}, begin)
	c, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	require.Len(t, c.Events(), 2)
	at, err := c.Events()[0].GetStartAt()
	require.NoError(t, err)
	require.True(t, at.Equal(begin))
	require.Len(t, c.Events()[0].Alarms(), 1)
	require.Equal(t, "1 l milk, 90 g rice; stir", c.Events()[0].GetProperty(ics.ComponentPropertyDescription).Value)
	end, err := c.Events()[1].GetEndAt()
	require.NoError(t, err)
	require.True(t, end.After(begin), "a calendar hides what has no length")
}
