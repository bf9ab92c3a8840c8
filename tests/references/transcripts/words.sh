#!/usr/bin/env bash
# Writes the words of the printed layouts and of the documents as other readers see them, for the check in Vitrine.Formats.Tests:
# poppler's pdftotext -layout (Debian package poppler-utils) and pandoc (pandoc). Run by hand after make.py.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
for file in *.pdf; do printf '=== %s\n' "$file"; pdftotext -layout -enc UTF-8 "$file" - | tr -d '\f'; done >pdftotext.words
for file in *.docx; do printf '=== %s\n' "$file"; pandoc -f docx -t plain --wrap=none "$file"; done >pandoc.words
{ pdftotext -v 2>&1 | head -1; pandoc --version | head -1; } >versions
