"""Measured curves made and worked out outside the project: numpy, scipy and ngspice.

Run with numpy, scipy and ngspice: python make.py > curves.json

woofer    impedances of a woofer (own formula in numpy, 0.5 % of noise on each part): in free air, with 40 g, on 60 L; fitted by
          scipy.optimize.least_squares with its own numerical derivatives, covariance from its Jacobian
fixture   the same woofer's motion as a parallel resonant circuit behind a reference resistor, leads and two loaded inputs, solved by
          ngspice; the two voltages with the jig open, shorted and on 10 ohm
sweep     an exponential sweep by its formula, sent through a Butterworth band-pass of scipy.signal and taken apart by plain
          division of spectra (numpy.fft)
smoothing mean of the power over the band edges of IEC 61260-1 by scipy.integrate.quad over straight lines in ln f
phase     minimum phase by the real cepstrum (Oppenheim & Schafer), another road than Bode's integral
"""
import json
import math
import os
import platform
import subprocess
import sys
import tempfile

import numpy as np
import scipy
from scipy import integrate, optimize, signal

TAU = 2 * math.pi
FS, QES, QMS, RE, LE, MMS, VAS = 30.0, 0.4, 5.0, 5.6, 1e-3, 0.093438, 0.120


def impedance(p, f, mass, volume):
    fs, qes, qms, re, le, mms, vas = p
    x = 1j * f / fs
    return re + 1j * TAU * f * le + re / qes / (x * (1 + mass / mms) + 1 / qms + (1 + (vas / volume if volume else 0)) / x)


def woofer():
    rng = np.random.default_rng(20261126)
    f = np.geomspace(5, 2000, 200)
    truth = [FS, QES, QMS, RE, LE, MMS, VAS]
    out = {"frequency_hz": f.tolist(), "truth": truth, "curves": {}, "fits": {}}
    curves = {}
    for name, mass, volume in [("free", 0, 0), ("mass", 0.040, 0), ("box", 0, 0.060)]:
        z = impedance(truth, f, mass, volume)
        z = z + (rng.standard_normal(len(f)) + 1j * rng.standard_normal(len(f))) * 0.005 * abs(z)
        curves[name] = (z, mass, volume)
        out["curves"][name] = {"re": z.real.tolist(), "im": z.imag.tolist()}
    for name, used, which in [
        ("free", ["free"], [0, 1, 2, 3, 4]),
        ("mass", ["free", "mass"], [0, 1, 2, 3, 4, 5]),
        ("box", ["free", "box"], [0, 1, 2, 3, 4, 6]),
    ]:
        def residuals(logs):
            p = list(truth)
            for i, x in zip(which, logs):
                p[i] = math.exp(x)
            parts = []
            for c in used:
                z, mass, volume = curves[c]
                off = (impedance(p, f, mass, volume) - z) / abs(z)
                parts += [off.real, off.imag]
            return np.concatenate(parts)

        start = [math.log(truth[i] * 1.1) for i in which]
        found = optimize.least_squares(residuals, start, method="lm", xtol=1e-14, ftol=1e-14, gtol=1e-14)
        rss = float(2 * found.cost)
        covariance = np.linalg.inv(found.jac.T @ found.jac) * rss / (len(found.fun) - len(which))
        out["fits"][name] = {
            "which": which,
            "values": np.exp(found.x).tolist(),
            "sigmas": np.sqrt(np.diag(covariance)).tolist(),
            "rss": rss,
        }
    return out


def spice(load, f):
    """Complex voltages of both inputs over frequency, by ngspice."""
    # motional branch: Res = Re Qms/Qes, Cmes = Qes/(w0 Re), Lces = Re/(w0 Qes)
    w0 = TAU * FS
    bodies = {
        "woofer": f"Rlead w a 0.15\nRe a b {RE}\nLe b c {LE}\nRes c 0 {RE * QMS / QES}\nC1 c 0 {QES / (w0 * RE)}\nL1 c 0 {RE / (w0 * QES)}\n",
        "open": "Rlead w a 0.15\nRopen a 0 1e12\n",
        "short": "Rlead w a 0.15\nRshort a 0 1e-6\n",
        "known": "Rlead w a 0.15\nRk a 0 10\n",
    }
    n = len(f)
    with tempfile.TemporaryDirectory() as folder:
        out = os.path.join(folder, "out.txt")
        text = (
            "* jig\nV1 s 0 DC 0 AC 1\nRs s one 0.6\nRref one w 22\nR1 one 0 47k\nR2 w 0 22k\nC2 w 0 1n\n"
            + bodies[load]
            + f".control\nset wr_vecnames\nset numdgt=15\nac dec {n} {f[0]} {f[-1]}\nwrdata {out} v(one) v(w)\nquit 0\n.endc\n.end\n"
        )
        net = os.path.join(folder, "jig.cir")
        with open(net, "w") as file:
            file.write(text)
        subprocess.run(["ngspice", "-b", net], check=True, capture_output=True)
        rows = [line.split() for line in open(out).read().splitlines()[1:]]
        # the second input reads 1.013 times as much
        return [[float(r[0]), complex(float(r[1]), float(r[2])), 1.013 * complex(float(r[4]), float(r[5]))] for r in rows]


