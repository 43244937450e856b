# Helpers that start.sh and test.sh share: finding tools and installing packages.

need_tools() {
  if ! command -v go >/dev/null && [ -x /usr/local/go/bin/go ]; then export PATH=$PATH:/usr/local/go/bin; fi
  for tool in go node npm; do
    command -v "$tool" >/dev/null || { echo "$tool is missing; Ubiquant is built with Go 1.26 and Node 20 or newer" >&2; exit 2; }
  done
}

# need_package NAME PROGRAM…: installs a Debian package where none of the programs is there.
need_package() {
  local name=$1; shift
  local pattern
  for pattern in "$@"; do
    compgen -G "$pattern" >/dev/null && return 0
  done
  if [ "$(id -u)" != 0 ]; then
    echo "$name is not installed. As root run: apt-get install -y --no-install-recommends $name" >&2
    exit 2
  fi
  echo "Installing $name …"
  export DEBIAN_FRONTEND=noninteractive
  # Debian's package would make and start a cluster of its own; ours is private.
  if [ "$name" = postgresql ] && [ ! -e /etc/postgresql-common/createcluster.conf ]; then
    mkdir -p /etc/postgresql-common
    echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf
  fi
  apt-get update -qq
  apt-get install -y -qq --no-install-recommends "$name" >/dev/null
}
