package words

// Kept says a kind of thing that an archive holds, such as "puddings", by the name of
// its table.
func (w Printer) Kept(table string) string {
	key := "kept." + table
	if _, known := english[key]; !known {
		return table
	}
	return w.text(key)
}

// Mark says why a reading is not believed, by the mark that device gave it; "" if it is.
func (w Printer) Mark(mark string) string {
	key := "mark." + mark
	if _, known := english[key]; !known {
		return ""
	}
	return w.text(key)
}
