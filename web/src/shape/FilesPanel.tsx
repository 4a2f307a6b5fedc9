import { Button, ButtonGroup } from "@mui/material";
import { useExportKinds } from "../api";
import type { Document } from "../generated/types";
import type { Looked } from "../state/looked";
import { ink } from "../theme";
import { FilmRow } from "./FilmRow";

/** The files that a move can be taken away as: after its treatments, and as it was rolled. */
export function FilesPanel({ document, looked }: { document: Document; looked: Looked }) {
  const kinds = useExportKinds().data ?? [];
  return (
    <section className="panel scroll" aria-label="Files" style={{ padding: "8px 12px", height: "100%" }}>
      <FilmRow document={document} looked={looked} />
      <div className="label" style={{ marginBottom: 6 }}>
        Export
      </div>
      {kinds.map(({ name, label, hint }) => (
        <div key={name} style={{ marginBottom: 8 }}>
          <ButtonGroup size="small" color="inherit">
            <Button
              component="a"
              href={`/api/moves/${looked.move.id}/export?as=${name}`}
              download
              title={hint}
            >
              {label}
            </Button>
            <Button
              component="a"
              href={`/api/moves/${looked.move.id}/export?as=${name}&stage=raw`}
              download
              title={`${hint} As it was rolled, without treatments.`}
              aria-label={`${label}, raw`}
              sx={{ color: ink.chalkDim, px: "6px" }}
            >
              raw
            </Button>
          </ButtonGroup>
          <div style={{ fontSize: 12, color: ink.chalkDim }}>{hint}</div>
        </div>
      ))}
    </section>
  );
}
