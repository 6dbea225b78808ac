#!/usr/bin/env bash
# Feeds every reader of files with what it has not seen. fuzz.sh DURATION: so long for each reader.
. "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
long=${1:-10s}
for reader in casefile:FuzzParse weatherfile:FuzzRead readingfile:FuzzRead labfile:FuzzRead shelffile:FuzzRead \
  jobfile:FuzzRead mapfile:FuzzRead photofile:FuzzRead; do
  go test -run xxx -fuzz "${reader#*:}\$" -fuzztime "$long" -fuzzminimizetime 10x "./exchange/${reader%:*}"
done
