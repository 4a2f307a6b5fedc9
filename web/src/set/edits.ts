import { documentNow, useSceneEdit } from "../api";
import type { Changes, Document, Performer, Piece, Stage } from "../generated/types";
import { pick, setSet } from "./store";

const none = { add: [], change: [], remove: [] };
const changes = <T>(part: Partial<Changes<T>>): Changes<T> => ({ ...none, ...part });

/** A few words about some pieces, for undo. */
const called = (pieces: Piece[]) => (pieces.length === 1 ? pieces[0]!.name : `${pieces.length} pieces`);

/**
 * Steps from where something is (arrow keys) wait for one another, so that two quick ones are two.
 */
let lastStep: Promise<unknown> = Promise.resolve();

/** Everything that can be done to the set and the cast. */
export function useEdits(document: Document) {
  const edit = useSceneEdit();
  const scene = document.scene.id;
  const { performers } = document.scene;
  const now = () => (documentNow() ?? document).scene.pieces;

  const add = (list: Piece[], label = `add ${called(list)}`) =>
    edit.mutate(
      { scene, label, pieces: changes({ add: list }) },
      // The hand may hold another tool by now.
      { onSuccess: (made) => setSet({ picked: made.pieces, performer: null }) },
    );
  const change = (list: Piece[], label: string, gesture?: string) => {
    if (list.length > 0)
      edit.mutate({ scene, label, ...(gesture ? { gesture } : {}), pieces: changes({ change: list }) });
  };
  const step = (make: () => Piece[], word: string, gesture?: string) => {
    const take = () => {
      const list = make();
      const label = `${word} ${called(list)}`;
      if (list.length === 0) return undefined;
      return edit.mutateAsync({
        scene,
        label,
        ...(gesture ? { gesture } : {}),
        pieces: changes({ change: list }),
      });
    };
    // A refusal is told by the edit itself.
    lastStep = lastStep.then(take).catch(() => undefined);
  };
  const some = (ids: number[]) => now().filter((p) => ids.includes(p.id));
  const nextGroup = () => Math.max(0, ...now().map((p) => p.group)) + 1;

  return {
    add,
    change,
    /** What moves in a performance takes its path along. */
    move: (ids: number[], by: [number, number, number], gesture?: string) => {
      const along = (p: Piece["position"]) => p.map((v, i) => v + by[i]!) as Piece["position"];
      const moved = (p: Piece): Piece => ({
        ...p,
        position: along(p.position),
        routes: (p.routes ?? []).map(({ performance, route }) => ({
          performance,
          route: { waypoints: route.waypoints.map((w) => ({ ...w, position: along(w.position) })) },
        })),
      });
      step(() => some(ids).map(moved), "move", gesture);
    },
    turn: (ids: number[], by: number) => {
      const angle = (by * Math.PI) / 180;
      step(() => {
        const list = some(ids);
        // Several turn about their common middle.
        const [mx, mz] = [0, 2].map((k) => list.reduce((sum, p) => sum + p.position[k]!, 0) / list.length);
        return list.map((p) => {
          const [dx, dz] = [p.position[0] - mx!, p.position[2] - mz!];
          const position: Piece["position"] =
            list.length === 1
              ? p.position
              : [
                  mx! + dx * Math.cos(angle) - dz * Math.sin(angle),
                  p.position[1],
                  mz! + dx * Math.sin(angle) + dz * Math.cos(angle),
                ];
          return { ...p, position, turn_deg: (((p.turn_deg + by) % 360) + 360) % 360 };
        });
      }, "turn");
    },
    remove: (ids: number[]) => {
      const gone = some(ids);
      if (gone.length === 0) return;
      edit.mutate({ scene, label: `remove ${called(gone)}`, pieces: changes({ remove: ids }) });
      pick([]);
    },
    /** Copies, moved by a step, as often as told. */
    repeat: (ids: number[], times: number, [x, z]: [number, number]) => {
      const list = some(ids);
      const copies = Array.from({ length: times }, (_, i) => {
        const groups = new Map<number, number>();
        return list.map((p): Piece => {
          if (p.group && !groups.has(p.group)) groups.set(p.group, nextGroup() + i * 100 + groups.size);
          return {
            ...p,
            id: 0,
            group: groups.get(p.group) ?? 0,
            form: p.form.kind === "mark" ? { ...p.form, number: p.form.number + i + 1 } : p.form,
            position: [p.position[0] + x * (i + 1), p.position[1], p.position[2] + z * (i + 1)],
          };
        });
      }).flat();
      if (copies.length > 0) add(copies, times > 1 ? `repeat ${called(list)}` : `duplicate ${called(list)}`);
    },
    /** Together, or apart again when they are. */
    group: (ids: number[]) => {
      const list = some(ids);
      const together = list.length > 1 && list.every((p) => p.group > 0 && p.group === list[0]!.group);
      const group = together ? 0 : nextGroup();
      change(
        list.map((p) => ({ ...p, group })),
        together ? `ungroup ${called(list)}` : `group ${called(list)}`,
      );
    },
    flag: (ids: number[], key: "locked" | "hidden") => {
      const list = some(ids);
      const on = !list.every((p) => p[key]);
      const word = { locked: on ? "lock" : "unlock", hidden: on ? "hide" : "show" }[key];
      change(
        list.map((p) => ({ ...p, [key]: on })),
        `${word} ${called(list)}`,
      );
    },
    stage: (stage: Stage, gesture?: string) =>
      edit.mutate({ scene, label: "size the stage", ...(gesture ? { gesture } : {}), stage }),
    length: (length_s: number, gesture?: string) =>
      edit.mutate({
        scene,
        label: "change the length of the scene",
        ...(gesture ? { gesture } : {}),
        length_s,
      }),
    addPerformer: (performer: Performer, then: (id: number) => void) =>
      edit.mutate(
        { scene, label: `add ${performer.name}`, performers: changes({ add: [performer] }) },
        { onSuccess: (made) => then(made.performers[0]!) },
      ),
    changePerformer: (performer: Performer, label: string, gesture?: string) =>
      edit.mutate({
        scene,
        label,
        ...(gesture ? { gesture } : {}),
        performers: changes({ change: [performer] }),
      }),
    removePerformer: (id: number) =>
      edit.mutate({
        scene,
        label: `remove ${performers.find((p) => p.id === id)?.name ?? "a performer"}`,
        performers: changes({ remove: [id] }),
      }),
  };
}

export type Edits = ReturnType<typeof useEdits>;

/** All of a group is picked with one of it. */
export function withGroups(pieces: Piece[], ids: number[]): number[] {
  const groups = new Set(pieces.filter((p) => ids.includes(p.id) && p.group > 0).map((p) => p.group));
  return pieces.filter((p) => ids.includes(p.id) || groups.has(p.group)).map((p) => p.id);
}
