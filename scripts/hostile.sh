#!/usr/bin/env bash
# Feeds bad inputs to the built product. Installs what damages files besides what the tests need.
set -euo pipefail
. scripts/install.sh
need_debian postgresql ffmpeg zzuf $OFFICE
exec node --import tsx tests/hostile/run.ts "$@"
