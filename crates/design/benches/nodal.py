"""A vectorised nodal solution of one vented box in a warm interpreter: level, stroke, air speed, group delay,
impedance at 1000 frequencies. Prints the median of many runs in seconds. Compared with by benches/ratios.rs.

Unknowns: box pressure, pressure inside the port's mouth mass, cone volume velocity, current; one dense 4x4 system a
frequency, all frequencies in one call. The group delay is the numerical slope of the phase.
"""
import time

import numpy as np

c, rho = 343.2, 1.2041
fs, qms, qes, vas, re, sd, le = 30.0, 5.0, 0.40, 0.120, 5.6, 0.0530, 1.0e-3
volume, fb, ql, qa, qp, area, volts = 0.090, 32.0, 7.0, 50.0, 60.0, 0.0120, 2.83
f = np.geomspace(10.0, 1000.0, 1000)


def sweep():
    w = 2 * np.pi * f
    s = 1j * w
    cms = vas / (rho * c**2 * sd**2)
    mms = 1 / ((2 * np.pi * fs) ** 2 * cms)
    rms = 2 * np.pi * fs * mms / qms
    bl = np.sqrt(2 * np.pi * fs * mms * re / qes)
    cab, wb = volume / (rho * c**2), 2 * np.pi * fb
    ral, rab, map_ = ql / (wb * cab), 1 / (wb * qa * cab), 1 / (wb**2 * cab)
    rap = wb * map_ / qp
    a = np.zeros((f.size, 4, 4), complex)
    b = np.zeros((f.size, 4, 1), complex)
    a[:, 0, 0] = 1 / (rab + 1 / (s * cab)) + 1 / ral + 1 / rap
    a[:, 0, 1] = a[:, 1, 0] = -1 / rap
    a[:, 0, 2] = 1
    a[:, 1, 1] = 1 / rap + 1 / (s * map_)
    a[:, 2, 0] = sd
    a[:, 2, 2] = -(s * mms + rms + 1 / (s * cms)) / sd
    a[:, 2, 3] = bl
    a[:, 3, 2] = bl / sd
    a[:, 3, 3] = re + s * le
    b[:, 3, 0] = volts
    x = np.linalg.solve(a, b)[:, :, 0]
    port = x[:, 1] / (s * map_)
    total = x[:, 2] + x[:, 0] / ral + port
    pressure = s * rho * total / (2 * np.pi)
    level = 20 * np.log10(np.abs(pressure) / 20e-6)
    stroke = np.sqrt(2) * np.abs(x[:, 2] / (s * sd))
    speed = np.sqrt(2) * np.abs(port) / area
    delay = -np.gradient(np.unwrap(np.angle(pressure)), w)
    impedance = volts / x[:, 3]
    return level, stroke, speed, delay, impedance


for _ in range(20):
    result = sweep()
times = []
for _ in range(200):
    begin = time.perf_counter()
    sweep()
    times.append(time.perf_counter() - begin)
i = np.argmin(np.abs(f - 30.0))
print(np.median(times), result[0][i], f[i])
