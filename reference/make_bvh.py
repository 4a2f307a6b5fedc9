"""Makes `values/bvh.json`: where pybvh puts every joint of the captured motions that the tests fetch.

The captures are never part of the checkout; only these positions are. pybvh reads and poses BVH
files with NumPy and shares no code with Rovnek.
"""

import json
import sys
import warnings
from importlib.metadata import version
from pathlib import Path

import pybvh

warnings.simplefilter("ignore")


def main():
    clips = {}
    for path in map(Path, sys.argv[1:]):
        clip = pybvh.read_bvh_file(path, world_up="+y")
        positions = pybvh.frames_to_node_positions(clip)
        clips[path.stem] = {
            "joints": [node.name for node in clip.nodes],
            # Ten-millionths of the file's unit, a row for each frame.
            "positions_e7": [[round(v * 1e7) for v in frame.ravel()] for frame in positions],
        }
    values = {"source": f"pybvh {version('pybvh')}, on the captures in bvhtoolbox's source package", "clips": clips}
    out = Path(__file__).parent / "values" / "bvh.json"
    out.write_text(json.dumps(values, separators=(",", ":")) + "\n")


main()
