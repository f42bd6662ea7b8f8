// Package web is the interface: the routes, and around them what keeps the
// application safe.
package web

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"embed"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"kirdu/app"
	"kirdu/exchange"
	"kirdu/web/about"
	"kirdu/web/benches"
	"kirdu/web/book/learnt"
	"kirdu/web/book/logbook"
	"kirdu/web/frame"
	"kirdu/web/guard"
	"kirdu/web/house/archive"
	"kirdu/web/house/gadgets"
	"kirdu/web/house/kitchen"
	"kirdu/web/house/pantry"
	"kirdu/web/house/settings"
	"kirdu/web/house/start"
	"kirdu/web/house/trust"
	"kirdu/web/picture"
	"kirdu/web/pudding/balance"
	"kirdu/web/pudding/compare"
	"kirdu/web/pudding/full"
	"kirdu/web/pudding/recipe"
	"kirdu/web/pudding/scale"
	"kirdu/web/pudding/serving"
	"kirdu/web/pudding/sheet"
	"kirdu/web/pudding/shelf"
	"kirdu/web/pudding/ways"
	"kirdu/web/pudding/workbench"
	"kirdu/web/stove/cook"
	"kirdu/web/stove/rescue"
	"kirdu/web/stove/review"
	"kirdu/web/table/gatherings"
	"kirdu/web/table/supplies"
	"kirdu/web/today"
)

//go:embed all:static
var static embed.FS

// Options are what the program starts the interface with.
type Options struct {
	Kitchen *app.Kitchen
	Hosts   []string                           // names the application answers to; nil: only the loopback
	Trust   *frame.Trust                       // of a kitchen over TLS; its cookies go over TLS only
	Sample  func() (address string, err error) // starts the sample kitchen beside this one; nil: there is none

	ending <-chan struct{} // closed when the server shuts down
}

// Limits of a request.
const (
	maxBody      = 1 << 20
	readTimeout  = 15 * time.Second
	writeTimeout = 60 * time.Second
	idleTimeout  = 2 * time.Minute
	leastRate    = 32 << 10 // bytes a second of what is sent: a poor mobile line
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

// TrustHandler serves, in the clear, what a phone needs to trust a kitchen that speaks TLS, and
// sends everything else there.
func TrustHandler(o Options) http.Handler {
	inner := Handler(o)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if at := r.URL.Path; r.Method == http.MethodGet &&
			(at == "/trust" || strings.HasPrefix(at, "/trust/") || strings.HasPrefix(at, "/static/")) {
			inner.ServeHTTP(w, r)
			return
		}
		if r.URL.Path == "/" {
			http.Redirect(w, r, "/trust", http.StatusSeeOther)
			return
		}
		http.Error(w, "This address only tells how to trust the kitchen: see /trust.", http.StatusNotFound)
	})
}

// Handler returns the application with everything around it.
func Handler(o Options) http.Handler {
	files := staticFiles()
	k := o.Kitchen
	screens := &frame.App{Kitchen: k, Records: k.Store, Now: func() time.Time { return k.Now() }, Zone: k.Zone, Log: k.Log, Demo: k.Demo,
		Login:   k.Login,
		Version: version(files), Ending: o.ending, Trust: o.Trust, Sample: o.Sample}
	sessions := scs.New()
	screens.StillInside = func(ctx context.Context) bool {
		if !o.Kitchen.Login {
			return true
		}
		_, found, err := sessions.Store.Find(sessions.Token(ctx))
		return found && err == nil
	}
	sessions.Store = sqlite3store.New(o.Kitchen.Store.DB())
	sessions.Lifetime = 30 * 24 * time.Hour
	sessions.Cookie.Name = "kirdu_session"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.Secure = o.Trust != nil
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		o.Kitchen.Log.Error("session", "error", err)
		http.Error(w, "The session could not be read. Try again.", http.StatusInternalServerError)
	}

	handler := sessions.LoadAndSave(guard.Witnessed(engineOf(screens, k, sessions, files)))
	handler = guard.Around(o.Hosts, o.Kitchen.Log, guard.Bodies{Usual: maxBody, Patience: readTimeout, LeastRate: leastRate,
		Answer: writeTimeout,
		Others: []guard.Limit{
			{Prefix: "/archive", Suffix: "/archive", Most: archive.MaxUpload},
			{Prefix: "/intake", Suffix: "/intake", Most: exchange.MaxRecipeBytes + maxBody},
			{Prefix: "/logbook/", Suffix: "/photo", Most: logbook.MaxUpload},
		}}, handler)
	compress, err := gzhttp.NewWrapper(gzhttp.ExceptContentTypes([]string{"text/event-stream"}))
	if err != nil {
		panic(err) // the options are ours
	}
	return compress(handler)
}

