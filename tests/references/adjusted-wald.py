"""Writes adjusted-wald.csv: 95 % Agresti-Coull intervals by statsmodels (Debian package python3-statsmodels), for the check in Vitrine.Core.Tests.
Run by hand when the cases change: /usr/bin/python3 tests/references/adjusted-wald.py"""
from pathlib import Path

import statsmodels
from statsmodels.stats.proportion import proportion_confint

cases = [(0, 1), (1, 1), (0, 5), (1, 5), (5, 5), (3, 9), (6, 9), (7, 10), (9, 10), (10, 10), (2, 17), (11, 24), (48, 60), (1, 100), (250, 1000)]
rows = [f"# statsmodels {statsmodels.__version__}, proportion_confint(x, n, alpha=0.05, method='agresti_coull')", "x,n,low,high"]
for x, n in cases:
    low, high = proportion_confint(x, n, alpha=0.05, method="agresti_coull")
    rows.append(f"{x},{n},{max(0.0, low):.12f},{min(1.0, high):.12f}")
Path(__file__).with_suffix(".csv").write_text("\n".join(rows) + "\n")
