// Package web is the interface: the routes, and around them what keeps the
// application safe.
package web

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"kirdu/app"
	"kirdu/store"
	"kirdu/web/about"
	"kirdu/web/aim"
	"kirdu/web/archive"
	"kirdu/web/benches"
	"kirdu/web/compare"
	"kirdu/web/gadgets"
	"kirdu/web/gathering"
	"kirdu/web/intake"
	"kirdu/web/kitchen"
	"kirdu/web/learnt"
	"kirdu/web/logbook"
	"kirdu/web/login"
	"kirdu/web/page"
	"kirdu/web/pantry"
	"kirdu/web/puddings"
	"kirdu/web/rescue"
	"kirdu/web/scaling"
	"kirdu/web/serving"
	"kirdu/web/settings"
	"kirdu/web/sheet"
	"kirdu/web/start"
	"kirdu/web/stove"
	"kirdu/web/supplies"
	"kirdu/web/today"
	"kirdu/web/ways"
	"kirdu/web/workbench"
)

//go:embed all:static
var static embed.FS

// Options are what the program starts the interface with.
type Options struct {
	Kitchen *app.Kitchen
	Hosts   []string // names the application answers to; nil: only the loopback
	Secure  bool     // cookies over TLS only

	ending <-chan struct{} // closed when the server shuts down
}

// Limits of a request.
const (
	maxBody      = 1 << 20
	readTimeout  = 15 * time.Second
	writeTimeout = 60 * time.Second
	idleTimeout  = 2 * time.Minute
)

// NewServer returns the server of the application; the caller listens.
func NewServer(o Options) *http.Server {
	ending := make(chan struct{})
	o.ending = ending
	server := &http.Server{
		Handler: Handler(o), ReadHeaderTimeout: readTimeout, ReadTimeout: readTimeout,
		WriteTimeout: writeTimeout, IdleTimeout: idleTimeout, MaxHeaderBytes: 1 << 16,
		ErrorLog: slog.NewLogLogger(o.Kitchen.Log.Handler(), slog.LevelWarn),
	}
	// Streams do not end by themselves and would hold the program up.
	server.RegisterOnShutdown(sync.OnceFunc(func() { close(ending) }))
	return server
}

// Handler returns the application with everything around it.
func Handler(o Options) http.Handler {
	files := staticFiles()
	screens := &page.App{Kitchen: o.Kitchen, Version: version(files), Ending: o.ending}
	sessions := scs.New()
	sessions.Store = sqlite3store.New(o.Kitchen.Store.DB())
	sessions.Lifetime = 30 * 24 * time.Hour
	sessions.Cookie.Name = "kirdu_session"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.Secure = o.Secure
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		o.Kitchen.Log.Error("session", "error", err)
		http.Error(w, "The session could not be read. Try again.", http.StatusInternalServerError)
	}

	var handler http.Handler = witnessed(engineOf(screens, sessions, files))
	handler = sessions.LoadAndSave(handler)
	handler = crossOrigin(screens).Handler(handler)
	handler = limited(handler)
	handler = headers(handler)
	handler = knownHost(o.Hosts, handler)
	compress, err := gzhttp.NewWrapper(gzhttp.ExceptContentTypes([]string{"text/event-stream"}))
	if err != nil {
		panic(err) // the options are ours
	}
	return compress(handler)
}

func engineOf(screens *page.App, sessions *scs.SessionManager, files fs.FS) *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.HandleMethodNotAllowed = true
	engine.Use(recovery(screens), screens.Prefer)
	routes(engine, screens, sessions, files)
	return engine
}

// witnessed lets the answer to a failure say whether something was stored.
func witnessed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(w, r.WithContext(store.WithWitness(r.Context())))
	})
}

// limited keeps bodies small, but for the addresses that take files.
func limited(handler http.Handler) http.Handler {
	usual, archives, photos := http.MaxBytesHandler(handler, maxBody), http.MaxBytesHandler(handler, archive.MaxUpload), http.MaxBytesHandler(handler, logbook.MaxUpload)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case r.URL.Path == "/archive":
			archives.ServeHTTP(w, r)
		case strings.HasPrefix(r.URL.Path, "/logbook/") && strings.HasSuffix(r.URL.Path, "/photo"):
			photos.ServeHTTP(w, r)
		default:
			usual.ServeHTTP(w, r)
		}
	})
}

