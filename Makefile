# Hodos. `make demo` and `make test` are all a newcomer needs; both install what is missing.
SHELL := /bin/bash
web_sources := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/package.json web/offline.plugin.js web/sw.js
core_sources := $(shell find core exchange/casefile exchange/counted exchange/ground exchange/refusal browser cmd/hodos-browser -name "*.go" ! -name "*_test.go" 2>/dev/null)

.PHONY: demo demo-fresh test stop clean build types bench bench-night bench-size bench-device endure fuzz mutants screenshots

demo:
	@scripts/prepare.sh demo
	@$(MAKE) --no-print-directory build
	@exec scripts/demo.sh

demo-fresh:
	@scripts/prepare.sh demo
	@$(MAKE) --no-print-directory build
	@exec scripts/demo.sh --fresh

test:
	@scripts/prepare.sh test
	@$(MAKE) --no-print-directory build
	@scripts/test.sh

stop:
	@scripts/stop.sh

clean:
	@scripts/stop.sh remove
	@rm -rf bin web/node_modules web/dist/assets web/dist/index.html .run

build: web/dist/index.html
	@echo "hodos: building the server"
	@go build -ldflags "-X hodos/internal/build.stamp=$$(git describe --tags --always --dirty 2>/dev/null)" -o bin/hodos ./cmd/hodos || { echo "hodos: the build failed; without a network the Go modules cannot be fetched the first time" >&2; exit 1; }

web/node_modules/.package-lock.json: web/package-lock.json
	@echo "hodos: fetching the front end's packages (once)"
	@cd web && npm ci --no-audit --no-fund --loglevel=error || { echo "hodos: npm could not fetch the packages: is the network there?" >&2; exit 1; }
	@touch $@

# The core as the page on a device runs it. Functions are inlined only where a tap spends its time: with all of them it is over the size that
# a phone's network should carry; see docs/performance.md.
inlined := hodos/core/diagnosis hodos/core/photo math
web/src/core/core.wasm: $(core_sources) go.mod
	@echo "hodos: building the core for the browser"
	@GOOS=js GOARCH=wasm go build -trimpath -gcflags=all=-l $(inlined:%=-gcflags=%=) -ldflags "-s -w" -o $@ ./cmd/hodos-browser
	@cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" web/src/core/wasm_exec.js

web/dist/index.html: $(web_sources) web/src/core/core.wasm web/node_modules/.package-lock.json go.sum
	@echo "hodos: building the front end"
	@cd web && npx vite build --logLevel warn
	@go run ./scripts/notices > web/dist/notices.txt
	@touch $@

# The API description comes from the Go types, the front end's types from the description.
types: web/node_modules/.package-lock.json
	go run ./cmd/hodos openapi > server/openapi.json
	go run ./cmd/hodos units > web/src/units.json
	cd web && npm run -s types

bench:
	go test -run xxx -bench . -benchmem ./core/...
	go test -run xxx -bench SkyView -benchtime 40x ./server/

# Whole nights of the watch, up to ten thousand sites: some minutes.
bench-night:
	go test -run xxx -bench Night -benchtime 1x -timeout 30m ./server/

# The pages, a tap and forty people in a firm of 10,000 sites: a minute or two.
bench-size:
	go test -run xxx -bench Size -benchtime 100x -timeout 30m ./server/

# How long a finger waits in the browser, at full speed and at a quarter of it: a minute.
bench-device: build
	@eval "$$(HODOS_PG_PORT=54810 scripts/postgres.sh start test-pg)"; HODOS_SPEED=1 go test -count=1 -v -run TestSpeedOnTheDevice ./e2e/; scripts/postgres.sh stop test-pg

# Kills of the server and of the database, a database that stands still, a full disk, with people at work: some five minutes.
endure: build
	go run ./scripts/endure

# Every reader of files, a quarter of an hour each.
fuzz:
	scripts/fuzz.sh 15m

# How many small changes of the core its tests notice: some minutes. docs/performance.md keeps the score.
mutants:
	go run ./scripts/mutants -n 50 -seed 7 -wide "" ./core/remedy ./core/soil ./core/recovery ./core/sky

# Pictures of the main views from the demo data, on a database of their own.
screenshots:
	@scripts/prepare.sh test
	@$(MAKE) --no-print-directory build
	@eval "$$(HODOS_PG_PORT=54810 scripts/postgres.sh start test-pg)"; HODOS_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./e2e/; scripts/postgres.sh stop test-pg
