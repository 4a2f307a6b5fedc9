import { turn } from "../geometry";
import { link } from "../live/link";
import { ownBodies } from "../render/subject";
import { hereS, moversNow, scene } from "../state/now";
import { useView } from "../state/view";

/** Where whom the view follows is ("driven": who is driven; or a performer), and how they are turned, radians; none while that is the machine. */
export function followed(about: string): { at: [number, number, number]; turn: number } | null {
  const { live } = useView.getState();
  const acting = live ? link.frame?.acting : null;
  const wanted = about === "driven" ? acting && `${acting.kind} ${acting.id}` : about;
  let first = 0;
  for (const figure of scene.played.figures) {
    const name = figure.performer !== null ? `performer ${figure.performer}` : `piece ${figure.piece}`;
    if (name === wanted) {
      const own = ownBodies(figure, moversNow());
      // A figure's second part is its trunk.
      const part = figure.performer !== null ? 1 : 0;
      const pose = own?.subarray(part * 7) ?? scene.played.poses?.poseAt(first + part, hereS());
      if (!pose) return null;
      const [dx, , dz] = turn(pose, 3, [0, 0, -1]);
      return { at: [pose[0]!, Math.max(1.2, pose[1]!), pose[2]!], turn: Math.atan2(-dx, -dz) };
    }
    first += figure.bodies.length;
  }
  return null;
}
