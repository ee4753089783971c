# Brackmoor: the two commands are `make demo` and `make test`; `make verify` checks the
# core against another simulator.
SHELL := /bin/bash
.DEFAULT_GOAL := build

BIN      := bin/brackmoor
GO_FILES := $(shell git ls-files '*.go' '*.sql' 'demo/*.json' 'docs/schema/*.json' 2>/dev/null)
WEB_SRC  := $(shell git ls-files 'web/src' web/index.html web/vite.config.ts web/public 2>/dev/null)
MODULES  := web/node_modules/.package-lock.json
APP      := web/dist/app/index.html

GOLINES  := go tool golines -m 120 -t 4 --base-formatter=gofmt --no-reformat-tags

.PHONY: build demo test hard photos away verify lint format web-check api api-check bench chromium ngspice screenshots clean

build: $(BIN)

$(BIN): $(GO_FILES) $(APP) go.mod go.sum
	go build -o $@ ./cmd/brackmoor

$(MODULES): web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

$(APP): $(MODULES) $(WEB_SRC) web/tsconfig.json
	cd web && npm run --silent build
	@touch $@

# The demo keeps what was entered: its database is made once.
demo: $(BIN)
	$(BIN) demo --db var/demo.db --listen 127.0.0.1:8420

lint: $(APP)
	go mod tidy -diff
	@long=$$($(GOLINES) -l $$(git ls-files '*.go')); test -z "$$long" || { echo "$$long"; echo "make format is wanted on these"; exit 1; }
	@./.ci/columns
	go vet ./...
	go tool staticcheck ./...

web-check: $(MODULES)
	cd web && npm run --silent format:check && npm run --silent check && npm run --silent lint && npm run --silent test

format: $(MODULES)
	$(GOLINES) -w $$(git ls-files '*.go')
	cd web && npx --no-install prettier --write src

# The API's types are written once, in Go.
api: $(MODULES)
	go run ./cmd/brackmoor openapi > docs/schema/openapi.json.new && mv docs/schema/openapi.json.new docs/schema/openapi.json
	cd web && npm run --silent api

api-check: $(MODULES)
	@mkdir -p var
	go run ./cmd/brackmoor openapi > var/openapi.json
	cmp var/openapi.json docs/schema/openapi.json || { echo "docs/schema/openapi.json is stale: run make api"; exit 1; }
	cd web && npx --no-install openapi-typescript ../docs/schema/openapi.json -o ../var/schema.gen.ts > /dev/null
	cmp var/schema.gen.ts web/src/api/schema.gen.ts || { echo "web/src/api/schema.gen.ts is stale: run make api"; exit 1; }

chromium:
	@command -v chromium > /dev/null || { \
		if [ "$$(id -u)" = 0 ]; then apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium > /dev/null; \
		else echo "The browser tests need Debian's package chromium: apt-get install chromium"; exit 1; fi; }

# -count=1: the browser tests look at files that Go's cache does not see.
test: chromium lint web-check api-check
	BRACKMOOR_BROWSER=required go test -count=1 -timeout 50m ./...

ngspice:
	@command -v ngspice > /dev/null || { \
		if [ "$$(id -u)" = 0 ]; then apt-get update -qq && apt-get install -y -qq --no-install-recommends ngspice > /dev/null; \
		else echo "The verification needs Debian's package ngspice: apt-get install ngspice"; exit 1; fi; }

# Every case worked out twice, in the core and by ngspice; docs/verify.md keeps the table.
verify: ngspice
	@mkdir -p var
	BRACKMOOR_NGSPICE=required BRACKMOOR_VERIFY=$(CURDIR)/var/verify.md go test -count=1 -v -run TestVerify ./sheet/spice
	@cat var/verify.md

# What each takes, then all of it as one table.
bench: chromium ngspice $(APP)
	@mkdir -p var
	go test -run '^$$' -bench . -benchmem ./core/... | tee var/bench.txt
	go test -run '^$$' -bench . -v ./sheet/spice | tee -a var/bench.txt
	go test -run '^$$' -bench . ./store | tee -a var/bench.txt
	BRACKMOOR_BROWSER=required go test -run '^$$' -bench . ./server/ ./browser/ ./cmd/... | tee -a var/bench.txt
	@awk -v commit="$$(git describe --always --dirty)" -f .ci/bench.awk var/bench.txt

# What it stands: kills, full disks, hostile and slow callers, many writers, ten minutes of load,
# and every fuzz target for a minute. HARD=TestSoak takes one part alone.
HARD ?= .
hard:
	@mkdir -p var && rm -f var/hard.md
	BRACKMOOR_HARD=1 BRACKMOOR_HARD_TABLE=$(CURDIR)/var/hard.md go test -count=1 -timeout 60m -v -run '$(HARD)' ./hard
	@test '$(HARD)' != . || .ci/fuzz >> var/hard.md
	@printf '| what | what came of it |\n| --- | --- |\n'; cat var/hard.md

# How plates are read from photos: as many drawn ones as PHOTOS says, through the application itself.
PHOTOS ?= 90
photos: chromium $(APP)
	BRACKMOOR_BROWSER=required BRACKMOOR_PHOTOS=$(PHOTOS) go test -count=1 -timeout 4h -v -run TestPlatesFromPhotos ./browser/

# What the core would be on a phone: how large as WebAssembly, and how long its answers take there and here.
away:
	@mkdir -p var
	go build -o var/away ./hard/away
	GOOS=js GOARCH=wasm go build -ldflags='-s -w' -o var/away.wasm ./hard/away
	@echo "As WebAssembly: $$(($$(gzip -9 -c var/away.wasm | wc -c) / 1000)) kB gzipped"
	@echo "Here, ms:" && var/away < demo/tarn-hollow.json
	@echo "As WebAssembly, ms:" && $$(go env GOROOT)/lib/wasm/go_js_wasm_exec var/away.wasm < demo/tarn-hollow.json

screenshots: chromium $(APP)
	BRACKMOOR_BROWSER=required BRACKMOOR_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./browser/

clean:
	rm -rf bin web/dist/app web/node_modules
