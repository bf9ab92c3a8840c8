"""Writes points.csv, merges.csv, cuts.csv and likeness.csv: average linkage, its cuts, silhouettes, adjusted Rand indices and cosines of
TF-IDF, by scipy and scikit-learn (Debian packages python3-scipy and python3-sklearn), for the checks in Vitrine.Core.Tests.
Run by hand when the cases change: /usr/bin/python3 tests/references/clustering/clustering.py"""
from pathlib import Path

import numpy
import scipy
import sklearn
from scipy.cluster.hierarchy import cut_tree, linkage
from scipy.spatial.distance import pdist, squareform
from sklearn.feature_extraction.text import TfidfVectorizer
from sklearn.metrics import adjusted_rand_score, silhouette_samples

here = Path(__file__).parent
head = f"# scipy {scipy.__version__}, scikit-learn {sklearn.__version__}, numpy {numpy.__version__}"
random = numpy.random.default_rng(1987)
middles = random.uniform(0, 10, (5, 3))
# Groups of different width and size, and some that belong nowhere.
points = numpy.concatenate([random.normal(m, 0.4 + 0.3 * i, (5 + 3 * i, 3)) for i, m in enumerate(middles)] + [random.uniform(-5, 15, (5, 3))])
points = numpy.round(random.permutation(points), 4)
distances = pdist(points)
tree = linkage(distances, "average")


def write(name, rows):
    (here / name).write_text("\n".join([head, *rows]) + "\n")


write("points.csv", [",".join(f"{x:.4f}" for x in p) for p in points])
write("merges.csv", [f"{int(a)},{int(b)},{h:.12f},{int(n)}" for a, b, h, n in tree])
truth = random.integers(0, 4, len(points))
rows = [f"random,{' '.join(map(str, truth))},,"]
for k in (2, 3, 5, 8, 20):
    labels = cut_tree(tree, k).ravel()
    silhouettes = silhouette_samples(squareform(distances), labels, metric="precomputed")
    rows.append(f"{k},{' '.join(map(str, labels))},{adjusted_rand_score(truth, labels):.12f},{' '.join(f'{s:.9f}' for s in silhouettes)}")
rows.append(f"2 and 5,,{adjusted_rand_score(cut_tree(tree, 2).ravel(), cut_tree(tree, 5).ravel()):.12f},")
write("cuts.csv", rows)
texts = ["stand quay board say noth", "quay rain wait board wrong quay", "lamp ramp look lamp", "ramp lamp lit use", "neighbour ring off", "", "bun"]
vectors = TfidfVectorizer(tokenizer=str.split, token_pattern=None, lowercase=False).fit_transform(texts)
alike = (vectors @ vectors.T).toarray()
write("likeness.csv", [f"{text},{' '.join(f'{x:.12f}' for x in row)}" for text, row in zip(texts, alike)])
