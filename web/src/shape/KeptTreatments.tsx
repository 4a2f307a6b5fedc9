import { Button } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useRef, useState } from "react";
import { create } from "zustand";
import { change } from "../document/edit";
import { usePresets } from "../api";
import { TextField } from "../form/fields";
import { Choice, Row } from "../form/rows";
import type { Described, MachineView, PresetTreatments, Treatment } from "../generated/types";
import { keep, kept, saveAs } from "../state/browser";
import type { Looked } from "../state/looked";
import { fileOf, readTreatments, withOthers } from "./kept";

/** What was copied last, to be put onto other moves. */
const useCopied = create<{ list: Treatment[] | null }>(() => ({ list: null }));

/** Presets of this browser's own, by their names. */
type Own = PresetTreatments[];

/** Treatments that go together: those there are, and one's own, which this browser keeps. */
function Presets(props: { some: boolean; all: () => Treatment[]; onChosen: (list: Treatment[]) => void }) {
  const { some, all, onChosen } = props;
  const [own, setOwn] = useState(() => kept<Own>("presets", []));
  const presets = [...(usePresets().data ?? []), ...own];
  const hold = (next: Own) => {
    setOwn(next);
    keep("presets", next);
  };
  return (
    <div style={{ flexBasis: "100%" }}>
      <Row label="preset">
        <Choice
          label="Preset of treatments"
          value="-"
          options={[
            ["-", "choose"],
            ...presets.map((p) => [p.name, p.name] as const),
            ...own.map((p) => [`forget ${p.name}`, `forget ${p.name}`] as const),
          ]}
          hints={Object.fromEntries(presets.map((p) => [p.name, p.hint]))}
          onChange={(word) => {
            const found = presets.find((p) => p.name === word);
            if (found) onChosen(found.treatments);
            else hold(own.filter((p) => word !== `forget ${p.name}`));
          }}
        />
      </Row>
      {some && (
        <TextField
          label="Keep these as a preset"
          placeholder="a name keeps these as a preset"
          width="100%"
          value=""
          onKeep={(name) => {
            const others = own.filter((p) => p.name !== name);
            if (presets.some((p) => p.name === name && !own.includes(p)))
              return enqueueSnackbar(`${name} is there already; give another name`, { variant: "warning" });
            hold([...others, { name, hint: "Your own.", treatments: all() }]);
          }}
        />
      )}
    </div>
  );
}

/** Treatments go from move to move: copied and pasted, or by way of a file. */
export function KeptTreatments(props: { looked: Looked; machine: MachineView; kinds: Described[] }) {
  const { looked, machine, kinds } = props;
  const { move, title } = looked;
  const copied = useCopied((s) => s.list);
  const file = useRef<HTMLInputElement>(null);
  const some = move.treatments.length > 0;
  const put = (list: Treatment[]) => {
    const path = `/moves/${move.id}/treatments`;
    void change(
      `treat ${title}`,
      path,
      move.treatments,
      withOthers(move.treatments, list, kinds, machine.treatments),
    );
  };
  const save = () => {
    const text = JSON.stringify(fileOf(move.treatments), null, 2);
    const name = `${title.replaceAll(" ", "-")}-treatments.json`;
    saveAs(new Blob([text], { type: "application/json" }), name);
  };
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    const list = readTreatments(await chosen.text(), chosen.name, kinds);
    if (typeof list === "string") enqueueSnackbar(list, { variant: "error" });
    else put(list);
  };
  return (
    <div
      role="group"
      aria-label="All treatments"
      style={{ display: "flex", flexWrap: "wrap", gap: 4, marginTop: 10 }}
    >
      <Presets some={some} all={() => fileOf(move.treatments).treatments} onChosen={put} />
      <Button
        disabled={!some}
        title="All of them, to be pasted onto another move"
        onClick={() => useCopied.setState({ list: fileOf(move.treatments).treatments })}
      >
        Copy all
      </Button>
      <Button
        disabled={!copied}
        title="What was copied, after what is here"
        onClick={() => copied && put(copied)}
      >
        Paste
      </Button>
      <Button disabled={!some} title="All of them as a file" onClick={save}>
        To a file
      </Button>
      <Button title="Those of a file, after what is here" onClick={() => file.current?.click()}>
        From a file
      </Button>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="File of treatments"
        hidden
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
    </div>
  );
}
