"""Makes the check values of the live filter with the PyPI implementation of the One Euro filter
(Casiez, Roussel, Vogel, CHI 2012). Run by `cargo xtask reference`; the Rust tests read the file."""

import numpy as np
from make import write
from OneEuroFilter import OneEuroFilter


def cases():
    rng = np.random.default_rng(1)
    made = []
    for hz, cut, gain, speed_cut in [(240, 1.0, 0.0, 1.0), (240, 0.4, 1.5, 1.0), (120, 2.0, 0.3, 1.0), (60, 1.2, 4.0, 2.0)]:
        t = np.arange(400) / hz
        values = 0.3 * np.sin(1.7 * t) + 0.004 * np.sin(55 * t) + rng.normal(0, 0.002, len(t)) + (t > 0.8) * 0.2
        f = OneEuroFilter(freq=hz, mincutoff=cut, beta=gain, dcutoff=speed_cut)
        out = [f(v) for v in values.tolist()]
        made.append({"hz": hz, "cut_hz": cut, "gain": gain, "speed_cut_hz": speed_cut, "values": values.tolist(), "out": out})
    return made


if __name__ == "__main__":
    write("one_euro", ["OneEuroFilter"], cases=cases())
