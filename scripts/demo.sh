#!/usr/bin/env bash
# Starts the demo: private PostgreSQL, migrations, demo data, server in the foreground.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
pidfile=$state/hodos.pid
old=$(cat "$pidfile" 2>/dev/null || true)
if alive "$old" 'hodos demo'; then
  say "a demo server is running (process $old); replacing it"
  kill "$old" 2>/dev/null || true
  for _ in $(seq 1 50); do alive "$old" 'hodos demo' || break; sleep 0.1; done
fi
addresses=$("$top/scripts/postgres.sh" start demo-pg)
eval "$addresses"
port=${HODOS_PORT:-8470}
free=$(free_port "$port")
[ "$free" = "$port" ] || say "port $port is taken by another program; using $free"
mkdir -p "$state"; echo $$ > "$pidfile"
exec "$top/bin/hodos" demo --listen "127.0.0.1:$free" "$@"
