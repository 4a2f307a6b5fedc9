import { Button, MenuItem, Select } from "@mui/material";
import { useMemo } from "react";
import { useFigures, useLanes, useTakenKeys } from "../api";
import type { Camera, Document, MachineView, Take } from "../generated/types";
import { Finder } from "../finder/Finder";
import { FiguresPanel } from "../shape/FiguresPanel";
import { Lanes } from "../shape/Lanes";
import { Treatments } from "../shape/Treatments";
import { lookAt, setView } from "../state/view";
import { ink } from "../theme";

/** The curves of the move, what is done to it, before and after, and whether it got better. */
export function Shape({
  document,
  take,
  camera,
  machine,
}: {
  document: Document;
  take: Take | null;
  camera: Camera;
  machine: MachineView | null;
}) {
  const rate = `${document.scene.rate.num}/${document.scene.rate.den}`;
  const lanes = useLanes(take ?? undefined, rate).data;
  const figures = useFigures(take ?? undefined, rate).data;
  const there = document.takes.filter((t) => !t.binned && !t.rolling && !t.pass);
  // What carried or led the machine is no curve of its own.
  const own = useMemo(() => {
    if (!lanes || !machine) return null;
    const of = <T,>(list: T[]) => list.filter((_, i) => machine.axes[i]?.group !== "carrier");
    return { axes: of(machine.axes), curves: { ...lanes, raw: of(lanes.raw), now: of(lanes.now) } };
  }, [lanes, machine]);
  const every = take?.treatments.findLast((t) => t.on && t.kind === "keys");
  const taken = useTakenKeys(take ?? undefined, every?.kind === "keys" ? every.every : undefined, rate).data;
  const keys = useMemo(() => (every ? (taken ?? []) : []).map((k) => k.time_s), [every, taken]);
  if (!take || !machine) {
    return (
      <main
        style={{
          display: "grid",
          placeContent: "center",
          justifyItems: "center",
          gap: 12,
          color: ink.chalkDim,
        }}
      >
        {there.length === 0 ? "There is no take to shape yet. Roll one first." : "Choose a take to shape."}
        {there.length === 0 ? (
          <Button color="primary" onClick={() => setView({ station: "operate" })}>
            Go to Operate
          </Button>
        ) : (
          there.map((t) => (
            <Button key={t.id} onClick={() => lookAt(t.id)}>
              Take {t.number} {t.name}
            </Button>
          ))
        )}
      </main>
    );
  }
  return (
    <main
      style={{
        display: "grid",
        gap: 8,
        padding: 8,
        gridTemplateColumns: "250px minmax(0, 1fr) 330px",
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <div style={{ display: "grid", gap: 8, gridTemplateRows: "auto minmax(0, 1fr)", minHeight: 0 }}>
        <Select
          size="small"
          value={take.id}
          onChange={(e) => lookAt(Number(e.target.value))}
          slotProps={{ input: { "aria-label": "Take to shape" } }}
          sx={{
            fontSize: 14,
            background: ink.slate1,
            "& .MuiSelect-select": { py: "5px" },
            "& fieldset": { borderColor: ink.slate3 },
          }}
        >
          {there.map((t) => (
            <MenuItem key={t.id} value={t.id}>
              Take {t.number} {t.name && `“${t.name}”`} {t.rating === "good" ? "· good" : ""}
            </MenuItem>
          ))}
        </Select>
        <Treatments take={take} />
      </div>
      {own ? <Lanes axes={own.axes} curves={own.curves} keys={keys} /> : <section className="panel" />}
      <div style={{ display: "grid", gap: 8, gridTemplateRows: "236px minmax(0, 1fr)", minHeight: 0 }}>
        <Finder camera={camera} document={document} machine={machine} compare />
        <FiguresPanel take={take} figures={figures} />
      </div>
    </main>
  );
}