// routes are all addresses of the application.
func routes(engine *gin.Engine, app *page.App, sessions *scs.SessionManager, files fs.FS) {
	gate := login.New(app, sessions)
	engine.GET("/static/*path", serveStatic(app, files))
	engine.GET("/login", gate.Show)
	engine.POST("/login", gate.Enter)
	engine.POST("/logout", gate.Leave)

	inside := engine.Group("/", gate.Guard)
	todayScreen := today.New(app)
	inside.GET("/", todayScreen.Show)

	begin := start.New(app)
	inside.GET("/start", begin.Show)
	inside.POST("/start", begin.Begin)
	inside.POST("/start/skip", begin.Skip)

	choices := settings.New(app, sessions)
	inside.GET("/settings", choices.Show)
	inside.POST("/settings", choices.Save)
	inside.GET("/settings/code.png", choices.Code)
	inside.POST("/settings/sessions/:session/end", choices.End)

	shelf := puddings.New(app)
	inside.GET("/puddings", shelf.Show)
	inside.POST("/puddings/:id/remove", shelf.Remove)
	inside.POST("/puddings/:id/restore", shelf.Restore)

	fresh := ways.New(app)
	inside.GET("/puddings/new", fresh.Show)
	inside.POST("/puddings/new", fresh.Create)

	bench := workbench.New(app)
	inside.GET("/puddings/:id", bench.Show)
	inside.POST("/puddings/:id", bench.Save)
	inside.POST("/puddings/:id/undo", bench.Undo)
	inside.POST("/puddings/:id/redo", bench.Redo)
	inside.GET("/puddings/:id/plan.kirdu.json", bench.Export)
	inside.GET("/puddings/:id/recipe.json", bench.Recipe)
	inside.POST("/puddings/:id/cook", bench.Cook)
	inside.POST("/puddings/:id/serve-at", bench.ServeAt)

	inside.GET("/puddings/:id/sweeten", bench.Sweeten)
	inside.GET("/puddings/:id/history", bench.History)
	inside.POST("/puddings/:id/history", bench.Restore)
	inside.POST("/puddings/:id/duplicate", bench.Duplicate)

	side := compare.New(app)
	inside.GET("/puddings/:id/compare", side.Show)
	inside.POST("/puddings/:id/compare", side.Take)

	cooking := stove.New(app)
	inside.GET("/stove/:id", cooking.Show)
	inside.POST("/stove/:id", cooking.Record)
	inside.GET("/stove/:id/changes", cooking.Listen)

	things := gadgets.New(app)
	engine.POST("/readings", things.Take)
	inside.GET("/kitchen/gadgets", things.Show)
	inside.POST("/kitchen/gadgets", things.Make)
	inside.POST("/kitchen/gadgets/:id/remove", things.Remove)

	more := scaling.New(app)
	inside.GET("/puddings/:id/scale", more.Show)
	inside.POST("/puddings/:id/scale", more.Take)

	behind := about.New(app, files)
	inside.GET("/cautions", behind.Cautions)
	inside.GET("/licences", behind.Licences)
	inside.GET("/guide", behind.Guide)
	inside.GET("/model", behind.Model)

	dishes := serving.New(app)
	inside.GET("/puddings/:id/serving", dishes.OfPudding)
	inside.GET("/stove/:id/serving", dishes.OfCook)

	walls := sheet.New(app)
	inside.GET("/puddings/:id/sheet", walls.Show)

	saves := rescue.New(app)
	inside.GET("/rescue", saves.First)
	inside.GET("/rescue/pot", saves.OfPot)
	inside.GET("/puddings/:id/rescue", saves.OfPudding)
	inside.GET("/stove/:id/rescue", saves.OfCook)
	inside.POST("/stove/:id/rescue", saves.Take)

	aims := aim.New(app)
	inside.GET("/puddings/:id/balance", aims.Show)
	inside.POST("/puddings/:id/balance", aims.Take)

	house := supplies.New(app)
	inside.GET("/supplies", house.Have)
	inside.POST("/supplies", house.Note)
	inside.POST("/supplies/:slug/used-up", house.UsedUp)
	inside.POST("/puddings/:id/swap", house.TakeSwap)
	inside.GET("/buying", house.Buying)
	inside.POST("/buying", house.BuyFor)
	inside.POST("/buying/puddings/:id/remove", house.NotBuyFor)
	inside.POST("/buying/ticks/:slug", house.Tick)
	inside.GET("/buying.txt", house.Text)
	inside.GET("/buying.csv", house.CSV)

	suppers := gathering.New(app)
	inside.GET("/gatherings", suppers.List)
	inside.POST("/gatherings", suppers.Create)
	inside.GET("/gatherings/:id", suppers.Show)
	inside.POST("/gatherings/:id", suppers.Change)
	inside.POST("/gatherings/:id/remove", suppers.Remove)
	inside.POST("/gatherings/:id/restore", suppers.Restore)
	inside.POST("/gatherings/:id/puddings", suppers.SetShare)
	inside.POST("/gatherings/:id/puddings/:pudding/remove", suppers.DropShare)
	inside.POST("/gatherings/:id/puddings/:pudding/cook", suppers.Cook)
	inside.POST("/gatherings/:id/buy", suppers.Buy)
	inside.POST("/gatherings/:id/move", suppers.Move)
	inside.POST("/gatherings/:id/late", suppers.Late)
	inside.POST("/gatherings/:id/anew", suppers.Anew)
	inside.GET("/gatherings/:id/timetable.ics", suppers.Calendar)

	lists := intake.New(app)
	inside.GET("/intake", lists.Show)
	inside.POST("/intake", lists.Read)
	inside.POST("/intake/pudding", lists.Create)

	tables := benches.New(app)
	inside.GET("/benches", tables.First)
	inside.GET("/benches/:bench", tables.Show)
	inside.POST("/benches/:bench/write", tables.Write)

	shelves := pantry.New(app)
	inside.GET("/pantry", shelves.Show)
	inside.POST("/pantry", shelves.Create)
	inside.GET("/pantry/new", shelves.New)
	inside.GET("/pantry/:slug", shelves.One)
	inside.POST("/pantry/:slug", shelves.Correct)
	inside.POST("/pantry/:slug/remove", shelves.Remove)
	inside.POST("/pantry/:slug/restore", shelves.Restore)

	book := logbook.New(app)
	inside.GET("/logbook", book.Show)
	lessons := learnt.New(app)
	inside.GET("/logbook/learnt", lessons.Show)
	inside.POST("/logbook/learnt/forget", lessons.Forget)
	inside.POST("/logbook/learnt/remember", lessons.Remember)
	inside.GET("/logbook/trends", book.Trends)
	inside.GET("/logbook/:id", book.Batch)
	inside.GET("/logbook/:id/beside", book.Beside)
	inside.GET("/logbook/:id/photo.jpg", book.Photo)
	inside.POST("/logbook/:id/photo", book.AddPhoto)
	inside.POST("/logbook/:id/photo/remove", book.RemovePhoto)
	inside.POST("/logbook/:id", book.Judge)
	inside.POST("/logbook/:id/again", book.Again)
	inside.POST("/logbook/:id/restore", book.Restore)

	all := archive.New(app)
	inside.GET("/archive", all.Show)
	inside.POST("/archive", all.Look)
	inside.POST("/archive/take", all.Take)
	inside.GET("/archive/kirdu.zip", all.Export)
	inside.GET("/archive/batches.csv", all.Batches)
	inside.GET("/archive/readings.csv", all.Readings)
	inside.GET("/unreadable/:kind/:id", all.Unreadable)
	inside.GET("/unreadable/:kind/:id/stored.json", all.Raw)
	inside.POST("/unreadable/:kind/:id/remove", all.RemoveUnreadable)

	room := kitchen.New(app)
	inside.GET("/kitchen", room.Show)
	inside.POST("/kitchen/pots", room.AddPot)
	inside.POST("/kitchen/pots/:id/remove", room.RemovePot)
	inside.POST("/kitchen/pots/:id/restore", room.RestorePot)
	inside.POST("/kitchen/burners", room.AddBurner)
	inside.POST("/kitchen/burners/:id/remove", room.RemoveBurner)
	inside.POST("/kitchen/burners/:id/restore", room.RestoreBurner)
	inside.GET("/kitchen/burners/:id/test", room.Test)
	inside.POST("/kitchen/burners/:id/test", room.AddTest)
	inside.POST("/kitchen/burners/:id/test/:test/remove", room.RemoveTest)
	inside.POST("/kitchen/room", room.SetRoom)
	inside.GET("/kitchen/weigh", room.Weigh)
	inside.POST("/kitchen/weigh", room.AddWeighed)
	inside.GET("/kitchen/measures", room.Measures)
	inside.POST("/kitchen/measures", room.AddMeasure)
	inside.POST("/kitchen/measures/:id/remove", room.RemoveMeasure)
	inside.POST("/kitchen/measures/:id/restore", room.RestoreMeasure)

	engine.NoRoute(func(c *gin.Context) {
		app.Stop(c, http.StatusNotFound, "There is no page here.", "The address may be mistyped, or the page has moved.")
	})
	engine.NoMethod(func(c *gin.Context) {
		app.Stop(c, http.StatusMethodNotAllowed, "That cannot be done at this address.", "Go back and use the buttons of the page.")
	})
}

