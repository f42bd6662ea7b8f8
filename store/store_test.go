package store_test

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"kirdu/core/cook"
	"kirdu/core/measure"
	"kirdu/core/plan"
	"kirdu/core/vessel"
	"kirdu/store"
)

var now = time.Date(2026, 11, 21, 17, 30, 0, 0, time.UTC)

func open(t testing.TB, path string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s
}

func fresh(t testing.TB) *store.Store {
	return open(t, filepath.Join(t.TempDir(), "a folder", "kitchen.sqlite"))
}

func rice(t testing.TB) *plan.Plan {
	t.Helper()
	p, err := plan.Read([]byte(`{"format":"kirdu-plan/1","name":"Rice","serves":6,
		"pots":{"main":{"shape":"straight","diameter_mm":200,"height_mm":100}},
	"steps":[{"do":"add","items":[{"material":"milk-whole","amount":"1 l"}]},{"do":"heat","flame":"high","until":{"boil":true}}]}`))
	require.NoError(t, err)
	return p
}

func TestVersionsUndoAndRedo(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	require.NoError(t, s.CreatePudding(ctx, "a", rice(t), now))
	changed := rice(t)
	for i, bowls := range []int{8, 10} {
		changed.Scale(bowls)
		require.NoError(t, s.SavePlan(ctx, "a", i+1, changed, now))
	}
	at := func() store.Pudding {
		p, err := s.Pudding(ctx, "a")
		require.NoError(t, err)
		return p
	}
	require.Equal(t, 10, at().Plan.Serves)
	require.ErrorIs(t, s.SavePlan(ctx, "a", 2, rice(t), now), store.ErrStale)
	require.NoError(t, s.Step(ctx, "a", 3, -1, now))
	require.NoError(t, s.Step(ctx, "a", 2, -1, now))
	require.Equal(t, 6, at().Plan.Serves)
	require.False(t, at().CanUndo())
	require.NoError(t, s.Step(ctx, "a", 1, -1, now), "there is nothing before the first")
	require.NoError(t, s.Step(ctx, "a", 1, 1, now))
	require.Equal(t, 8, at().Plan.Serves)
	require.True(t, at().CanRedo())
	changed.Scale(12)
	require.NoError(t, s.SavePlan(ctx, "a", 2, changed, now))
	require.False(t, at().CanRedo(), "a new edit takes the place of what was undone")
	require.ErrorIs(t, s.Step(ctx, "nobody", 1, 1, now), store.ErrNotFound)
	changed.Scale(14)
	require.NoError(t, s.AmendPlan(ctx, "a", 3, changed, now), "the same edit goes on")
	require.Equal(t, 14, at().Plan.Serves)
	require.Equal(t, 3, at().Version)
	require.NoError(t, s.Step(ctx, "a", 3, -1, now))
	require.Equal(t, 8, at().Plan.Serves)
}

func TestShelf(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	require.NoError(t, s.CreatePudding(ctx, "a", rice(t), now))
	require.NoError(t, s.CreatePudding(ctx, "b", rice(t), now.Add(time.Hour)))
	shelf, err := s.Puddings(ctx, 10)
	require.NoError(t, err)
	require.Equal(t, "b", shelf[0].ID, "the latest first")
	require.NoError(t, s.RemovePudding(ctx, "b", now))
	_, err = s.Pudding(ctx, "b")
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, s.RemovePudding(ctx, "b", now), store.ErrNotFound)
	require.NoError(t, s.RestorePudding(ctx, "b"))
	_, err = s.Pudding(ctx, "b")
	require.NoError(t, err)
}

func TestKitchen(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	mass := measure.Gram(1180)
	pot := store.Pot{ID: "p", Pot: vessel.Pot{Name: "tall", Shape: vessel.Straight, DiameterMM: 180, HeightMM: 110, MassG: &mass}}
	require.NoError(t, s.AddPot(ctx, pot, now))
	require.NoError(t, s.AddPot(ctx, store.Pot{ID: "q", Pot: vessel.Pot{Name: "round", Shape: vessel.Bowl, TopMM: 300, HeightMM: 120}},
		now.Add(time.Second)))
	pots, err := s.Pots(ctx)
	require.NoError(t, err)
	require.Equal(t, pot, pots[0])
	require.Nil(t, pots[1].MassG, "never weighed stays unknown")
	require.Error(t, s.AddPot(ctx, store.Pot{ID: "r", Pot: vessel.Pot{Name: "flat", Shape: vessel.Bowl}}, now), "the table has its own checks")
	require.NoError(t, s.RemovePot(ctx, "p", now))
	require.ErrorIs(t, s.RemovePot(ctx, "p", now), store.ErrNotFound)
	require.NoError(t, s.RestorePot(ctx, "p"))
	burner := store.Burner{ID: "b", Burner: vessel.DefaultBurner()}
	burner.Name = "front"
	require.NoError(t, s.AddBurner(ctx, burner, now))
	burners, err := s.Burners(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Burner{burner}, burners)
	require.NoError(t, s.RemoveBurner(ctx, "b", now))
	require.NoError(t, s.RestoreBurner(ctx, "b"))
}