func engineOf(screens *frame.App, k *app.Kitchen, sessions *scs.SessionManager, files fs.FS) *gin.Engine {
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.HandleMethodNotAllowed = true
	engine.Use(logged(screens.Log), recovery(screens))
	routes(engine, screens, k, sessions, files)
	return engine
}

// routes are all addresses of the application.
func routes(engine *gin.Engine, app *frame.App, household *app.Kitchen, sessions *scs.SessionManager, files fs.FS) {
	data := household.Store
	guard := guard.New(app, household, sessions)
	engine.GET("/static/*path", serveStatic(app, files))
	engine.GET("/worker.js", serveWorker(app, files))
	engine.GET("/healthz", healthy(app, data.DB()))
	engine.Use(app.Prefer)
	outside := frame.Group{RouterGroup: &engine.RouterGroup, App: app}
	outside.GET("/login", guard.Show)
	outside.POST("/login", guard.Enter)
	outside.POST("/logout", guard.Leave)
	trust := trust.New(app)
	outside.GET("/trust", trust.Show)
	outside.GET("/trust/kirdu-household.crt", trust.Certificate)

	inside := frame.Group{RouterGroup: engine.Group("/", guard.Guard), App: app}
	today := today.New(app, household, data)
	inside.Again("/", today.Show)

	start := start.New(app, data)
	inside.GET("/start", start.Show)
	inside.GET("/sample", start.Sample)
	inside.POST("/start", start.Begin)
	inside.POST("/start/skip", start.Skip)

	settings := settings.New(app, household, sessions)
	inside.GET("/settings", settings.Show)
	inside.POST("/settings", settings.Save)
	inside.GET("/settings/code.png", settings.Code)
	inside.POST("/settings/sessions/:session/end", settings.End)

	shelf := shelf.New(app, household, data)
	inside.Again("/puddings", shelf.Show)
	inside.POST("/puddings/:id/remove", shelf.Remove)
	inside.POST("/puddings/:id/restore", shelf.Restore)

	ways := ways.New(app, household, data)
	inside.GET("/puddings/new", ways.Show)
	inside.POST("/puddings/new", ways.Create)

	full := full.New(app, household, data)
	inside.GET("/puddings/:id/all", full.Show)
	inside.POST("/puddings/:id/all", full.Save)
	inside.GET("/puddings/:id/steps/:step", full.ShowStep)
	inside.POST("/puddings/:id/steps/:step", full.SaveStep)

	workbench := workbench.New(app, household, data)
	inside.Again("/puddings/:id", workbench.Show)
	inside.POST("/puddings/:id", workbench.Save)
	inside.POST("/puddings/:id/undo", workbench.Undo)
	inside.POST("/puddings/:id/told", workbench.Told)
	inside.POST("/puddings/:id/redo", workbench.Redo)
	inside.GET("/puddings/:id/plan.kirdu.json", workbench.Export)
	inside.GET("/puddings/:id/recipe.json", workbench.Recipe)
	inside.POST("/puddings/:id/cook", workbench.Cook)
	inside.POST("/puddings/:id/serve-at", workbench.ServeAt)

	inside.GET("/puddings/:id/sweeten", workbench.Sweeten)
	inside.GET("/puddings/:id/history", workbench.History)
	inside.POST("/puddings/:id/history", workbench.Restore)
	inside.POST("/puddings/:id/duplicate", workbench.Duplicate)

	compare := compare.New(app, household, data)
	inside.GET("/puddings/:id/compare", compare.Show)
	inside.POST("/puddings/:id/compare", compare.Take)

	cook := cook.New(app, household, data)
	inside.Again("/stove/:id", cook.Show)
	inside.POST("/stove/:id", cook.Record)
	inside.POST("/stove/:id/lead", cook.Lead)
	inside.GET("/stove/:id/changes", cook.Listen)
	inside.GET("/stove/:id/review", review.New(app, data).Show)

	gadgets := gadgets.New(app, household, data)
	outside.POST("/readings", gadgets.Take)
	inside.GET("/kitchen/gadgets", gadgets.Show)
	inside.POST("/kitchen/gadgets", gadgets.Make)
	inside.POST("/kitchen/gadgets/:id/remove", gadgets.Remove)

	scale := scale.New(app, household, data)
	inside.GET("/puddings/:id/scale", scale.Show)
	inside.POST("/puddings/:id/scale", scale.Take)

	about := about.New(app, files)
	inside.GET("/cautions", about.Cautions)
	inside.GET("/licences", about.Licences)
	inside.GET("/guide", about.Guide)
	inside.GET("/guide/:name", about.Picture)
	inside.GET("/model", about.Model)

	serving := serving.New(app, household, data)
	inside.GET("/puddings/:id/serving", serving.OfPudding)
	inside.GET("/stove/:id/serving", serving.OfCook)

	sheet := sheet.New(app, household)
	inside.GET("/puddings/:id/sheet", sheet.Show)

	rescue := rescue.New(app, household, data)
	inside.GET("/rescue", rescue.First)
	inside.GET("/rescue/pot", rescue.OfPot)
	inside.GET("/puddings/:id/rescue", rescue.OfPudding)
	inside.GET("/stove/:id/rescue", rescue.OfCook)
	inside.POST("/stove/:id/rescue", rescue.Take)

	balance := balance.New(app, household, data)
	inside.GET("/puddings/:id/balance", balance.Show)
	inside.POST("/puddings/:id/balance", balance.Take)

	supplies := supplies.New(app, household, data)
	inside.GET("/supplies", supplies.Have)
	inside.POST("/supplies", supplies.Note)
	inside.POST("/supplies/:slug/used-up", supplies.UsedUp)
	inside.POST("/puddings/:id/swap", supplies.TakeSwap)
	inside.GET("/buying", supplies.Buying)
	inside.POST("/buying", supplies.BuyFor)
	inside.POST("/buying/puddings/:id/remove", supplies.NotBuyFor)
	inside.POST("/buying/ticks/:slug", supplies.Tick)
	inside.GET("/buying.txt", supplies.Text)
	inside.GET("/buying.csv", supplies.CSV)

	gatherings := gatherings.New(app, household, data)
	inside.GET("/gatherings", gatherings.List)
	inside.POST("/gatherings", gatherings.Create)
	inside.Again("/gatherings/:id", gatherings.Show)
	inside.POST("/gatherings/:id", gatherings.Change)
	inside.POST("/gatherings/:id/remove", gatherings.Remove)
	inside.POST("/gatherings/:id/restore", gatherings.Restore)
	inside.POST("/gatherings/:id/puddings", gatherings.SetShare)
	inside.POST("/gatherings/:id/puddings/:pudding/remove", gatherings.DropShare)
	inside.POST("/gatherings/:id/puddings/:pudding/cook", gatherings.Cook)
	inside.POST("/gatherings/:id/buy", gatherings.Buy)
	inside.POST("/gatherings/:id/move", gatherings.Move)
	inside.POST("/gatherings/:id/late", gatherings.Late)
	inside.POST("/gatherings/:id/anew", gatherings.Anew)
	inside.GET("/gatherings/:id/timetable.ics", gatherings.Calendar)

	recipe := recipe.New(app, data)
	inside.GET("/intake", recipe.Show)
	inside.POST("/intake", recipe.Read)
	inside.POST("/intake/pudding", recipe.Create)

	benches := benches.New(app, household, data)
	inside.GET("/benches", benches.First)
	inside.GET("/benches/:bench", benches.Show)
	inside.POST("/benches/:bench/write", benches.Write)

	pantry := pantry.New(app, data)
	inside.GET("/pantry", pantry.Show)
	inside.POST("/pantry", pantry.Create)
	inside.GET("/pantry/new", pantry.New)
	inside.GET("/pantry/:slug", pantry.One)
	inside.POST("/pantry/:slug", pantry.Correct)
	inside.POST("/pantry/:slug/remove", pantry.Remove)
	inside.POST("/pantry/:slug/restore", pantry.Restore)

	logbook := logbook.New(app, household, data)
	inside.Again("/logbook", logbook.Show)
	learnt := learnt.New(app, household, data)
	inside.GET("/logbook/learnt", learnt.Show)
	inside.POST("/logbook/learnt/forget", learnt.Forget)
	inside.POST("/logbook/learnt/remember", learnt.Remember)
	inside.GET("/logbook/trends", logbook.Trends)
	inside.GET("/logbook/:id", logbook.Batch)
	inside.GET("/logbook/:id/beside", logbook.Beside)
	inside.GET("/logbook/:id/photo.jpg", logbook.Photo)
	inside.POST("/logbook/:id/photo", logbook.AddPhoto)
	inside.POST("/logbook/:id/photo/remove", logbook.RemovePhoto)
	inside.POST("/logbook/:id", logbook.Judge)
	inside.POST("/logbook/:id/again", logbook.Again)
	inside.POST("/logbook/:id/restore", logbook.Restore)

	archive := archive.New(app, household, data)
	inside.GET("/archive", archive.Show)
	inside.POST("/archive", archive.Look)
	inside.POST("/archive/take", archive.Take)
	inside.GET("/archive/kirdu.zip", archive.Export)
	inside.GET("/archive/batches.csv", archive.Batches)
	inside.GET("/archive/readings.csv", archive.Readings)
	inside.GET("/unreadable/:kind/:id", archive.Unreadable)
	inside.GET("/unreadable/:kind/:id/stored.json", archive.Raw)
	inside.POST("/unreadable/:kind/:id/remove", archive.RemoveUnreadable)

	kitchen := kitchen.New(app, household, data)
	inside.GET("/kitchen", kitchen.Show)
	inside.POST("/kitchen/pots", kitchen.AddPot)
	inside.GET("/kitchen/pots/:id", kitchen.Pot)
	inside.POST("/kitchen/pots/:id", kitchen.ChangePot)
	inside.POST("/kitchen/pots/:id/remove", kitchen.RemovePot)
	inside.POST("/kitchen/pots/:id/restore", kitchen.RestorePot)
	inside.POST("/kitchen/burners", kitchen.AddBurner)
	inside.POST("/kitchen/burners/:id/remove", kitchen.RemoveBurner)
	inside.POST("/kitchen/burners/:id/restore", kitchen.RestoreBurner)
	inside.GET("/kitchen/burners/:id/test", kitchen.Test)
	inside.POST("/kitchen/burners/:id/test", kitchen.AddTest)
	inside.POST("/kitchen/burners/:id/test/:test/remove", kitchen.RemoveTest)
	inside.POST("/kitchen/room", kitchen.SetRoom)
	inside.GET("/kitchen/weigh", kitchen.Weigh)
	inside.POST("/kitchen/weigh", kitchen.AddWeighed)
	inside.GET("/kitchen/measures", kitchen.Measures)
	inside.POST("/kitchen/measures", kitchen.AddMeasure)
	inside.POST("/kitchen/measures/:id/remove", kitchen.RemoveMeasure)
	inside.POST("/kitchen/measures/:id/restore", kitchen.RestoreMeasure)

	engine.NoRoute(func(c *gin.Context) {
		app.Fail(c, frame.Stop(http.StatusNotFound, "There is no page here.", "The address may be mistyped, or the page has moved."))
	})
	engine.NoMethod(func(c *gin.Context) {
		app.Fail(c, frame.Stop(http.StatusMethodNotAllowed, "That cannot be done at this address.", "Go back and use the buttons of the page."))
	})
}

