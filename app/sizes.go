package app

import (
	"fmt"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"kirdu/core/design"
	"kirdu/core/plan"
)

// sizes remember what puddings come to for other numbers of bowls: the pages of a gathering ask for the
// same on each view.
type sizes struct {
	once  sync.Once
	cache *lru.Cache[string, *plan.Plan]
}

// mostSizes bounds what is remembered: some gatherings of a dozen.
const mostSizes = 128

// forBowls is design.ForBowls, worked out once for each plan, size and kitchen.
func (s *sizes) forBowls(p *plan.Plan, bowls int, kit design.Kit) *plan.Plan {
	s.once.Do(func() {
		cache, err := lru.New[string, *plan.Plan](mostSizes)
		if err == nil { // it fails for no size only
			s.cache = cache
		}
	})
	data, err := p.JSON()
	if err != nil || s.cache == nil {
		return design.ForBowls(p, bowls, kit)
	}
	key := digest(data) + fmt.Sprintf("|%d|%+v", bowls, kit)
	if known, ok := s.cache.Get(key); ok {
		return known.Clone()
	}
	made := design.ForBowls(p, bowls, kit)
	s.cache.Add(key, made)
	return made.Clone()
}
