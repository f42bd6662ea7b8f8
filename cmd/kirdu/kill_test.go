package main

import (
	"bufio"
	"context"
	"flag"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/vessel"
	"kirdu/store"
)

var kills = flag.Int("kills", 20, "how often the server is killed")

// TestKilledServerLosesNothing kills the program again and again while two devices
// tell of one cook over a connection that comes and goes. What was acknowledged is
// there, and everything that was told is there once.
func TestKilledServerLosesNothing(t *testing.T) {
	binary, data := built(t)
	server := serving(t, binary, data, "127.0.0.1:0")
	path := beginCook(t, server.address)
	var mutex sync.Mutex
	address := server.address
	where := func() string {
		mutex.Lock()
		defer mutex.Unlock()
		return address
	}
	stop := make(chan struct{})
	var devices sync.WaitGroup
	told := make([][]string, 2)
	for k := range told {
		devices.Go(func() { told[k] = device(where, path, stop, uint64(k)) })
	}
	random := rand.New(rand.NewPCG(3, 9))
	for range *kills {
		time.Sleep(time.Duration(100+random.IntN(250)) * time.Millisecond)
		require.NoError(t, server.command.Process.Kill())
		_ = server.command.Wait()
		server = serving(t, binary, data, "127.0.0.1:0")
		mutex.Lock()
		address = server.address
		mutex.Unlock()
	}
	time.Sleep(300 * time.Millisecond)
	close(stop)
	devices.Wait()
	require.NoError(t, server.command.Process.Kill())
	_ = server.command.Wait()

	s, err := store.Open(context.Background(), data)
	require.NoError(t, err)
	defer s.Close()
	cooks, err := s.OnStove(context.Background())
	require.NoError(t, err)
	require.Len(t, cooks, 1)
	stored := map[string]int{}
	for _, e := range cooks[0].Events {
		stored[e.ID]++
	}
	all := 0
	for _, ids := range told {
		for _, id := range ids {
			require.Equal(t, 1, stored[id], "told once, stored once")
			all++
		}
	}
	require.Len(t, stored, all, "and nothing that nobody told")
	require.Greater(t, all, *kills)
	t.Logf("%d kills, %d events told and acknowledged, 0 lost, 0 doubled", *kills, all)
}

// TestBackupOfARunningKitchen copies the data of a program that runs, and puts it
// back only when it does not.
func TestBackupOfARunningKitchen(t *testing.T) {
	binary, data := built(t)
	server := serving(t, binary, data, "127.0.0.1:0")
	beginCook(t, server.address)
	copied := filepath.Join(t.TempDir(), "copy.sqlite")
	out, _, err := command(t, t.Context(), "", "backup", copied, "--data", data)
	require.NoError(t, err)
	require.Contains(t, out, "the copy is whole")
	_, _, err = command(t, t.Context(), "", "restore", copied, "--data", data)
	require.ErrorIs(t, err, store.ErrRunning)
	_, _, err = command(t, t.Context(), "", "serve", "--data", data, "--addr", "127.0.0.1:0")
	require.ErrorIs(t, err, store.ErrRunning, "one program serves a data file")
	require.ErrorContains(t, err, strconv.Itoa(server.command.Process.Pid), "and says which")
	require.NoError(t, server.command.Process.Kill())
	_ = server.command.Wait()
	out, _, err = command(t, t.Context(), "", "restore", copied, "--data", data)
	require.NoError(t, err)
	require.Contains(t, out, "is kept as")
	s, err := store.Open(t.Context(), data)
	require.NoError(t, err)
	defer s.Close()
	cooks, err := s.OnStove(t.Context())
	require.NoError(t, err)
	require.Len(t, cooks, 1)
	_, _, err = command(t, t.Context(), "", "backup", copied+"2", "--data", filepath.Join(t.TempDir(), "nowhere.sqlite"))
	require.ErrorContains(t, err, "no data to copy")
}

// built compiles the program, and makes a kitchen for it.
func built(t *testing.T) (binary, data string) {
	t.Helper()
	folder := t.TempDir()
	binary, data = filepath.Join(folder, "kirdu"), filepath.Join(folder, "kitchen.sqlite")
	out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	setUp(t, data)
	return binary, data
}

// setUp makes a kitchen with one pot.
func setUp(t *testing.T, data string) {
	t.Helper()
	s, err := store.Open(context.Background(), data)
	require.NoError(t, err)
	require.NoError(t, s.AddPot(context.Background(), store.Pot{ID: uuid.NewString(),
		Pot: vessel.Pot{Name: "the pot", Shape: vessel.Straight, DiameterMM: 220, HeightMM: 130}}, time.Now()))
	require.NoError(t, s.Close())
}

type running struct {
	command *exec.Cmd
	address string
}

// serving starts the program and waits until it says where it is.
func serving(t *testing.T, binary, data, addr string) running {
	t.Helper()
	command := exec.Command(binary, "serve", "--data", data, "--addr", addr)
	stdout, err := command.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, command.Start())
	t.Cleanup(func() { _ = command.Process.Kill() })
	lines := bufio.NewScanner(stdout)
	for lines.Scan() {
		if at := strings.Index(lines.Text(), "http://127.0.0.1:"); at >= 0 {
			address, _, _ := strings.Cut(lines.Text()[at:], " ")
			go func() {
				for lines.Scan() { // or the pipe fills up
				}
			}()
			return running{command, address}
		}
	}
	t.Fatal("the program did not say where it is")
	return running{}
}

var plain = &http.Client{Timeout: 2 * time.Second, CheckRedirect: func(*http.Request,
	[]*http.Request) error {
	return http.ErrUseLastResponse
}}

// beginCook starts a pudding on the stove and returns its path.
func beginCook(t *testing.T, address string) string {
	t.Helper()
	made, err := plain.PostForm(address+"/puddings/new", url.Values{"way": {"reduced in milk"}, "bowls": {"4"}})
	require.NoError(t, err)
	made.Body.Close()
	require.Equal(t, http.StatusSeeOther, made.StatusCode)
	begun, err := plain.PostForm(address+made.Header.Get("Location")+"/cook", nil)
	require.NoError(t, err)
	begun.Body.Close()
	require.Equal(t, http.StatusSeeOther, begun.StatusCode)
	return begun.Header.Get("Location")
}

// device tells of a cook, one event after the other in order, each again until it
// is acknowledged; now and then it gives up waiting for an answer that comes. It
// returns the ids of what was acknowledged, which is all but what was never told.
func device(where func() string, path string, stop <-chan struct{}, seed uint64) (told []string) {
	random := rand.New(rand.NewPCG(seed, 1))
	for n := 0; ; n++ {
		select {
		case <-stop:
			return told
		default:
		}
		fields := url.Values{"id": {uuid.NewString()}, "kind": {"weighed"}, "mass": {fmt.Sprint(1500 - n%700)}}
		for acknowledged := false; !acknowledged; {
			ctx, cancel := context.WithTimeout(context.Background(), time.Duration(3+random.IntN(400))*time.Millisecond)
			request, err := http.NewRequestWithContext(ctx, http.MethodPost, where()+path, strings.NewReader(fields.Encode()))
			if err == nil {
				request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
				if response, err := plain.Do(request); err == nil {
					acknowledged = response.StatusCode == http.StatusSeeOther
					response.Body.Close()
				}
			}
			cancel()
			if !acknowledged {
				time.Sleep(10 * time.Millisecond)
			}
		}
		told = append(told, fields.Get("id"))
	}
}
