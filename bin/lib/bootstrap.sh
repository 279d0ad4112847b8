# Shared by bin/start and bin/test: what must be on the machine before any of our JavaScript can run.
# Sourced with $ROOT set. Every failure is one clear sentence and a non-zero exit.

say() { printf '%s\n' "$*" >&2; }
fail() { say "typica: $*"; exit 1; }

need_node() {
  command -v node >/dev/null 2>&1 || fail "Node.js is not installed; install Node.js 20.15 or newer and start again."
  node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=15)?0:1)' ||
    fail "Node.js $(node -v) is too old; 20.15 or newer is needed."
}

# need_debian COMMAND PACKAGE [COMMAND PACKAGE ...]: installs the packages whose command is missing.
need_debian() {
  local missing=()
  while [ $# -gt 0 ]; do
    command -v "$1" >/dev/null 2>&1 || [ -x "/usr/sbin/$1" ] || missing+=("$2")
    shift 2
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  command -v apt-get >/dev/null 2>&1 || fail "missing: ${missing[*]}. Install them (no apt-get here) and start again."
  local sudo=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null 2>&1 || fail "missing: ${missing[*]}. Run as root: apt-get install ${missing[*]}"
    sudo=(sudo)
  fi
  say "typica: installing from Debian: ${missing[*]}"
  local log; log=$(mktemp)
  if ! { "${sudo[@]}" apt-get update -qq && "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}"; } >"$log" 2>&1; then
    tail -n 15 "$log" >&2
    fail "Debian's packages could not be installed: ${missing[*]}. The last lines of apt-get are above."
  fi
  rm -f "$log"
}

# npm ci when package-lock.json is not the one that node_modules was made from. With "start": only what building and running needs.
need_modules() {
  local stamp="$ROOT/node_modules/.typica-lock" want have="" which=--include=dev
  want=$(sha256sum "$ROOT/package-lock.json" | cut -d' ' -f1)
  [ ! -f "$stamp" ] || have=$(cat "$stamp")
  [ "$have" != "$want" ] || return 0
  if [ "${1:-}" = start ]; then
    want="$want start" which=--omit=dev
    [ "$have" != "$want" ] || return 0
  fi
  say "typica: installing npm packages (about a minute)"
  # Said either way: NODE_ENV decides where nothing is said.
  (cd "$ROOT" && npm ci "$which" --no-audit --no-fund --loglevel=error >&2) ||
    fail "npm ci failed; its own words are above. Is the npm registry reachable?"
  printf '%s' "$want" >"$stamp"
}
