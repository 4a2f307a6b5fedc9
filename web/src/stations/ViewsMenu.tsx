import { Button, Checkbox, Menu, MenuItem } from "@mui/material";
import { useState } from "react";
import { turnShown, useView, type Shown } from "../state/view";
import { ink } from "../theme";

const views: [Shown, string, string][] = [
  ["lens", "through the lens", "Alt L"],
  ["plan", "plan", "Alt P"],
  ["profile", "profile", "Alt O"],
  ["front", "front", "Alt F"],
  ["around", "three-quarter", "Alt T"],
];

/** Which views are large: one, two or four. */
export function ViewsMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const shown = useView((s) => s.shown);
  return (
    <>
      <Button
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ p: "1px 8px", fontSize: 13, alignSelf: "stretch" }}
      >
        Views
      </Button>
      <Menu
        anchorEl={anchor}
        open={!!anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { background: ink.slate2, border: `1px solid ${ink.slate3}` } } }}
      >
        {views.map(([view, word, key]) => (
          <MenuItem
            key={view}
            role="menuitemcheckbox"
            aria-checked={shown.includes(view)}
            dense
            onClick={() => turnShown(view)}
            sx={{ gap: 1, fontSize: 13 }}
          >
            <Checkbox size="small" checked={shown.includes(view)} tabIndex={-1} disableRipple sx={{ p: 0 }} />
            <span style={{ flex: 1 }}>{word}</span>
            <span className="key">{key}</span>
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
