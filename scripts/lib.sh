# Shared by the scripts: says what it does, installs what is missing. Sourced, not run.

project=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$project" || exit 1

say() { printf '\033[1m== %s\033[0m\n' "$*" >&2; }
fail() { printf '\n%s\n' "$*" >&2; exit 1; }

# need PACKAGE TEST...: installs a Debian package unless the test command succeeds.
missing=()
need() {
  local package=$1
  shift
  "$@" >/dev/null 2>&1 || missing+=("$package")
}

install_missing() {
  [ ${#missing[@]} -eq 0 ] && return
  local run=()
  if [ "$(id -u)" != 0 ]; then
    sudo -n true 2>/dev/null || fail "These Debian packages are missing: ${missing[*]}
This script may not install them here. Install them yourself and run it again:
  sudo apt-get install ${missing[*]}"
    run=(sudo -n)
  fi
  command -v apt-get >/dev/null || fail "These packages are missing and there is no apt-get here: ${missing[*]}"
  say "installing from Debian's packages: ${missing[*]}"
  "${run[@]}" apt-get -o DPkg::Lock::Timeout=300 update -qq
  "${run[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends "${missing[@]}" >/dev/null ||
    fail "Installing did not work: ${missing[*]}"
}

toolchains() {
  command -v cargo >/dev/null || fail "The Rust toolchain is missing (cargo); rustup installs it."
  command -v node >/dev/null && command -v npm >/dev/null || fail "Node.js 20 or newer with npm is missing."
  need gcc command -v cc
  need libc6-dev test -e /usr/include/stdlib.h
  need libpq-dev test -e /usr/include/postgresql/libpq-fe.h
  need postgresql bash -c 'ls /usr/lib/postgresql/*/bin/initdb'
  # The solver's lanes want AVX2; an older processor gets a build without.
  if [ "$(uname -m)" = x86_64 ] && ! grep -qw avx2 /proc/cpuinfo; then
    export RUSTFLAGS="-C target-cpu=x86-64"
  fi
}

# packages FOLDER: npm packages as the lock file has them, unless they are there already.
packages() {
  local lock=$1/package-lock.json stamp=$1/node_modules/.oak-drum-lock
  cmp -s "$lock" "$stamp" && return
  say "npm packages of $1"
  (cd "$1" && npm ci --ignore-scripts --no-audit --no-fund --loglevel=error)
  cp "$lock" "$stamp"
}

front_end() {
  packages web
  if [ ! -e web/dist/index.html ] || [ -n "$(find web/src web/index.html web/vite.config.ts web/package-lock.json docs/schema -newer web/dist/index.html -print -quit)" ]; then
    say "building the front end"
    (cd web && node node_modules/vite/bin/vite.js build --logLevel warn)
  fi
}
