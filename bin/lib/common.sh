# Shared by the commands in bin/. Sourced, never run.
set -euo pipefail
HOME_DIR=$(cd "$(dirname "${BASH_SOURCE[0]}")/../.." && pwd)

say() { printf '%s\n' "$*"; }
step() { printf '%s  %s\n' "$(date +%H:%M:%S)" "$*"; }
fail() { printf '%s: %s\n' "$(basename "$0")" "$*" >&2; exit 3; }

is_root() { [ "$(id -u)" -eq 0 ]; }

# Runs a command as root: as it is, or by sudo.
as_root() {
  if is_root; then "$@"
  elif command -v sudo >/dev/null 2>&1; then sudo "$@"
  else fail "this needs root for: $*. Run it as root, or install sudo."
  fi
}

# Installs those of Debian's packages that are not there yet.
need_packages() {
  local missing=() p
  for p in "$@"; do
    dpkg-query -W -f='${Status}' "$p" 2>/dev/null | grep -q 'ok installed' || missing+=("$p")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  command -v apt-get >/dev/null || fail "apt-get is missing; install these by hand: ${missing[*]}"
  step "installing from Debian's packages: ${missing[*]}"
  local log; log=$(mktemp)
  # a package's own service is not wanted: this project starts its own servers, on its own ports
  if ! { as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive RUNLEVEL=1 \
      apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >"$log" 2>&1 </dev/null; then
    tail -n 5 "$log" >&2
    fail "apt-get could not install ${missing[*]}; see $log"
  fi
  rm -f "$log"
}

need_tools() {
  local t
  for t in java javac mvn node npm; do
    command -v "$t" >/dev/null || case $t in
      java|javac) need_packages openjdk-17-jdk-headless ;;
      mvn) need_packages maven ;;
      *) fail "$t is missing: install Node 20 with npm, then run this again" ;;
    esac
  done
  local major
  major=$(java -XshowSettings:properties -version 2>&1 | sed -n 's/ *java.specification.version = //p')
  [ "${major%%.*}" -ge 17 ] 2>/dev/null || fail "Java $major is too old: install OpenJDK 17"
  major=$(node -p 'process.versions.node.split(".")[0]')
  [ "$major" -ge 20 ] || fail "Node $major is too old: install Node 20"
}

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
need_port() {
  port_free "$1" || fail "port $1 on 127.0.0.1 is taken ($2). Stop what uses it, or choose others: $3"
}

# Builds what is older than its sources. Prints progress, keeps the full output in var/build.log.
build() {
  mkdir -p "$HOME_DIR/var"
  local stamp=$HOME_DIR/var/built
  if [ -f "$stamp" ] && [ -d "$HOME_DIR/service/target/app" ] && [ -f "$HOME_DIR/client/target/jandrel.jsa" ] && [ -z "$(find \
      "$HOME_DIR"/{api,core,formats,sources,store,service,client,console,demo,pom.xml} \
      \( -name node_modules -o -name target -o -name dist \) -prune -o -type f -newer "$stamp" -print -quit)" ]; then
    return 0
  fi
  step "building (the first time takes some minutes; output in var/build.log)"
  local started; started=$(date +%s)
  ( cd "$HOME_DIR" && mvn -B -T 2 -q -DskipTests package -pl service,client,demo -am ) >"$HOME_DIR/var/build.log" 2>&1 </dev/null &
  local pid=$!
  while kill -0 $pid 2>/dev/null; do
    sleep 1
    [ $(( ($(date +%s) - started) % 30 )) -eq 0 ] && step "still building"
  done
  wait $pid || { grep -m 8 -E 'ERROR|npm ERR' "$HOME_DIR/var/build.log" >&2 || tail -n 8 "$HOME_DIR/var/build.log" >&2; fail "the build failed; see var/build.log"; }
  step "making the start-up archives"
  "$HOME_DIR/bin/lib/archives.sh" >>"$HOME_DIR/var/build.log" 2>&1 || fail "the start-up archives could not be made; see var/build.log"
  touch "$stamp"
  step "built in $(( $(date +%s) - started )) s"
}
