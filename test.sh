#!/usr/bin/env bash
# Runs all tests: Go, the front end's types, journeys in Chromium against a server
# with a temporary PostgreSQL of its own, and the delivered application.
#
#   ./test.sh [-short]     -short leaves out Chromium and the delivered application
#
# Nothing that it starts is left running.
set -euo pipefail
cd "$(dirname "$0")"
. ./install.sh

short=
case ${1:-} in
  '') ;;
  -short) short=-short ;;
  *) echo "test.sh: $1 is not known; accepted: -short" >&2; exit 2 ;;
esac

need_tools
need_package postgresql '/usr/lib/postgresql/*/bin/postgres'
[ -n "$short" ] || need_package chromium /usr/bin/chromium

# Building checks the types of the kit and of the front end.
./build.sh
test -z "$(gofmt -l cmd core demo docs e2e internal server)" || { echo "gofmt would change:"; gofmt -l cmd core demo docs e2e internal server; exit 1; }
go vet ./...
go tool staticcheck ./...
(cd web && npm run --silent form:check && npm run --silent lint && npm run --silent test)
go test $short -timeout 50m ./...

lines() { git ls-files --cached --others --exclude-standard -- "$@" | xargs -r cat | grep -cv '^[[:space:]]*$'; }
tests=$(lines '*_test.go' '*.test.ts')
all=$(lines '*.go' '*.ts' '*.vue' '*.css' '*.sh' '*.mjs')
echo "Tests are $((100 * tests / all)) % of $all lines of code."
