package exchange

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"kirdu/core/measure"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"
)

// ArchiveFormat is the name and version of an archive.
const ArchiveFormat = "kirdu-archive/1"

// A Column is one of a sheet: of a type TEXT, INTEGER, REAL or BLOB, where Null says
// that a cell may be empty.
type Column struct {
	Name, Type string
	Null       bool
}

// A Sheet is one kind of thing: a table of an archive. Its cells are nil, string,
// int64, float64 or []byte by the type of their column. Document names the column
// that is written as a file of its own for each row, "" for none.
type Sheet struct {
	Name     string
	Columns  []Column
	Document string
	Rows     [][]any
}

// Bounds of an archive.
const (
	MaxArchiveBytes    = 256 << 20
	maxUnpacked        = 512 << 20
	maxFiles           = 250_000
	maxDocument        = 4 << 20
	manifestName       = "kirdu-archive.json"
	aboutName          = "README.txt"
	maxManifest        = 1 << 20
	compressionSuspect = 200 // times: what packs better than that is no data of a kitchen
	suspectFrom        = 1 << 20
)

// Faults of an archive.
var (
	ErrNoArchive  = measure.Code("exchange.no-archive")
	ErrDamaged    = measure.Code("exchange.damaged")
	ErrVersion    = measure.Code("exchange.version")
	ErrPath       = measure.Code("exchange.path")
	ErrBomb       = measure.Code("exchange.bomb")
	ErrCell       = measure.Code("exchange.cell")
	errBigArchive = fmt.Errorf("is larger than %d MB: %w", MaxArchiveBytes>>20, ErrBomb)
)

type manifest struct {
	Format string          `json:"format"`
	Sheets []manifestSheet `json:"sheets"`
}

type manifestSheet struct {
	Name   string `json:"name"`
	Rows   int    `json:"rows"`
	SHA256 string `json:"sha256"` // of the CSV file
}

// about is read by people who open an archive without Kirdu.
const about = `This is everything that one kitchen keeps in Kirdu, in open formats.

Each kind of thing is a CSV file (RFC 4180, UTF-8, commas, numbers with a point): its
first line names the columns. An empty cell in a column that may be empty stands for
nothing. Moments are UTC. A column that ends in _g is in grams, _mm in millimetres, _w
in watts. Where a row has a document (a plan, a photo), its cell is the name of the
file in this archive that holds it. Plans are kirdu-plan/1 documents in JSON.
kirdu-archive.json lists the sheets with their rows and the SHA-256 of each file.
Session keys, the passphrase and the tokens of gadgets are not in it.
`

// WriteArchive writes sheets as one zip file. The same sheets make the same bytes.
func WriteArchive(w io.Writer, sheets []Sheet) error {
	out := zip.NewWriter(w)
	put := func(name string, data []byte) error {
		// A fixed moment: the archive tells of its contents alone.
		file, err := out.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Date(1980, 1, 1, 0, 0, 0, 0, time.UTC)})
		if err == nil {
			_, err = file.Write(data)
		}
		return err
	}
	if err := put(aboutName, []byte(about)); err != nil {
		return err
	}
	list := manifest{Format: ArchiveFormat}
	for i := range sheets {
		data, err := sheets[i].write(put)
		if err != nil {
			return err
		}
		if err := put(sheets[i].Name+".csv", data); err != nil {
			return err
		}
		sum := sha256.Sum256(data)
		list.Sheets = append(list.Sheets, manifestSheet{sheets[i].Name, len(sheets[i].Rows), hex.EncodeToString(sum[:])})
	}
	data, err := json.MarshalIndent(list, "", "  ")
	if err != nil {
		return err
	}
	if err := put(manifestName, append(data, '\n')); err != nil {
		return err
	}
	return out.Close()
}

// write returns the CSV of a sheet and puts its documents beside it.
func (s *Sheet) write(put func(string, []byte) error) ([]byte, error) {
	var buffer bytes.Buffer
	lines := csv.NewWriter(&buffer)
	header := make([]string, len(s.Columns))
	for i, c := range s.Columns {
		header[i] = c.Name
	}
	if err := lines.Write(header); err != nil {
		return nil, err
	}
	for n, row := range s.Rows {
		cells := make([]string, len(row))
		for i, cell := range row {
			if s.Columns[i].Name == s.Document {
				cells[i] = s.path(n)
				data, isBlob := cell.([]byte)
				if text, ok := cell.(string); ok {
					data, isBlob = []byte(text), true
				}
				if !isBlob {
					return nil, fmt.Errorf("%s, row %d: no document", s.Name, n+1)
				}
				if err := put(cells[i], data); err != nil {
					return nil, err
				}
				continue
			}
			switch x := cell.(type) {
			case nil:
			case string:
				cells[i] = plainCell(x)
			case int64:
				cells[i] = strconv.FormatInt(x, 10)
			case float64:
				cells[i] = strconv.FormatFloat(x, 'g', -1, 64)
			default:
				return nil, fmt.Errorf("%s, row %d: a cell of type %T", s.Name, n+1, cell)
			}
		}
		if err := lines.Write(cells); err != nil {
			return nil, err
		}
	}
	lines.Flush()
	return buffer.Bytes(), lines.Error()
}

