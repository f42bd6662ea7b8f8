package stove

import (
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// An audience are the devices that look at each cook. Its zero value is empty.
type audience struct {
	mutex sync.Mutex
	of    map[string]map[chan struct{}]bool
	count int
}

// mostListeners is more than a household has devices; beyond it the pages still
// load anew by themselves.
const mostListeners = 200

// join adds a device. What it gets to hear is that something changed; several
// changes at once are one. ok is false when there are too many.
func (a *audience) join(cook string) (changed chan struct{}, ok bool) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	if a.count >= mostListeners {
		return nil, false
	}
	if a.of == nil {
		a.of = map[string]map[chan struct{}]bool{}
	}
	if a.of[cook] == nil {
		a.of[cook] = map[chan struct{}]bool{}
	}
	changed = make(chan struct{}, 1)
	a.of[cook][changed] = true
	a.count++
	return changed, true
}

func (a *audience) leave(cook string, changed chan struct{}) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	delete(a.of[cook], changed)
	if len(a.of[cook]) == 0 {
		delete(a.of, cook)
	}
	a.count--
}

// tell lets every device of a cook know.
func (a *audience) tell(cook string) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	for changed := range a.of[cook] {
		select {
		case changed <- struct{}{}:
		default: // it has yet to hear of the change before
		}
	}
}

// heartbeat keeps a silent stream from being taken for dead.
const heartbeat = 20 * time.Second

// Listen is a stream of server-sent events: "changed" whenever an event of the
// cook was stored, by whichever device.
func (s *Screen) Listen(c *gin.Context) {
	id := c.Param("id")
	if _, err := s.app.Store.Cook(c.Request.Context(), id); err != nil {
		s.app.Fail(c, err)
		return
	}
	changed, ok := s.audience.join(id)
	if !ok {
		s.app.Stop(c, http.StatusServiceUnavailable, "Too many devices are listening.", "The page loads anew by itself.")
		return
	}
	defer s.audience.leave(id, changed)
	c.Header("Content-Type", "text/event-stream")
	stream := http.NewResponseController(c.Writer)
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for message := ": here\n\n"; ; {
		// Each message has its own deadline; the stream as a whole has none.
		if err := stream.SetWriteDeadline(time.Now().Add(heartbeat)); err != nil {
			s.app.Log.Warn("stream without a deadline", "error", err)
		}
		if _, err := fmt.Fprint(c.Writer, message); err != nil {
			return
		}
		if err := stream.Flush(); err != nil {
			return
		}
		select {
		case <-changed:
			message = "event: changed\ndata: 1\n\n"
		case <-beat.C:
			message = ": still here\n\n"
		case <-c.Request.Context().Done():
			return
		case <-s.app.Ending:
			return
		}
	}
}
