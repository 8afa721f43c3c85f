# Shared by ./start and ./check: brings in what is missing, one line a step. Sourced, not run.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root" || exit 1
# Some machines tell Python to keep nothing that it has read: each process would read all of it anew.
unset PYTHONDONTWRITEBYTECODE
setup_log=$(mktemp "${TMPDIR:-/tmp}/ebbrin-setup.XXXXXX")
trap 'rm -f "$setup_log" "$setup_log".*' EXIT

# step NAME WHAT-TO-DO COMMAND...: run quietly, show a name with the seconds, explain a failure.
step() {
  local name=$1 advice=$2
  shift 2
  "$@" >"$setup_log" 2>&1 </dev/null &
  await "$name" "$advice" $! "$setup_log" $SECONDS
}

# beside NAME WHAT-TO-DO COMMAND...: begin a step that needs no other; settle: wait for all that were begun, and show each.
others=0
beside() {
  local log=$setup_log.$others
  other_name[others]=$1 other_advice[others]=$2
  shift 2
  "$@" >"$log" 2>&1 </dev/null &
  other_job[others]=$!
  others=$((others + 1))
}

settle() {
  local k began=$SECONDS
  for ((k = 0; k < others; k++)); do
    await "${other_name[k]}" "${other_advice[k]}" "${other_job[k]}" "$setup_log.$k" "$began"
  done
  rm -f "$setup_log".*
  others=0
}

await() { # $1 name, $2 what to do, $3 job, $4 its log, $5 when it began
  local name=$1 advice=$2 job=$3 log=$4 began=$5
  printf '  %-12s ' "$name"
  while kill -0 "$job" 2>/dev/null; do
    if [ -t 1 ]; then printf '\r  %-12s %s s' "$name" "$((SECONDS - began))"; fi
    sleep 0.2
  done
  if wait "$job"; then
    if [ -t 1 ]; then printf '\r'; printf '  %-12s ' "$name"; fi
    printf 'done in %s s\n' "$((SECONDS - began))"
  else
    printf '\n  failed       %s. The last lines:\n' "$name" >&2
    tail -n 15 "$log" >&2
    printf '  What to do:  %s\n' "$advice" >&2
    exit 1
  fi
}

apt_install() {
  local as=()
  if [ "$(id -u)" != 0 ]; then
    if ! command -v sudo >/dev/null; then
      printf '  failed       %s missing, and there is no sudo to install it.\n' "$*" >&2
      printf '  What to do:  as root, run: apt-get install %s\n' "$*" >&2
      exit 1
    fi
    printf '  packages     %s is missing; asking sudo to install it from Debian\n' "$*"
    sudo -v || exit 1
    as=(sudo)
  fi
  step "apt index" "Check the network and Debian's package sources." "${as[@]}" apt-get update -qq
  step "packages" "Run by hand: apt-get install $*" "${as[@]}" env DEBIAN_FRONTEND=noninteractive \
    apt-get install -y -qq --no-install-recommends "$@"
}

find_python() {
  local candidate
  # Debian's own is one program; others bring their core as a library, which takes a tenth more of all time.
  if /usr/bin/python3 -c 'import ensurepip, sys, venv; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    python=/usr/bin/python3
    return
  fi
  for candidate in python3.13 python3.12 python3.11 python3; do
    if "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      python=$candidate
      return
    fi
  done
  apt_install python3 python3-venv
  python=python3
  if ! python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
    printf '  failed       Python 3.11 or newer is needed.\n' >&2
    exit 1
  fi
}

setup_python() { # $1: run or check
  local wanted stamp=.venv/.ebbrin-lock
  find_python
  wanted="$1 $(cat "requirements/$1.lock" | sha256sum | cut -d' ' -f1)"
  # The packages for checking include those for running.
  if [ "$1" = run ] && [ "$(head -n1 $stamp 2>/dev/null)" = "check $(cat requirements/check.lock | sha256sum | cut -d' ' -f1)" ]; then
    return
  fi
  if [ "$(head -n1 $stamp 2>/dev/null)" = "$wanted" ] && [ "$(tail -n1 $stamp)" = "$root" ]; then
    return
  fi
  if ! "$python" -c 'import ensurepip, venv' 2>/dev/null; then apt_install python3-venv; fi
  step "python" "Check the network; delete the folder .venv and try again." "$python" -m venv --clear .venv
  step "packages.py" "Check the network; delete the folder .venv and try again." \
    .venv/bin/python -m pip install --disable-pip-version-check --require-hashes -r "requirements/$1.lock"
  step "ebbrin" "Delete the folder .venv and try again." \
    .venv/bin/python -m pip install --disable-pip-version-check --no-deps --no-build-isolation -e .
  printf '%s\n%s\n' "$wanted" "$root" >"$stamp"
}

find_node() {
  if ! node -e 'process.exit(parseInt(process.versions.node) >= 20 ? 0 : 1)' 2>/dev/null; then
    printf '  failed       Node 20 or newer is needed to build the page (found: %s).\n' "$(node --version 2>/dev/null || echo none)" >&2
    printf '  What to do:  install Node 20 or newer, then try again.\n' >&2
    exit 1
  fi
}

setup_web() {
  local wanted built
  find_node
  wanted=$(sha256sum web/package-lock.json | cut -d' ' -f1)
  if [ "$(cat web/node_modules/.ebbrin-lock 2>/dev/null)" != "$wanted" ]; then
    step "packages.js" "Check the network; delete web/node_modules and try again." npm --prefix web ci
    printf '%s' "$wanted" >web/node_modules/.ebbrin-lock
  fi
  built=$(cd web && find src public index.html package-lock.json vite.config.ts tsconfig.json -type f -print0 |
    LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  if [ "$(cat web/dist/.ebbrin-sources 2>/dev/null)" != "$built" ]; then
    step "page" "Read the lines above; they name the file." npm --prefix web run build
    printf '%s' "$built" >web/dist/.ebbrin-sources
  fi
}

setup_compiled() {
  step "computation" "Read the lines above; the computation does not compile." .venv/bin/python -m ebbrin.app.warmth
}

setup_postgres() {
  if ! ls /usr/lib/postgresql/*/bin/pg_ctl >/dev/null 2>&1; then apt_install postgresql; fi
}

setup_chromium() {
  if ! command -v chromium-headless-shell >/dev/null; then apt_install chromium-headless-shell; fi
}
