#!/usr/bin/env bash
# Prints the pages that are written here with Debian's chromium. Run by hand: tests/references/prints/make.sh
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
# One column, then an appendix in two, then one again; words are cut whose pieces are words of the text.
open("appendix.html", "w").write(f"""<!doctype html><meta charset=utf-8><style>
@page {{ size: A4; margin: 20mm }} body {{ font: 10pt serif; margin: 0 }} p {{ margin: 0 0 6pt }} div {{ columns: 2; column-gap: 10mm }} h2 {{ font-size: 14pt }}</style>
<p>The report begins with a foot and a path, and all that was said on the quay, and this first paragraph runs over more than one line of the page.</p>
<p>They ask for a self-<br>service gate, a foot-<br>path, a gang-<br>way and a well-<br>known face at the gate.</p>
<p>{said[0]}</p><p>{said[2]}</p><p>{said[0]}</p><p>{said[2]}</p><p>{said[0]}</p><p>{said[2]}</p>
<h2>Appendix: what was said</h2><div>""" + "".join(f"<p>Answer {i} says that {said[2].lower()}</p>" for i in range(1, 9)) + f"""</div>
<p>The end of the report runs over both columns again, and says in one long sentence more than could stand in a single one of them.</p>""")
PY
for name in ${*:-long-talk two-columns appendix}; do
  chromium-headless-shell --headless --no-sandbox --disable-gpu --no-pdf-header-footer --print-to-pdf="$name.pdf" "file://$PWD/$name.html" 2>/dev/null
done
rm -f long-talk.html two-columns.html appendix.html
