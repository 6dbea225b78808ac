#!/usr/bin/env bash
# Every check and test there is, from nothing. The database and the browser are real.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
front=
trap '[ -z "$front" ] || kill "$front" 2>/dev/null || true; "$top/scripts/postgres.sh" stop test-pg || true' EXIT
step() { printf '\n== %s\n' "$*"; }

addresses=$(HODOS_PG_PORT=54810 "$top/scripts/postgres.sh" start test-pg)
eval "$addresses"
export HODOS_CHROMIUM=${HODOS_CHROMIUM:-$(command -v chromium)}

# The front end's checks use one core, most of the time, and the readers are fed for a while whatever there is: side by side with vet and
# staticcheck they cost little.
front_end() {
  cd "$top/web"
  npx openapi-typescript ../server/openapi.json -o /tmp/hodos-schema-$$.d.ts >/dev/null
  diff -q src/api/schema.d.ts /tmp/hodos-schema-$$.d.ts >/dev/null || fail "web/src/api/schema.d.ts is behind server/openapi.json: run make types"
  rm -f /tmp/hodos-schema-$$.d.ts
  npm run -s typecheck
  npm run -s lint
  npm run -s format
  npm run -s test
}
said=$(mktemp)
(set -e; front_end) >"$said" 2>&1 &
front=$!

step "gofmt";             unformatted=$(gofmt -l $(git ls-files '*.go')); [ -z "$unformatted" ] || fail "gofmt: $unformatted"
step "API description";   bin/hodos openapi | diff -u server/openapi.json - >/dev/null || fail "server/openapi.json is behind the Go types: run make types"
step "table of units";    bin/hodos units | diff -u web/src/units.json - >/dev/null || fail "web/src/units.json is behind core/units: run make types"
step "go vet";            go vet ./...
step "staticcheck";       go tool staticcheck ./...
step "readers of files, six seconds each"
"$top/scripts/fuzz.sh" 6s
step "types, lint and unit tests of the front end"
wait $front || { cat "$said"; fail "the front end does not pass its checks"; }
front=; tail -n 8 "$said"; rm -f "$said"

# The race detector is for what runs side by side: accounts, casework, the night, the store and the server, whose tests ask from many sides at
# once. The core and the readers start nothing of their own, but for a run of the simulation; the demo and the command line do one thing at
# a time; and what the browser sees is the same server again, ten times slower under the detector.
alone=$(go list -f '{{.ImportPath}}' ./core/... ./exchange/... ./cmd/... ./demo/... ./e2e/...)
step "go test of the core, the readers, the demo, the command line and the browser"
go test -count=1 -timeout 15m $alone
step "go test -race of what runs side by side"
go test -race -count=1 -timeout 15m -run OnAnyNumberOfWorkers ./core/simulation
go test -race -count=1 -timeout 15m $(go list ./... | grep -vxF "$alone")
