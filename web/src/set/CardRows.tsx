import { Button } from "@mui/material";
import { zipSync } from "fflate";
import { enqueueSnackbar } from "notistack";
import { useRef } from "react";
import { useBringIn } from "../api";
import { NumberField } from "../form/fields";
import { Row } from "../form/rows";
import type { Form, Piece } from "../generated/types";

type CardForm = Extract<Form, { kind: "card" }>;

/** Files as one: a ZIP as it is, images packed together. */
async function packed(files: File[]): Promise<Blob> {
  if (files.length === 1 && /\.zip$/i.test(files[0]!.name)) return files[0]!;
  const entries = files.map(async (f) => [f.name, new Uint8Array(await f.arrayBuffer())] as const);
  const archive = zipSync(Object.fromEntries(await Promise.all(entries)), { level: 0 });
  return new Blob([archive as Uint8Array<ArrayBuffer>], { type: "application/zip" });
}

/** The images that follow one another on a card: a drawing for each frame. */
export function CardRows(props: {
  piece: Piece;
  form: CardForm;
  onChange: (form: CardForm, gesture?: string) => void;
}) {
  const { piece, form, onChange } = props;
  const bring = useBringIn();
  const file = useRef<HTMLInputElement>(null);
  const { sequence } = form;
  const bringIn = async (files: File[]) =>
    bring.mutate(
      { kind: "sequence", name: piece.name, file: await packed(files), params: { card: piece.id } },
      {
        onError: (error) =>
          enqueueSnackbar(`Images for ${piece.name}: ${error.message}`, {
            variant: "error",
            autoHideDuration: 12_000,
          }),
      },
    );
  return (
    <>
      <Row
        label={
          sequence
            ? `${sequence.images.length} images, ${(sequence.images.length / sequence.rate).toFixed(2)} s`
            : "image by image"
        }
      >
        <Button
          sx={{ py: 0 }}
          title="A drawing for each frame: several PNG or JPEG files at once, or a ZIP of them; what is clear in them is clear here"
          onClick={() => file.current!.click()}
        >
          Bring images
        </Button>
        <input
          ref={file}
          type="file"
          aria-label="Images for this card"
          accept=".zip,.png,.jpg,.jpeg"
          multiple
          hidden
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            if (files.length) void bringIn(files);
            e.target.value = "";
          }}
        />
      </Row>
      {sequence && (
        <Row label="a second, from">
          <NumberField
            label="Images a second"
            unit=""
            digits={2}
            step={1}
            min={0.1}
            max={240}
            value={sequence.rate}
            onChange={(rate, gesture) => onChange({ ...form, sequence: { ...sequence, rate } }, gesture)}
          />
          <NumberField
            label="The first image begins at"
            unit="s"
            digits={2}
            step={0.1}
            min={-3600}
            max={3600}
            value={sequence.start_s}
            onChange={(start_s, gesture) =>
              onChange({ ...form, sequence: { ...sequence, start_s } }, gesture)
            }
          />
        </Row>
      )}
    </>
  );
}
