import { Button } from "@mui/material";
import { Icon } from "../form/icons";
import { Toggle } from "../form/rows";
import type { Document, Take } from "../generated/types";
import { link } from "../live/link";
import { scene } from "../state/now";
import { setSlate, setView } from "../state/view";
import { cutOff } from "../form/cutOff";
import { ink } from "../theme";
import { binTake, mutePass } from "./edits";

/** The passes of a take, in the order they lie. */
export function Passes({ document, below }: { document: Document; below: Take }) {
  const passes = document.takes.filter((t) => t.pass?.take === below.id && !t.binned);
  return (
    <ol
      aria-label={`Passes of take ${below.number}`}
      style={{ listStyle: "none", margin: "4px 0 0", padding: 0 }}
    >
      <li style={{ fontSize: 12.5, color: ink.chalkDim }}>
        first roll · every axis · {below.length_s.toFixed(1)} s
      </li>
      {passes.map((t) => {
        const { name, axes, at } = t.pass!;
        const from = at / t.rate_hz;
        return (
          <li
            key={t.id}
            data-testid={`pass-${t.id}`}
            style={{
              display: "flex",
              alignItems: "center",
              gap: 6,
              fontSize: 12.5,
              borderTop: `1px solid ${ink.slate3}`,
              opacity: t.pass!.muted ? 0.6 : 1,
            }}
          >
            <span
              style={{
                flex: 1,
                ...cutOff,
              }}
            >
              <b style={{ fontWeight: 500 }}>{name || "pass"}</b>{" "}
              <span style={{ color: ink.chalkDim }} title={axes.join(", ")}>
                {t.rolling ? "rolling" : `${from.toFixed(1)}–${(from + t.length_s).toFixed(1)} s`} ·{" "}
                {axes.join(", ")}
              </span>
            </span>
            {!t.rolling && (
              <>
                <Toggle
                  on={t.pass!.muted}
                  label="mute"
                  title="Leaves this pass out of the take"
                  onClick={() => mutePass(t, !t.pass!.muted)}
                />
                <Button
                  sx={{ py: 0, px: 0.5 }}
                  title="Arms the same axes over the same time; R rolls it again over this one"
                  onClick={() => again(t)}
                >
                  again
                </Button>
                <button
                  className="plain"
                  aria-label={`Bin the pass ${name}`}
                  onClick={() => binTake(t, true)}
                >
                  <Icon name="bin" size={15} />
                </button>
              </>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** Makes ready to roll a pass again: its axes, its time, its name. */
function again(pass: Take) {
  const { at, axes, name, blend_s } = pass.pass!;
  const names = scene.machine?.axes.map((a) => a.name) ?? [];
  names.forEach((axis, i) => link.send({ do: "arm", axis: i, on: axes.includes(axis) }));
  const from = at / pass.rate_hz;
  setView({ inS: at > 0 ? from : null, outS: from + pass.length_s });
  setSlate({ pass: name, blend: blend_s });
}
