#!/bin/sh
# Runs a program so that it gives memory back once it is done with it. The worker and its encoders come and go with pictures of several
# megabytes, which glibc otherwise keeps (mallopt(3): M_ARENA_MAX, M_MMAP_THRESHOLD, M_TRIM_THRESHOLD). Elsewhere this changes nothing.
export MALLOC_ARENA_MAX=1 MALLOC_MMAP_THRESHOLD_=262144 MALLOC_TRIM_THRESHOLD_=1048576
# Room for what is short-lived, in MB for each of three parts: the usual 16 are never given back.
export NODE_OPTIONS="${NODE_OPTIONS:-} --max-semi-space-size=2"
exec "$@"
