import { Button } from "@mui/material";
import { openClean, turnFullScreen } from "../film/showing";
import { Icon } from "../form/icons";
import { CheckMenu } from "../shell/CheckMenu";
import { setView, turnOverlay, useView, type Overlays } from "../state/view";

/** What can lie over the picture, with its key. */
export const overlays: [keyof Overlays, string, string][] = [
  ["frame", "frame", "Alt 5"],
  ["thirds", "thirds", "Alt 4"],
  ["centre", "centre", "Alt 6"],
  ["safe", "safe areas", "Alt 7"],
  ["horizon", "horizon", "Alt 8"],
  ["focus", "show what is sharp", "Alt 9"],
  ["blur", "blur what is not", "Alt 0"],
  ["machines", "other machines", "Alt Y"],
  ["handles", "handles", "Alt U"],
];

/** Lines over the picture, and drawing a frame in it. */
export function OverlayMenu() {
  const on = useView((s) => s.overlays);
  const drawing = useView((s) => s.drawing);
  return (
    <span style={{ display: "flex", gap: 5, flex: "none" }}>
      <Button
        aria-pressed={drawing}
        color={drawing ? "primary" : "inherit"}
        title="Draw a frame (Alt D)"
        onClick={() => setView({ drawing: !drawing })}
        sx={small}
      >
        Draw frame
      </Button>
      <CheckMenu word="Lines" choices={overlays} on={(name) => on[name]} turn={turnOverlay} sx={small} />
      <button
        className="plain"
        aria-label="Full screen"
        title="The picture over the whole screen (Alt Enter)"
        onClick={turnFullScreen}
      >
        <Icon name="full" size={15} />
      </button>
      <button
        className="plain"
        aria-label="Picture in a window of its own"
        title="The frame alone in a window of its own (Alt W)"
        onClick={openClean}
      >
        <Icon name="window" size={15} />
      </button>
    </span>
  );
}

const small = { py: 0, px: "8px", fontSize: 12 } as const;
