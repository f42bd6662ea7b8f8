package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/rescue"
	"kirdu/words"
)

// What is wrong at the stove is answered for that pot, and the answer goes into
// the cook as steps.
func TestRescueAtTheStove(t *testing.T) {
	s := newSite(t, nil)
	k := s.onStove()
	path := "/stove/" + k.ID
	_, page := s.get("/rescue")
	require.True(t, strings.Contains(page, path+"/rescue"), "what is on the stove is first")
	_, page = s.get(path + "/rescue")
	require.True(t, strings.Contains(page, "The pot is taken to be"))
	for _, symptom := range rescue.Symptoms() {
		require.True(t, strings.Contains(page, words.Printer{}.Symptom(symptom)), symptom)
	}
	_, page = s.get(path + "/rescue?symptom=too-thick&wanted=3")
	require.True(t, strings.Contains(page, "slowly, at 80 °C"))
	require.False(t, strings.Contains(page, "at 80 °C, at 80 °C"), "how warm it goes in is said once")
	for _, text := range []string{"Loosen it with", "first choice", "When to stop", "in 8 of 10 cases", "Put it into the cook"} {
		require.True(t, strings.Contains(page, text), text)
	}
	_, page = s.get(path + "/rescue?symptom=scrambled-egg")
	require.True(t, strings.Contains(page, "There is no egg in this pot."))

	before := len(k.State().Plan.Steps)
	form := url.Values{"id": {uuid.NewString()}, "repair": {"loosen"}, "symptom": {"too-thick"}, "wanted": {"3"}}
	for range 2 { // a phone may send it twice
		response, body := s.post(path+"/rescue", form)
		require.Equal(t, http.StatusSeeOther, response.StatusCode, body)
	}
	k = s.onStove()
	require.Equal(t, cook.Mended, k.Events[len(k.Events)-1].Kind)
	require.Greater(t, len(k.State().Plan.Steps), before)
	state := k.State()
	require.True(t, state.IsStray(state.Step), "the repair is what is to be done now")
	_, page = s.get(path)
	require.True(t, strings.Contains(page, "Loosen it with"), "what was told last")
	require.True(t, strings.Contains(page, "Take it back"))
	response, _ := s.post(path, url.Values{"id": {uuid.NewString()}, "kind": {"undone"}, "event": {k.Events[len(k.Events)-1].ID}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	require.Len(t, s.onStove().State().Plan.Steps, before, "as if it had never been chosen")

	events := len(s.onStove().Events)
	for name, bad := range map[string]url.Values{
		"symptom": {"id": {uuid.NewString()}, "repair": {"loosen"}, "symptom": {"sadness"}},
		"repair":  {"id": {uuid.NewString()}, "repair": {"pray"}, "symptom": {"too-thick"}, "wanted": {"3"}},
		"id":      {"id": {"x"}, "repair": {"loosen"}, "symptom": {"too-thick"}, "wanted": {"3"}},
		"mass":    {"id": {uuid.NewString()}, "repair": {"loosen"}, "symptom": {"too-thick"}, "mass": {"-3"}},
		"grade":   {"id": {uuid.NewString()}, "repair": {"loosen"}, "symptom": {"too-thick"}, "grade": {"NaN"}},
		"with":    {"id": {uuid.NewString()}, "repair": {"loosen"}, "symptom": {"too-thick"}, "wanted": {"3"}, "with": {"salt"}},
	} {
		response, _ := s.post(path+"/rescue", bad)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
	}
	require.Len(t, s.onStove().Events, events, "nothing half-said is kept")
	response, _ = s.post(path, url.Values{"id": {uuid.NewString()}, "kind": {"mended"}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, "a repair is not told without its steps")
}

func TestRescueOfOtherPots(t *testing.T) {
	s := newSite(t, nil)
	path := "/puddings/" + s.pudding().ID + "/rescue"
	_, page := s.get(path + "?symptom=not-sweet&by=20&standing=cold")
	require.True(t, strings.Contains(page, "Stir in more"))
	require.False(t, strings.Contains(page, "Put it into the cook"), "there is no cook")
	response, _ := s.get(path + "?symptom=too-thick&mass=tons")
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode)
	response, _ = s.get("/puddings/none/rescue")
	require.Equal(t, http.StatusNotFound, response.StatusCode)

	_, page = s.get("/rescue/pot")
	require.True(t, strings.Contains(page, "What is in the pot"))
	known := "/rescue/pot?liquid=milk-whole&liquid_g=1000&grain=rice-short&grain_g=110&sweet=sugar-white&sweet_g=90" +
		"&other=ghee&serve=warm&done=1.5"
	_, page = s.get(known)
	require.True(t, strings.Contains(page, "In the pot: 1000 g whole milk, 110 g short-grain white rice, 90 g white sugar"),
		"what is wrong is asked next")
	require.True(t, strings.Contains(page, `name="liquid_g" value="1000"`), "with what was said before")
	require.True(t, strings.Contains(page, `name="symptom" value="too-thin"`))
	_, page = s.get(known + "&symptom=too-thin&what=again")
	require.True(t, strings.Contains(page, "Then: what is wrong?"), "what is in it can be changed")
	_, page = s.get(known + "&symptom=too-thin&mass=900&grade=2&wanted=3.5&standing=hot")
	require.True(t, strings.Contains(page, "Boil it down further") || strings.Contains(page, "Bind it with starch"))
	_, page = s.get(known + "&symptom=too-sweet&by=40&standing=warm")
	require.True(t, strings.Contains(page, "Stretch it with"))
	for _, bad := range []string{"/rescue/pot?liquid=milk-whole&liquid_g=0&symptom=too-thin",
		"/rescue/pot?liquid=ink&liquid_g=900&symptom=too-thin", "/rescue/pot?liquid=milk-whole&liquid_g=900&serve=flambé&symptom=too-thin"} {
		response, _ := s.get(bad)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, bad)
	}
}
