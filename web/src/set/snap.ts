import type { Point } from "../geometry";

/** Smallest and largest x and z. */
export interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export function boxOf(points: Point[]): Box {
  const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity };
  for (const [x, z] of points) {
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.top = Math.min(box.top, z);
    box.bottom = Math.max(box.bottom, z);
  }
  return box;
}

export const join = (boxes: Box[]): Box =>
  boxOf(
    boxes.flatMap((b) => [
      [b.left, b.top],
      [b.right, b.bottom],
    ]),
  );

/** What caught: lines along which a drag came to rest. */
export interface Caught {
  x: number | null;
  z: number | null;
}

const lines = (box: Box, axis: "x" | "z") =>
  axis === "x"
    ? [box.left, (box.left + box.right) / 2, box.right]
    : [box.top, (box.top + box.bottom) / 2, box.bottom];

const onGrid = (v: number, grid: number) => (grid > 0 ? Math.round(v / grid) * grid : v);

/**
 * How far a moved box goes: its edges and its middle catch at edges and middles of others within
 * `reach`; without a catch the place goes to the grid.
 */
export function snapMove(
  box: Box,
  place: Point,
  by: Point,
  others: Box[],
  reach: number,
  grid: number,
): { by: Point; caught: Caught } {
  const one = (axis: "x" | "z", from: number, d: number): [number, number | null] => {
    let best = reach;
    let moved: number | null = null;
    let at: number | null = null;
    const mine = lines(box, axis);
    for (const other of others) {
      for (const theirs of lines(other, axis)) {
        for (const line of mine) {
          const off = theirs - (line + d);
          if (Math.abs(off) < best) {
            best = Math.abs(off);
            moved = d + off;
            at = theirs;
          }
        }
      }
    }
    // Half the reach is enough to be meant; otherwise the nearer of grid and line wins.
    const gridded = onGrid(from + d, grid) - from;
    if (moved !== null && Math.abs(moved - d) <= Math.abs(gridded - d) + 1e-9) return [moved, at];
    return [gridded, null];
  };
  const [x, caughtX] = one("x", place[0], by[0]);
  const [z, caughtZ] = one("z", place[1], by[1]);
  return { by: [round(x), round(z)], caught: { x: caughtX, z: caughtZ } };
}

/** A point on the grid, or on an edge or a middle that is nearer. */
export function snapPoint([x, z]: Point, others: Box[], reach: number, grid: number): Point {
  const point = { left: x, right: x, top: z, bottom: z };
  const { by } = snapMove(point, [x, z], [0, 0], others, reach, grid);
  return [round(x + by[0]), round(z + by[1])];
}

/** The end of a line from `a`, at a whole multiple of 15 degrees where it is near one. */
export function snapAngle(a: Point, b: Point): Point {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const angle = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const step = Math.PI / 12;
  const nearest = Math.round(angle / step) * step;
  if (Math.abs(angle - nearest) > step / 3) return b;
  return [round(a[0] + Math.cos(nearest) * length), round(a[1] + Math.sin(nearest) * length)];
}

/** Distances from a box to what is nearest on each side: from, to, across. */
export function gaps(box: Box, others: Box[], stage: Box): [Point, Point][] {
  const midX = (box.left + box.right) / 2;
  const midZ = (box.top + box.bottom) / 2;
  const beside = others.filter((o) => o.top < midZ && midZ < o.bottom);
  const above = others.filter((o) => o.left < midX && midX < o.right);
  const left = Math.max(stage.left, ...beside.map((o) => o.right).filter((v) => v <= box.left + 1e-6));
  const right = Math.min(stage.right, ...beside.map((o) => o.left).filter((v) => v >= box.right - 1e-6));
  const top = Math.max(stage.top, ...above.map((o) => o.bottom).filter((v) => v <= box.top + 1e-6));
  const bottom = Math.min(stage.bottom, ...above.map((o) => o.top).filter((v) => v >= box.bottom - 1e-6));
  const all: [Point, Point][] = [
    [
      [left, midZ],
      [box.left, midZ],
    ],
    [
      [box.right, midZ],
      [right, midZ],
    ],
    [
      [midX, top],
      [midX, box.top],
    ],
    [
      [midX, box.bottom],
      [midX, bottom],
    ],
  ];
  return all.filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]) > 0.02);
}

export const round = (v: number) => Math.round(v * 1000) / 1000;