// overlay serves the modules of the screens beside the common files.
type overlay []fs.FS

func (o overlay) Open(name string) (fs.File, error) {
	for _, files := range o {
		file, err := files.Open(name)
		if !errors.Is(err, fs.ErrNotExist) {
			return file, err
		}
	}
	return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
}

func staticFiles() fs.FS {
	common, err := fs.Sub(static, "static")
	if err != nil {
		panic(err) // the folder is embedded
	}
	return overlay{common, workbench.Modules, stove.Modules, kitchen.Modules, gathering.Modules}
}

// version is a digest of all static files: when one changes, so does its
// address, and browsers may keep the old one for ever.
func version(files fs.FS) string {
	digest := sha256.New()
	for _, part := range files.(overlay) {
		err := fs.WalkDir(part, ".", func(name string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() {
				return err
			}
			data, err := fs.ReadFile(part, name)
			digest.Write(data)
			return err
		})
		if err != nil {
			panic(err) // embedded files can be read
		}
	}
	const length = 12
	return hex.EncodeToString(digest.Sum(nil))[:length]
}

func serveStatic(app *page.App, files fs.FS) gin.HandlerFunc {
	server := http.StripPrefix("/static/", http.FileServerFS(files))
	return func(c *gin.Context) {
		if strings.HasSuffix(c.Request.URL.Path, "/") {
			app.Stop(c, http.StatusNotFound, "There is no page here.")
			return
		}
		if c.Query("v") == app.Version {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		} else {
			// Asked for again each time, and answered with 304 while it is the same.
			c.Header("Cache-Control", "no-cache")
			c.Header("ETag", strconv.Quote(app.Version))
		}
		server.ServeHTTP(c.Writer, c.Request)
	}
}

