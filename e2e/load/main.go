// Command load measures how the application holds under load, against an instance of its own with the sample
// kitchen: how many pages a second, beside the same bytes sent from memory by the same server; and how long a
// page takes when so many are asked for a second while so many cooks are live, each with a stream open.
package main

import (
	"context"
	"flag"
	"fmt"
	"io"
	"log"
	"log/slog"
	"math/rand/v2"
	"net"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"kirdu/app"
	"kirdu/core/forecast"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/demo"
	"kirdu/web"
)

var (
	workers = flag.Int("workers", 4, "who ask for a page again and again")
	spell   = flag.Duration("spell", 3*time.Second, "how long each page is asked for")
	cooks   = flag.Int("cooks", 50, "live cooks, each with a stream open")
	speed   = flag.Int("speed", 1, "how fast their clocks go: more than 1 are rehearsals")
	rate    = flag.Int("rate", 100, "pages a second that are asked for beside them")
	lasting = flag.Duration("for", 15*time.Second, "how long they are asked for")
)

func main() {
	flag.Parse()
	if err := run(context.Background()); err != nil {
		log.Fatal(err)
	}
}

// An instance is the application with what it is held against.
type instance struct {
	kitchen *app.Kitchen
	address string
	client  *http.Client
	memory  sync.Map // pages by address
}

func run(ctx context.Context) error {
	folder, err := os.MkdirTemp("", "kirdu-load-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	k, err := app.Open(ctx, filepath.Join(folder, "demo.sqlite"), slog.New(slog.NewTextHandler(os.Stderr,
		&slog.HandlerOptions{Level: slog.LevelError})))
	if err != nil {
		return err
	}
	defer k.Store.Close()
	k.Zone = time.UTC
	if err := demo.Fill(ctx, k); err != nil {
		return err
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	// Neither side packs its answers, so that the same bytes are compared.
	in := &instance{kitchen: k, address: "http://" + listener.Addr().String(), client: &http.Client{
		Transport:     &http.Transport{MaxIdleConnsPerHost: 500, DisableCompression: true},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}
	server := web.NewServer(web.Options{Kitchen: k})
	inner := server.Handler
	server.Handler = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if page, ok := strings.CutPrefix(r.URL.Path, "/from-memory"); ok {
			body, _ := in.memory.Load(page)
			data, _ := body.([]byte)
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			_, _ = w.Write(data)
			return
		}
		inner.ServeHTTP(w, r)
	})
	go server.Serve(listener)
	defer server.Close()

	pages, err := in.pages(ctx)
	if err != nil {
		return err
	}
	if err := in.ratios(ctx, pages); err != nil {
		return err
	}
	if err := in.manyCooks(ctx, pages); err != nil {
		return err
	}
	return in.growth(ctx)
}

// growth is how the shelf grows with its puddings, and a forecast with the minutes that are simulated.
func (in *instance) growth(ctx context.Context) error {
	shelf, err := in.kitchen.Store.Puddings(ctx, 20)
	if err != nil {
		return err
	}
	fmt.Printf("\n| puddings on the shelf | first view ms | again, written anew |\n|---|---|---|\n")
	have, err := in.kitchen.Store.CountPuddings(ctx)
	if err != nil {
		return err
	}
	for _, size := range []int{have, 50, 200} {
		for ; have < size; have++ {
			p := shelf[have%len(shelf)].Plan.Clone()
			p.Name = fmt.Sprintf("%s %d", p.Name, have) // another plan: nothing is known of it
			if err := in.kitchen.Store.CreatePudding(ctx, app.NewID(), p, time.Now()); err != nil {
				return err
			}
		}
		first, anew, err := in.firstAndAnew(ctx, "/puddings")
		if err != nil {
			return err
		}
		fmt.Printf("| %d | %.1f | %.1f |\n", size, first, anew)
	}
	fmt.Printf("\n| minutes simulated | a forecast with its ranges, ms |\n|---|---|\n")
	for _, minutes := range []measure.Minute{30, 90, 240} {
		p := shelf[0].Plan.Clone()
		for i := range p.Steps {
			if p.Steps[i].Do == plan.Heat && p.Steps[i].Until != nil && (p.Steps[i].Until.RemainingPct != nil || p.Steps[i].Until.Minutes != nil) {
				p.Steps[i].Flame, p.Steps[i].FlamePct, p.Steps[i].Until = vessel.Low, nil, &plan.Until{Minutes: &minutes}
				break
			}
		}
		const runs = 50
		begin := time.Now()
		for range runs {
			forecast.Run(p, forecast.Options{})
		}
		fmt.Printf("| %.0f | %.2f |\n", float64(minutes), time.Since(begin).Seconds()*1000/runs)
	}
	return nil
}

// firstAndAnew is how long a page takes, in ms, when nothing of it is known, and when it is only written anew.
func (in *instance) firstAndAnew(ctx context.Context, path string) (first, anew float64, err error) {
	const views = 20
	for n := range views + 1 {
		begin := time.Now()
		if _, err := in.fetch(ctx, fmt.Sprintf("%s?n=%d", path, rand.Int())); err != nil {
			return 0, 0, err
		}
		ms := time.Since(begin).Seconds() * 1000
		if n == 0 {
			first = ms
		} else {
			anew += ms / views
		}
	}
	return first, anew, nil
}

// A page is one that is asked for.
type page struct{ name, path string }

func (in *instance) pages(ctx context.Context) ([]page, error) {
	shelf, err := in.kitchen.Store.Puddings(ctx, 1)
	if err != nil {
		return nil, err
	}
	cooks, err := in.kitchen.Store.OnStove(ctx)
	if err != nil {
		return nil, err
	}
	return []page{{"Today", "/"}, {"Shelf", "/puddings"}, {"Workbench", "/puddings/" + shelf[0].ID}, {"Stove", "/stove/" + cooks[0].ID},
		{"Logbook", "/logbook"}}, nil
}

