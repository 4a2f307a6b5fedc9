import type { Point } from "../geometry";
import type { View } from "../render/view";
import type { Vec } from "./handles";

/** A view in which a hand takes hold of the machine: plan, profile or picture. */
export interface HandView {
  /** Pixels of a place from the view's upper left corner; null where the view does not show it. */
  toPixels(at: Vec): Point | null;
  /**
   * Takes hold of a place: the answer is the place that belongs to the hand's pixels. The view stays as it was
   * when the hand took hold, though the drag may turn it. A `level` place stays at its height.
   */
  hold(start: Vec, level: boolean): (hand: Point) => Vec | null;
  /** The hand has let go. */
  release?(): void;
}

/** A view that is a drawing, which is attached once it is on the page. */
export interface SheetView extends HandView {
  attach: (svg: SVGSVGElement | null) => void;
}

/** A drawing to scale. `flat` is where a place lies on it, `lifted` a place taken to where the hand is. */
export function sheetView(flat: (at: Vec) => Point, lifted: (start: Vec, hand: Point) => Vec): SheetView {
  let svg: SVGSVGElement | null = null;
  const through = (matrix: DOMMatrix, [x, y]: Point): Point => {
    const p = new DOMPoint(x, y).matrixTransform(matrix);
    return [p.x, p.y];
  };
  return {
    attach: (element) => {
      svg = element;
    },
    toPixels: (at) => {
      const matrix = svg?.getScreenCTM();
      if (!svg || !matrix) return null;
      const { left, top } = svg.getBoundingClientRect();
      const [x, y] = through(matrix, flat(at));
      return [x - left, y - top];
    },
    hold: (start) => {
      const { left, top } = svg!.getBoundingClientRect();
      const back = svg!.getScreenCTM()!.inverse();
      return ([x, y]) => lifted(start, through(back, [x + left, y + top]));
    },
  };
}

/** A drawing from above. */
export const planView = () =>
  sheetView(
    ([x, , z]) => [x, z],
    ([, y], [x, z]) => [x, y, z],
  );

/** Farthest that a hand drags something in a picture, metres from the eye. */
const FAR_M = 200;
const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;

/** A picture of the room: what is dragged stays on its level, or as far away as it was. */
export function pictureView(view: View): HandView {
  const size = () => [view.canvas.clientWidth, view.canvas.clientHeight] as const;
  return {
    toPixels: (at) => {
      const eye = view.sight.eye();
      const place = view.sight.placeOf([at[0] - eye[0], at[1] - eye[1], at[2] - eye[2]]);
      const [w, h] = size();
      return place && [place[0] * w, place[1] * h];
    },
    hold: (start, level) => {
      const sight = view.sight.held();
      const [w, h] = size();
      const eye = sight.eye();
      const upright = level ? ([0, 1, 0] as const) : sight.direction(0.5, 0.5);
      const away = dot([start[0] - eye[0], start[1] - eye[1], start[2] - eye[2]], upright);
      return ([x, y]) => {
        const along = sight.direction(x / w, y / h);
        const far = away / dot(along, upright);
        // A hand above the horizon points at no place on the floor.
        if (!(far > 0 && far < FAR_M)) return null;
        return [eye[0] + along[0] * far, eye[1] + along[1] * far, eye[2] + along[2] * far];
      };
    },
  };
}
