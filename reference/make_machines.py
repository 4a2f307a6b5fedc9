"""Makes the check values of machines, rails and glides with outside libraries. Run by
`cargo xtask reference`; the Rust tests read the files."""

import sys

import numpy as np
from make import chain, shift, turn, write
from scipy.integrate import quad
from scipy.interpolate import CubicSpline, PchipInterpolator
from scipy.optimize import brentq
from scipy.spatial.transform import Rotation, Slerp

RIGHT, UP, CLOCKWISE = (0, -1, 0), (1, 0, 0), (0, 0, -1)


def ptr(pan, tilt, roll):
    return chain(turn(RIGHT, pan), turn(UP, tilt), turn(CLOCKWISE, roll))


def looking(place, target):
    d = np.subtract(target, place)
    return ptr(np.arctan2(d[0], -d[2]), np.arctan2(d[1], np.hypot(d[0], d[2])), 0)


def pose(position, rotation):
    whole = rotation.copy()
    whole[:3, 3] = position
    return whole


class Rail:
    """A C2 spline by chord length, and its arc length."""

    def __init__(self, points, closed):
        p = np.array(points + points[:1] if closed else points, float)
        self.t = np.concatenate([[0], np.cumsum(np.linalg.norm(np.diff(p, axis=0), axis=1))])
        self.s = CubicSpline(self.t, p, bc_type="periodic" if closed else "natural")
        self.d = self.s.derivative()
        self.knots = [0.0]
        for a, b in zip(self.t, self.t[1:]):
            self.knots.append(self.knots[-1] + self.along(a, b))

    def along(self, a, b):
        return quad(lambda u: np.linalg.norm(self.d(u)), a, b, epsabs=1e-13, epsrel=1e-13, limit=400)[0]

    def at(self, travel):
        k = min(max(np.searchsorted(self.knots, travel, side="right") - 1, 0), len(self.t) - 2)
        a, b = self.t[k], self.t[k + 1]
        u = brentq(lambda u: self.knots[k] + self.along(a, u) - travel, a, b, xtol=1e-14)
        d = self.d(u)
        return self.s(u), d / np.linalg.norm(d)


def rails():
    rng = np.random.default_rng(41)
    cases = []
    for i in range(8):
        n, closed = int(rng.integers(2, 9)), bool(i % 2)
        n += 2 * closed
        points = np.cumsum(rng.uniform(-2, 2, (n, 3)) + [[1.5, 0, 0]], axis=0).tolist()
        rail = Rail(points, closed)
        whole = rail.knots[-1]
        places = [{"travel": t, "position": rail.at(t)[0].tolist(), "tangent": rail.at(t)[1].tolist()}
                  for t in rng.uniform(0, whole, 12)]
        cases.append({"points": points, "closed": closed, "knots": rail.knots, "places": places})
    write("rails", ["scipy", "numpy"], cases=cases)


def track_pose(track, travel):
    """Piece by piece; a curve is a turn about its middle, rising evenly."""
    at = chain(shift(track["x_m"], track["height_m"], track["z_m"]), turn(RIGHT, np.radians(track["heading_deg"])))
    slope = 0.0
    for piece in track["pieces"]:
        if piece["piece"] == "straight":
            ground = piece["length_m"]
        else:
            ground = piece["radius_m"] * abs(np.radians(piece["turn_deg"]))
        whole = np.hypot(ground, piece["rise_m"])
        share = min(travel / whole, 1.0)
        slope = np.arctan2(piece["rise_m"], ground)
        up = piece["rise_m"] * share
        if piece["piece"] == "straight":
            at = at @ shift(0, up, -ground * share)
        else:
            side = np.sign(piece["turn_deg"]) * piece["radius_m"]
            at = at @ shift(side, up, 0) @ turn(RIGHT, np.radians(piece["turn_deg"]) * share) @ shift(-side, 0, 0)
        travel -= whole
        if travel <= 0:
            break
    return at, slope


def random_track(rng):
    pieces = []
    for _ in range(int(rng.integers(1, 6))):
        if rng.random() < 0.5:
            pieces.append({"piece": "straight", "length_m": rng.uniform(0.6, 3), "rise_m": rng.uniform(-0.1, 0.1)})
        else:
            pieces.append({"piece": "curve", "radius_m": rng.uniform(1.5, 5), "rise_m": rng.uniform(-0.1, 0.2),
                           "turn_deg": rng.uniform(10, 80) * rng.choice([-1, 1])})
    return {"x_m": rng.uniform(-5, 5), "z_m": rng.uniform(-5, 5), "height_m": 0.12,
            "heading_deg": rng.uniform(-180, 180), "pieces": pieces}


