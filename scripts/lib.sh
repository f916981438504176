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

# Reference libraries from PyPI that read back what is written (drawings, pages, solids), in target/python. Where they cannot
# be had the tests that want them say so and leave that comparison out.
python_tools() {
  local wanted="ezdxf==1.4.5 manifold3d==3.5.4 icalendar==6.3.2 numpy==2.4.6 pillow==12.0.0 pypdf==7.1.1 rectpack==0.2.2 trimesh==5.2.0"
  local folder=target/python
  [ "$(cat "$folder/.wanted" 2>/dev/null)" = "$wanted" ] && return
  say "reference libraries from PyPI: $wanted"
  mkdir -p target
  # shellcheck disable=SC2086
  if python3 -m venv --clear "$folder" && "$folder/bin/pip" install --quiet --disable-pip-version-check $wanted; then
    echo "$wanted" >"$folder/.wanted"
  else
    say "they could not be installed: drawings and solids are not read back by them"
  fi
}

front_end() {
  packages web
  if [ ! -e web/dist/index.html ] || [ -n "$(find web/src web/index.html web/vite.config.ts web/package-lock.json docs/schema -newer web/dist/index.html -print -quit)" ]; then
    say "building the front end"
    (cd web && node node_modules/vite/bin/vite.js build --logLevel warn)
  fi
}
