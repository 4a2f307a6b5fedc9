import { Button, Checkbox, Menu, MenuItem, type SxProps } from "@mui/material";
import { useState } from "react";
import { ink } from "../theme";

/** A button whose menu turns things on and off, each with its key. */
export function CheckMenu<T extends string>(props: {
  word: string;
  choices: readonly (readonly [choice: T, word: string, key: string])[];
  on: (choice: T) => boolean;
  turn: (choice: T) => void;
  sx: SxProps;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="menu" sx={props.sx}>
        {props.word}
      </Button>
      <Menu
        anchorEl={anchor}
        open={!!anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { background: ink.slate2, border: `1px solid ${ink.slate3}` } } }}
      >
        {props.choices.map(([choice, word, key]) => (
          <MenuItem
            key={choice}
            role="menuitemcheckbox"
            aria-checked={props.on(choice)}
            dense
            onClick={() => props.turn(choice)}
            sx={{ gap: 1, fontSize: 13 }}
          >
            <Checkbox size="small" checked={props.on(choice)} tabIndex={-1} disableRipple sx={{ p: 0 }} />
            <span style={{ flex: 1 }}>{word}</span>
            <span className="key">{key}</span>
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
