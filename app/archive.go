package app

import (
	"context"
	"io"

	"kirdu/exchange"
	"kirdu/store"
	"kirdu/words"
)

// Export writes everything that is kept into one archive.
func (k *Kitchen) Export(ctx context.Context, w io.Writer) error {
	sheets, err := k.Store.Sheets(ctx)
	if err != nil {
		return err
	}
	return exchange.WriteArchive(w, outward(sheets))
}

// Import takes an archive over, all of it or nothing, and says what it did; dry
// only says what it would do. One archive at a time is unpacked into memory.
// Errors: those of exchange.ReadArchive and store.Absorb.
func (k *Kitchen) Import(ctx context.Context, r io.ReaderAt, size int64, choice store.Choice, dry bool) ([]store.Absorbed, error) {
	k.unpacking.Lock()
	defer k.unpacking.Unlock()
	sheets, err := k.read(ctx, r, size)
	if err != nil {
		return nil, err
	}
	report, err := k.Store.Absorb(ctx, sheets, choice, dry)
	if err != nil || dry {
		return report, err
	}
	k.learnt.forget()
	return report, k.CatchUp(ctx)
}

// read reads an archive.
func (k *Kitchen) read(ctx context.Context, r io.ReaderAt, size int64) ([]store.Sheet, error) {
	known, err := k.Store.EmptySheets(ctx)
	if err != nil {
		return nil, err
	}
	sheets, err := exchange.ReadArchive(r, size, outward(known))
	if err != nil {
		return nil, err
	}
	inward := make([]store.Sheet, len(sheets))
	for i, sheet := range sheets {
		inward[i] = store.Sheet{Name: sheet.Name, Rows: sheet.Rows}
		for _, c := range sheet.Columns {
			inward[i].Columns = append(inward[i].Columns, store.Column(c))
		}
	}
	return inward, nil
}

func outward(sheets []store.Sheet) []exchange.Sheet {
	documents := store.Documents()
	list := make([]exchange.Sheet, len(sheets))
	for i, sheet := range sheets {
		list[i] = exchange.Sheet{Name: sheet.Name, Rows: sheet.Rows, Document: documents[sheet.Name]}
		for _, c := range sheet.Columns {
			list[i].Columns = append(list[i].Columns, exchange.Column(c))
		}
	}
	return list
}

// Kept says a kind of thing that an archive holds, as the command line prints it.
func Kept(table string) string { return words.Printer{}.Kept(table) }
