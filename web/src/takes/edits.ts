import { change, edit } from "../document/edit";
import type { Rating, Take } from "../generated/types";

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
