#!/usr/bin/env bash
# What takes long or needs other browsers and decoders. Ends with a line "N passed, N failed".
set -euo pipefail
cd "$(dirname "$0")/.."
. scripts/install.sh
need node:nodejs
need_debian postgresql ffmpeg chromium libreoffice-writer-nogui zzuf firefox-esr nginx-light openssl systemd pulseaudio xvfb \
  gstreamer1.0-tools gstreamer1.0-plugins-base gstreamer1.0-plugins-bad
need_npm
exec node --import tsx scripts/test.ts deep
