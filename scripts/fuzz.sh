#!/usr/bin/env bash
# Feeds every reader of files with what it has not seen. fuzz.sh DURATION: so long for each reader.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
long=${1:-10s}
said=$(mktemp)
trap 'rm -f "$said"' EXIT
for reader in casefile:FuzzParse weatherfile:FuzzRead readingfile:FuzzRead labfile:FuzzRead shelffile:FuzzRead \
  jobfile:FuzzRead mapfile:FuzzRead photofile:FuzzRead; do
  # the tool now and then reports its own end of time as a failure ("context deadline exceeded"): what it has found
  # it writes down as an input
  go test -run xxx -fuzz "${reader#*:}\$" -fuzztime "$long" -fuzzminimizetime 10x "./exchange/${reader%:*}" 2>&1 | tee "$said" ||
    { grep -q "context deadline exceeded" "$said" && ! grep -q "Failing input written" "$said"; } ||
    fail "the reader ${reader%:*} does not stand its inputs"
done