// fetch asks for a page and reads it to its end.
func (in *instance) fetch(ctx context.Context, path string) ([]byte, error) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, in.address+path, nil)
	if err != nil {
		return nil, err
	}
	response, err := in.client.Do(request)
	if err != nil {
		return nil, err
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("%s: %s", path, response.Status)
	}
	return io.ReadAll(response.Body)
}

// perSecond is how many a second some workers get of a page; %d in its address is another number each time.
func (in *instance) perSecond(ctx context.Context, path string) (float64, error) {
	var got atomic.Int64
	var failed atomic.Value
	var group sync.WaitGroup
	begin := time.Now()
	for range *workers {
		group.Go(func() {
			for time.Since(begin) < *spell {
				if _, err := in.fetch(ctx, strings.ReplaceAll(path, "%d", strconv.Itoa(rand.Int()))); err != nil {
					failed.Store(err)
					return
				}
				got.Add(1)
			}
		})
	}
	group.Wait()
	if err, is := failed.Load().(error); is {
		return 0, err
	}
	return float64(got.Load()) / time.Since(begin).Seconds(), nil
}

func (in *instance) ratios(ctx context.Context, pages []page) error {
	fmt.Printf("| page | kB | a second | from memory | share | each written anew |\n|---|---|---|---|---|---|\n")
	for _, p := range pages {
		body, err := in.fetch(ctx, p.path)
		if err != nil {
			return err
		}
		in.memory.Store(p.path, body)
		memory, err := in.perSecond(ctx, "/from-memory"+p.path)
		if err != nil {
			return err
		}
		own, err := in.perSecond(ctx, p.path)
		if err != nil {
			return err
		}
		anew, err := in.perSecond(ctx, p.path+"?n=%d")
		if err != nil {
			return err
		}
		fmt.Printf("| %s | %d | %.0f | %.0f | %.2f | %.0f |\n", p.name, len(body)>>10, own, memory, own/memory, anew)
	}
	return nil
}

// manyCooks begins cooks, opens a stream for each, and asks for pages at a fixed rate, whatever comes of it.
func (in *instance) manyCooks(ctx context.Context, pages []page) error {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	shelf, err := in.kitchen.Store.Puddings(ctx, 20)
	if err != nil {
		return err
	}
	all := slices.Clone(pages)
	begun := url.Values{}
	if *speed > 1 {
		begun = url.Values{"rehearse": {"1"}, "speed": {strconv.Itoa(*speed)}}
	}
	for n := range *cooks {
		request, err := http.NewRequestWithContext(ctx, http.MethodPost, in.address+"/puddings/"+shelf[n%len(shelf)].ID+"/cook",
			strings.NewReader(begun.Encode()))
		if err != nil {
			return err
		}
		request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		response, err := in.client.Do(request)
		if err != nil {
			return err
		}
		response.Body.Close()
		path := response.Header.Get("Location")
		if response.StatusCode != http.StatusSeeOther {
			return fmt.Errorf("begin to cook %s: %s", shelf[n%len(shelf)].ID, response.Status)
		}
		all = append(all, page{"Stove", path})
		go in.listen(ctx, path+"/changes")
	}
	first, anew, err := in.firstAndAnew(ctx, "/")
	if err != nil {
		return err
	}
	fmt.Printf("\nToday with %d live cooks: %.0f ms at first, %.0f ms written anew.\n", *cooks, first, anew)
	var mutex sync.Mutex
	took := map[string][]float64{}
	var group sync.WaitGroup
	begin := time.Now()
	for n := 0; time.Since(begin) < *lasting; n++ {
		due := begin.Add(time.Duration(n) * time.Second / time.Duration(*rate))
		time.Sleep(time.Until(due))
		p := all[rand.IntN(len(all))]
		group.Go(func() {
			_, err := in.fetch(ctx, p.path)
			ms := float64(time.Since(due).Microseconds()) / 1000 // from when it was due: a queue counts
			mutex.Lock()
			defer mutex.Unlock()
			if err != nil {
				log.Print(err)
				ms = 60_000
			}
			took[p.name] = append(took[p.name], ms)
			took["all"] = append(took["all"], ms)
		})
	}
	group.Wait()
	fmt.Printf("\n%d pages a second for %s beside %d live cooks, each with a stream open:\n\n", *rate, *lasting, *cooks)
	fmt.Printf("| page | asked for | median ms | 95 of 100 | 99 of 100 | most |\n|---|---|---|---|---|---|\n")
	for _, name := range []string{"Today", "Shelf", "Workbench", "Stove", "Logbook", "all"} {
		ms := took[name]
		slices.Sort(ms)
		if n := len(ms); n > 0 {
			fmt.Printf("| %s | %d | %.1f | %.1f | %.1f | %.1f |\n", name, n, ms[n/2], ms[n*95/100], ms[n*99/100], ms[n-1])
		}
	}
	var memory runtime.MemStats
	runtime.ReadMemStats(&memory)
	fmt.Printf("\nMemory of both sides: %d MB from the system, %d MB in use.\n", memory.Sys>>20, memory.HeapAlloc>>20)
	return nil
}

func (in *instance) listen(ctx context.Context, path string) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, in.address+path, nil)
	if err != nil {
		return
	}
	response, err := in.client.Do(request)
	if err != nil {
		return
	}
	defer response.Body.Close()
	_, _ = io.Copy(io.Discard, response.Body)
}
