import { newId } from "../document/patch";
import type { Described, Move, Treatment } from "../generated/types";
import { placeOf } from "./bands";

type Listed = Move["treatments"][number];

/** A file of treatments: what it is, and the list as a move has it. */
export interface TreatmentsFile {
  rovnek: "treatments";
  treatments: Treatment[];
}

export const fileOf = (treatments: Listed[]): TreatmentsFile => ({
  rovnek: "treatments",
  treatments: treatments.map(
    (t) => Object.fromEntries(Object.entries(t).filter(([k]) => k !== "id")) as unknown as Treatment,
  ),
});

const isFields = (v: unknown): v is Record<string, unknown> =>
  typeof v === "object" && v !== null && !Array.isArray(v);

/** What a file says; or a sentence about why it says nothing. */
export function readTreatments(text: string, name: string, kinds: Described[]): Treatment[] | string {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return `${name} is no JSON; choose a file that was written here with To a file`;
  }
  const list = isFields(read) && read.rovnek === "treatments" ? read.treatments : null;
  if (!Array.isArray(list) || list.length === 0)
    return `${name} holds no treatments; choose a file that was written here with To a file`;
  const unknown = list.find((t) => !isFields(t) || !kinds.some((k) => k.name === t.kind));
  if (unknown === undefined) return list as Treatment[];
  const kind = isFields(unknown) && typeof unknown.kind === "string" ? unknown.kind : "nothing";
  return `${name} has a treatment of the kind ${kind}, which is not known here`;
}

/** A move's treatments with others after them, each at the end of its own band; those that fit its machine. */
export function withOthers(
  treatments: Listed[],
  others: Treatment[],
  kinds: Described[],
  fitting: string[],
): Listed[] {
  return others
    .filter((t) => fitting.includes(t.kind))
    .reduce<Listed[]>((list, treatment) => {
      const before = placeOf(treatment.kind, list, kinds);
      const at = before === undefined ? list.length : list.findIndex((t) => String(t.id) === before);
      return list.toSpliced(at, 0, { ...treatment, id: newId() });
    }, treatments);
}
