#!/usr/bin/env bash
# Installs what the lock file names, unless that has been done.
set -euo pipefail
cd "$(dirname "$0")"
[ -f node_modules/.package-lock.json ] && [ node_modules/.package-lock.json -nt package-lock.json ] && exit 0
npm ci --no-progress
touch node_modules/.package-lock.json
