#!/usr/bin/env python3
"""Writes one talk in many layouts, each as text, .docx and two prints, with the truth beside it.

Needs, for the making alone: pandoc, libreoffice-writer, chromium (Debian's). The layouts are common practice, no source; the talk is made up.
"""
import html, json, pathlib, subprocess, sys

here = pathlib.Path(__file__).parent
talk = [
    ("Ida", 5, "Thanks for coming. How did you hear that the boat was off?"),
    ("Sorrel", 11, "A neighbour told me at the counter. Nobody had written anything on the board at the head of the quay, and the machine went on selling tickets as if there was a boat. I bought two of them, and then I saw that nobody else was waiting."),
    ("Ida", 24, "And then?"),
    ("Sorrel", 27, "Then we waited: two hours, with the pram, in the rain. I asked the man at the machine, and he said 14:30 perhaps."),
    ("Tom", 41, "Did you buy another ticket?"),
    ("Sorrel", 45, "No. The old one was still good; they said so on the quay."),
    ("Ida", 58, "Who said so?"),
    ("Captain Reed", 61, "I did. I tell everybody who asks me."),
    ("Sorrel", 70, "That is true, he did, but only in the afternoon."),
    ("Tom", 79, "Was there a notice?"),
    ("Sorrel", 83, "Not one. The thing is: you have to know somebody."),
    ("Ida", 95, "That is all. Thank you."),
]
clock = lambda s: f"{s // 60:02}:{s % 60:02}"
long = lambda s: f"00:{clock(s)}"
day = lambda s, at=10 * 3600 + 180: f"{(at + s) // 3600 % 12 or 12}:{(at + s) // 60 % 60:02}:{(at + s) % 60:02} {'AM' if (at + s) // 3600 < 12 else 'PM'}"
until = lambda i: talk[i + 1][1] if i + 1 < len(talk) else talk[i][1] + 6
roles = {"Ida": "Interviewer", "Sorrel": "Participant 3", "Tom": "Note-taker", "Captain Reed": "Participant 9"}
codes = {"Ida": "I", "Sorrel": "P3", "Tom": "R", "Captain Reed": "P9"}
asked = lambda who: "Q" if who in ("Ida", "Tom") else "A"
said_of = {"Ida": "Ida (researcher, she)", "Sorrel": "Sorrel (P3, commuter)", "Tom": "Tom (note-taker)", "Captain Reed": "Captain Reed (crew, 9 years)"}
same = lambda who: who

# Name: (each turn's lines, speaker in truth, whether the time is told, empty line between turns)
L = {}
def one(name, form, who=same, timed=True, apart=True, shift=0):
    L[name] = ([[line for line in form(i, w, s, t)] for i, (w, s, t) in enumerate(talk)],
               [{"speaker": who(w), "beginMs": (s - shift) * 1000 if timed else None, "words": t} for w, s, t in talk], apart)

