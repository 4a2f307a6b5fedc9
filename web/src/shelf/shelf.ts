import { useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import { queryClient } from "../api";
import { documentNow, edit, hearChanges, useDocuments } from "../document/edit";
import { newId, token } from "../document/patch";
import type {
  Carried,
  CarryMissing,
  CarryOffer,
  CarryRequest,
  SceneId,
  SceneLine,
  ShelfView,
  Shelved,
} from "../generated/types";
import { useFloor } from "../live/link";
import { json, send, tell } from "../server";
import { setView } from "../state/view";
import { asked } from "./follow";

/** Actions on productions and scenes as a whole. */

const at = (id: string) => `productions/${encodeURIComponent(id)}`;
export const pictureOf = (id: string) => `/api/${at(id)}/picture`;
export const copyOf = (id: string) => `/api/${at(id)}/copy`;

export const useShelf = (asked = true) =>
  useQuery({
    queryKey: ["shelf"],
    queryFn: () => json<ShelfView>("productions"),
    enabled: asked,
    staleTime: 0,
  });

const anew = () => queryClient.invalidateQueries({ queryKey: ["shelf"] });

/** Does something and says why where it could not be done; whether it was. */
async function tried(what: () => Promise<unknown>): Promise<boolean> {
  try {
    await what();
    return true;
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "error" });
    return false;
  } finally {
    void anew();
  }
}

const byPage = () => send("POST", { page: useFloor.getState().page });

/** Brings another production onto the floor; the page begins anew with it. */
export const openProduction = (id: string) => tried(() => tell(`${at(id)}/open`, byPage()));

/** Begins a production, empty or as a copy of the demo, and opens it. */
export const beginProduction = (name: string, demo: boolean) =>
  tried(async () => {
    const { id } = await json<Shelved>("productions", send("POST", { name, demo }));
    await tell(`${at(id)}/open`, byPage());
  });

/** Puts a file that another Rovnek kept onto the shelf. */
export const openCopy = (file: File) =>
  tried(() => json<Shelved>("productions/copy", { method: "POST", body: file }));

export const duplicate = (id: string, name: string) =>
  tried(() => json<Shelved>(`${at(id)}/duplicate`, send("POST", { name })));
export const rename = (id: string, name: string) =>
  tried(() => tell(`${at(id)}/rename`, send("POST", { name })));
export const setAside = (id: string, aside: boolean) =>
  tried(() => tell(`${at(id)}/aside`, send("POST", { aside })));

/**
 * Brings another scene onto the floor. The drawer shuts when the scene is followed there, not with the answer:
 * that may come later, when hands have opened the drawer again.
 */
export async function openScene(id: number) {
  asked.scene = id;
  if (!(await tried(() => tell(`scenes/${id}/open`, byPage())))) asked.scene = 0;
}

/** Adds a scene, empty or like another, and brings it onto the floor. */
export async function addScene(number: string, name: string, like?: { id: number; takes: boolean }) {
  const value = like ? { number, name, like: like.id, takes: like.takes } : { number, name };
  const label = like ? `duplicate a scene as ${number}` : `add scene ${number}`;
  const called = token(newId());
  const names = await edit(label, [{ op: "add", path: `/scenes/${called}`, value }]);
  const made = names.get(called);
  if (made !== undefined) await openScene(made);
}

export const binScene = (scene: SceneLine, binned: boolean) =>
  edit(`${binned ? "bin" : "take back"} scene ${scene.number}`, [
    { op: "replace", path: `/scenes/${scene.id}/binned`, value: binned },
  ]);

/** Puts a scene before the one before it, or after the next. */
export function moveScene(scene: SceneLine, by: 1 | -1) {
  const all = documentNow()?.scenes ?? [];
  const here = all.findIndex((s) => s.id === scene.id);
  const before = all[by < 0 ? here - 1 : here + 2];
  if (by < 0 && !before) return;
  const path = `/scenes/${scene.id}`;
  const op = before ? { op: "move", path, before: `${before.id}` } : { op: "move", path };
  void edit(`move scene ${scene.number}`, [op as { op: "move"; path: string }]);
}

/** The scenes of a production that need not be open. */
export const useScenesOf = (id: string) =>
  useQuery({
    queryKey: ["scenes of", id, useDocuments((s) => s.known?.scenes)],
    queryFn: () => json<SceneLine[]>(`${at(id)}/scenes`),
    enabled: id !== "",
    staleTime: 0,
  });

/** Things of a production's scene that can be carried. */
export const useOffers = (id: string, scene: SceneId) =>
  useQuery({
    queryKey: ["offers", id, scene],
    queryFn: () => json<CarryOffer[]>(`${at(id)}/scenes/${scene}/offers`),
    enabled: id !== "" && scene > 0,
    staleTime: 0,
  });

/** Things that the wanted ones need and do not bring along. */
export const useMissing = (production: string, wanted: CarryRequest) =>
  useQuery({
    queryKey: ["missing", production, JSON.stringify(wanted)],
    queryFn: () => json<CarryMissing[]>("carry/look", send("POST", { production, ...wanted })),
    enabled: wanted.things.length > 0,
    staleTime: 0,
  });

/** Carries things into the scene on the floor. */
export const carryOver = (production: string, wanted: CarryRequest) =>
  tried(async () => {
    const { count, changed } = await json<Carried>("carry", send("POST", { production, ...wanted }));
    hearChanges(changed);
    enqueueSnackbar(`${count} thing${count === 1 ? "" : "s"} carried over; undo takes all of it back`);
    setView({ drawer: null });
  });