// begin puts a cook on the stove and returns its number.
func begin(t testing.TB, s *store.Store) string {
	t.Helper()
	ctx := context.Background()
	require.NoError(t, s.CreatePudding(ctx, "a", rice(t), now))
	require.NoError(t, s.StartCook(ctx, store.Cook{ID: "k", PuddingID: "a", Plan: rice(t), BegunAt: now, Zone: "UTC"}))
	return "k"
}

func event(kind cook.Kind, step int, after time.Duration) cook.Event {
	return cook.Event{ID: uuid.NewString(), Kind: kind, Step: step, At: now.Add(after)}
}

func TestEventsAreKeptOnceAndForEver(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	id := begin(t, s)
	e := event(cook.Next, 0, time.Minute)
	require.NoError(t, s.AppendEvent(ctx, id, e, now))
	require.NoError(t, s.AppendEvent(ctx, id, e, now), "sent again")
	k, err := s.Cook(ctx, id)
	require.NoError(t, err)
	require.Equal(t, []cook.Event{e}, k.Events)
	state := k.State()
	require.Equal(t, 1, state.Step)
	_, err = s.DB().Exec(`UPDATE cook_event SET step = 9`)
	require.ErrorContains(t, err, "never changed")
	_, err = s.DB().Exec(`DELETE FROM cook_event`)
	require.ErrorContains(t, err, "never deleted")
	require.ErrorIs(t, s.AppendEvent(ctx, "nobody", event(cook.Next, 0, 0), now), store.ErrNotFound)
}

func TestFromStoveToBook(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	id := begin(t, s)
	onStove, err := s.OnStove(ctx)
	require.NoError(t, err)
	require.Len(t, onStove, 1)
	verdict := store.Verdict{Eaten: "hot", Thickness: 4, Sweetness: "just right", Note: "good"}
	require.ErrorIs(t, s.Judge(ctx, id, verdict, nil, store.Lesson{}, now), store.ErrNotFound, "not before it is finished")
	done := event(cook.Finished, 0, time.Hour)
	done.Mass = 900
	require.NoError(t, s.AppendEvent(ctx, id, done, now))
	require.NoError(t, s.Judge(ctx, id, verdict, nil, store.Lesson{}, now))
	verdict.Note = "better next day"
	require.NoError(t, s.Judge(ctx, id, verdict, nil, store.Lesson{}, now), "a later word replaces the earlier")
	require.Error(t, s.Judge(ctx, id, store.Verdict{Eaten: "raw"}, nil, store.Lesson{}, now))
	book, err := s.Book(ctx, 10)
	require.NoError(t, err)
	require.Len(t, book, 1)
	require.Equal(t, verdict, *book[0].Verdict)
	require.InDelta(t, 900, float64(book[0].State().Yield), 0)
	onStove, err = s.OnStove(ctx)
	require.NoError(t, err)
	require.Empty(t, onStove)
}

func TestSettings(t *testing.T) {
	ctx, s := context.Background(), fresh(t)
	value, err := s.Setting(ctx, "x")
	require.NoError(t, err)
	require.Empty(t, value)
	require.NoError(t, s.SetSetting(ctx, "x", "1"))
	require.NoError(t, s.SetSetting(ctx, "x", "2"))
	value, err = s.Setting(ctx, "x")
	require.NoError(t, err)
	require.Equal(t, "2", value)
}

func TestDurability(t *testing.T) {
	s := fresh(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "synchronous": "2", "foreign_keys": "1"} {
		var got string
		require.NoError(t, s.DB().QueryRow("PRAGMA "+pragma).Scan(&got))
		require.Equal(t, want, got, pragma)
	}
}

// writerPath tells a copy of the test program to write until it is killed.
const writerPath = "KIRDU_TEST_WRITER"