plain = dict(timed=False)
one("colon", lambda i, w, s, t: [f"{w}: {t}"], **plain)
one("colon-close", lambda i, w, s, t: [f"{w}: {t}"], apart=False, **plain)
one("colon-alone", lambda i, w, s, t: [f"{w}:", t], **plain)
one("colon-capitals", lambda i, w, s, t: [f"{w.upper()}: {t}"], who=str.upper, **plain)
one("colon-small", lambda i, w, s, t: [f"{w.lower() if w != 'Captain Reed' else w}: {t}"], who=lambda w: w.lower() if w != "Captain Reed" else w, **plain)
one("colon-full-width", lambda i, w, s, t: [f"{w}：{t}"], **plain)
one("colon-space-before", lambda i, w, s, t: [f"{w} : {t}"], **plain)
one("colon-said-of", lambda i, w, s, t: [f"{said_of[w]}: {t}"], who=said_of.get, **plain)
one("colon-roles", lambda i, w, s, t: [f"{roles[w]}: {t}"], who=roles.get, **plain)
one("colon-codes", lambda i, w, s, t: [f"{codes[w]}: {t}"], who=codes.get, apart=False, **plain)
one("colon-bold", lambda i, w, s, t: [f"**{w}:** {t}"], **plain)
one("numbered", lambda i, w, s, t: [f"{i + 1} {w}: {t}"], apart=False, **plain)
one("numbered-point", lambda i, w, s, t: [f"{i + 1}. {w}: {t}"], apart=False, **plain)
one("numbered-bracket", lambda i, w, s, t: [f"{i + 1}) {w}: {t}"], **plain)
one("questions-point", lambda i, w, s, t: [f"{asked(w)}. {t}"], who=asked, **plain)
one("questions-colon", lambda i, w, s, t: [f"{asked(w)}: {t}"], who=asked, apart=False, **plain)
one("marks-names", lambda i, w, s, t: [f">> {w}: {t}"], **plain)
one("marks-alone", lambda i, w, s, t: [f">> {t}"], who=lambda w: None, **plain)
one("square", lambda i, w, s, t: [f"[{w}] {t}"], **plain)
one("round", lambda i, w, s, t: [f"({w}) {t}"], **plain)
one("curly-colon", lambda i, w, s, t: [f"{{{w}}}: {t}"], **plain)
one("angle", lambda i, w, s, t: [f"<{w}> {t}"], **plain)
one("lenticular", lambda i, w, s, t: [f"【{w}】{t}"], **plain)
one("dash", lambda i, w, s, t: [f"{w} – {t}"], **plain)
one("dash-long", lambda i, w, s, t: [f"{w} — {t}"], **plain)
one("hyphen", lambda i, w, s, t: [f"{w} - {t}"], apart=False, **plain)
one("bar", lambda i, w, s, t: [f"{w} | {t}"], **plain)
one("own-line", lambda i, w, s, t: [w, t], **plain)
one("own-line-close", lambda i, w, s, t: [w, t], apart=False, **plain)
one("time-after-spaces", lambda i, w, s, t: [f"{w} {long(s)}", t])
one("time-after-bar", lambda i, w, s, t: [f"{w} | {clock(s)}", t])
one("time-after-comma", lambda i, w, s, t: [f"{w}, {long(s)}", t])
one("time-after-dash", lambda i, w, s, t: [f"{w} - {clock(s)}", t], apart=False)
one("time-before", lambda i, w, s, t: [f"{long(s)} {w}", t])
one("time-before-square", lambda i, w, s, t: [f"[{long(s)}] {w}: {t}"])
one("time-before-round", lambda i, w, s, t: [f"({clock(s)}) {w}", t], apart=False)
one("time-after-round", lambda i, w, s, t: [f"{w} ({clock(s)}): {t}"])
one("range-after", lambda i, w, s, t: [f"{w} [{clock(s)} - {clock(until(i))}]", t])
one("time-above", lambda i, w, s, t: [long(s), f"{w}: {t}"])
one("range-above", lambda i, w, s, t: [f"{long(s)} --> {long(until(i))}", w, t])
one("day-before", lambda i, w, s, t: [f"{day(s)} {w}: {t}"], shift=5)
one("day-after", lambda i, w, s, t: [f"{w} {day(s)}", t], shift=5)
one("day-across-noon", lambda i, w, s, t: [f"{w} ({day(s, 12 * 3600 - 40)}): {t}"], shift=5)
one("both-square", lambda i, w, s, t: [f"[{clock(s)}] [{w}] {t}"])
one("both-in-one", lambda i, w, s, t: [f"[{w} {clock(s)}] {t}"])
one("dashes", lambda i, w, s, t: [f"{clock(s)} – {w} – {t}"])
one("bars", lambda i, w, s, t: [f"{clock(s)} | {w} | {t}"])
one("wide-spaces", lambda i, w, s, t: [f"{w}  {clock(s)}  {t}"], apart=False)
# The printers here have no letters for these signs, and leave them out.
unprinted = {"colon-full-width", "lenticular"}
tables = {
    "table-three": (["Time", "Speaker", "Words"], [[long(s), w, t] for w, s, t in talk], True),
    "table-two": (["Who", "What was said"], [[w, t] for w, _, t in talk], False),
    "table-bare": (None, [[w, clock(s), t] for w, s, t in talk], True),
}

def page(paragraphs, close):
    gap = "0" if close else "0.7em"
    return f"<!doctype html><meta charset=utf-8><style>body{{font:11pt serif}}p{{margin:0 0 {gap}}}td{{vertical-align:top;padding:2px 8px}}</style>" + paragraphs

def run(*args):
    subprocess.run(args, check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

only = set(sys.argv[1:])
for name in [*L, *tables]:
    if only and name not in only:
        continue
    if name in L:
        turns, truth, apart = L[name]
        (here / f"{name}.txt").write_text(("\n\n" if apart else "\n").join("\n".join(t) for t in turns) + "\n")
        bold = lambda line: html.escape(line) if "**" not in line else "<b>" + html.escape(line.split("**")[1]) + "</b>" + html.escape(line.split("**")[2])
        body = "".join("<p>" + "<br>".join(bold(l) for l in t) + "</p>" for t in turns) if apart else "".join(f"<p>{bold(l)}</p>" for t in turns for l in t)
        body = page(body, not apart)
    else:
        head, rows, timed = tables[name]
        (here / f"{name}.txt").write_text("\n".join("\t".join(r) for r in ([head] if head else []) + rows) + "\n")
        truth = [{"speaker": w, "beginMs": s * 1000 if timed else None, "words": t} for w, s, t in talk]
        tr = lambda r: "<tr>" + "".join(f"<td>{html.escape(c)}</td>" for c in r) + "</tr>"
        body = page("<table>" + "".join(map(tr, ([head] if head else []) + rows)) + "</table>", True)
    (here / f"{name}.json").write_text(json.dumps(truth, ensure_ascii=False, indent=1) + "\n")
    source = here / f"{name}.html"
    source.write_text(body)
    run("pandoc", "-f", "html", str(source), "-o", str(here / f"{name}.docx"))
    if name in unprinted:
        source.unlink()
        continue
    run("chromium", "--headless", "--no-sandbox", "--disable-gpu", "--no-pdf-header-footer", f"--print-to-pdf={here / f'{name}.web.pdf'}", f"file://{source.resolve()}")
    run("soffice", "--headless", "--convert-to", "pdf", "--outdir", "/tmp/office", str(here / f"{name}.docx"))
    (here / f"{name}.office.pdf").write_bytes(pathlib.Path(f"/tmp/office/{name}.pdf").read_bytes())
    if name not in tables:
        source.unlink()
    print(name)
