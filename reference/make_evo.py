"""Makes `values/recording.json`: what evo says of the handheld recording that the tests fetch.

The recording is never part of the checkout; only these figures are.
"""

import json
import sys
from importlib.metadata import version
from pathlib import Path

from evo.core.metrics import PoseRelation, RPE, Unit
from evo.core.trajectory import PoseTrajectory3D
from evo.tools import file_interface

DELAY = 3


def rpe(relation, a, b):
    metric = RPE(relation, delta=1, delta_unit=Unit.frames, all_pairs=True)
    metric.process_data((a, b))
    return float(metric.get_all_statistics()["rmse"])


def main():
    whole = file_interface.read_tum_trajectory_file(sys.argv[1])
    n = whole.num_poses - DELAY

    def part(first):
        return PoseTrajectory3D(
            positions_xyz=whole.positions_xyz[first : first + n],
            orientations_quat_wxyz=whole.orientations_quat_wxyz[first : first + n],
            timestamps=whole.timestamps[:n],
        )

    here, later = part(0), part(DELAY)
    values = {
        "source": f"evo {version('evo')}, on the recording in its source package",
        "poses": int(whole.num_poses),
        "path_length_m": float(whole.path_length),
        "delay": DELAY,
        "relative_translation_m": rpe(PoseRelation.translation_part, here, later),
        "relative_rotation_deg": rpe(PoseRelation.rotation_angle_deg, here, later),
    }
    out = Path(__file__).parent / "values" / "recording.json"
    out.write_text(json.dumps(values, indent=1) + "\n")
    print(values)


main()