def track_length(track):
    ground = lambda p: p["length_m"] if p["piece"] == "straight" else p["radius_m"] * abs(np.radians(p["turn_deg"]))
    return sum(np.hypot(ground(p), p["rise_m"]) for p in track["pieces"])


def arm(spec, boom):
    """Lifts the head and keeps it level."""
    return chain(shift(0, spec["pivot_m"], 0), turn(UP, boom), shift(0, 0, -spec["length_m"]), turn(UP, -boom),
                 shift(0, spec["head_m"], 0))


def base(spec):
    return chain(shift(spec["base_x_m"], 0, spec["base_z_m"]), turn(RIGHT, np.radians(spec["heading_deg"])))


def machines():
    rng = np.random.default_rng(77)
    u = rng.uniform
    head = lambda: [u(-3, 3), u(-1.2, 1.2), u(-0.4, 0.4)]
    place = lambda: {"base_x_m": u(-9, 9), "base_z_m": u(-9, 9), "heading_deg": u(-180, 180)}
    boom_arm = lambda: {"pivot_m": u(0.5, 1.2), "length_m": u(0.6, 1.6), "head_m": u(0.1, 0.5)}
    cases = []

    def keep(kind, spec, axes, camera):
        cases.append({"spec": {"kind": kind, **spec}, "axes": [float(v) for v in axes], "position": camera[:3, 3].tolist(),
                      "quaternion": Rotation.from_matrix(camera[:3, :3]).as_quat().tolist()})

    for i in range(40):
        h = head()
        spec, height = place(), u(1.1, 1.7)
        keep("tripod", spec, [height, *h], chain(base(spec), shift(0, height, 0), ptr(*h)))

        track, a, boom = random_track(rng), boom_arm(), u(-0.6, 0.9)
        spec = {"track": track, "arm_heading_deg": u(-180, 180), "arm": a}
        travel = u(0, track_length(track))
        at, slope = track_pose(track, travel)
        keep("track_dolly", spec, [travel, boom, *h],
             chain(at, turn(UP, slope), turn(RIGHT, np.radians(spec["arm_heading_deg"])), arm(a, boom), ptr(*h)))

        spec = {**place(), "arm": boom_arm(), "steering": ["rear", "crab", "round"][i % 3]}
        x, z, heading, boom = u(-9, 9), u(-9, 9), u(-3, 3), u(-0.6, 0.9)
        keep("free_dolly", spec, [u(0, 9), u(-0.6, 0.6), boom, x, z, heading, *h],
             chain(shift(x, 0, z), turn(RIGHT, heading), arm(spec["arm"], boom), ptr(*h)))

        points = np.cumsum(u(-1, 1, (5, 3)) + [[1.5, 0.1, 0]], axis=0).tolist()
        facing = ["along", "holds", "aims"][i % 3]
        spec = {"points": [{"position": p} for p in points], "closed": bool(i % 2), "facing": facing,
                "heading_deg": u(-180, 180), "aim_m": u(-9, 9, 3).tolist(), "lens_m": u(-0.5, 0.5)}
        rail = Rail(points, spec["closed"])
        travel = u(0, rail.knots[-1])
        on, t = rail.at(travel)
        lens = on + [0, spec["lens_m"], 0]
        # The aim point begins where the rail has it, and has axes of its own.
        aim = np.add(spec["aim_m"], [0.5, -0.25, 1.0]).tolist()
        turned = {"along": looking([0, 0, 0], t), "holds": turn(RIGHT, np.radians(spec["heading_deg"])),
                  "aims": looking(lens, aim)}[facing]
        own = [travel, *aim] if facing == "aims" else [travel]
        keep("rail", spec, [*own, *h], pose(lens, turned) @ ptr(*h))

        spec = {**place(), "column_height_m": u(0.8, 2), "arm_m": u(1, 5), "head_drop_m": u(0, 1),
                "head": ["level", "lean"][i % 2]}
        swing, boom = u(-6, 6), u(-0.4, 0.75)
        end = [turn(UP, boom), shift(0, 0, -spec["arm_m"])]
        hung = end if spec["head"] == "lean" else end + [turn(UP, -boom)]
        keep("jib", spec, [swing, boom, *h],
             chain(base(spec), shift(0, spec["column_height_m"], 0), turn(RIGHT, swing), *hung,
                   shift(0, -spec["head_drop_m"], 0), ptr(*h)))

        track = random_track(rng)
        spec = {"track": track, "heading_deg": u(-180, 180), "column_height_m": u(0.8, 3), "head_drop_m": u(0, 1),
                "head": ["level", "lean"][i % 2]}
        swing, boom, reach, travel = u(-3, 3), u(-0.5, 0.9), u(2.13, 7.62), u(0, track_length(track))
        at, _ = track_pose(track, travel)
        end = [turn(UP, boom), shift(0, 0, -reach)]
        hung = end if spec["head"] == "lean" else end + [turn(UP, -boom)]
        keep("telescopic_crane", spec, [swing, boom, reach, travel, *h],
             chain(at, shift(0, spec["column_height_m"], 0), turn(RIGHT, np.radians(spec["heading_deg"])),
                   turn(RIGHT, swing), *hung, shift(0, -spec["head_drop_m"], 0), ptr(*h)))

        spec = {"heading_deg": u(-180, 180)}
        swing, height, radius, x, z, y = u(-6, 6), u(-1, 2), u(0.6, 6), u(-5, 5), u(-5, 5), u(0.5, 2)
        out = chain(shift(x, y, z), turn(RIGHT, np.radians(spec["heading_deg"]) + swing), shift(0, height, -radius))
        keep("orbit_arm", spec, [swing, height, radius, x, z, y, *h],
             pose(out[:3, 3], looking(out[:3, 3], [x, y, z])) @ ptr(*h))

        spec = {**place(), "stabiliser": float(i % 3) / 2}
        x, z, heading, height = u(-5, 5), u(-5, 5), u(-3, 3), u(0.5, 1.8)
        walked, pace, breath = u(0, 40), u(0, 2), u(0, 60)
        steps, strong, calm = 2 * np.pi * walked / 0.7, min(pace / 1.4, 1.8), 1 - spec["stabiliser"]
        breathing = np.sin(2 * np.pi * breath / 4)
        lifted = 1 - 0.8 * spec["stabiliser"]
        sway = chain(
            shift(0.02 * strong * np.sin(steps / 2) * lifted, (-0.02 * strong * np.cos(steps) + 0.003 * breathing) * lifted, 0),
            ptr(*np.radians(calm * np.array([0.3 * strong * np.cos(steps / 2),
                                             0.35 * strong * np.sin(steps + 0.6) + 0.12 * breathing,
                                             0.6 * strong * np.sin(steps / 2)]))))
        keep("shoulder", spec, [x, z, heading, height, walked, pace, breath, *h],
             chain(shift(x, height, z), turn(RIGHT, heading), sway, ptr(*h)))

        at = u(-9, 9, 3)
        keep("free_camera", {}, [*at, *h], chain(shift(*at), ptr(*h)))

        spec = {"strength": [0.0, 0.35, 1.0][i % 3]}
        camera, aim, x, z, heading = u(-3, 3, 3), u(-3, 3, 3), u(-5, 5), u(-5, 5), u(-3, 3)
        root = chain(shift(x, 0, z), turn(RIGHT, heading))
        lens, target = (root @ [*camera, 1])[:3], (root @ [*aim, 1])[:3]
        ends = Rotation.from_matrix([root[:3, :3], looking(lens, target)[:3, :3]])
        part = np.eye(4)
        part[:3, :3] = Slerp([0, 1], ends)(spec["strength"]).as_matrix()
        keep("aim_rig", spec, [*camera, *aim, x, z, heading, *h], pose(lens, part) @ ptr(*h))
    write("machines", ["pytransform3d", "scipy", "numpy"], cases=cases)


def glides():
    rng = np.random.default_rng(5)
    cases = []
    for n in [2, 3, 4, 7]:
        rows = rng.uniform(-5, 5, (n, 3))
        rows[:, 2] = 1.25
        tau = np.linspace(0, 1, 41)
        course = (n - 1) * (10 * tau**3 - 15 * tau**4 + 6 * tau**5)
        values = PchipInterpolator(np.arange(n), rows)(course)
        cases.append({"rows": rows.tolist(), "tau": tau.tolist(), "values": values.tolist()})
    write("glides", ["scipy", "numpy"], cases=cases)


if __name__ == "__main__":
    for make in [rails, machines, glides]:
        if len(sys.argv) < 2 or make.__name__ in sys.argv[1:]:
            make()
