# Shared by the scripts beside it: plain messages, version checks, packages, paths, ports.
set -euo pipefail

say()  { printf '%s\n' "hodos: $*"; }
fail() { printf '%s\n' "hodos: $*" >&2; exit 1; }

top=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$top"

# State lives outside the clone for root, because the postgres user cannot enter /root.
clone_key=$(printf '%s' "$top" | cksum | cut -d' ' -f1)
if [ -n "${HODOS_STATE:-}" ]; then state=$HODOS_STATE
elif [ "$(id -u)" = 0 ]; then state=/var/lib/hodos/$clone_key
else state=$top/.run; fi

# at_least HAVE WANT: true when dotted version HAVE is WANT or newer.
at_least() { [ "$(printf '%s\n%s\n' "$2" "$1" | sort -V | head -n 1)" = "$2" ]; }

check_versions() {
  command -v go >/dev/null || fail "Go is missing: install Go 1.26 or newer."
  local g; g=$(go env GOVERSION 2>/dev/null | sed 's/^go//; s/[^0-9.].*//')
  at_least "$g" 1.26 || fail "Go $g is too old: 1.26 or newer is needed."
  command -v node >/dev/null || fail "Node is missing: install Node 20.19 or newer."
  local n; n=$(node --version | sed 's/^v//')
  at_least "$n" 20.19 || fail "Node $n is too old: 20.19 or newer is needed."
  command -v npm >/dev/null || fail "npm is missing: it comes with Node."
}

check_disk() {
  local dir free; dir=$1; mkdir -p "$dir" 2>/dev/null || fail "cannot create $dir: check the rights of its parent folder."
  free=$(df -Pm "$dir" | awk 'NR==2 {print $4}')
  [ "$free" -ge 600 ] || fail "only ${free} MB are free at $dir: 600 MB are needed."
}

# need_packages PACKAGE...: installs what is missing from Debian, or prints the one line that would.
need_packages() {
  [ $# -gt 0 ] || return 0
  if [ "$(id -u)" != 0 ]; then
    fail "missing Debian packages. Run this once, then start again:
  sudo apt-get update && sudo apt-get install -y $*"
  fi
  say "installing from Debian: $*"
  # Debian's postgresql would start a cluster of its own on port 5432; this project keeps a private one.
  if [[ " $* " == *" postgresql "* ]] && [ ! -e /etc/postgresql-common/createcluster.conf ]; then
    mkdir -p /etc/postgresql-common
    echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf
  fi
  local log; log=$(mktemp)
  export DEBIAN_FRONTEND=noninteractive
  if ! { apt-get update -qq && apt-get install -y -qq --no-install-recommends -o Dpkg::Options::=--force-confold "$@"; } >"$log" 2>&1; then
    tail -n 15 "$log" >&2
    fail "apt-get could not install $*: is the network there and the disk not full? (whole log: $log)"
  fi
  rm -f "$log"
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

# listening PORT: true when something answers on loopback.
listening() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# free_port FIRST: the first port from FIRST on that nobody answers on.
free_port() { local p=$1; while listening "$p"; do p=$((p + 1)); [ "$p" -lt $(($1 + 200)) ] || fail "no free port from $1 on."; done; echo "$p"; }

# alive PID WORD: true when the process runs and its command line holds WORD.
alive() { [ -n "$1" ] && [ -r "/proc/$1/cmdline" ] && tr '\0' ' ' <"/proc/$1/cmdline" 2>/dev/null | grep -q -- "$2"; }
