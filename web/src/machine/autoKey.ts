import { useEffect } from "react";
import { link, useFloor } from "../live/link";
import { axisFlag } from "../live/wire";
import { everyFrame, scene } from "../state/now";
import { useView } from "../state/view";
import { isHandling } from "./bring";
import { keepTouched } from "./positions";

/** Difference from its value when auto-key was armed from which an axis was changed, shown units. */
const CHANGED = 1e-9;

/** With auto-key armed, what hands change becomes a key as soon as they rest. */
export function useAutoKey() {
  const on = useView((s) => s.autoKey);
  useEffect(() => {
    if (!on) return;
    let busy = false;
    // What hands had made of an axis without a key before is not a change.
    let armed = { setup: 0, values: [] as number[] };
    return everyFrame(() => {
      const { frame } = link;
      const { status } = useFloor.getState();
      if (!frame || !status || frame.setup !== status.setup_id) return;
      if (armed.setup !== frame.setup || armed.values.length !== frame.axes.length)
        armed = { setup: frame.setup, values: frame.axes.map((a) => a.value) };
      if (busy || isHandling() || status.sent) return;
      const changed = frame.axes.map(
        (axis, i) =>
          status.pending[i] === true ||
          (status.touched[i] === true && Math.abs(axis.value - armed.values[i]!) > CHANGED),
      );
      if (!changed.some(Boolean)) return;
      if (frame.axes.some((a) => a.flags & axisFlag.driven || Math.abs(a.speed) > 1e-3)) return;
      busy = true;
      const names = scene.machine?.axes.filter((_, i) => changed[i]).map((axis) => axis.name) ?? [];
      void keepTouched(names).finally(() => {
        busy = false;
        // What was changed meanwhile of another axis is still a change.
        const values = link.frame?.axes.map((axis, i) => (changed[i] ? axis.value : armed.values[i]!));
        if (values?.length === armed.values.length) armed = { ...armed, values };
      });
    }, 8);
  }, [on]);
}
