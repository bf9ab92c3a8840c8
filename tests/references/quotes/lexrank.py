"""Writes lexrank.csv: continuous LexRank (Erkan & Radev 2004) of short texts, by scikit-learn's TfidfVectorizer and networkx's pagerank
(Debian packages python3-sklearn and python3-networkx), for the check in Vitrine.Core.Tests.
Run by hand when the cases change: /usr/bin/python3 tests/references/quotes/lexrank.py"""
from pathlib import Path

import networkx
import sklearn
from sklearn.feature_extraction.text import TfidfVectorizer

cases = {
    "quay": [
        "stand quay board say noth", "quay rain wait board wrong", "lamp ramp look lamp", "ramp lamp lit use", "neighbour ring off",
        "board say off quay", "ring neighbour ring sister", "bun",
    ],
    "one": ["stand quay"],
    "apart": ["stand quay", "lamp ramp"],
    "same": ["lamp ramp", "lamp ramp", "lamp ramp", "quay"],
}
head = f"# scikit-learn {sklearn.__version__}, TfidfVectorizer(norm='l2', smooth_idf=True); networkx {networkx.__version__}, pagerank(alpha=0.85)"


def ranks_of(texts):
    """How central each of some texts is, each a run of stems with spaces between."""
    vectors = TfidfVectorizer(tokenizer=str.split, token_pattern=None, lowercase=False).fit_transform(texts)
    alike = (vectors @ vectors.T).toarray()
    graph = networkx.DiGraph()
    graph.add_nodes_from(range(len(texts)))
    for i in range(len(texts)):
        for j in range(len(texts)):
            if i != j and alike[i, j] > 0:
                graph.add_edge(i, j, weight=alike[i, j])
    return networkx.pagerank(graph, alpha=0.85, tol=1e-14, max_iter=10000, weight="weight")


if __name__ == "__main__":
    rows = [head]
    for name, texts in cases.items():
        ranks = ranks_of(texts)
        rows += [f"{name},{texts[i]},{ranks[i]:.12f}" for i in range(len(texts))]
    Path(__file__).with_suffix(".csv").write_text("\n".join(rows) + "\n")
