"""Reference for the listening statistics: scipy.stats, statsmodels and plain counting of every possibility.

python3 reference.py > expected.json   (scipy 1.17.1, statsmodels 0.15.0)
"""

import itertools
import json
import math

import numpy as np
import statsmodels.api as sm
from scipy import stats
from scipy.integrate import quad
from statsmodels.stats.multitest import multipletests
from statsmodels.stats.proportion import proportion_confint

rng = np.random.default_rng(11)
out = {}

out["tails"] = [
    {
        "right": r, "trials": n, "guessing": p0,
        "p": float(stats.binomtest(r, n, p0, alternative="greater").pvalue),
        "range": [float(v) for v in proportion_confint(r, n, alpha=0.05, method="beta")],
    }
    for p0, n, r in [
        (0.5, 16, 12), (0.5, 10, 9), (0.5, 10, 0), (0.5, 10, 10), (0.5, 1, 1), (0.5, 200, 117), (0.5, 5000, 2561),
        (1 / 3, 24, 13), (1 / 3, 6, 5), (1 / 3, 100, 41), (1 / 3, 3, 0), (1 / 3, 5000, 1723),
    ]
]


def power(n, p0, share, alpha=0.05):
    right = next((r for r in range(n + 1) if stats.binom.sf(r - 1, n, p0) <= alpha), None)
    return (0.0, None) if right is None else (float(stats.binom.sf(right - 1, n, share)), right)


def needed(p0, share, wished):
    all_of = [power(n, p0, share) for n in range(1, 700)]
    first = next(i for i, (p, _) in enumerate(all_of) if p >= wished)
    last = max((i for i, (p, _) in enumerate(all_of) if p < wished), default=-1)
    return {"guessing": p0, "share": share, "power": wished, "first": first + 1, "always_from": max(last + 2, first + 1),
            "right_at_first": all_of[first][1]}


out["trials"] = [needed(p0, s, w) for p0, s, w in
                 [(0.5, 0.7, 0.8), (0.5, 0.9, 0.8), (0.5, 0.6, 0.8), (0.5, 0.8, 0.95), (1 / 3, 0.5, 0.8), (1 / 3, 0.9, 0.8), (1 / 3, 0.45, 0.9)]]


def ranks(row):
    return stats.rankdata(row)


def spread(rank_rows):
    sums = np.sum(rank_rows, axis=0)
    return float(np.sum((sums - sums.mean()) ** 2))


def exact_friedman(scores):
    rows = [ranks(r) for r in scores]
    seen = spread(rows)
    orders = [sorted(set(itertools.permutations(r))) for r in rows]
    # the first may stand as it is: columns are alike
    total = good = 0
    for rest in itertools.product(*orders[1:]):
        total += 1
        good += spread([rows[0], *rest]) >= seen - 1e-9
    return good / total


friedman = []
for k, n, top in [(3, 6, 10), (3, 5, 4), (4, 4, 10), (3, 7, 3), (2, 8, 6), (4, 3, 3)]:
    scores = rng.integers(1, top + 1, size=(n, k)).astype(float)
    if k == 2:
        res = None  # scipy wants three
    else:
        res = stats.friedmanchisquare(*scores.T)
    friedman.append({"scores": scores.tolist(), "chi2": None if res is None else float(res.statistic),
                     "p_approximate": None if res is None else float(res.pvalue), "p": exact_friedman(scores)})
out["friedman"] = friedman


def exact_wilcoxon(d):
    d = np.array([v for v in d if v != 0])
    if len(d) == 0:
        return 1.0
    r = stats.rankdata(np.abs(d))
    half = r.sum() / 2
    seen = abs(r[d > 0].sum() - half)
    signs = itertools.product([0, 1], repeat=len(d))
    return sum(abs(np.dot(s, r) - half) >= seen - 1e-9 for s in signs) / 2 ** len(d)


