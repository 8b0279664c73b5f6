#!/bin/sh
# The browser and driver that tests and pictures use, from Debian's packages.
# The headless shell is the same Chromium without its window: it takes a sixth less time.
set -eu
PACKAGES="chromium-headless-shell chromium-driver fonts-dejavu-core"
WANT="apt-get install -y --no-install-recommends $PACKAGES"
export DEBIAN_FRONTEND=noninteractive
# A driver only drives the browser of its own version.
versions() { dpkg-query -W -f '${db:Status-Status} ${Version}\n' chromium-headless-shell chromium-driver 2>/dev/null | sort -u; }
[ "$(versions | grep -c '^installed ')" = 1 ] && [ -x /usr/bin/chromium-headless-shell ] && [ -x /usr/bin/chromedriver ] && exit 0
if [ "$(id -u)" = 0 ]; then
  apt-get update -qq && $WANT -qq
elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
  sudo apt-get update -qq && sudo $WANT -qq
else
  echo "Chromium's headless shell and its driver are missing. Run this, then try again:" >&2
  echo "  sudo apt-get update && sudo $WANT" >&2
  exit 1
fi
