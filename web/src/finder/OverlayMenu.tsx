import { Button, Checkbox, Menu, MenuItem } from "@mui/material";
import { useState } from "react";
import { setView, turnOverlay, useView, type Overlays } from "../state/view";
import { ink } from "../theme";

/** What can lie over the picture, with its key. */
export const overlays: [keyof Overlays, string, string][] = [
  ["frame", "frame", "Alt 5"],
  ["thirds", "thirds", "Alt 4"],
  ["centre", "centre", "Alt 6"],
  ["safe", "safe areas", "Alt 7"],
  ["horizon", "horizon", "Alt 8"],
  ["focus", "show what is sharp", "Alt 9"],
  ["blur", "blur what is not", "Alt 0"],
];

/** Lines over the picture, and drawing a frame in it. */
export function OverlayMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
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
      <Button onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="menu" sx={small}>
        Lines
      </Button>
      <Menu
        anchorEl={anchor}
        open={!!anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { background: ink.slate2, border: `1px solid ${ink.slate3}` } } }}
      >
        {overlays.map(([name, word, key]) => (
          <MenuItem
            key={name}
            role="menuitemcheckbox"
            aria-checked={on[name]}
            dense
            onClick={() => turnOverlay(name)}
            sx={{ gap: 1, fontSize: 13 }}
          >
            <Checkbox size="small" checked={on[name]} tabIndex={-1} disableRipple sx={{ p: 0 }} />
            <span style={{ flex: 1 }}>{word}</span>
            <span className="key">{key}</span>
          </MenuItem>
        ))}
      </Menu>
    </span>
  );
}

const small = { py: 0, px: "8px", fontSize: 12 } as const;
