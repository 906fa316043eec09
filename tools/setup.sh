#!/usr/bin/env bash
# Makes .venv and the system libraries complete; does nothing, quickly, when they already are.
set -euo pipefail
cd "$(dirname "$0")/.."

# What Qt needs to open a window on X11, and what the tests and the demo need for a screen of their own.
packages=(xvfb openbox dbus-daemon at-spi2-core xdotool xclip xkb-data x11-xkb-utils libxkbcommon-tools libglib2.0-bin
  fonts-inter libxcb-cursor0 libxkbcommon-x11-0
  libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0
  libxcb-xinerama0 libxcb-xkb1 libegl1 libgl1 libdbus-1-3 libfontconfig1)

missing=()
if command -v dpkg-query >/dev/null; then
  have=$(dpkg-query -W -f '${Package} ${Status}\n' "${packages[@]}" 2>/dev/null | sed -n 's/ install ok installed$//p' || true)
  for name in "${packages[@]}"; do
    grep -qx "$name" <<<"$have" || missing+=("$name")
  done
elif ! command -v Xvfb >/dev/null || ! command -v xdotool >/dev/null; then
  echo "Please install, with your system's own package manager: Xvfb, openbox, xdotool, the Inter font, libxcb-cursor."
fi
if [ ${#missing[@]} -gt 0 ]; then
  if [ "$(id -u)" = 0 ]; then
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -qq -y --no-install-recommends "${missing[@]}" >/dev/null
  elif sudo -n true 2>/dev/null; then
    sudo apt-get update -qq && sudo apt-get install -qq -y --no-install-recommends "${missing[@]}" >/dev/null
  else
    echo "Some system libraries are missing. Please run this line once, then start again:"
    echo "  sudo apt-get install -y ${missing[*]}"
    exit 1
  fi
fi

stamp=".venv/.set-up-$(cat requirements/dev.lock pyproject.toml | sha256sum | cut -c1-16)"
if [ ! -e "$stamp" ]; then
  python=${PYTHON:-python3}
  "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
    { echo "Rimecrest needs Python 3.11 or newer; set PYTHON to one, as in: PYTHON=python3.12 make demo"; exit 1; }
  [ -x .venv/bin/python ] || "$python" -m venv .venv
  .venv/bin/python -m pip install -q -r requirements/dev.lock
  .venv/bin/python -m pip install -q --no-deps --no-build-isolation -e .
  rm -f .venv/.set-up-*
  touch "$stamp"
fi
