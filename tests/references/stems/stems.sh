#!/usr/bin/env bash
# The words of Debian's wamerican in small letters, each with its stem by the reference program of Snowball (libstemmer-tools 2.2.0).
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
words=$(mktemp)
trap 'rm -f "$words"' EXIT
tr '[:upper:]' '[:lower:]' </usr/share/dict/american-english | grep -E "^[a-z']+$" | LC_ALL=C sort -u >"$words"
paste "$words" <(stemwords -l en -i "$words") | gzip -9n >english.tsv.gz
