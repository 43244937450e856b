#!/usr/bin/env bash
# Runs all tests. -short leaves out the journeys in Chromium and the delivered application.
set -euo pipefail
cd "$(dirname "$0")"
exec go test ./...