// formulaMarks begin what a spreadsheet takes for a formula.
const formulaMarks = "=+-@\t\r"

// plainCell keeps a text from being taken for a formula, and from being taken for one that was kept so.
func plainCell(text string) string {
	bare := strings.TrimLeft(text, "'")
	if bare != "" && strings.ContainsRune(formulaMarks, rune(bare[0])) {
		return "'" + text
	}
	return text
}

// ownText is the text of a cell that plainCell wrote.
func ownText(cell string) string {
	bare := strings.TrimLeft(cell, "'")
	if bare != "" && bare != cell && strings.ContainsRune(formulaMarks, rune(bare[0])) {
		return cell[1:]
	}
	return cell
}

// path returns where the document of a row is: by its number and its first cell.
func (s *Sheet) path(n int) string {
	ending := "json"
	for _, c := range s.Columns {
		if c.Name == s.Document && c.Type == "BLOB" {
			ending = "jpg"
		}
	}
	id, _ := s.Rows[n][0].(string)
	safe := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '_' {
			return r
		}
		return -1
	}, id)
	const most = 60
	return fmt.Sprintf("%s/%06d-%.*s.%s", s.Name, n+1, most, safe, ending)
}

// ReadArchive reads an archive. known are the sheets that there may be, without
// rows. Columns that an older archive does not have are empty, 0 or nothing.
// Errors: ErrNoArchive, ErrDamaged, ErrVersion, ErrPath, ErrBomb, ErrCell with the
// file, the row and the column.
func ReadArchive(r io.ReaderAt, size int64, known []Sheet) ([]Sheet, error) {
	if size > MaxArchiveBytes {
		return nil, errBigArchive
	}
	in, err := zip.NewReader(r, size)
	if err != nil {
		return nil, ErrNoArchive
	}
	files, err := contents(in, known)
	if err != nil {
		return nil, err
	}
	list, err := readManifest(files[manifestName])
	if err != nil {
		return nil, err
	}
	var sheets []Sheet
	for _, one := range list.Sheets {
		at := slices.IndexFunc(known, func(s Sheet) bool { return s.Name == one.Name })
		if at < 0 {
			return nil, fmt.Errorf("sheet %q: %w", one.Name, ErrVersion)
		}
		sheet := known[at]
		sheet.Rows = nil
		file := files[one.Name+".csv"]
		if file == nil {
			return nil, fmt.Errorf("%s.csv: %w", one.Name, ErrDamaged)
		}
		data, err := unpack(file, maxUnpacked)
		if err != nil {
			return nil, err
		}
		if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != one.SHA256 {
			return nil, fmt.Errorf("%s.csv: %w", one.Name, ErrDamaged)
		}
		if err := sheet.read(data, files); err != nil {
			return nil, err
		}
		if len(sheet.Rows) != one.Rows {
			return nil, fmt.Errorf("%s.csv: %w", one.Name, ErrDamaged)
		}
		sheets = append(sheets, sheet)
	}
	return sheets, nil
}

// contents lists the files of an archive by name, once none of them is suspect.
func contents(in *zip.Reader, known []Sheet) (map[string]*zip.File, error) {
	if len(in.File) > maxFiles {
		return nil, ErrBomb
	}
	files := map[string]*zip.File{}
	unpacked := uint64(0)
	for _, file := range in.File {
		name := file.Name
		folder, _, inFolder := strings.Cut(name, "/")
		ours := name == manifestName || name == aboutName || slices.ContainsFunc(known, func(s Sheet) bool {
			return name == s.Name+".csv" || (inFolder && folder == s.Name && s.Document != "")
		})
		if !fs.ValidPath(name) || strings.ContainsAny(name, "\\:") || !file.Mode().IsRegular() || files[name] != nil ||
			strings.Count(name, "/") > 1 {
			return nil, fmt.Errorf("%q: %w", shortened(name), ErrPath)
		}
		if !ours {
			if files[manifestName] == nil && len(files) == 0 {
				return nil, ErrNoArchive
			}
			return nil, fmt.Errorf("%q: %w", shortened(name), ErrPath)
		}
		files[name] = file
		unpacked += file.UncompressedSize64
		if unpacked > maxUnpacked || (file.UncompressedSize64 > suspectFrom &&
			file.UncompressedSize64 > compressionSuspect*max(file.CompressedSize64, 1)) {
			return nil, ErrBomb
		}
	}
	if files[manifestName] == nil {
		return nil, ErrNoArchive
	}
	return files, nil
}

