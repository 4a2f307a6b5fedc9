import { enqueueSnackbar } from "notistack";
import { change, edit } from "../document/edit";
import type { Rating, Take } from "../generated/types";
import { scene } from "../state/now";
import { useView } from "../state/view";

/** What can be done to a take besides shaping it. */

export const nameTake = (take: Take, name: string) =>
  void change(`name take ${take.number}`, `/takes/${take.id}/name`, take.name, name);

export const noteTake = (take: Take, note: string) =>
  void change(`note on take ${take.number}`, `/takes/${take.id}/note`, take.note, note);

export const rateTake = (take: Take, rating: Rating) =>
  change(
    rating === "none" ? `unmark take ${take.number}` : `mark take ${take.number} as ${rating}`,
    `/takes/${take.id}/rating`,
    take.rating,
    rating,
  );

export const binTake = (take: Take, binned: boolean) =>
  void edit(`${binned ? "bin" : "restore"} take ${take.number}`, [
    { op: "replace", path: `/takes/${take.id}/binned`, value: binned },
  ]);

export const mutePass = (pass: Take, muted: boolean) =>
  void edit(muted ? `mute a pass of take ${pass.number}` : `bring back a pass of take ${pass.number}`, [
    { op: "replace", path: `/takes/${pass.id}/pass/muted`, value: muted },
  ]);

/** Rates the take that was rolled last, or the one that is looked at. */
export function rateLatest(rating: Rating) {
  const { live } = useView.getState();
  const takes = scene.document?.takes.filter((t) => !t.binned && !t.rolling && !t.pass) ?? [];
  const take = live
    ? takes.toSorted((a, b) => a.id - b.id).at(-1)
    : takes.find((t) => t.id === scene.looked?.take?.id);
  if (!take) return;
  const now = take.rating === rating ? "none" : rating;
  void rateTake(take, now).then(
    () =>
      now !== "none" &&
      enqueueSnackbar(`Take ${take.number} is ${rating === "no" ? "no good" : `marked ${rating}`}`),
  );
}
