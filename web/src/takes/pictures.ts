import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { framesOf, playedNow, queryClient } from "../api";
import { documentNow, useDocuments } from "../document/edit";
import { pixelsOf } from "../film/size";
import { seenThrough } from "../film/seen";
import type { Document, MachineView, PictureLine, Take } from "../generated/types";
import { holdsWheels, useFloor } from "../live/link";
import { momentWhenReady } from "../moves";
import { stage } from "../render/stage";
import { stills } from "../render/still";
import { eyeOf, pictureAmong, pictureOf } from "../state/picture";
import { json, tell } from "../server";
import { chosenOf, lookedOf } from "../state/looked";
import { moment, scene } from "../state/now";

/** Small pictures of takes and scenes: drawn here, one after the other, and kept by the server. */

/** The longer side of one, pixels. */
const LONG = 320;
const QUALITY = 0.82;
/** Between two takes: hands and pictures on the screen come first. */
const REST_MS = 250;
/** The first frame of a take, the one in the middle, the last. */
const PARTS = [0, 0.5, 1] as const;

const key = () => ["pictures", useDocuments.getState().onShelf];

/** Which pictures there are. */
export const usePictures = () =>
  useQuery({
    queryKey: ["pictures", useDocuments((s) => s.onShelf)],
    queryFn: () => json<PictureLine[]>("pictures"),
  });

async function keepPicture(line: PictureLine, canvas: HTMLCanvasElement): Promise<void> {
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/webp", QUALITY));
  // A browser that writes no WebP gives a PNG: then there are no pictures.
  if (blob?.type !== "image/webp") return;
  const { of, id, part, made_of } = line;
  await tell(`pictures/${of}/${id}/${part}?made_of=${encodeURIComponent(made_of)}`, {
    method: "PUT",
    body: blob,
  });
  if (of === "scene") void queryClient.invalidateQueries({ queryKey: ["shelf"] });
  queryClient.setQueryData<PictureLine[]>(key(), (known = []) => [
    ...known.filter((p) => p.of !== of || p.id !== id || p.part !== part),
    line,
  ]);
}

/** Keeps what is seen through the lens as the picture of the scene. */
export async function keepScenePicture(): Promise<void> {
  const document = documentNow();
  if (!document) return;
  const made_of = `${Math.round(Date.now() / 1000)}`;
  const line = { of: "scene", id: document.scene.id, part: 0, made_of } as const;
  await stills
    .picture(
      () => {
        const [at, through] = [moment(), seenThrough()];
        if (!at || !through || scene.document?.scene.id !== line.id) return null;
        const { camera } = through;
        return { ...eyeOf(at, camera, scene.setupId), subject: pictureOf(at), size: pixelsOf(camera, LONG) };
      },
      (canvas) => keepPicture(line, canvas),
    )
    .catch(() => undefined);
}

/** Version of what the pictures of a take are drawn of. */
const madeOf = (take: Take) => useDocuments.getState().versions.pictures[take.id] ?? "";

/** Draws the pictures of a take; whether its scene was left meanwhile. */
async function drawTake(document: Document, take: Take): Promise<boolean> {
  const looked = lookedOf(document, chosenOf(document, take.id)?.id ?? null);
  if (!looked) return false;
  const move = await framesOf(looked.move.id);
  if (move.frames === 0) return false;
  const made_of = madeOf(take);
  const { id, setup_id } = looked.move;
  const plays = useDocuments.getState().versions.plays[id] ?? document.scene.performance;
  const [played, machine] = await Promise.all([playedNow(plays), json<MachineView>(`moves/${id}/machine`)]);
  const rate = document.scene.rate.num / document.scene.rate.den;
  const left = () => scene.document?.scene.id !== document.scene.id;
  for (const [part, share] of PARTS.entries()) {
    const at = await momentWhenReady(move, rate, (move.first + share * (move.frames - 1)) / rate);
    if (!at) return left();
    const size = pixelsOf(looked.camera, LONG);
    const subject = pictureAmong(played, { setup: setup_id, machine }, at, false);
    await stills.picture(
      () => (left() ? null : { ...eyeOf(at, looked.camera, setup_id), subject, size }),
      (canvas) => keepPicture({ of: "take", id: take.id, part, made_of }, canvas),
      "idle",
    );
  }
  return left();
}

/** Draws the pictures that takes have not, by the page that holds the wheels, while nothing rolls. */
export function useTakePictures(document: Document | undefined) {
  const pictures = usePictures().data;
  const mine = useFloor(holdsWheels);
  const idle = useFloor((s) => s.status?.roll === "standby");
  const open = useDocuments((s) => s.onShelf !== "");
  const [, again] = useState(0);
  const next =
    open && mine && idle && document && pictures
      ? document.takes.findLast((t) => lacks(t, pictures))
      : undefined;
  useEffect(() => {
    if (!next || !document) return;
    const wait = setInterval(() => {
      // The picture on the screen comes first.
      if (!stage.complete(scene.played)) return;
      clearInterval(wait);
      const key = `${next.id} ${madeOf(next)}`;
      void drawTake(document, next)
        .catch(() => false)
        .then((left) => {
          // One that cannot be drawn does not keep the others waiting.
          if (!left) tried.add(key);
          again((n) => n + 1);
        });
    }, REST_MS);
    return () => clearInterval(wait);
    // What is drawn changes with the take and what is done to it, and with nothing else.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [next && document && `${next.id} ${madeOf(next)}`]);
}

/** Takes whose pictures were drawn, or could not be, as they are made. */
const tried = new Set<string>();

function lacks(take: Take, pictures: PictureLine[]): boolean {
  if (take.rolling || take.binned || take.pass || take.samples === 0) return false;
  if (tried.has(`${take.id} ${madeOf(take)}`)) return false;
  const has = pictures.filter((p) => p.of === "take" && p.id === take.id);
  return has.filter((p) => p.made_of === madeOf(take)).length < PARTS.length;
}
