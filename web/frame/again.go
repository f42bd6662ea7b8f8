package frame

import (
	"bytes"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"kirdu/app"
)

// A memory keeps pages for as long as nothing was stored since, and no longer than the clock on them is right.
// Its zero value is ready.
type memory struct {
	once  sync.Once
	pages *lru.Cache[string, remembered]
}

// A remembered page was made of a version of the data.
type remembered struct {
	version int64
	at      time.Time
	body    []byte
}

// rightFor is how long the clock on a page is right, mostPages bounds the memory: some megabytes.
const (
	rightFor  = time.Second / 4
	mostPages = 64
)

const keepKey = "keep"

// FreshID stands in a page for an identifier that no other copy of the page has.
const FreshID = "00000000-0000-0000-0000-00000000f3e5"

func freshened(page []byte) []byte {
	return bytes.ReplaceAll(page, []byte(FreshID), []byte(app.NewID()))
}

func (m *memory) start() *lru.Cache[string, remembered] {
	m.once.Do(func() { m.pages, _ = lru.New[string, remembered](mostPages) }) // it fails for no size only
	return m.pages
}

// keep remembers a page for the address that asked for it, if that is one to be remembered.
func (m *memory) keep(c *gin.Context, page []byte) {
	if made, is := c.Value(keepKey).(remembered); is {
		made.body = page
		m.start().Add(address(c), made)
	}
}

func address(c *gin.Context) string { return c.Request.URL.RequestURI() }

// remembered answers with a page that was made just now, if there is one.
func (a *App) remembered(handle Handler) Handler {
	return func(c *gin.Context) error {
		ctx := c.Request.Context()
		version, err := a.Records.Version(ctx)
		if err != nil {
			return handle(c) // the page itself says what is wrong
		}
		now := a.Now()
		if page, ok := a.again.start().Get(address(c)); ok && page.version == version && now.Sub(page.at).Abs() < rightFor {
			c.Data(http.StatusOK, htmlType, freshened(page.body))
			return nil
		}
		c.Set(keepKey, remembered{version: version, at: now})
		return handle(c)
	}
}
