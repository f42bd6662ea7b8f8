package web_test

import (
	"bytes"
	"encoding/csv"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/store"
	"kirdu/web/book/logbook"
	"kirdu/web/house/archive"
)

// upload posts one file in a form.
func (s *site) upload(path, field, name string, data []byte) (*http.Response, string) {
	s.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	if data != nil {
		part, err := form.CreateFormFile(field, name)
		require.NoError(s.t, err)
		_, err = part.Write(data)
		require.NoError(s.t, err)
	}
	require.NoError(s.t, form.Close())
	request, err := http.NewRequest(http.MethodPost, s.server.URL+path, &body)
	require.NoError(s.t, err)
	request.Header.Set("Content-Type", form.FormDataContentType())
	response, err := s.client.Do(request)
	require.NoError(s.t, err)
	defer response.Body.Close()
	answer, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response, string(answer)
}

func TestArchiveInTheBrowser(t *testing.T) {
	s := newSite(t, nil)
	_, page := s.get("/archive")
	require.True(t, strings.Contains(page, "Save the archive"))
	response, data := s.get("/archive/kirdu.zip")
	require.Equal(t, "application/zip", response.Header.Get("Content-Type"))

	response, page = s.upload("/archive", "archive", "all.kirdu.zip", []byte(data))
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.True(t, strings.Contains(page, "What all.kirdu.zip would do"))
	token := regexp.MustCompile(`name="token" value="([^"]+)"`).FindStringSubmatch(page)
	require.NotNil(t, token)
	response, page = s.post("/archive/take", url.Values{"token": {token[1]}, "choice": {"theirs"}})
	require.Equal(t, http.StatusOK, response.StatusCode)
	require.True(t, strings.Contains(page, "It is taken over"))
	response, page = s.post("/archive/take", url.Values{"token": {token[1]}})
	require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, "once is enough")
	require.True(t, strings.Contains(page, "choose the file again"))

	for name, bad := range map[string][]byte{"no file": nil, "a story": []byte("Once upon a time"), "half": []byte(data)[:len(data)/2]} {
		response, page = s.upload("/archive", "archive", "x.zip", bad)
		require.Equal(t, http.StatusUnprocessableEntity, response.StatusCode, name)
		require.True(t, strings.Contains(page, `class="fault"`), name)
	}
	response, _ = s.upload("/archive", "archive", "x.zip", make([]byte, archive.MaxUpload+1))
	require.Equal(t, http.StatusRequestEntityTooLarge, response.StatusCode)
	response, _ = s.upload("/logbook/none/photo", "photo", "x.jpg", make([]byte, logbook.MaxUpload+1))
	require.GreaterOrEqual(t, response.StatusCode, 400)
}

func TestTheBookAsTables(t *testing.T) {
	s := newSite(t, nil)
	book, err := s.store.AllBatches(t.Context())
	require.NoError(t, err)
	for path, columns := range map[string]int{"/archive/batches.csv": 12, "/archive/readings.csv": 5} {
		response, text := s.get(path)
		require.Equal(t, "text/csv; charset=utf-8", response.Header.Get("Content-Type"))
		rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
		require.NoError(t, err)
		require.Len(t, rows[0], columns)
		if columns == 12 {
			require.Len(t, rows, len(book)+1)
		}
	}
}

// A cook that was exported while it was on the stove, then finished and judged here, stays finished when that
// archive is taken over with theirs before ours.
func TestAnOlderArchiveUnfinishesNothing(t *testing.T) {
	s := newSite(t, nil)
	response, _ := s.post("/puddings/"+s.pudding().ID+"/cook", nil)
	require.Equal(t, http.StatusSeeOther, response.StatusCode)
	path := response.Header.Get("Location")
	id := strings.TrimPrefix(path, "/stove/")
	require.NoError(t, s.store.AppendEvent(t.Context(), id, cook.Event{ID: "n1", Kind: cook.Next, At: now}, now))
	sheets, err := s.store.Sheets(t.Context())
	require.NoError(t, err)
	finished := cook.Event{ID: "f1", Kind: cook.Finished, At: now.Add(time.Minute), Mass: 900}
	require.NoError(t, s.store.Finish(t.Context(), id, finished, store.Lesson{CookID: id, Edition: 1}, now))
	require.NoError(t, s.store.Judge(t.Context(), id, store.Verdict{Eaten: "hot"}, nil, store.Lesson{CookID: id, Edition: 1}, now))
	_, err = s.store.Absorb(t.Context(), sheets, store.TakeTheirs, false)
	require.NoError(t, err)
	for _, page := range []string{"/", "/puddings", "/logbook", "/learnt", "/logbook/" + id, "/logbook/trends"} {
		response, _ := s.get(page)
		require.Less(t, response.StatusCode, 500, page)
	}
	lessons, err := s.store.Lessons(t.Context())
	require.NoError(t, err)
	require.True(t, slices.ContainsFunc(lessons, func(l store.Lesson) bool { return l.CookID == id }), "it is finished still")
}
