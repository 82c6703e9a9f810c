#!/bin/bash
# One clear sentence when the machine lacks what a target needs: preflight.sh [python] [node] [chromium]
set -euo pipefail

stop() { echo "jackstaff: $*" >&2; exit 1; }

for need in "$@"; do
  case "$need" in
    python)
      command -v "$PYTHON" > /dev/null || stop "Python 3.11 or later is missing: install python3 and python3-venv."
      "$PYTHON" -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
        stop "$("$PYTHON" --version) is too old: Python 3.11 or later is needed (make PYTHON=/path/to/python3.11)."
      "$PYTHON" -c 'import venv, ensurepip' 2> /dev/null ||
        stop "Python's venv module is missing: apt-get install python3-venv."
      ;;
    node)
      command -v npm > /dev/null || stop "Node 20.19 or later with npm is missing: install Node 20 and npm."
      node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 22 || (a === 22 && b >= 12) || (a === 20 && b >= 19) ? 0 : 1)' ||
        stop "Node $(node --version) is too old to build the interface: 20.19 or 22.12 and later are needed."
      ;;
    chromium)
      command -v chromium-headless-shell > /dev/null && continue
      [ "$(id -u)" = 0 ] ||
        stop "The browser tests need Debian's Chromium: run 'apt-get install chromium-headless-shell' as root, then try again."
      echo "Installing Debian's Chromium without a window for the browser tests ..."
      { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell; } > build/chromium.log 2>&1 ||
        stop "apt-get could not install it; build/chromium.log says why."
      ;;
  esac
done
