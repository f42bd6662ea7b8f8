package cook

import (
	"fmt"
	"kirdu/web/frame"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
)

// heartbeat keeps a silent stream from being taken for dead.
const heartbeat = 20 * time.Second

// Listen is a stream of server-sent events: "changed" whenever an event of the
// cook was stored, by whichever device.
func (s *Screen) Listen(c *gin.Context) error {
	id := c.Param("id")
	if _, err := s.records.Cook(c.Request.Context(), id); err != nil {
		return err
	}
	changed, leave, ok := s.kitchen.Join(id)
	if !ok {
		return frame.Stop(http.StatusServiceUnavailable, "Too many devices are listening.", "The page loads anew by itself.")
	}
	defer leave()
	c.Header("Content-Type", "text/event-stream")
	stream := http.NewResponseController(c.Writer)
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for message := ": here\n\n"; ; {
		if !s.app.StillInside(c.Request.Context()) {
			return nil // the device was sent away, or there is a new passphrase
		}
		// Each message has its own deadline; the stream as a whole has none.
		if err := stream.SetWriteDeadline(time.Now().Add(heartbeat)); err != nil {
			s.app.Log.Warn("stream without a deadline", "error", err)
		}
		if _, err := fmt.Fprint(c.Writer, message); err != nil {
			return nil
		}
		if err := stream.Flush(); err != nil {
			return nil
		}
		select {
		case <-changed:
			message = "event: changed\ndata: 1\n\n"
		case <-beat.C:
			message = ": still here\n\n"
		case <-c.Request.Context().Done():
			return nil
		case <-s.app.Ending:
			return nil
		}
	}
}
