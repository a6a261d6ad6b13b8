#!/usr/bin/env bash
# Installs what is missing, then runs every check. Ends with a line "N passed, N failed".
set -euo pipefail
cd "$(dirname "$0")"
. scripts/install.sh
need node:nodejs
need_debian postgresql ffmpeg chromium pocketsphinx pocketsphinx-en-us espeak-ng $OFFICE
need_npm
exec node --import tsx scripts/test.ts "$@"
