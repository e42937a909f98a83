# make help lists the targets.
.DEFAULT_GOAL := help
GO ?= go
DATA ?= .data
LISTEN ?= 127.0.0.1:7380
VERSION := $(shell git describe --always --dirty 2>/dev/null || echo dev)
WEB_SOURCES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/package.json web/tsconfig.json
LINTERS := .cache/bin

.PHONY: help demo build test test-go test-web lint bench bench-plan bench-skim oracle fuzz shots golden api clean

help: ## list the targets
	@awk -F ':.*## ' '/^[a-z-]+:.*## / {printf "  %-10s %s\n", $$1, $$2}' $(MAKEFILE_LIST)

demo: need-database build ## build and serve the demo; prints the address and the sign-ins
	@exec bin/juxtagram demo --data $(DATA) --listen $(LISTEN)

.PHONY: need-database need-browser
need-database:
	@[ -n "$(JUXTAGRAM_DATABASE_URL)" ] || scripts/need.sh postgresql
need-browser:
	@scripts/need.sh chromium

build: web/dist/index.html ## build bin/juxtagram with the web application in it
	$(GO) build -ldflags "-X main.version=$(VERSION)" -o bin/juxtagram ./cmd/juxtagram

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

web/dist/index.html: web/node_modules/.installed $(WEB_SOURCES) web/src/api/schema.d.ts
	cd web && npm run --silent build

web/src/api/schema.d.ts: docs/api/openapi.json | web/node_modules/.installed
	cd web && npm run --silent types >/dev/null

test: need-database need-browser lint test-web test-go ## run every check and test: Go, web, browser

# the browser tests build the program themselves, which go's cache of results does not see
test-go: web/dist/index.html
	E2E_RUN=$$(date +%s%N) $(GO) test -timeout 25m ./...

test-web: web/node_modules/.installed web/src/api/schema.d.ts
	cd web && npm run --silent check && npm run --silent test

lint: web/node_modules/.installed web/src/api/schema.d.ts ## formatting, vet, layers, eslint, prettier
	@out=$$(gofmt -l $$(git ls-files '*.go')); [ -z "$$out" ] || { echo "gofmt:" $$out; exit 1; }
	$(GO) vet ./...
	cd web && npm run --silent lint

bench: build need-database ## the figures, each beside its floor; see docs/benchmarks.md
	$(GO) test -run '^$$' -bench . -benchtime 1x -timeout 60m ./bench
	HOSTILE_TIMES=1 $(GO) test -count 1 -parallel 1 -timeout 30m ./hostile

bench-skim: web/node_modules/.installed ## judge the worth that a skim gives to functions, on packages nobody here wrote
	$(GO) run ./bench/skim

bench-plan: ## judge drafted plans beside four simple orders, on packages nobody here wrote; they are fetched once
	$(GO) run ./bench/plan
	$(GO) run ./bench/plan -without

bench-place: web/node_modules/.installed ## how well lines are placed in later texts, where the truth is known
	$(GO) run ./bench/place -scenes 400 $(if $(HISTORIES),-histories $(HISTORIES))

oracle: web/node_modules/.installed ## compare outlines, imports and tagged comments with each language's own parser
	$(GO) run ./oracle
	$(GO) run ./oracle/origins
	$(GO) run ./oracle/names
	$(GO) run ./oracle/history

fuzz: ## a minute for each fuzz target
	@for t in core/repo:FuzzPatch core/repo:FuzzSafePath core/history:FuzzUnpack core/history:FuzzScan core/facts:FuzzFacts core/lang/all:FuzzRead core/place:FuzzCompare core/plan:FuzzBetween core/plan/document:FuzzRead core/plan/document:FuzzReadMarkdown core/webanno:FuzzRead core/note:FuzzNote core/attach:FuzzRead core/intake:FuzzArchive core/links/origin:FuzzManifests core/skim:FuzzSkim core/tagged:FuzzMay core/decode:FuzzTOML core/recipe:FuzzFind core/highlight:FuzzLines server:FuzzReadme; do \
		$(GO) test -run '^$$' -fuzz "$${t#*:}\$$" -fuzztime $${FUZZTIME:-60s} "./$${t%%:*}" || exit 1; done

golden: ## rewrite the golden files from what the code now says
	$(GO) test ./survey ./core/lang/all ./core/entry ./core/plan -update
	$(GO) test ./hostile -run TestTheTableOfInputsIsTrue -update

api: ## rewrite the API's description and the web types from the routes
	$(GO) run ./cmd/juxtagram openapi > docs/api/openapi.json
	cd web && npm run --silent types

shots: build need-database need-browser ## retake docs/screenshots from demo data
	$(GO) run ./e2e/shots

clean: ## remove what was built; the data stays
	rm -rf bin web/dist/assets web/dist/index.html