def fixture():
    f = [5.0, 500.0]
    # so many points a decade, two decades
    f = [5.0] + [0] * 38 + [500.0]
    out = {}
    for load in ["woofer", "open", "short", "known"]:
        rows = spice(load, f)
        ratio = [two / one for _, one, two in rows]
        out["frequency_hz"] = [r[0] for r in rows]
        out[load] = {"re": [m.real for m in ratio], "im": [m.imag for m in ratio]}
    out["known_ohm"] = 10.0
    z = [impedance([FS, QES, QMS, RE, LE, MMS, VAS], fr, 0, 0) for fr in out["frequency_hz"]]
    out["impedance"] = {"re": [x.real for x in z], "im": [x.imag for x in z]}
    return out


def sweep():
    rate, f1, f2, asked, amplitude = 48000, 20.0, 2000.0, 2.0, 0.5
    growth = round(f1 * asked / math.log(f2 / f1)) / f1
    n = round(growth * math.log(f2 / f1) * rate)
    t = np.arange(n) / rate
    x = amplitude * np.sin(TAU * f1 * growth * np.expm1(t / growth))
    b = signal.butter(2, [30, 900], "bandpass", fs=rate, output="sos")
    y = signal.sosfilt(b, np.concatenate([x, np.zeros(rate)]))
    length = 2 ** 18
    f = np.geomspace(30, 1500, 60)
    h = np.fft.rfft(y, length) / np.fft.rfft(x, length)
    grid = np.fft.rfftfreq(length, 1 / rate)
    _, exact = signal.sosfreqz(b, worN=f, fs=rate)
    return {
        "rate": rate, "from_hz": f1, "to_hz": f2, "seconds": asked, "amplitude": amplitude, "growth": growth, "samples": n,
        "at": [0, 777, 5000, n - 1], "values": [float(x[i]) for i in [0, 777, 5000, n - 1]],
        "frequency_hz": f.tolist(),
        "exact_db": (20 * np.log10(abs(exact))).tolist(),
        "exact_phase_deg": np.degrees(np.angle(exact)).tolist(),
        "divided_db": np.interp(f, grid, 20 * np.log10(abs(h))).tolist(),
        "sos": b.tolist(),
    }


def smoothing():
    rng = np.random.default_rng(7)
    f = np.sort(np.geomspace(15, 600, 90) * rng.uniform(0.99, 1.01, 90))
    db = 80 + 6 * rng.standard_normal(90)
    power, x = 10 ** (db / 10), np.log(f)
    out = {"frequency_hz": f.tolist(), "level_db": db.tolist(), "smoothed_db": {}}
    g = 10 ** 0.3
    for b in [1, 3, 6, 12, 24, 48]:
        made = []
        for centre in f:
            low, high = max(x[0], math.log(centre * g ** (-0.5 / b))), min(x[-1], math.log(centre * g ** (0.5 / b)))
            knots = [u for u in x if low < u < high]
            total = sum(
                integrate.quad(lambda u: float(np.interp(u, x, power)), p, q)[0]
                for p, q in zip([low] + knots, knots + [high])
            )
            made.append(10 * math.log10(total / (high - low)))
        out["smoothed_db"][str(b)] = made
    return out


def phase():
    # a digital minimum-phase band-pass; its phase from the real cepstrum of its magnitude
    rate, n = 48000, 2 ** 20
    b = signal.butter(4, 30, "highpass", fs=rate, output="sos")
    b = np.vstack([b, signal.butter(2, 300, "lowpass", fs=rate, output="sos")])
    grid = np.fft.rfftfreq(n, 1 / rate)
    _, h = signal.sosfreqz(b, worN=grid, fs=rate)
    log = np.log(np.maximum(abs(h), 1e-12))
    cepstrum = np.fft.irfft(log)
    fold = np.zeros(n)
    fold[0], fold[1:n // 2], fold[n // 2] = 1, 2, 1
    made = np.imag(np.fft.rfft(cepstrum * fold))
    f = np.geomspace(8, 1500, 150)
    level = 20 * np.log10(np.interp(f, grid, abs(h)))
    return {
        "frequency_hz": f.tolist(), "level_db": level.tolist(),
        "phase_deg": np.degrees(np.interp(f, grid, made)).tolist(),
    }


spice_version = subprocess.run(["ngspice", "-v"], capture_output=True, text=True).stdout.split("ngspice-")[1].split()[0]
json.dump(
    {
        "made_by": {
            "script": "make.py", "python": platform.python_version(), "numpy": np.__version__, "scipy": scipy.__version__,
            "ngspice": spice_version,
        },
        "woofer": woofer(), "fixture": fixture(), "sweep": sweep(), "smoothing": smoothing(), "phase": phase(),
    },
    sys.stdout,
)
