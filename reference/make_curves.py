"""Makes `values/curves.json`: curves through keys as SciPy has them. Run by `cargo xtask reference`.

Each case holds keys (time, value, slope where one is given), times, and what SciPy says there.
"""

import json
from importlib.metadata import version
from pathlib import Path

import numpy as np
from scipy.interpolate import CubicHermiteSpline, PchipInterpolator
from scipy.optimize import brentq

OUT = Path(__file__).parent / "values"


def ease(x1, y1, x2, y2, xs):
    """cubic-bezier of CSS Easing Functions Level 1: the x polynomial inverted numerically."""
    values = []
    for x in xs:
        # x(u) = 3 (1-u)^2 u x1 + 3 (1-u) u^2 x2 + u^3
        off = lambda u: 3 * (1 - u) ** 2 * u * x1 + 3 * (1 - u) * u**2 * x2 + u**3 - x
        u = brentq(off, 0.0, 1.0, xtol=1e-15) if 0 < x < 1 else x
        values.append(3 * (1 - u) ** 2 * u * y1 + 3 * (1 - u) * u**2 * y2 + u**3)
    return values


def main():
    rng = np.random.default_rng(11)
    hermite, smooth = [], []
    for n in [2, 3, 5, 9, 20]:
        times = np.cumsum(rng.uniform(0.05, 2.0, n))
        values = rng.uniform(-20, 20, n)
        slopes = rng.uniform(-30, 30, n)
        asked = np.linspace(times[0], times[-1], 60)
        spline = CubicHermiteSpline(times, values, slopes)
        hermite.append({
            "times": times.tolist(), "values": values.tolist(), "slopes": slopes.tolist(),
            "asked": asked.tolist(), "is": spline(asked).tolist(), "slope": spline(asked[1:-1], 1).tolist(),
        })
        if n > 2:
            # Inner keys take SciPy's slopes; the ends are flat, as ours are.
            inner = PchipInterpolator(times, values).derivative()(times)
            inner[[0, -1]] = 0.0
            spline = CubicHermiteSpline(times, values, inner)
            smooth.append({
                "times": times.tolist(), "values": values.tolist(),
                "asked": asked.tolist(), "is": spline(asked).tolist(),
            })
    xs = np.linspace(0, 1, 41)
    named = {"ease": (0.25, 0.1, 0.25, 1.0), "ease-in": (0.42, 0.0, 1.0, 1.0), "ease-out": (0.0, 0.0, 0.58, 1.0),
             "ease-in-out": (0.42, 0.0, 0.58, 1.0), "beyond": (0.3, -0.5, 0.6, 1.7)}
    eases = [{"name": k, "points": v, "x": xs.tolist(), "y": ease(*v, xs)} for k, v in named.items()]
    source = f"scipy {version('scipy')}, numpy {version('numpy')}"
    OUT.mkdir(exist_ok=True)
    text = json.dumps({"source": source, "hermite": hermite, "smooth": smooth, "eases": eases})
    (OUT / "curves.json").write_text(text + "\n")
    print(f"curves.json from {source}")


if __name__ == "__main__":
    main()
