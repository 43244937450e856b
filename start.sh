#!/usr/bin/env bash
# Starts Ubiquant: installs what is missing, builds what changed, starts a private
# PostgreSQL on loopback, loads the demo into an empty database, and serves.
#
#   ./start.sh [--port 4780] [--fresh [--yes]] [--build-only] [--data DIR]
#
# Ctrl+C ends all that it started.
set -euo pipefail
cd "$(dirname "$0")"
. ./install.sh

args=()
build_only=
while [ $# -gt 0 ]; do
  case $1 in
    --build-only) build_only=1 ;;
    --port | --data) [ $# -ge 2 ] || { echo "start.sh: $1 needs a value" >&2; exit 2; }; args+=("$1" "$2"); shift ;;
    --port=* | --data=* | --fresh | --yes) args+=("$1") ;;
    -h | --help) sed -n '2,8s/^# \{0,1\}//p' "$0"; exit 0 ;;
    *) echo "start.sh: $1 is not known; accepted: --port N, --fresh, --yes, --build-only, --data DIR" >&2; exit 2 ;;
  esac
  shift
done

need_tools
[ -n "$build_only" ] || need_package postgresql '/usr/lib/postgresql/*/bin/postgres'
./build.sh
[ -n "$build_only" ] && { echo "Built bin/ubiquant."; exit 0; }
exec ./bin/ubiquant serve "${args[@]}"
