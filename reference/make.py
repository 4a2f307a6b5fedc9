"""Makes the check values in `values/` with outside libraries. Run by `cargo xtask reference`.

Each file names the library and version that made it. The Rust tests read the files, so they run
without Python.
"""

import json
import sys
from importlib.metadata import version
from pathlib import Path

import numpy as np
from pytransform3d.rotations import matrix_from_axis_angle
from pytransform3d.transformations import concat, transform_from
from scipy.ndimage import correlate1d
from scipy.signal import butter, savgol_filter, sosfiltfilt, welch
from scipy.spatial.transform import Rotation

OUT = Path(__file__).parent / "values"


def write(name, made_by, **values):
    OUT.mkdir(exist_ok=True)
    source = ", ".join(f"{p} {version(p)}" for p in made_by)
    (OUT / f"{name}.json").write_text(json.dumps({"source": source, **values}) + "\n")
    print(f"{name}.json from {source}")


def hand_held(n, rate, seed):
    """A slow wander with a tremor on it."""
    rng = np.random.default_rng(seed)
    slow = np.cumsum(np.cumsum(rng.normal(size=n))) / n
    return 20 * slow / max(1e-9, np.ptp(slow)) + 0.3 * np.sin(np.arange(n) / rate * 2 * np.pi * 6) + 0.05 * rng.normal(size=n)


def smoothing():
    cases = []
    for n, sigma in [(7, 1.5), (200, 9.6), (501, 0.4), (64, 30.0)]:
        x = hand_held(n, 120, n)
        half = int(6 * sigma + 0.5)
        kernel = np.exp(-0.5 * (np.arange(-half, half + 1) / sigma) ** 2)
        kernel /= kernel.sum()
        padded = np.pad(x, half, mode="reflect", reflect_type="odd")
        y = correlate1d(padded, kernel)[half : half + n]
        cases.append({"gaussian": sigma, "x": x.tolist(), "y": y.tolist()})
    for n, passes in [(7, 3), (200, 100), (333, 400)]:
        x = hand_held(n, 24, n + 1)
        y = x
        for _ in range(passes):
            y = np.convolve(np.pad(y, 1, mode="reflect", reflect_type="odd"), [0.25, 0.5, 0.25], mode="valid")
        cases.append({"binomial": passes, "x": x.tolist(), "y": y.tolist()})
    # Cycles a sample; continued far enough that nothing is left of how the filter began.
    for n, cut in [(400, 1 / 120), (97, 0.1), (333, 0.02), (60, 0.3)]:
        x = hand_held(n, 120, n + 2)
        far = 100 + int(15 / cut)
        padded = np.pad(x, far, mode="reflect", reflect_type="odd")
        y = sosfiltfilt(butter(4, 2 * cut, output="sos"), padded, padtype=None)[far : far + n]
        cases.append({"low_pass": cut, "x": x.tolist(), "y": y.tolist()})
    for n, half, degree in [(200, 24, 2), (97, 10, 4), (40, 30, 3)]:
        x = hand_held(n, 120, n + 3)
        padded = np.pad(x, half, mode="reflect", reflect_type="odd")
        y = savgol_filter(padded, 2 * half + 1, degree)[half : half + n]
        cases.append({"half": half, "degree": degree, "x": x.tolist(), "y": y.tolist()})
    write("smoothing", ["numpy", "scipy"], cases=cases)


def spectral_arc():
    """From the definition in Balasubramanian et al., J. NeuroEng. Rehabil. 12:112 (2015)."""
    cases = []
    for n, rate in [(300, 120.0), (97, 24.0)]:
        v = np.abs(np.diff(hand_held(n + 1, rate, 3 * n))) * rate
        nfft = int(2 ** (np.ceil(np.log2(len(v))) + 4))
        f = np.arange(nfft) * rate / nfft
        m = np.abs(np.fft.fft(v, nfft))
        m = m / m.max()
        keep = f <= 10.0
        f, m = f[keep], m[keep]
        over = np.nonzero(m >= 0.05)[0]
        f, m = f[over[0] : over[-1] + 1], m[over[0] : over[-1] + 1]
        arc = -np.sum(np.sqrt((np.diff(f) / (f[-1] - f[0])) ** 2 + np.diff(m) ** 2))
        cases.append({"rate": rate, "v": v.tolist(), "arc": float(arc)})
    write("spectral_arc", ["numpy"], cases=cases)


def power():
    x = hand_held(2000, 120, 9)
    f, p = welch(x, fs=120.0, nperseg=256)
    write("welch", ["numpy", "scipy"], rate=120.0, segment=256, x=x.tolist(), f=f.tolist(), p=p.tolist())


def turn(axis, angle):
    return transform_from(matrix_from_axis_angle(np.array([*axis, angle])), np.zeros(3))


def shift(x, y, z):
    return transform_from(np.eye(3), np.array([x, y, z]))


def chain(*steps):
    """Steps from the outermost frame inwards."""
    whole = np.eye(4)
    for step in steps:
        whole = concat(step, whole)
    return whole


def crane():
    rng = np.random.default_rng(25)
    cases = []
    for i in range(60):
        lean = bool(i % 2)
        spec = {
            "base_x_m": rng.uniform(-9, 9), "base_z_m": rng.uniform(-9, 9), "heading_deg": rng.uniform(-180, 180),
            "column_height_m": rng.uniform(0.8, 3), "head_drop_m": rng.uniform(0, 1), "head": "lean" if lean else "level",
        }
        swing, boom = rng.uniform(-3, 3), rng.uniform(-0.5, 0.9)
        reach = rng.uniform(2.13, 7.62)
        pan, tilt, roll = rng.uniform(-3, 3), rng.uniform(-1.5, 1), rng.uniform(-1.5, 1.5)
        arm_end = [turn((1, 0, 0), boom), shift(0, 0, -reach)]
        # A level head hangs from the arm's end, kept upright.
        hung = arm_end if lean else arm_end + [turn((1, 0, 0), -boom)]
        camera = chain(
            shift(spec["base_x_m"], spec["column_height_m"], spec["base_z_m"]),
            turn((0, -1, 0), np.radians(spec["heading_deg"])),
            turn((0, -1, 0), swing),
            *hung,
            shift(0, -spec["head_drop_m"], 0),
            turn((0, -1, 0), pan), turn((1, 0, 0), tilt), turn((0, 0, -1), roll),
        )
        cases.append({
            "spec": spec, "axes": [swing, boom, reach, pan, tilt, roll],
            "position": camera[:3, 3].tolist(), "quaternion": Rotation.from_matrix(camera[:3, :3]).as_quat().tolist(),
        })
    write("crane", ["pytransform3d", "scipy"], cases=cases)


if __name__ == "__main__":
    for make in [smoothing, spectral_arc, power, crane]:
        if len(sys.argv) < 2 or make.__name__ in sys.argv[1:]:
            make()
