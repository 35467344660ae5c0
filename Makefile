# The two commands that do everything: make demo, make test. See README.md.
PORT ?= 8080
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD = 1
export GOTOOLCHAIN = auto
test test-all-go test-go test-race test-browser: export GOGC = 400

.PHONY: install-all demo run dev test test-all-go test-go test-race test-browser check bench profile fuzz siege fifty wander lost screenshots build install assets clean

demo: build ## the demo club at http://127.0.0.1:$(PORT)
	@exec bin/gruppo demo --addr 127.0.0.1:$(PORT)

run: build ## your own clubs, kept in .run/own
	@exec bin/gruppo run --addr 127.0.0.1:$(PORT) --dir .run/own

dev: install client/node_modules/.made ## your own clubs of .run/dev, built and loaded again at each change, on the port after $(PORT)
	@scripts/install node
	@PORT=$(PORT) scripts/dev

build: install
	@go build -o bin/gruppo ./cmd/gruppo

install: ## what is missing on this machine
	@scripts/install go postgresql

test: install-all build e2e/node_modules/.made client/node_modules/.made ## every test: Go and browser side by side, since each waits half of the time
	@$(MAKE) --no-print-directory -j2 test-all-go test-browser

test-all-go: check
	@$(MAKE) --no-print-directory test-go test-race

install-all:
	@scripts/install go postgresql node chromium gcc

check: e2e/node_modules/.made client/node_modules/.made ## formatting, vet, staticcheck, prettier, eslint; templates have a layout test of their own
	@test -z "$$(gofmt -l cmd internal)" || { echo "gofmt would change:"; gofmt -l cmd internal; exit 1; }
	go vet ./...
	go tool staticcheck ./...
	e2e/node_modules/.bin/prettier --check --log-level warn internal/web/shell/styles 'client/*.js' 'client/*.mjs' 'client/court/*.js' 'e2e/*.js' 'e2e/*.mjs'
	e2e/node_modules/.bin/eslint -c e2e/eslint.config.js 'client/*.js' 'client/*.mjs' 'client/court/*.js' 'e2e/*.js' 'e2e/*.mjs'
	@node client/build.mjs .run/client && diff -r .run/client internal/web/shell/assets/client >/dev/null || { echo "The client was changed: make assets bundles it."; exit 1; }

test-go:
	go test -timeout 20m ./... # two cores may be shared with the browsers

test-race: ## what runs at once, with the race detector
	CGO_ENABLED=1 go test -race ./internal/web/shell ./internal/web/live ./internal/exchange
	CGO_ENABLED=1 go test -race -run 'Stream|Hear|Once|Parallel|Guess' ./internal/store ./internal/web

fifty: build e2e/node_modules/.made ## fifty devices at one session for a minute: how long a mark takes, and how much of a core
	node e2e/fifty.mjs

siege: build e2e/node_modules/.made ## the program and its PostgreSQL killed again and again under five phones; KILLS=1000 DATABASE_KILLS=20 PHONES=10 PAUSE=300 for a long one
	node e2e/siege.mjs

SEEDS ?= 5
STEPS ?= 100
wander: build e2e/node_modules/.made ## random ways through every page, in every role, in five clubs; SEED=7 begins there, WHO, CLUB and SIZE keep to one
	cd e2e && SEEDS=$(SEEDS) STEPS=$(STEPS) npx playwright test --project wander --retries 0

lost: build e2e/node_modules/.made ## phones used at random while network, server and version come and go; LOST=7 begins with that seed, STEPS=300 goes on longer, CLUB=60 in a club of another sport with so many players
	cd e2e && npx playwright test --project lost --retries 0

FUZZTIME ?= 60s
fuzz: ## every reader of files, a minute each; what breaks one is kept beside its test
	@for at in $$(grep -rl '^func Fuzz' internal --include=*_test.go); do for name in $$(sed -n 's/^func \(Fuzz[A-Za-z]*\)(.*/\1/p' $$at); do \
		go test -run '^$$' -fuzz "^$$name$$" -fuzztime $(FUZZTIME) -fuzzminimizetime 20x ./$$(dirname $$at) || exit 1; done; done

%/node_modules/.made: %/package-lock.json
	cd $* && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

test-browser: build e2e/node_modules/.made client/node_modules/.made
	node --test client/*.test.mjs
	node e2e/run.mjs

bench: ## what the pages cost and what the rules do, as the tables of docs/benchmarks.md
	@scripts/bench

PAGE ?= Plan
profile: ## where a page's time goes: make profile PAGE=Stairs
	go test -run '^$$' -bench 'Pages/^$(PAGE)$$' -benchtime 5s -cpuprofile .run/$(PAGE).cpu -o .run/web.test ./internal/web
	go tool pprof -top -cum -nodecount 60 .run/web.test .run/$(PAGE).cpu

screenshots: install-all build e2e/node_modules/.made ## docs/screenshots from the demo data, clock held
	cd e2e && npx playwright test --config screenshots.config.js

assets: e2e/node_modules/.made client/node_modules/.made ## bundle the client, and copy the browser libraries into the program
	node client/build.mjs
	scripts/assets

clean: ## what make built, and the private databases
	rm -rf bin .run e2e/node_modules client/node_modules e2e/test-results