wilcoxon = []
for n in [1, 2, 5, 6, 8, 10, 12]:
    d = rng.integers(-3, 6, size=n).astype(float)
    wilcoxon.append({"differences": d.tolist(), "p": exact_wilcoxon(d)})
for n in [6, 9, 15, 20]:  # no ties, no zeros: scipy counts these exactly too
    d = rng.normal(0.6, 1.0, size=n).round(6)
    wilcoxon.append({"differences": d.tolist(), "p": float(stats.wilcoxon(d, method="exact").pvalue)})
out["wilcoxon"] = wilcoxon

out["holm"] = []
for m in [1, 3, 6, 15]:
    p = rng.random(m).round(4) ** 2
    out["holm"].append({"p": p.tolist(), "adjusted": multipletests(p, method="holm")[1].tolist()})


def bradley_terry(wins):
    k = len(wins)
    rows, y = [], []
    for i in range(k):
        for j in range(i + 1, k):
            if wins[i][j] + wins[j][i] == 0:
                continue
            x = np.zeros(k)
            x[i], x[j] = 1, -1
            rows.append(x)
            y.append([wins[i][j], wins[j][i]])
    x, y = np.array(rows), np.array(y, dtype=float)
    # the last strength is zero; then taken less the mean
    fit = sm.GLM(y, x[:, :-1], family=sm.families.Binomial()).fit(tol=1e-14, maxiter=200)
    s = np.append(fit.params, 0)
    cov = np.zeros((k, k))
    cov[:-1, :-1] = fit.cov_params()
    centre = np.eye(k) - 1 / k
    null = sum(-(a + b) * math.log(2) for a, b in y)
    own = sum(a * -math.log1p(math.exp(-r @ s)) + b * -math.log1p(math.exp(r @ s)) for r, (a, b) in zip(x, y))
    lr = 2 * (own - null)
    return {"wins": np.array(wins, dtype=float).tolist(), "log_strengths": (centre @ s).tolist(),
            "errors": np.sqrt(np.diag(centre @ cov @ centre)).tolist(), "likelihood_ratio": float(lr),
            "p": float(stats.chi2.sf(lr, k - 1))}


out["votes"] = [bradley_terry(w) for w in [
    [[0, 8, 6], [2, 0, 4], [4, 6, 0]],
    [[0, 7], [3, 0]],
    [[0, 5, 9, 2], [6, 0, 3, 4], [1, 8, 0, 5], [9, 7, 6, 0]],
    [[0, 12, 0], [3, 0, 5], [0, 6, 0]],
]]


def exact_bootstrap(v):
    means = sorted(float(np.mean(c)) for c in itertools.product(v, repeat=len(v)))
    at = lambda q: means[math.ceil(q * len(means) - 1e-9) - 1]
    return [at(0.025), at(0.975)]


out["bootstrap"] = [{"values": v, "range": exact_bootstrap(v)} for v in
                    ([2, 4, 1, 3, -1, 3], [5.5, 6, 2], [1, 2, 2, 9, 4], [0.3, 0.9, 0.1, 0.8, 0.4, 0.4, 0.6])]


def pink(f, l, a, b):
    level = lambda x: np.interp(x, np.log(f), l)
    inner = [math.log(v) for v in f if a < v < b]
    value, _ = quad(lambda x: 10 ** (level(x) / 10), math.log(a), math.log(b), points=inner or None, epsabs=1e-13, epsrel=1e-13)
    return 10 * math.log10(value / math.log(b / a))


out["pink"] = [{"f": f, "l": l, "band": b, "level": pink(f, l, *b)} for f, l, b in [
    ([20, 40, 80, 160], [-6, 0, 0, 2], [30, 120]),
    ([20, 200], [90, 90], [25, 80]),
    ([10, 20, 31, 63, 100, 130], [60, 78.5, 84, 84.2, 80, 83], [20, 120]),
]]

print(json.dumps(out, indent=1))
