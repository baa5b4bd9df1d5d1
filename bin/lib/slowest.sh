#!/usr/bin/env bash
# The ten test classes that took longest, from the reports of the last run, and all of them together.
cd "$(dirname "$0")/../.."
grep -ho '<testsuite [^>]*' */target/surefire-reports/TEST-*.xml 2>/dev/null \
  | sed -n 's/.* name="\([^"]*\)".* time="\([0-9.,]*\)".* tests="\([0-9]*\)".*/\2 \3 \1/p' \
  | tr -d , | sort -rn \
  | awk '{ all += $1; tests += $2; if (NR <= 10) printf "%8.1f s  %4d tests  %s\n", $1, $2, $3 }
         END { printf "%8.1f s  %4d tests  in all %d classes\n", all, tests, NR }'
