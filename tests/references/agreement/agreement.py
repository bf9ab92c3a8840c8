"""Writes pairs.csv and many.csv: Cohen's kappa with its standard error, and Fleiss' kappa, by statsmodels (Debian package
python3-statsmodels), for the check in Vitrine.Core.Tests.
Run by hand when the cases change: /usr/bin/python3 tests/references/agreement/agreement.py"""
from pathlib import Path
from random import Random

import numpy
import statsmodels
from statsmodels.stats.inter_rater import cohens_kappa, fleiss_kappa

here = Path(__file__).parent
chance = Random(11)

pairs = [(20, 5, 10, 15), (1, 2, 2, 195), (45, 15, 25, 15), (25, 35, 5, 35), (0, 4, 6, 90), (118, 5, 2, 0), (9, 0, 0, 11)]
pairs += [tuple(chance.randint(1, 60) for _ in range(4)) for _ in range(12)]
with open(here / "pairs.csv", "w") as file:
    file.write(f"both,only first,only second,neither,kappa,standard error by statsmodels {statsmodels.__version__}\n")
    for a, b, c, d in pairs:
        found = cohens_kappa(numpy.array([[a, b], [c, d]]))
        file.write(f"{a},{b},{c},{d},{float(found.kappa)!r},{float(found.std_kappa)!r}\n")

with open(here / "many.csv", "w") as file:
    file.write(f"values of each person by unit,Fleiss' kappa by statsmodels {statsmodels.__version__}\n")
    for people, units, values in [(2, 12, 2), (3, 20, 2), (4, 15, 3), (6, 30, 3), (5, 40, 2)]:
        rows = [[chance.randrange(values) if chance.random() < 0.5 else u % values for u in range(units)] for _ in range(people)]
        table = [[sum(row[u] == v for row in rows) for v in range(3)] for u in range(units)]
        found = fleiss_kappa(numpy.array(table), method="fleiss")
        file.write(f"{';'.join(''.join(map(str, row)) for row in rows)},{float(found)!r}\n")
