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
