"""Resistance and reactance of a flanged piston, R1 = 1 - 2 J1(x)/x and X1 = 2 H1(x)/x, with scipy's special functions.

Writes piston.json beside this script: python3 make.py
"""

import json
import pathlib

import scipy
from scipy.special import j1, struve

places = [0.01, 0.3, 1.0, 2.0, 6.0, 11.0, 19.0, 19.99, 20.0, 20.01, 23.0, 40.0, 110.0]
cases = [{"x": x, "r1": float(1 - 2 * j1(x) / x), "x1": float(2 * struve(1, x) / x)} for x in places]
text = json.dumps({"scipy": scipy.__version__, "cases": cases}, indent=1)
pathlib.Path(__file__).with_name("piston.json").write_text(text + "\n")
