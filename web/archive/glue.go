package archive

import (
	"context"
	"io"

	"kirdu/exchange"
	"kirdu/store"
)

// Write writes everything that is kept into one archive.
func Write(ctx context.Context, s *store.Store, w io.Writer) error {
	sheets, err := s.Sheets(ctx)
	if err != nil {
		return err
	}
	return exchange.WriteArchive(w, outward(sheets))
}

// Read reads an archive. Errors: those of exchange.ReadArchive.
func Read(ctx context.Context, s *store.Store, r io.ReaderAt, size int64) ([]store.Sheet, error) {
	known, err := s.EmptySheets(ctx)
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

// words are the kinds of things as people call them.
var words = map[string]string{
	"setting": "settings", "pot": "pots", "burner": "burners", "water_test": "water tests", "measuring": "cups and other measures",
	"own_material": "own and corrected materials", "at_hand": "what is in the house", "bought": "what is ticked off", "pudding": "puddings",
	"plan_version": "versions of plans", "buying": "what is to be bought for", "gathering": "gatherings", "gathering_pudding": "puddings of gatherings",
	"cook": "cooks and batches", "cook_event": "events at the stove", "reading": "readings of gadgets", "verdict": "verdicts", "photo": "photos",
	"tag": "tags", "lesson": "what batches teach", "forgotten": "what is forgotten",
}

// Words says a kind of thing, such as "puddings".
func Words(sheet string) string {
	if word, known := words[sheet]; known {
		return word
	}
	return sheet
}
