import { enqueueSnackbar } from "notistack";
import { link, useFloor } from "../live/link";

/** Attaches the camera to its device where both are, or lets it go. */
export function attachOrLetGo() {
  const tracking = useFloor.getState().status?.tracking;
  if (!tracking) return;
  if (!tracking.attached && !tracking.alive) {
    enqueueSnackbar("No tracked device is heard; open Devices to listen for one", { variant: "warning" });
    return;
  }
  link.send({ do: "attach", on: !tracking.attached });
}