func TestMain(m *testing.M) {
	if path := os.Getenv(writerPath); path != "" {
		write(path)
	}
	m.Run()
}

func write(path string) {
	s, err := store.Open(context.Background(), path)
	if err != nil {
		panic(err)
	}
	for n := 0; ; n++ {
		e := event(cook.Weighed, 0, time.Duration(n)*time.Second)
		e.Mass = 900
		if err := s.AppendEvent(context.Background(), "k", e, now); err != nil {
			panic(err)
		}
		fmt.Println(e.ID) // acknowledged
	}
}

// TestKilledWriterLosesNothing kills a writer again and again at any moment:
// every event that it had acknowledged is there afterwards.
func TestKilledWriterLosesNothing(t *testing.T) {
	path := filepath.Join(t.TempDir(), "kitchen.sqlite")
	s := open(t, path)
	begin(t, s)
	require.NoError(t, s.Close())
	acknowledged := map[string]bool{}
	for round := range 5 {
		writer := exec.Command(os.Args[0])
		writer.Env = append(os.Environ(), writerPath+"="+path)
		out, err := writer.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, writer.Start())
		lines := bufio.NewScanner(out)
		for n := 0; n < 5+7*round && lines.Scan(); n++ {
			acknowledged[lines.Text()] = true
		}
		require.NoError(t, writer.Process.Kill())
		for lines.Scan() { // what it had still said
			if line := lines.Text(); strings.Count(line, "-") == 4 && len(line) == 36 {
				acknowledged[line] = true
			}
		}
		writer.Wait() // its error is that it was killed
	}
	k, err := open(t, path).Cook(context.Background(), "k")
	require.NoError(t, err)
	stored := map[string]bool{}
	for _, e := range k.Events {
		require.False(t, stored[e.ID], "doubled")
		stored[e.ID] = true
	}
	for id := range acknowledged {
		require.True(t, stored[id], "lost %s", id)
	}
	require.Greater(t, len(acknowledged), 50)
}

// The book is searched by any letters of a name or a note, as they stand now, in a copy of the file too.
func TestTheBookIsSearched(t *testing.T) {
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "kirdu.sqlite")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	require.NoError(t, s.CreatePudding(ctx, "a", rice(t), now))
	notes := map[string]string{"1": `as "thick" as grandmother's`, "2": "100 % cream, café style", "3": "a little_thin", "4": ""}
	for id, note := range notes {
		require.NoError(t, s.StartCook(ctx, store.Cook{ID: id, PuddingID: "a", Plan: rice(t), BegunAt: now, Zone: "UTC"}))
		require.NoError(t, s.AppendEvent(ctx, id, event(cook.Finished, 0, time.Hour), now))
		if note != "" {
			require.NoError(t, s.Judge(ctx, id, store.Verdict{Note: note}, nil, store.Lesson{}, now))
		}
	}
	finds := func(s *store.Store, words string) (ids []string) {
		t.Helper()
		lines, err := s.SearchBook(ctx, store.BookFilter{Words: words}, 10, 0)
		require.NoError(t, err)
		for _, l := range lines {
			ids = append(ids, l.ID)
		}
		slices.Sort(ids)
		return ids
	}
	all := []string{"1", "2", "3", "4"}
	for words, wanted := range map[string][]string{"": all, rice(t).Name[:3]: all, strings.ToUpper(rice(t).Name): all, `"thick"`: {"1"},
		"mother": {"1"}, "100 %": {"2"}, "cafe": {"2"}, "CAFÉ": {"2"}, "%": {"2"}, "_": {"3"}, "e_t": {"3"}, "zebra": nil, `"`: {"1"},
		"thick OR cream": nil, "note:": nil, "*": nil, "NEAR(thick": nil, "'": {"1"}} {
		require.Equal(t, wanted, finds(s, words), "%q", words)
	}
	require.NoError(t, s.Judge(ctx, "1", store.Verdict{Note: "thin", NextNote: "more cardamom"}, nil, store.Lesson{}, now))
	require.Empty(t, finds(s, "mother"), "a later word replaces the earlier")
	require.Equal(t, []string{"1"}, finds(s, "cardamom"))

	copied := filepath.Join(t.TempDir(), "copy.sqlite")
	require.NoError(t, s.Backup(ctx, copied))
	other, err := store.Open(ctx, copied)
	require.NoError(t, err)
	t.Cleanup(func() { other.Close() })
	require.Equal(t, []string{"1"}, finds(other, "cardamom"))
	require.Equal(t, []string{"2"}, finds(other, "cream"))
}
