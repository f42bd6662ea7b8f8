package exchange_test

import (
	"archive/zip"
	"bytes"
	"compress/flate"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/exchange"
)

// sheets are two kinds of things, one with documents.
func sheets() []exchange.Sheet {
	return []exchange.Sheet{
		{Name: "pot", Columns: []exchange.Column{{"id", "TEXT", false}, {"height_mm", "REAL", false}, {"uses", "INTEGER", false},
			{"note", "TEXT", true}},
			Rows: [][]any{{"a", 120.5, int64(3), nil}, {"b \"quoted\", and\nbroken", 1e-9, int64(-7), "tall"}}},
		{Name: "plan", Document: "document", Columns: []exchange.Column{{"id", "TEXT", false}, {"document", "TEXT", false}},
			Rows: [][]any{{"x/../y", `{"a": 1}`}}},
		{Name: "photo", Document: "jpeg", Columns: []exchange.Column{{"id", "TEXT", false}, {"jpeg", "BLOB", false}},
			Rows: [][]any{{"x", []byte{0xff, 0xd8, 0}}}},
	}
}

func known() []exchange.Sheet {
	list := sheets()
	for i := range list {
		list[i].Rows = nil
	}
	return list
}

func written(t testing.TB) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, exchange.WriteArchive(&b, sheets()))
	return b.Bytes()
}

func read(data []byte) ([]exchange.Sheet, error) {
	return exchange.ReadArchive(bytes.NewReader(data), int64(len(data)), known())
}

func TestArchiveThereAndBack(t *testing.T) {
	data := written(t)
	require.Equal(t, data, written(t), "the same things make the same bytes")
	got, err := read(data)
	require.NoError(t, err)
	require.Equal(t, sheets(), got)
	in, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	_, err = in.Open("plan/000001-xy.json")
	require.NoError(t, err, "a document is a file of its own, and its name leads nowhere else")
}

// A part is a file of a hand-made archive.
type part struct {
	name, text string
}

// handmade packs parts with a manifest that lists the CSV files among them.
func handmade(t testing.TB, format string, parts ...part) []byte {
	t.Helper()
	var b bytes.Buffer
	out := zip.NewWriter(&b)
	list := []string{}
	for _, p := range parts {
		w, err := out.Create(p.name)
		require.NoError(t, err)
		_, err = io.WriteString(w, p.text)
		require.NoError(t, err)
		if name, isSheet := strings.CutSuffix(p.name, ".csv"); isSheet {
			sum := sha256.Sum256([]byte(p.text))
			list = append(list, fmt.Sprintf(`{"name": %q, "rows": %d, "sha256": %q}`, name, strings.Count(p.text, "\n")-1,
				hex.EncodeToString(sum[:])))
		}
	}
	w, err := out.Create("kirdu-archive.json")
	require.NoError(t, err)
	_, err = fmt.Fprintf(w, `{"format": %q, "sheets": [%s]}`, format, strings.Join(list, ","))
	require.NoError(t, err)
	require.NoError(t, out.Close())
	return b.Bytes()
}

// edited is an archive in which a text of one file is another.
func edited(t testing.TB, data []byte, name, from, to string) []byte {
	t.Helper()
	in, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var b bytes.Buffer
	out := zip.NewWriter(&b)
	for _, file := range in.File {
		r, err := file.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		if file.Name == name {
			require.Contains(t, string(text), from)
			text = []byte(strings.ReplaceAll(string(text), from, to))
		}
		w, err := out.Create(file.Name)
		require.NoError(t, err)
		_, err = w.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, out.Close())
	return b.Bytes()
}

