package web_test

import (
	"html"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The balance page tells the roads that lead to an aim, and each leads to a page of its own that gets there.
func TestRoadsOnTheBalancePage(t *testing.T) {
	s := newSite(t, nil)
	id := s.pudding().ID
	_, page := s.get("/puddings/" + id + "/balance")
	thickness := regexp.MustCompile(`name="thickness"[^>]*value="([0-9.]+)"`).FindStringSubmatch(page)
	require.NotNil(t, thickness)
	now, err := strconv.ParseFloat(thickness[1], 64)
	require.NoError(t, err)
	_, page = s.get("/puddings/" + id + "/balance?thickness=" + strconv.FormatFloat(now+0.6, 'f', 1, 64))
	require.Contains(t, page, "Other ways to get there")
	roads := regexp.MustCompile(`href="(/puddings/[^"]+/balance\?[^"]+)"`).FindAllStringSubmatch(page, -1)
	require.NotEmpty(t, roads)
	for _, road := range roads {
		response, page := s.get(html.UnescapeString(road[1]))
		require.Equal(t, http.StatusOK, response.StatusCode)
		require.Contains(t, page, "Use this plan")
		require.NotContains(t, page, "and not to")
	}
	_, page = s.get("/puddings/" + id + "/balance?sweet=60&lock=sugar-white&lock=jaggery")
	require.Contains(t, page, "and not to 60")
}

// What the page of more bowls shows of a proposal is what the plan that it saves comes to.
func TestAScaledPlanIsAsShown(t *testing.T) {
	s := newSite(t, nil)
	id := s.pudding().ID
	_, page := s.get("/puddings/" + id + "/scale?bowls=9")
	offer := regexp.MustCompile(`(?s)<li class="is-offer">(.*?)</li>`).FindStringSubmatch(page)
	require.NotNil(t, offer)
	rows := regexp.MustCompile(`<dt>([^<]+)</dt><dd[^>]*>([^<]+)</dd>`).FindAllStringSubmatch(offer[1], -1)
	require.NotEmpty(t, rows)
	field := func(name string) string {
		return regexp.MustCompile(`name="` + name + `"\s+value="([^"]*)"`).FindStringSubmatch(strings.ReplaceAll(offer[1], "\n", " "))[1]
	}
	response, _ := s.post("/puddings/"+id+"/scale", url.Values{"version": {field("version")}, "bowls": {field("bowls")},
		"kind": {field("kind")}})
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	_, page = s.get("/puddings/" + id + "/balance")
	balanced := regexp.MustCompile(`<dt>([^<]+)</dt><dd>([^<]+)</dd>`).FindAllStringSubmatch(page, -1)
	shown := map[string]string{}
	for _, row := range balanced {
		if _, seen := shown[row[1]]; !seen {
			shown[row[1]] = html.UnescapeString(row[2])
		}
	}
	compared := 0
	for _, row := range rows {
		switch row[1] {
		case "Sweetness":
			require.True(t, strings.HasPrefix(shown["Sweetness"], html.UnescapeString(row[2])), "%s and %s", row[2], shown["Sweetness"])
			compared++
		case "To the bowl":
			require.Equal(t, html.UnescapeString(row[2]), shown["To the bowl"])
			compared++
		case "Thickness":
			figure := regexp.MustCompile(`[0-9.]+`).FindString(row[2])
			require.True(t, strings.HasPrefix(shown["Thickness as served"], figure), "%s and %s", row[2], shown["Thickness as served"])
			compared++
		}
	}
	require.Equal(t, 3, compared)
}
