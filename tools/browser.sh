#!/bin/sh
# Gets Chromium for the tests of the HTML pages, where the system's packages allow it. Does nothing when it is there.
set -u

for name in chromium chromium-browser google-chrome; do
    command -v "$name" >/dev/null 2>&1 && exit 0
done
if ! command -v apt-get >/dev/null 2>&1; then
    echo "this system has no apt-get; install Chromium by hand"
    exit 0
fi
as_root=""
if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null 2>&1 || { echo "not root and no sudo; install Chromium by hand"; exit 0; }
    as_root="sudo"
fi
$as_root apt-get update -q
DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -q chromium || echo "apt-get could not install chromium"
exit 0
