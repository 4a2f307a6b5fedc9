import { link, useFloor } from "../live/link";

/** Arrow keys that are down, while somebody is driven. */
const down = new Set<string>();
const keys = ["ArrowUp", "ArrowLeft", "ArrowRight"];

function apply(run: boolean) {
  link.setWalk({
    ahead: down.has("ArrowUp") ? 1 : 0,
    turn: Number(down.has("ArrowRight")) - Number(down.has("ArrowLeft")),
    run,
  });
}

/** An arrow drives whoever is driven; whether it meant something. */
export function walkKey(event: KeyboardEvent, pressed: boolean): boolean {
  if (!useFloor.getState().status?.acting) return false;
  if (event.key === "ArrowDown") {
    if (pressed && !event.repeat) link.setWalk({ sit: !link.walk.sit });
    return true;
  }
  if (event.key === "Shift") {
    apply(pressed);
    return false;
  }
  if (!keys.includes(event.key)) return false;
  if (pressed) down.add(event.key);
  else down.delete(event.key);
  apply(event.shiftKey);
  return true;
}

export function standStill() {
  down.clear();
}

/**
 * A gamepad drives who is driven: the left stick walks and turns, a push on a shoulder runs, the
 * lower front button sits down. Alone with the camera it is the second one.
 */
export function walkPad(alone: boolean): boolean {
  const pads = navigator.getGamepads().filter((p) => p?.connected);
  const pad = alone ? pads[0] : pads[1];
  if (!pad || !useFloor.getState().status?.acting) return false;
  const [x = 0, y = 0] = pad.axes;
  const past = (v: number) => (Math.abs(v) < 0.15 ? 0 : v);
  if (down.size === 0)
    link.setWalk({ ahead: Math.max(0, -past(y)), turn: past(x), run: !!pad.buttons[5]?.pressed });
  const sits = !!pad.buttons[0]?.pressed;
  if (sits && !sat) link.setWalk({ sit: !link.walk.sit });
  sat = sits;
  return alone;
}
let sat = false;
