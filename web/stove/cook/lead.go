package cook

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/core/cook"
	"kirdu/core/lead"
	"kirdu/core/learn"
	"kirdu/web/frame"
	"kirdu/words"
)

// led is what a cook who is led by the hand is to know now.
type led struct {
	Lesson lead.Lesson
	Words  string
	Tool   string // the tool that it opens, "" for none
	Open   string // and what the link to it says
}

// tools are what lessons open: the tool, and what the link to it says.
var tools = map[lead.Lesson][2]string{lead.Weigh: {"weigh", "Weigh it now"}, lead.Dip: {"dip", "Dip it now"},
	lead.Feel: {"look", "Tell how soft it is"}, lead.Taste: {"look", "Tell how it tastes"}, lead.Late: {"ago", "Say how long ago"}}

// lead finds the lesson of the moment.
func (v *view) lead(say words.Printer, follow follower, s *cook.State, h here, clock *learn.Clock) error {
	if !v.Leads {
		return nil
	}
	lesson, ok := lead.Next(lead.Moment{State: s, Live: &h.live, Clock: clock, Now: v.Now, Low: v.Low, High: v.High,
		Scale: v.HeavyScale == "", Sealed: v.Sealed}, v.known)
	if !ok {
		return nil
	}
	var gain words.Gain
	if lesson == lead.Weigh || lesson == lead.Dip {
		var err error
		if gain, err = v.gain(follow, h, lesson); err != nil {
			return err
		}
	}
	beside := ""
	if i := slices.IndexFunc(v.Jobs, func(j job) bool { return j.Waits }); i >= 0 {
		beside = v.Jobs[i].Title
	}
	v.Led = &led{Lesson: lesson, Words: say.Lesson(lesson, v.Done, beside, gain), Tool: tools[lesson][0], Open: tools[lesson][1]}
	return nil
}

// gain works out what a reading now would bring: the one that is expected, told for a moment.
func (v *view) gain(follow follower, h here, lesson lead.Lesson) (words.Gain, error) {
	g := words.Gain{Low: minutesLeft(v.Low, v.Now), High: minutesLeft(v.High, v.Now)}
	told := lesson.Told(h.State, &h.live, v.Pot, follow.at)
	live, err := follow.pot(&told, v.Pot, "as expected", string(lesson))
	if err != nil || h.step < 0 {
		return g, err
	}
	end := stepEnd(live.Forecast, h.step)
	g.ThenLow, g.ThenHigh = minutesLeft(h.at(end.Low), v.Now), minutesLeft(h.at(end.High), v.Now)
	return g, nil
}

// Lead stores what need not be said again, and whether the household is led at all.
func (s *Screen) Lead(c *gin.Context) error {
	f, err := frame.ReadForm(c, nil)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	switch know, when := f.Text("know"), f.Text("lead"); {
	case when == "always" || when == "never":
		if err := s.kitchen.Lead(ctx, when == "always"); err != nil {
			return err
		}
	default:
		ok, err := s.kitchen.Know(ctx, lead.Lesson(know))
		if err != nil {
			return err
		}
		if !ok {
			return frame.Stop(http.StatusUnprocessableEntity, "There is no such hint.", "Go back to the stove and choose one of the buttons there.")
		}
	}
	c.Redirect(http.StatusSeeOther, "/stove/"+c.Param("id"))
	return nil
}
