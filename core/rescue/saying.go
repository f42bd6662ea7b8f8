package rescue

// A Saying is a sentence, by its key in the catalogue of words, with the figures
// that stand in it, in order.
type Saying struct {
	Key     string
	Figures []Figure
}

// A Figure of a sentence: a number with so many decimals and its unit, or a
// material by its slug.
type Figure struct {
	Value    float64
	Decimals int
	Unit     string // "", "%" or "°C"
	Material string // "": it is a number
}

func saying(key string, figures ...Figure) Saying { return Saying{key, figures} }

func decimals(x float64, n int) Figure { return Figure{Value: x, Decimals: n} }

func percent(x float64, n int) Figure { return Figure{Value: x, Decimals: n, Unit: "%"} }

func celsius(t float64) Figure { return Figure{Value: t, Unit: "°C"} }

func named(slug string) Figure { return Figure{Material: slug} }
