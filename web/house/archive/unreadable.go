package archive

import (
	"cmp"
	"maps"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"kirdu/store"
	"kirdu/web/frame"
)

// An unreadableView is one thing that is stored and cannot be read.
type unreadableView struct {
	Path, What, Name, Since string
	Faults                  []string
	Back                    string
}

// placesOf says where a kind is listed, and what it is called.
var placesOf = map[store.Kind]struct{ what, list, section string }{
	store.APudding:  {"The plan", "/puddings", "puddings"},
	store.ABatch:    {"The batch", "/logbook", "logbook"},
	store.AMaterial: {"The material", "/pantry", "pantry"},
}

// Unreadable says what is wrong with a thing that cannot be read, and offers it as
// it is stored.
func (s *Screen) Unreadable(c *gin.Context) error {
	kind, id := store.Kind(c.Param("kind")), c.Param("id")
	bad, err := s.records.Unreadable(c.Request.Context(), kind, id)
	if err != nil {
		return err
	}
	place := placesOf[kind]
	v := unreadableView{Path: frame.UnreadablePath(bad), What: place.what, Back: place.list, Name: cmp.Or(bad.Name, bad.ID)}
	if !bad.At.IsZero() {
		v.Since = frame.Words(c).Time(bad.At.In(s.app.Zone), "2 January 2006, 15:04")
	}
	faults := frame.FieldFaults(frame.Words(c), bad.Err)
	for _, field := range slices.Sorted(maps.Keys(faults)) {
		v.Faults = append(v.Faults, field+": "+faults[field])
	}
	if len(faults) == 0 {
		v.Faults = []string{frame.Words(c).Fault(bad.Err)}
	}
	return s.bad.Show(c, http.StatusOK, frame.Frame{Title: "Cannot be read", Section: place.section, Body: v})
}

// Raw sends a thing as it is stored, without understanding it.
func (s *Screen) Raw(c *gin.Context) error {
	kind, id := store.Kind(c.Param("kind")), c.Param("id")
	data, err := s.records.Raw(c.Request.Context(), kind, id)
	if err != nil {
		return err
	}
	attach(c, "application/json", "kirdu-"+string(kind)+"-stored.json", data)
	return nil
}

// RemoveUnreadable takes such a thing out of the lists.
func (s *Screen) RemoveUnreadable(c *gin.Context) error {
	kind := store.Kind(c.Param("kind"))
	if err := s.records.RemoveUnreadable(c.Request.Context(), kind, c.Param("id"), s.app.Now()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, placesOf[kind].list+"?removed="+c.Param("id"))
	return nil
}
