import { setView, useView } from "./view";
import { panned, zoomed } from "./window";

/** The wheel over time: zooms about an instant; sideways, or with shift, goes later and earlier. */
export function turnWheel(event: React.WheelEvent, at: number, whole: number) {
  const { window } = useView.getState();
  const across = event.shiftKey ? event.deltaX + event.deltaY : event.deltaX;
  if (across !== 0) setView({ window: panned(window, whole, Math.sign(across) * 0.1) });
  else setView({ window: zoomed(window, whole, at, event.deltaY > 0 ? 1.25 : 0.8) });
}

/** The keys: closer, farther, all of it, about an instant. */
export function zoomBy(times: number | null, at: number, whole: number) {
  setView({ window: times === null ? null : zoomed(useView.getState().window, whole, at, times) });
}
