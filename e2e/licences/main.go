// Command licences writes the licences of every Go module that the program is made
// of, as JSON to standard output.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"
)

// A Licence is what one part of the program is under.
type Licence struct {
	Name    string `json:"name"`
	Version string `json:"version"`
	Text    string `json:"text"`
}

var named = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|unlicense)([-.].*)?$`)

func main() {
	list, err := licences()
	if err != nil {
		log.Fatal(err)
	}
	encoder := json.NewEncoder(os.Stdout)
	encoder.SetIndent("", " ")
	if err := encoder.Encode(list); err != nil {
		log.Fatal(err)
	}
}

func licences() ([]Licence, error) {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, fmt.Errorf("find Go: %w", err)
	}
	text, err := texts(strings.TrimSpace(string(root)))
	if err != nil {
		return nil, err
	}
	list := []Licence{{"Go", strings.TrimPrefix(runtime.Version(), "go"), text}}
	out, err := exec.Command("go", "list", "-deps", "-json=Module", "./cmd/kirdu").Output()
	if err != nil {
		return nil, fmt.Errorf("list the packages: %w", err)
	}
	seen := map[string]bool{}
	for decoder := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p struct {
			Module *struct {
				Path, Version, Dir string
				Main               bool
			}
		}
		if err := decoder.Decode(&p); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			return nil, err
		}
		if p.Module == nil || p.Module.Main || seen[p.Module.Path] {
			continue
		}
		seen[p.Module.Path] = true
		text, err := texts(p.Module.Dir)
		if err != nil {
			return nil, err
		}
		if text == "" {
			return nil, fmt.Errorf("%s has no licence that can be found", p.Module.Path)
		}
		list = append(list, Licence{p.Module.Path, p.Module.Version, text})
	}
	slices.SortFunc(list[1:], func(a, b Licence) int { return strings.Compare(a.Name, b.Name) })
	return list, nil
}

// texts puts the licence files of a folder together.
func texts(folder string) (string, error) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return "", err
	}
	var all []string
	for _, entry := range entries {
		if entry.IsDir() || !named.MatchString(entry.Name()) {
			continue
		}
		data, err := os.ReadFile(filepath.Join(folder, entry.Name()))
		if err != nil {
			return "", err
		}
		all = append(all, strings.TrimSpace(string(data)))
	}
	return strings.Join(all, "\n\n"), nil
}
