# Everything is done from here; see README.md.
GO ?= go
STATICCHECK = honnef.co/go/tools/cmd/staticcheck@v0.8.2
CHROMIUM = /usr/bin/chromium-headless-shell
GOVULNCHECK = golang.org/x/vuln/cmd/govulncheck@v1.9.0
# Gin's msgpack is used by nothing here, and takes longer to compile than anything else.
export GOFLAGS += -tags=nomsgpack
# No test needs what only a debugger reads; lint has vetted; the collector takes a quarter of the time where it runs as often as usual.
TEST = GOGC=400 $(GO) test -vet=off -ldflags=-w
RELEASE = $(shell git describe --tags --always 2>/dev/null || echo unreleased)

.PHONY: demo build test unit race browser lint fuzz bench load soak golden assets licences screenshots

demo: ## start the application with the sample kitchen
	$(GO) run ./cmd/kirdu demo

build: ## one static binary, without what only a debugger needs
	CGO_ENABLED=0 $(GO) build -trimpath -ldflags "-s -w -X main.release=$(RELEASE)" -o kirdu ./cmd/kirdu

test: $(CHROMIUM) ## every test
	$(TEST) ./...

unit: ## all but the browser
	$(TEST) $$($(GO) list ./... | grep -v /e2e)

race: ## what many do at once, under the race detector
	$(TEST) -race ./web/frame ./web/guard
	$(TEST) -race -run 'AtOnce|UnderLoad|Copies|Killed|Reckon|NobodyWaits|Moments' ./store ./app ./web

browser: $(CHROMIUM) ## the interface in a real browser
	$(TEST) ./e2e/...

$(CHROMIUM):
	apt-get update
	apt-get install -y --no-install-recommends chromium-headless-shell

lint: ## formatting, length of lines, vet, staticcheck, known holes where their list can be had, types of the modules where node is there
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || { gofmt -l $$(git ls-files '*.go'); echo "run gofmt on these"; exit 1; }
	@awk 'length($$0) > 140 { print FILENAME ":" FNR ": longer than 140 characters"; long = 1 } END { exit long }' $$(git ls-files '*.go')
	$(GO) vet ./...
	$(GO) run $(STATICCHECK) ./...
	@if curl -sfI --max-time 5 https://vuln.go.dev/index/modules.json.gz >/dev/null 2>&1; then $(GO) run $(GOVULNCHECK) ./...; fi
	@if command -v npm >/dev/null && (cd assets && npm ci --no-audit --no-fund --silent --fetch-retries=0 --fetch-timeout=20000); then \
		cd assets && npx tsc -p tsconfig.json && npx tsc -p tsconfig.worker.json; else echo "the types of the modules are not checked: no node, or no network"; fi

FUZZ ?= 30s
fuzz: ## each parser for a while: make fuzz FUZZ=10m
	@grep -rlE '^func Fuzz' --include='*_test.go' . | xargs grep -HoE '^func Fuzz\w+' | sed 's/:func / /' | while read file name; do \
		echo "$$name in $$(dirname $$file)"; \
		$(GO) test -run NONE -fuzz "^$$name\$$" -fuzzminimizetime 1x -fuzztime $(FUZZ) "$$(dirname $$file)" || exit 1; done

bench: ## the budgets of speed
	$(GO) test -run NONE -bench . -benchmem ./...

load: ## how it holds under load, against an instance of its own; see docs/performance.md
	$(GO) run ./e2e/load

soak: ## an hour of kills, poison and many cooks
	$(GO) test -count 1 -timeout 2h ./cmd/kirdu -run 'Killed|ManyCooks' -kills 200 -cooks 20 -for 10m
	$(GO) test -count 1 -timeout 2h ./web -run Poison -poisons 700

golden: ## write the expected output of the command line anew
	$(GO) test ./cmd/kirdu -run "Golden|ForecastsStay" -update

assets: ## rebuild web/static/vendor from assets/package.json
	cd assets && npm ci --no-audit --no-fund && npm run build

licences: ## collect the licences of the Go modules anew
	$(GO) run ./e2e/licences > web/about/licences.json

screenshots: $(CHROMIUM) ## the pictures of docs/screenshots
	$(GO) run ./e2e/shots
