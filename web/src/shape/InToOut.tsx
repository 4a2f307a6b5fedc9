import { Button } from "@mui/material";
import type { Trim } from "../generated/types";
import type { Looked } from "../state/looked";
import { useView } from "../state/view";
import { trimmedTo } from "./trimmed";

/** Takes off what lies outside of in and out. */
export function InToOut(props: { looked: Looked; trim: Trim; onTrim: (trim: Trim) => void }) {
  const inS = useView((s) => s.inS);
  const outS = useView((s) => s.outS);
  const { looked, trim, onTrim } = props;
  const none = inS === null && outS === null;
  return (
    <Button
      disabled={none}
      onClick={() => onTrim(trimmedTo(trim, looked, inS, outS))}
      title={
        none ? "Set in or out on the time strip first (I, O)" : "Takes off what lies outside of in and out"
      }
      sx={{ my: "4px" }}
    >
      In to out
    </Button>
  );
}
