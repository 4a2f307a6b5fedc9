import { Button } from "@mui/material";
import { useState } from "react";
import { useFlatKind, useMakeFlat } from "../api";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Flatten } from "../generated/types";
import type { Looked } from "../state/looked";
import { lookAt, useView } from "../state/view";
import { ink } from "../theme";

/** The move as plain values, kept as a move of its own: all of it, or what lies between in and out. */
export function MakeFlat({ looked }: { looked: Looked }) {
  const kind = useFlatKind().data;
  const [chosen, setChosen] = useState<Flatten | null>(null);
  const inS = useView((s) => s.inS);
  const outS = useView((s) => s.outS);
  const make = useMakeFlat();
  if (!kind) return null;
  const [params, usual] = kind;
  const by = { ...(chosen ?? usual), from_s: inS, to_s: outS };
  const range = inS !== null || outS !== null;
  return (
    <div
      role="group"
      aria-label="Bake"
      style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 10, paddingTop: 6 }}
    >
      <span className="label">Bake</span>
      <ParamForm
        params={params}
        value={(chosen ?? usual) as unknown as Fields}
        onChange={(next) => setChosen(next as unknown as Flatten)}
      />
      <Button
        disabled={make.isPending}
        title="Plain values as a move of its own, straight from key to key; this one stays as it is"
        onClick={() =>
          make.mutate(
            { move: looked.move.id, by },
            { onSuccess: ({ move_id }) => move_id !== null && lookAt(move_id) },
          )
        }
      >
        {range ? "Bake in to out" : "Bake"}
      </Button>
    </div>
  );
}
