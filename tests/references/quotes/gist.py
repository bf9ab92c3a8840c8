"""Writes gist.csv: continuous LexRank (Erkan & Radev 2004) of the sentences of a made-up talk, by scikit-learn's TfidfVectorizer and
networkx's pagerank (Debian packages python3-sklearn and python3-networkx), for the check in Vitrine.Core.Tests.
Stems stand beside each sentence, written by hand after Porter's rules, without small words, so that nothing of ours is in it.
Run by hand when the talk changes: /usr/bin/python3 tests/references/quotes/gist.py"""
from pathlib import Path

from lexrank import head, ranks_of

talk = [
    ("The boat was late again at the quay.", "boat late quay"),
    ("We stood on the quay in the rain.", "stood quay rain"),
    ("The board on the quay said nothing.", "board quay said noth"),
    ("My neighbour keeps hens behind her house.", "neighbour keep hen behind hous"),
    ("The lamp on the ramp goes out first.", "lamp ramp goe first"),
    ("You look at the lamp before the board.", "look lamp board"),
    ("The lamp tells you more than the board.", "lamp tell board"),
    ("My cousin won a prize last summer.", "cousin won prize last summer"),
    ("The ticket has my name on the front.", "ticket name front"),
    ("A ticket with a name breaks our house.", "ticket name break hous"),
    ("We share each ticket in the house.", "share ticket hous"),
    ("The machine talks to you like weather.", "machin talk like weather"),
]
ranks = ranks_of([stems for _, stems in talk])
rows = [head] + [f"{sentence}\t{ranks[i]:.12f}\t{stems}" for i, (sentence, stems) in enumerate(talk)]
Path(__file__).with_suffix(".csv").write_text("\n".join(rows) + "\n")
