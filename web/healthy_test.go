package web_test

import (
	"bytes"
	"encoding/json"
	"log/slog"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/web"
)

// A line is written for each request, and nothing of what was asked or typed.
func TestRequestsAreLogged(t *testing.T) {
	var lines bytes.Buffer
	s := newSite(t, func(o *web.Options) { o.Kitchen.Log = slog.New(slog.NewJSONHandler(&lines, nil)) })
	s.get("/puddings?search=secret")
	s.get("/static/icon.svg")
	var line struct {
		Msg, Method, Path string
		Status, Bytes     int
	}
	require.NoError(t, json.Unmarshal(lines.Bytes(), &line), "one line, and files are not worth one")
	require.Equal(t, "request", line.Msg)
	require.Equal(t, "/puddings", line.Path)
	require.Equal(t, http.StatusOK, line.Status)
	require.Positive(t, line.Bytes)
	require.NotContains(t, lines.String(), "secret")
}

// A supervisor asks without a passphrase whether the program reaches its data.
func TestHealth(t *testing.T) {
	s := newSite(t, func(o *web.Options) { o.Kitchen.Login = true })
	response, body := s.get("/healthz")
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.Equal(t, "ok\n", body)
	require.NoError(t, s.store.Close())
	response, _ = s.get("/healthz")
	require.Equal(t, http.StatusServiceUnavailable, response.StatusCode)
}
