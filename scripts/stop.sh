#!/usr/bin/env bash
# Stops the demo server and its PostgreSQL; the data stay.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
old=$(cat "$state/hodos.pid" 2>/dev/null || true)
if alive "$old" 'hodos demo'; then kill "$old" 2>/dev/null || true; for _ in $(seq 1 100); do alive "$old" 'hodos demo' || break; sleep 0.1; done; fi
rm -f "$state/hodos.pid"
for name in demo-pg test-pg; do [ -d "$state/$name" ] && "$top/scripts/postgres.sh" "${1:-stop}" "$name"; done
say "stopped"
