"""Resonances of a tube by openwind: input impedance of a cylinder with wall losses and an unflanged or flanged open end; its
minima are the pipe resonances of a port whose inner end meets no air of its own.

Writes tubes.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import numpy as np
from openwind import ImpedanceComputation

cases = []
for radius, length in ((0.026, 0.30), (0.051, 0.35), (0.076, 0.60)):
    for end in ("unflanged", "infinite_flanged"):
        frequencies = np.arange(50.0, 2000.0, 0.5)
        tube = [[0, length, radius, radius, "linear"]]
        found = ImpedanceComputation(frequencies, tube, temperature=20, radiation_category=end, losses=True)
        size = np.abs(found.impedance)
        dips = [i for i in range(1, len(size) - 1) if size[i] < size[i - 1] and size[i] < size[i + 1]]
        cases.append({
            "radius_mm": radius * 1e3,
            "length_mm": length * 1e3,
            "end": end,
            "resonances_hz": [float(frequencies[i]) for i in dips[:2]],
        })
out = {"tool": f"openwind {importlib.metadata.version('openwind')}", "temperature_c": 20, "cases": cases}
pathlib.Path(__file__).with_name("tubes.json").write_text(json.dumps(out, indent=1) + "\n")
