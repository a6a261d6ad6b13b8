#!/usr/bin/env bash
# Installs what is missing, then starts the product. See README.md for the options.
set -euo pipefail
cd "$(dirname "$0")"
. scripts/install.sh
need node:nodejs
need_debian postgresql ffmpeg pocketsphinx pocketsphinx-en-us espeak-ng $OFFICE
need_npm
exec node --import tsx scripts/start.ts "$@"
