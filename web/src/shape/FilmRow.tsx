import { Button } from "@mui/material";
import { useEffect, useState } from "react";
import {
  chosenFilm,
  kinds,
  stopFilm,
  useFilm,
  writeFilm,
  writeStill,
  type Chosen,
  type Kept,
} from "../film/film";
import { longSides, pixelsOf } from "../film/size";
import { Choice, Row, Toggle } from "../form/rows";
import type { Document } from "../generated/types";
import { keep } from "../state/browser";
import type { Looked } from "../state/looked";
import { ink } from "../theme";

const words: Record<Kept, string> = { webm: "WebM, VP9", mp4: "MP4, H.264" };

/** The move as a film, and the frame that is shown as a still. */
export function FilmRow({ document, looked }: { document: Document; looked: Looked }) {
  const [can, setCan] = useState<Kept[] | null>(null);
  const [chosen, setChosen] = useState(chosenFilm);
  const writing = useFilm((s) => s.writing);
  useEffect(() => void kinds().then(setCan), []);
  const choose = (part: Partial<Chosen>) => {
    const next = { ...chosen, ...part };
    setChosen(next);
    keep("film", next);
  };
  const kind = can?.includes(chosen.kept) ? chosen.kept : can?.[0];
  return (
    <div role="group" aria-label="Film" style={{ marginBottom: 12 }}>
      <div className="label" style={{ marginBottom: 4 }}>
        Film and still
      </div>
      <Row label="picture">
        <Choice
          label="Size of the picture"
          value={chosen.long}
          options={longSides.map((long) => [long, pixelsOf(looked.camera, long).join(" × ")] as const)}
          onChange={(long) => choose({ long })}
        />
      </Row>
      {/* There from the start: what stands below must not move from under a hand. */}
      <Row label="kept as">
        {kind ? (
          <Choice
            label="Kind of film"
            value={kind}
            options={can!.map((k) => [k, words[k]] as const)}
            onChange={(kept) => choose({ kept })}
          />
        ) : (
          <span style={{ color: ink.chalkDim }}>{can ? "nothing here" : "…"}</span>
        )}
      </Row>
      <Row label="written into it">
        <Toggle
          on={chosen.written}
          name="Written into the film"
          label={chosen.written ? "take, timecode, lens" : "nothing"}
          onClick={() => choose({ written: !chosen.written })}
        />
      </Row>
      <div style={{ display: "flex", gap: 6, alignItems: "center", marginTop: 4 }}>
        {writing ? (
          <span role="status" style={{ display: "flex", gap: 8, alignItems: "center" }}>
            <progress max={writing.count} value={writing.done} style={{ width: 90, accentColor: ink.pick }} />
            <span className="num">
              {writing.done} of {writing.count}
            </span>
            <Button onClick={stopFilm}>Stop</Button>
          </span>
        ) : (
          <>
            <Button
              disabled={!kind}
              title={
                can?.length === 0
                  ? "This browser writes no films here: they need a page over https, or on this machine"
                  : "Every frame from in to out, as it was worked out; with nothing of the screen in it"
              }
              onClick={() => kind && void writeFilm(document, looked, { ...chosen, kept: kind })}
            >
              Write film
            </Button>
            <Button title="The frame that is shown, as a PNG (Alt S)" onClick={() => void writeStill()}>
              Still
            </Button>
          </>
        )}
      </div>
    </div>
  );
}
