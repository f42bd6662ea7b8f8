package frame

import (
	"embed"
	"io/fs"
	"path"
	"slices"
)

// assets are a screen's styles and modules, without its pages.
type assets struct{ embed.FS }

// Assets returns what browsers load of a screen's files: its styles and modules, served under /static. A page whose
// files have styles links them.
func Assets(files embed.FS) fs.FS { return assets{files} }

func isAsset(name string) bool {
	ext := path.Ext(name)
	return ext == ".css" || ext == ".js"
}

// Open opens a style or a module.
func (a assets) Open(name string) (fs.File, error) {
	if name != "." && !isAsset(name) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
	}
	return a.FS.Open(name)
}

// ReadDir lists the styles and modules.
func (a assets) ReadDir(name string) ([]fs.DirEntry, error) {
	entries, err := a.FS.ReadDir(name)
	return slices.DeleteFunc(entries, func(e fs.DirEntry) bool { return !isAsset(e.Name()) }), err
}

// ReadFile reads a style or a module.
func (a assets) ReadFile(name string) ([]byte, error) {
	if !isAsset(name) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
	}
	return a.FS.ReadFile(name)
}

// stylesIn names the styles among a screen's files.
func stylesIn(files embed.FS) []string {
	names, err := fs.Glob(files, "*.css")
	if err != nil {
		panic(err) // the pattern is ours
	}
	return names
}
