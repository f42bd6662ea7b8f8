package guard

import (
	"bufio"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/klauspost/compress/gzhttp"
	"github.com/stretchr/testify/require"
)

// What comes slowly arrives, however long it takes in all; who stops sending is not waited for. The server's
// own deadline is a tenth of what the slow body takes.
func TestABodyMayComeSlowly(t *testing.T) {
	got := make(chan int, 1)
	handler := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		data, err := io.ReadAll(r.Body)
		if err != nil {
			got <- -1
			return
		}
		got <- len(data)
		fmt.Fprint(w, "taken")
	})
	around := Around(nil, slog.New(slog.DiscardHandler), Bodies{Usual: 1 << 20, Patience: 400 * time.Millisecond, LeastRate: 1000,
		Answer: time.Second}, handler)
	server := httptest.NewUnstartedServer(gzhttp.GzipHandler(around))
	server.Config.ReadTimeout, server.Config.WriteTimeout = 200*time.Millisecond, 200*time.Millisecond
	server.Start()
	defer server.Close()

	const parts, size = 20, 200 // 4 kB in two seconds: twice the least rate
	send := func(n int) *bufio.Reader {
		conn, err := net.Dial("tcp", server.Listener.Addr().String())
		require.NoError(t, err)
		t.Cleanup(func() { conn.Close() })
		fmt.Fprintf(conn, "POST / HTTP/1.1\r\nHost: localhost\r\nContent-Length: %d\r\n\r\n", parts*size)
		for range n {
			_, err := io.WriteString(conn, strings.Repeat("x", size))
			require.NoError(t, err)
			time.Sleep(100 * time.Millisecond)
		}
		return bufio.NewReader(conn)
	}
	answer, err := http.ReadResponse(send(parts), nil)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, answer.StatusCode)
	require.Equal(t, parts*size, <-got)

	send(2)
	select {
	case n := <-got:
		require.Equal(t, -1, n, "what never came is no body")
	case <-time.After(10 * time.Second):
		require.Fail(t, "it waits for ever")
	}
}
