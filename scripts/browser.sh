#!/bin/sh
# The browser and driver that tests and pictures use, from Debian's packages.
set -eu
[ -x /usr/bin/chromium ] && [ -x /usr/bin/chromedriver ] && exit 0
WANT="apt-get install -y --no-install-recommends chromium chromium-driver fonts-dejavu-core"
export DEBIAN_FRONTEND=noninteractive
if [ "$(id -u)" = 0 ]; then
  apt-get update -qq && $WANT -qq
elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
  sudo apt-get update -qq && sudo $WANT -qq
else
  echo "Chromium and its driver are missing. Run this, then try again:" >&2
  echo "  sudo apt-get update && sudo $WANT" >&2
  exit 1
fi
