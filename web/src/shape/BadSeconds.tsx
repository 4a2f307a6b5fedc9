import { Button } from "@mui/material";
import { useState } from "react";
import { useFaults, type Mendable } from "../api";
import type { Treatment } from "../generated/types";
import type { Looked } from "../state/looked";
import { seek } from "../state/transport";
import { ink } from "../theme";

/** A number as it is read beside another one. */
const amount = (value: number, unit: string) =>
  `${value.toFixed(value < 10 ? 1 : 0)}${unit === "°" ? unit : ""}`;

const named = (fault: Mendable) => `${fault.what} at ${fault.from_s.toFixed(1)} s`;

/** The bad seconds of a move: gone to by a click, each with what it was and would be, mended one by one or all. */
export function BadSeconds(props: {
  looked: Looked;
  word: (kind: string) => string;
  onMend: (remedies: Treatment[]) => void;
}) {
  const { looked, word, onMend } = props;
  const [asked, setAsked] = useState(false);
  const faults = useFaults(asked ? looked : undefined);
  const found = asked ? faults : undefined;
  const tried = found?.filter((f) => f.remedy !== undefined).length ?? 0;
  const remedies = found?.flatMap((f) => (f.remedy ? [f.remedy.treatment as Treatment] : [])) ?? [];
  return (
    <section
      aria-label="Bad seconds"
      style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 10, paddingTop: 6 }}
    >
      <div style={{ display: "flex", alignItems: "baseline", gap: 10 }}>
        <span className="label" style={{ flex: 1 }}>
          Bad seconds
        </span>
        {found && tried < found.length && (
          <span role="status" style={{ fontSize: 12.5, color: ink.chalkDim }}>
            {tried} of {found.length} tried
          </span>
        )}
        {found && tried === found.length && remedies.length > 1 && (
          <button
            className="plain"
            style={{ color: ink.pick }}
            title="Adds all the treatments below; one undo takes them away"
            onClick={() => onMend(remedies)}
          >
            mend all {remedies.length}
          </button>
        )}
        {found && (
          <button className="plain" style={{ color: ink.chalkDim }} onClick={() => setAsked(false)}>
            close
          </button>
        )}
      </div>
      {!found && (
        <Button
          disabled={asked}
          onClick={() => setAsked(true)}
          title="Knocks and jumps, stops of the camera, somebody lost or covered, limits passed, the lens too near; with the smallest treatment that mends each"
          sx={{ my: "4px" }}
        >
          {asked ? "Looking…" : "Look for them"}
        </Button>
      )}
      {found?.length === 0 && (
        <p role="status" style={{ margin: "2px 0", color: ink.chalkDim }}>
          None: no knock, no stop of the camera, no limit, no near hit; nobody is lost or covered.
        </p>
      )}
      {found && found.length > 0 && (
        <ul aria-label="Bad seconds" style={{ listStyle: "none", margin: "2px 0 6px", padding: 0 }}>
          {found.map((fault) => (
            <li
              key={named(fault)}
              style={{ display: "flex", alignItems: "baseline", gap: 8, padding: "2px 0", fontSize: 12.5 }}
            >
              <button
                className="plain"
                style={{ flex: 1, textAlign: "left", whiteSpace: "normal" }}
                title="Go there"
                onClick={() => seek(fault.from_s)}
              >
                <span className="num">{fault.from_s.toFixed(1)}</span> {fault.what}
              </button>
              {fault.remedy ? (
                <>
                  <span
                    className="num"
                    title={`In ${fault.unit}: as it is, and mended`}
                    style={{ color: ink.chalkDim, whiteSpace: "nowrap" }}
                  >
                    {amount(fault.before, fault.unit)} → {amount(fault.remedy.after, fault.unit)}
                  </span>
                  <button
                    className="plain"
                    aria-label={`Mend: ${named(fault)}`}
                    title={`Adds ${word(fault.remedy.treatment.kind)} to this time only; every frame outside stays as it is`}
                    style={{ color: ink.pick, whiteSpace: "nowrap" }}
                    onClick={() => onMend([fault.remedy!.treatment as Treatment])}
                  >
                    {word(fault.remedy.treatment.kind)}
                  </button>
                </>
              ) : fault.remedy === undefined ? (
                <span style={{ color: ink.chalkDim }}>…</span>
              ) : (
                <span title="No treatment here makes it half as bad" style={{ color: ink.near }}>
                  by hand
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
