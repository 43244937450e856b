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

if [ ! -d server/assets/files/app ]; then rm -f .build/web; fi
if [ ! -d server/assets/files/readers ]; then rm -f .build/readers; fi

if stamp readers readers; then
  modules readers
  echo "Building the readers …"
  (cd readers && npm run --silent check && npm run --silent build)
  rm -rf server/assets/files/readers && cp -r readers/dist server/assets/files/readers
  built readers
fi
if [ ! -d server/assets/files/kits ] || [ ! -d server/assets/files/registry ]; then rm -f .build/kit; fi
if stamp kit kits readers server/intake core/kit; then
  for name in sorrel tansy yarrow; do modules kits/$name; done
  echo "Building the kits …"
  (cd kits/sorrel && node build.mjs && node build.mjs --next)
  for name in tansy yarrow; do (cd kits/$name && rm -rf dist && npm run --silent build); done
  # The demo's kits are packed as any team's are.
  rm -rf server/assets/files/kit server/assets/files/kit-next
  mkdir -p server/assets/files/kits
  go build -o .build/ubiquant ./cmd/ubiquant
  for from in kits/sorrel:sorrel kits/sorrel/.next:sorrel-next kits/tansy:tansy kits/yarrow:yarrow kits/clover:clover; do
    to=server/assets/files/kits/${from#*:}.kit
    .build/ubiquant intake . --dir "${from%:*}" --whole --out "$to" >.build/intake.txt 2>&1 || { cat .build/intake.txt; exit 1; }
  done
  # What the demo's registry has beside them.
  rm -rf server/assets/files/registry && mkdir -p server/assets/files/registry
  cp -r kits/campion server/assets/files/registry/campion
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
if [ ! -x bin/ubiquant ] || stamp bin core server cmd docs go.mod go.sum kits readers web demo/fernhollow.json; then
  echo "Building bin/ubiquant …"
  go build -trimpath -o bin/ubiquant ./cmd/ubiquant
  stamp bin core server cmd docs go.mod go.sum kits readers web demo/fernhollow.json && built bin || true
fi
