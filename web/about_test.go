package web_test

import (
	"encoding/json"
	"net/http"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Every module that is linked in, and everything that is shipped to browsers, is
// there with its licence.
func TestLicencesAreComplete(t *testing.T) {
	s := newSite(t, nil)
	response, page := s.get("/licences")
	require.Equal(t, http.StatusOK, response.StatusCode)
	out, err := exec.Command("go", "list", "-deps", "-json=Module", "../cmd/kirdu").Output()
	require.NoError(t, err)
	modules := 0
	for decoder := json.NewDecoder(strings.NewReader(string(out))); decoder.More(); {
		var p struct {
			Module *struct {
				Path, Version string
				Main          bool
			}
		}
		require.NoError(t, decoder.Decode(&p))
		if p.Module == nil || p.Module.Main {
			continue
		}
		modules++
		require.True(t, strings.Contains(page, "<summary>"+p.Module.Path+` <span class="soft small">`+p.Module.Version+"</span>"),
			"%s %s: run make licences", p.Module.Path, p.Module.Version)
	}
	require.Greater(t, modules, 50)
	for _, part := range []string{"<summary>Go ", "bulma", "lucide", "fraunces", "atkinson", "OFL"} {
		require.True(t, strings.Contains(page, part), part)
	}
	response, page = s.get("/cautions")
	require.Equal(t, http.StatusOK, response.StatusCode)
	for _, words := range []string{"74 °C", "two hours in all", "clinician", "Local rules", "carbon monoxide"} {
		require.True(t, strings.Contains(strings.ToLower(page), strings.ToLower(words)), words)
	}
}