func shortened(name string) string {
	const most = 60
	if len(name) > most {
		return name[:most] + "…"
	}
	return name
}

// unpack reads a file that is no larger than it says and than it may be.
func unpack(file *zip.File, most int64) ([]byte, error) {
	if file.UncompressedSize64 > uint64(most) {
		return nil, fmt.Errorf("%s: %w", shortened(file.Name), ErrBomb)
	}
	r, err := file.Open()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", shortened(file.Name), ErrDamaged)
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err != nil {
		return nil, fmt.Errorf("%s: %w", shortened(file.Name), ErrDamaged)
	}
	if int64(len(data)) > most {
		return nil, fmt.Errorf("%s: %w", shortened(file.Name), ErrBomb)
	}
	return data, nil
}

func readManifest(file *zip.File) (manifest, error) {
	var list manifest
	data, err := unpack(file, maxManifest)
	if err != nil {
		return list, err
	}
	if err := json.Unmarshal(data, &list); err != nil {
		return list, ErrNoArchive
	}
	switch {
	case list.Format == ArchiveFormat:
		return list, nil
	case strings.HasPrefix(list.Format, "kirdu-archive/"):
		return list, ErrVersion
	}
	return list, ErrNoArchive
}

// read fills a sheet from its CSV.
func (s *Sheet) read(data []byte, files map[string]*zip.File) error {
	if !utf8.Valid(data) {
		return fmt.Errorf("%s.csv: %w: it is not UTF-8", s.Name, ErrCell)
	}
	lines := csv.NewReader(bytes.NewReader(data))
	header, err := lines.Read()
	if err != nil {
		return fmt.Errorf("%s.csv: %w: it has no first line", s.Name, ErrCell)
	}
	from := make([]int, len(s.Columns)) // where each column stands in the file, -1 if it does not
	for i, c := range s.Columns {
		from[i] = slices.Index(header, c.Name)
	}
	for _, name := range header {
		if !slices.ContainsFunc(s.Columns, func(c Column) bool { return c.Name == name }) {
			return fmt.Errorf("%s.csv, column %q: %w", s.Name, shortened(name), ErrVersion)
		}
	}
	for n := 1; ; n++ {
		cells, err := lines.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("%s.csv, row %d: %w: %w", s.Name, n, ErrCell, err)
		}
		row := make([]any, len(s.Columns))
		for i, c := range s.Columns {
			text := ""
			if from[i] >= 0 {
				text = cells[from[i]]
			}
			if row[i], err = s.cell(c, text, from[i] >= 0, files); err != nil {
				return fmt.Errorf("%s.csv, row %d, column %s: %w", s.Name, n, c.Name, err)
			}
		}
		s.Rows = append(s.Rows, row)
	}
}

// cell reads one cell by the type of its column.
func (s *Sheet) cell(c Column, text string, there bool, files map[string]*zip.File) (any, error) {
	switch {
	case c.Name == s.Document:
		folder, _, _ := strings.Cut(text, "/")
		file := files[text]
		if file == nil || folder != s.Name {
			return nil, fmt.Errorf("the file %q: %w", shortened(text), ErrDamaged)
		}
		data, err := unpack(file, maxDocument)
		if err != nil || c.Type == "BLOB" {
			return data, err
		}
		return string(data), nil
	case text == "" && c.Null:
		return nil, nil
	case c.Type == "TEXT":
		return ownText(text), nil
	case text == "" && !there:
		text = "0"
	}
	if c.Type == "INTEGER" {
		x, err := strconv.ParseInt(text, 10, 64)
		if err != nil {
			return nil, fmt.Errorf("%q: %w: a whole number such as 12 stands here", shortened(text), ErrCell)
		}
		return x, nil
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return nil, fmt.Errorf("%q: %w: numbers are written with a point, such as 0.5", shortened(text), ErrCell)
	}
	return x, nil
}
