#!/usr/bin/env bash
# Builds dist/vennpair-*.whl with the built console inside: all that a server needs.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
inside=src/vennpair/service/built_console
trap 'rm -rf "$inside" build' EXIT
rm -rf "$inside" build dist
cp -r console/dist "$inside"
rm -f "$inside/.stamp"
.venv/bin/pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .
ls -1 dist
