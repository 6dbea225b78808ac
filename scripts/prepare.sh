#!/usr/bin/env bash
# Checks versions and installs what is missing: prepare.sh demo|test.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
check_versions
check_disk "$state"
missing=()
[ -n "$(pg_bin)" ] && [ -x "$(pg_bin)/initdb" ] || missing+=(postgresql)
if [ "${1:-demo}" = test ]; then
  command -v chromium >/dev/null || missing+=(chromium)
  command -v gcc >/dev/null || missing+=(gcc libc6-dev)
fi
need_packages "${missing[@]}"
