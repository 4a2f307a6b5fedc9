import { Button } from "@mui/material";
import { useRef, useState } from "react";
import { kindOfFile, titleOf, useBringIn, useImportKinds } from "../api";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { ImportKind } from "../generated/types";
import { setView } from "../state/view";
import { ink } from "../theme";

interface Chosen {
  file: File;
  kind: ImportKind;
  params: Fields;
}

/** Brings a move in from a file, with what its kind lets be set. */
export function ImportPanel() {
  const bring = useBringIn(true);
  const kinds = useImportKinds("takes").data ?? [];
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [refused, setRefused] = useState("");
  const last = useRef<File | null>(null);
  const choose = async (file: File | null) => {
    last.current = file;
    setChosen(null);
    setRefused("");
    bring.reset();
    if (!file) return;
    try {
      const kind = await kindOfFile("takes", file);
      // Another file may have been chosen meanwhile.
      if (last.current === file) setChosen({ file, kind, params: kind.usual });
    } catch (error) {
      if (last.current === file) setRefused((error as Error).message);
    }
  };
  const go = ({ file, kind, params }: Chosen) =>
    bring.mutate(
      { kind: kind.name, name: titleOf(file), file, params },
      { onSuccess: () => setView({ importing: false }) },
    );
  const fault = refused || bring.error?.message;
  return (
    <section
      className="panel"
      aria-label="Bring in a move"
      style={{ height: "100%", padding: "8px 12px", fontSize: 13, display: "flex", flexDirection: "column" }}
    >
      <div
        style={{
          display: "flex",
          justifyContent: "space-between",
          alignItems: "center",
          minHeight: 26,
          marginBottom: 4,
        }}
      >
        <span className="label">Bring in a move</span>
        <Button onClick={() => setView({ importing: false })}>Close</Button>
      </div>
      <div className="scroll" style={{ flex: 1, minHeight: 0 }}>
        <input
          type="file"
          aria-label="File"
          accept={kinds.flatMap((kind) => kind.endings).join()}
          onChange={(e) => void choose(e.target.files?.[0] ?? null)}
          style={{ font: "inherit", color: ink.chalk, maxWidth: "100%" }}
        />
        {(chosen ? [chosen.kind] : kinds).map(({ name, hint }) => (
          <p key={name} style={{ margin: "6px 0", color: ink.chalkDim }}>
            {hint}
          </p>
        ))}
        {chosen && (
          <ParamForm
            params={chosen.kind.params}
            value={chosen.params}
            onChange={(params) => setChosen({ ...chosen, params })}
          />
        )}
      </div>
      {fault && (
        <p role="alert" style={{ color: ink.beyond, margin: "6px 0" }}>
          {fault}
        </p>
      )}
      <Button
        color="primary"
        variant="contained"
        disabled={!chosen || bring.isPending}
        onClick={() => chosen && go(chosen)}
        sx={{ mt: 1, alignSelf: "flex-start" }}
      >
        {bring.isPending ? "Bringing it in …" : "Bring it in"}
      </Button>
    </section>
  );
}
