package main

import (
	"bufio"
	"context"
	"flag"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

var (
	manyCooks = flag.Int("cooks", 3, "how many cooks are rehearsed at once")
	manyFor   = flag.Duration("for", 5*time.Second, "how long")
)

// TestManyCooksAtOnce rehearses cooks ten times as fast, each looked at by two
// devices with open streams: one tells, the other hears of it. It says how long
// that takes, and what memory and processor the program takes meanwhile.
func TestManyCooksAtOnce(t *testing.T) {
	binary, data := built(t)
	server := serving(t, binary, data, "127.0.0.1:0")
	ways := []string{"reduced in milk", "a little grain in much milk", "in water first", "soaked pearls", "toasted vermicelli"}
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	var mutex sync.Mutex
	var heard []float64 // ms
	var group sync.WaitGroup
	begin := time.Now()
	for n := range *manyCooks {
		path := rehearse(t, server.address, ways[n%len(ways)])
		changed := make(chan time.Time, 64)
		for device := range 2 {
			listens(ctx, t, &group, server.address+path, func(at time.Time) {
				if device == 1 {
					changed <- at
				}
			})
		}
		group.Go(func() {
			for k := 0; time.Since(begin) < *manyFor; k++ {
				// As a cook does: a look at the page, then a word, every few seconds.
				page := fetch(ctx, server.address+path)
				fields := url.Values{"id": {uuid.NewString()}, "kind": {"tasted"}, "value": {"0"}}
				if k < 3 {
					fields.Set("kind", "next")
					fields.Set("step", stepOf(page))
				}
				for len(changed) > 0 {
					<-changed
				}
				told := time.Now()
				response, err := plain.PostForm(server.address+path, fields)
				if err != nil {
					continue
				}
				response.Body.Close()
				select {
				case at := <-changed:
					mutex.Lock()
					heard = append(heard, float64(at.Sub(told).Microseconds())/1000)
					mutex.Unlock()
				case <-time.After(2 * time.Second):
					mutex.Lock()
					heard = append(heard, 2000)
					mutex.Unlock()
				case <-ctx.Done():
					return
				}
				const pause = 2 * time.Second
				time.Sleep(pause + time.Duration(n*37%500)*time.Millisecond)
			}
		})
	}
	set := time.Now()
	before := processorOf(t, server.command.Process.Pid)
	time.Sleep(max(time.Until(begin.Add(*manyFor)), time.Second))
	used := processorOf(t, server.command.Process.Pid) - before
	share := used.Seconds() / time.Since(set).Seconds()
	memory := memoryOf(t, server.command.Process.Pid)
	cancel()
	group.Wait()
	require.NotEmpty(t, heard)
	slices.Sort(heard)
	require.Less(t, heard[len(heard)/2], 2000.0, "the other device hears of it")
	t.Logf("%d cooks at ten times, %d streams, %d events: the other device hears of one after %.1f ms at the median, %.1f at the 95th "+
		"percentile, %.1f at most; %.0f MB, %.0f %% of one core",
		*manyCooks, 2**manyCooks, len(heard), heard[len(heard)/2], heard[len(heard)*95/100], heard[len(heard)-1], memory, 100*share)
}

func rehearse(t *testing.T, address, way string) string {
	t.Helper()
	made, err := plain.PostForm(address+"/puddings/new", url.Values{"way": {way}, "bowls": {"6"}})
	require.NoError(t, err)
	made.Body.Close()
	require.Equal(t, http.StatusSeeOther, made.StatusCode)
	begun, err := plain.PostForm(address+made.Header.Get("Location")+"/cook", url.Values{"rehearse": {"1"}, "speed": {"10"}})
	require.NoError(t, err)
	begun.Body.Close()
	require.Equal(t, http.StatusSeeOther, begun.StatusCode)
	return begun.Header.Get("Location")
}

// listens opens a stream and calls heard for every change.
func listens(ctx context.Context, t *testing.T, group *sync.WaitGroup, path string, heard func(time.Time)) {
	t.Helper()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, path+"/changes", nil)
	require.NoError(t, err)
	response, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	group.Go(func() {
		defer response.Body.Close()
		for lines := bufio.NewScanner(response.Body); lines.Scan(); {
			if lines.Text() == "event: changed" {
				heard(time.Now())
			}
		}
	})
}

func fetch(ctx context.Context, address string) string {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return ""
	}
	response, err := plain.Do(request)
	if err != nil {
		return ""
	}
	defer response.Body.Close()
	var b strings.Builder
	_, _ = bufio.NewReader(response.Body).WriteTo(&b)
	return b.String()
}

var dataStep = regexp.MustCompile(`data-step="(\d+)"`)

func stepOf(page string) string {
	if found := dataStep.FindStringSubmatch(page); found != nil {
		return found[1]
	}
	return "0"
}

// processorOf is the time that a process has computed.
func processorOf(t *testing.T, pid int) time.Duration {
	t.Helper()
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	require.NoError(t, err)
	fields := strings.Fields(string(data[strings.LastIndexByte(string(data), ')')+1:]))
	const userAt, systemAt, ticks = 11, 12, 100 // USER_HZ
	user, err := strconv.Atoi(fields[userAt])
	require.NoError(t, err)
	system, err := strconv.Atoi(fields[systemAt])
	require.NoError(t, err)
	return time.Duration(user+system) * time.Second / ticks
}

// memoryOf is what a process holds in memory, in MB.
func memoryOf(t *testing.T, pid int) float64 {
	t.Helper()
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	require.NoError(t, err)
	found := regexp.MustCompile(`VmRSS:\s+(\d+) kB`).FindSubmatch(data)
	require.NotNil(t, found)
	kilobytes, err := strconv.ParseFloat(string(found[1]), 64)
	require.NoError(t, err)
	return kilobytes / 1024
}
