#!/usr/bin/env bash
# Builds the kit, the web application and bin/ubiquant, each only where its
# sources changed since the last time. start.sh and test.sh call it.
set -euo pipefail
cd "$(dirname "$0")"
mkdir -p .build bin server/assets/files

stamp() { # stamp NAME PATHS…: true where the sources differ from the last build's
  local name=$1; shift
  local sum
  sum=$(git ls-files -z --cached --others --exclude-standard -- "$@" 2>/dev/null | xargs -0 sha256sum 2>/dev/null | sha256sum | cut -d' ' -f1) || true
  if [ "$(cat ".build/$name" 2>/dev/null)" = "$sum" ]; then return 1; fi
  echo "$sum" > ".build/$name.new"
}
built() { mv ".build/$1.new" ".build/$1"; }
modules() { # installs npm packages where the lock changed
  local dir=$1
  if ! cmp -s "$dir/package-lock.json" "$dir/node_modules/.lock-installed"; then
    echo "Installing the packages of $dir …"
    # Not "npm ci": some npm versions write optional platform packages into the lock
    # without a version, and then refuse their own lock.
    (cd "$dir" && npm install --no-save --no-audit --no-fund --loglevel=error >/dev/null)
    cp "$dir/package-lock.json" "$dir/node_modules/.lock-installed"
  fi
}

if [ ! -d server/assets/files/kit ] || [ ! -d server/assets/files/kit-next ]; then rm -f .build/kit; fi
if [ ! -d server/assets/files/app ]; then rm -f .build/web; fi

if stamp kit kits/sorrel; then
  modules kits/sorrel
  echo "Building the kit …"
  (cd kits/sorrel && node build.mjs && node build.mjs --next)
  # The version in use, and the one that came after it.
  for from in kits/sorrel:kit kits/sorrel/.next:kit-next; do
    to=server/assets/files/${from#*:}
    rm -rf "$to" && mkdir -p "$to"
    for name in package.json CHANGELOG.md custom-elements.json sorrel.tokens.json sorrel.notes.json icons.json dist; do cp -r "${from%:*}/$name" "$to/"; done
  done
  built kit
fi
if ! cmp -s demo/fernhollow.json server/assets/files/demo.json; then cp demo/fernhollow.json server/assets/files/demo.json; fi
if [ -d web ] && stamp web web server/api core/screen/edit.go core/render/acts.js core/geometry/measure.js; then
  modules web
  echo "Building the web application …"
  go run ./cmd/ubiquant openapi > web/openapi.json
  (cd web && npm run --silent build)
  rm -rf server/assets/files/app && cp -r web/dist server/assets/files/app
  cp web/dist-frame/frame.js server/assets/files/frame.js
  cp web/dist-inks/inks.js server/assets/files/inks.js
  built web
fi
if [ ! -x bin/ubiquant ] || stamp bin core server cmd docs go.mod go.sum kits/sorrel web demo/fernhollow.json; then
  echo "Building bin/ubiquant …"
  go build -trimpath -o bin/ubiquant ./cmd/ubiquant
  stamp bin core server cmd docs go.mod go.sum kits/sorrel web demo/fernhollow.json && built bin || true
fi
