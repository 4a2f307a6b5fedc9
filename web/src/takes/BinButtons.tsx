import { Button } from "@mui/material";
import { useEmptyBin } from "../api";
import type { Document } from "../generated/types";

/** Into the bin and out again, and the one thing that removes samples. */
export function BinButtons(props: { document: Document; open: boolean; onTurn: (open: boolean) => void }) {
  const { document, open, onTurn } = props;
  const empty = useEmptyBin();
  const binned = document.takes.filter((t) => t.binned).length;
  return (
    <>
      {open && binned > 0 && (
        <Button
          onClick={() => empty.mutate(undefined)}
          title="Removes these takes and their samples for good"
        >
          Empty the bin for good
        </Button>
      )}
      {(open || binned > 0) && (
        <Button onClick={() => onTurn(!open)}>{open ? "Back to takes" : `Bin (${binned})`}</Button>
      )}
    </>
  );
}
