package mend_test

import (
	"kirdu/core/forecast"
	"kirdu/core/mend"
	"kirdu/core/plan"
	"kirdu/words"
)

// A looked forecast has what the rules found beside it.
type looked struct {
	*forecast.Forecast
	Findings []mend.Found
}

func look(p *plan.Plan, options forecast.Options) looked {
	f, found := mend.Forecast(p, options)
	return looked{f, found}
}

// said is a finding in words.
func said(p *plan.Plan, one mend.Found) words.Finding { return words.Printer{}.Finding(p, one.Finding) }