func TestHostileArchives(t *testing.T) {
	ours := exchange.ArchiveFormat
	pots := "id,height_mm,uses,note\n"
	for name, one := range map[string]struct {
		data []byte
		err  error
	}{
		"nothing":             {nil, exchange.ErrNoArchive},
		"no zip":              {[]byte("Once upon a time"), exchange.ErrNoArchive},
		"another zip":         {handmade(t, "photos/3", part{"holiday.txt", "sun"}), exchange.ErrNoArchive},
		"another format":      {handmade(t, "photos/3"), exchange.ErrNoArchive},
		"a later version":     {handmade(t, "kirdu-archive/2"), exchange.ErrVersion},
		"a later sheet":       {handmade(t, ours, part{"pot.csv", pots}, part{"ovens.csv", "id\n"}), exchange.ErrPath},
		"a later column":      {handmade(t, ours, part{"pot.csv", "id,height_mm,uses,note,colour\na,1,1,,red\n"}), exchange.ErrVersion},
		"out of the folder":   {handmade(t, ours, part{"pot.csv", pots}, part{"../../etc/passwd", "x"}), exchange.ErrPath},
		"from the root":       {handmade(t, ours, part{"pot.csv", pots}, part{"/etc/passwd", "x"}), exchange.ErrPath},
		"backwards":           {handmade(t, ours, part{"pot.csv", pots}, part{`plan\..\x.json`, "x"}), exchange.ErrPath},
		"the same name twice": {handmade(t, ours, part{"pot.csv", pots}, part{"pot.csv", pots}), exchange.ErrPath},
		"deeper folders":      {handmade(t, ours, part{"plan/a/b.json", "x"}, part{"pot.csv", pots}), exchange.ErrPath},
		"a document elsewhere": {handmade(t, ours, part{"plan.csv", "id,document\nx,photo/1.jpg\n"}, part{"photo/1.jpg", "x"}),
			exchange.ErrDamaged},
		"no document":         {handmade(t, ours, part{"plan.csv", "id,document\nx,plan/1.json\n"}), exchange.ErrDamaged},
		"a comma in a number": {handmade(t, ours, part{"pot.csv", pots + "a,\"120,5\",3,\n"}), exchange.ErrCell},
		"a word for a number": {handmade(t, ours, part{"pot.csv", pots + "a,tall,3,\n"}), exchange.ErrCell},
		"a broken number":     {handmade(t, ours, part{"pot.csv", pots + "a,120,3.5,\n"}), exchange.ErrCell},
		"cells missing":       {handmade(t, ours, part{"pot.csv", pots + "a,120\n"}), exchange.ErrCell},
		"another alphabet":    {handmade(t, ours, part{"pot.csv", pots + "\xe4,120,3,\n"}), exchange.ErrCell},
		"no first line":       {handmade(t, ours, part{"pot.csv", ""}), exchange.ErrCell},
		"a bomb":              {handmade(t, ours, part{"pot.csv", strings.Repeat("0", 8<<20)}), exchange.ErrBomb},
	} {
		_, err := read(one.data)
		require.ErrorIs(t, err, one.err, name)
	}
	whole := written(t)
	for _, cut := range []int{10, len(whole) / 2, len(whole) - 1} {
		_, err := read(whole[:cut])
		require.ErrorIs(t, err, exchange.ErrNoArchive, "cut off at %d", cut)
	}
	_, err := read(edited(t, whole, "pot.csv", "120.5", "121.5"))
	require.ErrorIs(t, err, exchange.ErrDamaged, "someone changed a number by hand")
	good := handmade(t, ours, part{"pot.csv", pots + "a,120,3,\n"})
	_, err = read(good)
	require.NoError(t, err)
	_, err = read(edited(t, good, "kirdu-archive.json", `"rows": 1`, `"rows": 2`))
	require.ErrorIs(t, err, exchange.ErrDamaged, "a row was lost")
	_, err = exchange.ReadArchive(bytes.NewReader(whole), 1<<30, known())
	require.ErrorIs(t, err, exchange.ErrBomb, "a gigabyte is not even opened")
}

// TestArchiveThatLiesAboutItsSize says it is small and unpacks to much.
func TestArchiveThatLiesAboutItsSize(t *testing.T) {
	var packed bytes.Buffer
	deflate, err := flate.NewWriter(&packed, flate.BestCompression)
	require.NoError(t, err)
	_, err = deflate.Write(make([]byte, 30<<20))
	require.NoError(t, err)
	require.NoError(t, deflate.Close())
	var b bytes.Buffer
	out := zip.NewWriter(&b)
	w, err := out.Create("kirdu-archive.json")
	require.NoError(t, err)
	_, err = fmt.Fprintf(w, `{"format": %q, "sheets": [{"name": "pot", "rows": 0, "sha256": ""}]}`, exchange.ArchiveFormat)
	require.NoError(t, err)
	raw, err := out.CreateRaw(&zip.FileHeader{Name: "pot.csv", Method: zip.Deflate, CompressedSize64: uint64(packed.Len()),
		UncompressedSize64: 100})
	require.NoError(t, err)
	_, err = raw.Write(packed.Bytes())
	require.NoError(t, err)
	require.NoError(t, out.Close())
	_, err = read(b.Bytes())
	require.Error(t, err)
}

func TestOlderArchiveLacksAColumn(t *testing.T) {
	got, err := read(handmade(t, exchange.ArchiveFormat, part{"pot.csv", "id,height_mm\na,120\n"}))
	require.NoError(t, err)
	require.Equal(t, [][]any{{"a", 120.0, int64(0), nil}}, got[0].Rows)
}

func FuzzReadArchive(f *testing.F) {
	f.Add(written(f))
	f.Add(handmade(f, exchange.ArchiveFormat, part{"pot.csv", "id,height_mm,uses,note\na,1,2,\n"}))
	f.Add(handmade(f, "kirdu-archive/2"))
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := read(data)
		if err != nil {
			return
		}
		var again bytes.Buffer
		require.NoError(t, exchange.WriteArchive(&again, got))
		back, err := read(again.Bytes())
		require.NoError(t, err)
		require.Equal(t, len(got), len(back))
	})
}
