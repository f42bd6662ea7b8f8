package web_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/pantry"
	"kirdu/core/pot"
)

// The guide explains every word of thickness and of soft grain, and its pictures are there.
func TestTheGuideExplainsItsWords(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/guide")
	for _, word := range pot.ThicknessWords() {
		require.Contains(t, page, " "+word+"</strong><br><span class=\"small\">")
	}
	for _, word := range pot.DonenessMarks(pantry.Grainy) {
		require.Contains(t, page, "<dt>"+word+"</dt>")
	}
	require.NotContains(t, page, "<dd></dd>")
	shown := regexp.MustCompile(`src="(/guide/[^"]+)" width="(\d+)" height="(\d+)" loading="lazy"\s+alt="([^"]+)"`)
	pictures := shown.FindAllStringSubmatch(page, -1)
	require.Greater(t, len(pictures), 10)
	for _, picture := range pictures {
		response, data := s.get(picture[1])
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.True(t, strings.HasPrefix(data, "\x89PNG"))
	}
	response, _ := s.get("/guide/none.png")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
	response, _ = s.get("/guide/..%2Fdocs.go")
	require.Equal(t, http.StatusNotFound, response.StatusCode)
}
