import { enqueueSnackbar } from "notistack";
import { create } from "zustand";
import type { Document, Edited, Op, VersionsView, Whole } from "../generated/types";
import { Problem, json, meant, send } from "../server";
import { askWhich } from "./conflict";
import { diff } from "./patch";
import { Queue, Refused, type Conflict } from "./queue";

/** Document of the server, and the one on show while edits are on their way. */
interface Documents {
  /** With all that was done here. */
  shown: Document | null;
  /** Document of the server: its answers are drawn by this one. */
  known: Document | null;
  /** Versions of what the server works out of the document that it has. */
  versions: VersionsView;
  /** Id of the production on the shelf; empty while none is open. */
  onShelf: string;
  /** Why there is none yet. */
  trouble: string | null;
}

const noVersions: VersionsView = {
  performances: {},
  sets: {},
  machines: {},
  plays: {},
  setups: {},
  moves: {},
  takes: {},
  pictures: {},
};

export const useDocuments = create<Documents>(() => ({
  shown: null,
  known: null,
  versions: noVersions,
  onShelf: "",
  trouble: null,
}));
export const documentNow = () => useDocuments.getState().shown;

/** This page among those that edit. */
const page = crypto.randomUUID();
const TRY_AGAIN_MS = 1000;
const pause = () => new Promise<void>((resolve) => setTimeout(resolve, TRY_AGAIN_MS));

let told = false;
const queue: Queue = new Queue({
  send: async (edits) => {
    try {
      const scene = queue.known!.document.scene.id;
      const answer = await json<Edited>("edits", send("POST", { page, scene, edits }));
      told = false;
      return answer;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const {
        done = 0,
        made = {},
        conflict = null,
        too_old = false,
      } = error.more as Partial<{
        done: number;
        made: Record<string, number>;
        conflict: Conflict | null;
        too_old: boolean;
      }>;
      throw new Refused(error.message, done, made, conflict, too_old);
    }
  },
  read: async () => {
    const { revision, versions, on_shelf: onShelf, ...document } = await json<Whole>("document");
    return { revision, versions, onShelf, document };
  },
  step: async (way, entry) => (await json<Edited>(way, send("POST", { page, entry }))).changed,
  show: () => {
    const { known } = queue;
    if (known) meant.scene = encodeURIComponent(`${known.onShelf}/${known.document.scene.id}`);
    useDocuments.setState({
      shown: queue.shown(),
      known: known?.document ?? null,
      versions: known?.versions ?? noVersions,
      onShelf: known?.onShelf ?? "",
      trouble: null,
    });
  },
  refused: (edit, why) => {
    if (!why.conflict) enqueueSnackbar(why.message, { variant: "error" });
    else askWhich(edit.label, why.conflict, () => void queue.push({ ...edit, base: queue.known!.revision }));
  },
  silent: () => {
    if (!told)
      enqueueSnackbar("The server does not answer. What was changed is kept here and sent again.", {
        variant: "warning",
      });
    told = true;
    return pause();
  },
});

/** Reads the document, until there is one. */
export async function openDocument(): Promise<void> {
  for (;;) {
    try {
      return await queue.readAnew();
    } catch (error) {
      useDocuments.setState({ trouble: (error as Error).message });
      await pause();
    }
  }
}

/** Another page, or the floor, has changed something. */
export const hearChanges = (changed: Edited["changed"]) => void queue.told(changed).catch(() => undefined);

/** Changes the document; edits in a row with the same gesture are undone together. */
export const edit = (label: string, ops: Op[], gesture?: string) =>
  queue.push({ label, ops, ...(gesture ? { gesture } : {}) });

/** When everything that was done here is known to the server. */
export const settled = () => queue.settled();

/** Puts one value in the place of another; what of it differs is what is changed. */
export const change = (label: string, path: string, before: unknown, after: unknown, gesture?: string) =>
  edit(label, diff(path, before, after), gesture);

const step = (way: "undo" | "redo") =>
  queue.step(way).catch((error: Error) => void enqueueSnackbar(error.message, { variant: "error" }));
export const undo = () => step("undo");
export const redo = () => step("redo");
