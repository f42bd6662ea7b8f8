package archive

import (
	"os"
	"path/filepath"
	"sync"
	"time"

	"kirdu/app"
)

// How long, and how many, archives that were looked at wait to be taken over.
const (
	longestWait = 30 * time.Minute
	mostWaiting = 4
)

// uploads are archives that were looked at and not taken over yet, each in a file of the temporary folder.
type uploads struct {
	mutex   sync.Mutex
	longest time.Duration
	paths   map[string]string // by token
	order   []string
}

const uploadPattern = "kirdu-import-*.zip"

// newUploads begins without any, and clears away what an earlier run of the program left.
func newUploads(longest time.Duration) *uploads {
	left, err := filepath.Glob(filepath.Join(os.TempDir(), uploadPattern))
	if err == nil {
		for _, path := range left {
			if info, err := os.Stat(path); err == nil && time.Since(info.ModTime()) > longest { // another run may still want it
				os.Remove(path)
			}
		}
	}
	return &uploads{longest: longest, paths: map[string]string{}}
}

// keep holds a file until it is taken, until it waited long, or until too many others came.
func (u *uploads) keep(path string) (token string) {
	token = app.NewID()
	u.mutex.Lock()
	defer u.mutex.Unlock()
	u.paths[token] = path
	u.order = append(u.order, token)
	for len(u.order) > mostWaiting {
		u.drop(u.order[0])
	}
	time.AfterFunc(u.longest, func() {
		u.mutex.Lock()
		defer u.mutex.Unlock()
		u.drop(token)
	})
	return token
}

// take hands a file over; false for one that is gone.
func (u *uploads) take(token string) (path string, ok bool) {
	u.mutex.Lock()
	defer u.mutex.Unlock()
	path, ok = u.paths[token]
	u.forget(token)
	return path, ok
}

func (u *uploads) drop(token string) {
	if path, ok := u.paths[token]; ok {
		os.Remove(path)
	}
	u.forget(token)
}

func (u *uploads) forget(token string) {
	delete(u.paths, token)
	for k := range u.order {
		if u.order[k] == token {
			u.order = append(u.order[:k], u.order[k+1:]...)
			return
		}
	}
}
