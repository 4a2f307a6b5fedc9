import { Button } from "@mui/material";
import { useState } from "react";
import { askAim } from "../api";
import type { Aim, MoveId } from "../generated/types";

/** Reads out of a move whom it was turned to by itself, and when that changed: a start for an aim. */
export function AsItLooked(props: { move: MoveId; treatment: number; onFound: (aim: Aim) => void }) {
  const [asked, setAsked] = useState(false);
  const ask = () => {
    setAsked(true);
    void askAim(props.move, props.treatment)
      .then((aim) => aim && props.onFound(aim))
      .finally(() => setAsked(false));
  };
  return (
    <Button
      disabled={asked}
      onClick={ask}
      title="Whom the move was turned to before this, when that changed, and where in the frame they were"
      sx={{ my: "4px" }}
    >
      As the take looked
    </Button>
  );
}