// recovery turns a mistake of ours into the page for it.
func recovery(app *page.App) gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, fault any) {
		app.Log.Error("panic", "path", c.Request.URL.Path, "fault", fault)
		app.Fail(c, errors.New("panic, see the line before"))
	})
}

// headers sets what every answer carries.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'; object-src 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		if !strings.HasPrefix(r.URL.Path, "/static/") {
			h.Set("Cache-Control", "no-store")
		}
		next.ServeHTTP(w, r)
	})
}

func crossOrigin(app *page.App) *http.CrossOriginProtection {
	protection := http.NewCrossOriginProtection()
	protection.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		app.Log.Warn("cross-origin request refused", "path", r.URL.Path, "origin", r.Header.Get("Origin"))
		http.Error(w, "This came from another site and was refused. Open Kirdu itself and try there.", http.StatusForbidden)
	}))
	return protection
}

// knownHost refuses names that the application does not go by: a page of
// another site whose name leads here must not reach it.
func knownHost(hosts []string, next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if name, _, err := net.SplitHostPort(host); err == nil {
			host = name
		}
		host = strings.Trim(host, "[]")
		ip := net.ParseIP(host)
		known := host == "localhost" || (ip != nil && (ip.IsLoopback() || hosts != nil))
		for _, name := range hosts {
			known = known || strings.EqualFold(host, name)
		}
		if !known {
			http.Error(w, "Kirdu does not go by this name. Use the address that it printed when it started.", http.StatusMisdirectedRequest)
			return
		}
		next.ServeHTTP(w, r)
	})
}
