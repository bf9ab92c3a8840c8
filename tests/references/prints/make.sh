#!/usr/bin/env bash
# Prints long-talk.html and two-columns.html, which are written here, with Debian's chromium. Run by hand: tests/references/prints/make.sh
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
python3 - <<'PY'
import html
said = ["I waited on the quay, and the ferry&shy;man said that the timetable had changed since Tuesday, which nobody had told us about before.",
        "The final offer was a different ticket.",
        "Nobody tells you. You have to know somebody who works there, or a neighbour, or you stand in the rain until the next boat comes in, and that is two hours."]
turns = "".join(f"<p>{w}: {said[i % 3]}</p>" for i, w in enumerate(["Ida", "Sorrel", "Wren"] * 40))
turns += "<p>Ida: They print the time-<br>table anew, and the well-<br>known board, and a gang-<br>way is moved.</p><p>Sorrel: It is well-known.</p>"
open("long-talk.html", "w").write(f"""<!doctype html><meta charset=utf-8><style>
@page {{ size: A5; margin: 22mm 18mm; @top-center {{ content: "Talks on the quay, draft 3"; font: 9pt serif }} @bottom-center {{ content: "Page " counter(page) " of " counter(pages); font: 9pt serif }} }}
body {{ font: 11pt serif; margin: 0 }} p {{ margin: 0; line-height: 1.2 }} h2 {{ font-size: 17pt; margin: 0 0 6pt }}</style><h2>Boarding without a car</h2>{turns}""")
open("two-columns.html", "w").write(f"""<!doctype html><meta charset=utf-8><style>
@page {{ size: A4; margin: 20mm }} body {{ font: 10pt serif; margin: 0; columns: 2; column-gap: 10mm }} p {{ margin: 0 0 6pt }}</style>
""" + "".join(f"<p>Paragraph {i} says that {said[2].lower()}</p>" for i in range(1, 25)))
PY
for name in long-talk two-columns; do
  chromium --headless --no-sandbox --disable-gpu --no-pdf-header-footer --print-to-pdf="$name.pdf" "file://$PWD/$name.html" 2>/dev/null
  rm "$name.html"
done
