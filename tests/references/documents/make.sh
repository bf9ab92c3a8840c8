#!/usr/bin/env bash
# Writes the documents of the check in Vitrine.Formats.Tests and, beside each, its words as other readers see them:
# pandoc (Debian package pandoc) for .docx .html .md, poppler's pdftotext (poppler-utils) for the .pdf that Debian's chromium prints.
# Run by hand when quay-report.md changes: tests/references/documents/make.sh
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
for to in docx odt rtf html; do pandoc -f markdown -t "$to" -s --metadata title=" " quay-report.md -o "quay-report.$to" 2>/dev/null; done
sed -i 's#<style.*#<style>body{font:13pt serif;margin:0} h2{break-before:page}</style><style>#' quay-report.html
chromium --headless --no-sandbox --disable-gpu --no-pdf-header-footer --print-to-pdf=quay-report.pdf "file://$PWD/quay-report.html" 2>/dev/null
for from in docx html; do pandoc -f "$from" -t plain --wrap=none "quay-report.$from" | sed -E 's/^[[:space:]]*[0-9]+\.[[:space:]]//' >"quay-report.$from.words"; done
pandoc -f markdown -t plain --wrap=none quay-report.md | sed -E 's/^[[:space:]]*[0-9]+\.[[:space:]]//' >quay-report.md.words
pdftotext -enc UTF-8 quay-report.pdf quay-report.pdf.words
# pandoc 2.17 reads .rtf with a character missing after each one written as \u, and .odt without a table's first row: both are held against the words of the .md that they were written from.
{ pandoc --version | head -1; pdftotext -v 2>&1 | head -1; } >versions
# Comments beside words: written by pandoc, read by us (commented.md says what stands beside what).
pandoc commented.md -o commented.docx