// overlay serves the styles and modules of the screens beside the common files.
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
	return overlay{common, picture.Styles(), about.Assets, archive.Assets, balance.Assets, benches.Assets, compare.Assets, cook.Assets,
		full.Assets, gatherings.Assets, kitchen.Assets, learnt.Assets, logbook.Assets, pantry.Assets, recipe.Assets,
		rescue.Assets, review.Assets, scale.Assets, serving.Assets, settings.Assets, sheet.Assets, shelf.Assets, start.Assets,
		supplies.Assets, today.Assets, trust.Assets, ways.Assets, workbench.Assets}
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

func serveStatic(app *frame.App, files fs.FS) gin.HandlerFunc {
	server := http.StripPrefix("/static/", http.FileServerFS(files))
	return func(c *gin.Context) {
		if strings.HasSuffix(c.Request.URL.Path, "/") {
			app.Fail(c, frame.Stop(http.StatusNotFound, "There is no page here."))
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

// serveWorker serves the service worker, with the version and the list of what it keeps before it:
// all that the Stove needs without a connection.
func serveWorker(app *frame.App, files fs.FS) gin.HandlerFunc {
	kept := []string{}
	for _, part := range files.(overlay) {
		err := fs.WalkDir(part, ".", func(name string, entry fs.DirEntry, err error) error {
			if ext := path.Ext(name); err == nil && slices.Contains([]string{".js", ".css", ".svg", ".woff2"}, ext) && name != "js/worker.js" {
				kept = append(kept, "/static/"+name)
			}
			return err
		})
		if err != nil {
			panic(err) // embedded files can be read
		}
	}
	source, err := fs.ReadFile(files, "js/worker.js")
	if err != nil {
		panic(err)
	}
	list, err := json.Marshal(kept)
	if err != nil {
		panic(err)
	}
	script := fmt.Appendf(nil, "const version = %q;\nconst files = %s;\n%s", app.Version, list, source)
	return func(c *gin.Context) {
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/javascript; charset=utf-8", script)
	}
}

// logged writes a line for each request, without what was asked or typed: files at
// the level of debugging.
func logged(log *slog.Logger) gin.HandlerFunc {
	return func(c *gin.Context) {
		begun := time.Now()
		c.Next()
		level := slog.LevelInfo
		if route := c.FullPath(); route == "/static/*path" || route == "/healthz" {
			level = slog.LevelDebug
		}
		log.Log(c.Request.Context(), level, "request", "method", c.Request.Method, "path", c.Request.URL.Path,
			"status", c.Writer.Status(), "bytes", max(0, c.Writer.Size()), "ms", time.Since(begun).Milliseconds())
	}
}

// healthy tells a supervisor whether the program answers and reaches its data.
func healthy(app *frame.App, data *sql.DB) gin.HandlerFunc {
	return func(c *gin.Context) {
		if err := data.PingContext(c.Request.Context()); err != nil {
			app.Log.Error("the data file does not answer", "error", err)
			c.String(http.StatusServiceUnavailable, "the data file does not answer\n")
			return
		}
		c.String(http.StatusOK, "ok\n")
	}
}

// recovery turns a mistake of ours into the page for it.
func recovery(app *frame.App) gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, fault any) {
		app.Log.Error("panic", "path", c.Request.URL.Path, "fault", fault, "stack", string(debug.Stack()))
		app.Fail(c, errors.New("panic, see the line before"))
	})
}
