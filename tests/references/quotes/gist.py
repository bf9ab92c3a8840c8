"""Writes gist.csv: continuous LexRank (Erkan & Radev 2004) of the sentences of a made-up talk, by scikit-learn's TfidfVectorizer and
networkx's pagerank (Debian packages python3-sklearn and python3-networkx), for the check in Vitrine.Core.Tests.
Stems stand beside each sentence, written by hand after Porter's rules, without small words, so that nothing of ours is in it.
Run by hand when the talk changes: /usr/bin/python3 tests/references/quotes/gist.py"""
from pathlib import Path

import networkx
import sklearn
from sklearn.feature_extraction.text import TfidfVectorizer

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
texts = [stems for _, stems in talk]
vectors = TfidfVectorizer(tokenizer=str.split, token_pattern=None, lowercase=False).fit_transform(texts)
alike = (vectors @ vectors.T).toarray()
graph = networkx.DiGraph()
graph.add_nodes_from(range(len(texts)))
for i in range(len(texts)):
    for j in range(len(texts)):
        if i != j and alike[i, j] > 0:
            graph.add_edge(i, j, weight=alike[i, j])
ranks = networkx.pagerank(graph, alpha=0.85, tol=1e-14, max_iter=10000, weight="weight")
rows = [f"# scikit-learn {sklearn.__version__}, TfidfVectorizer(norm='l2', smooth_idf=True); networkx {networkx.__version__}, pagerank(alpha=0.85)"]
rows += [f"{sentence}\t{ranks[i]:.12f}\t{texts[i]}" for i, (sentence, _) in enumerate(talk)]
Path(__file__).with_suffix(".csv").write_text("\n".join(rows) + "\n")
