import { change, documentNow, edit } from "../document/edit";
import { diff, newId, plain, token } from "../document/patch";
import type { Document, Op, Performer, Piece, Stage } from "../generated/types";
import { pick, setSet } from "../state/set";

/** A few words about some pieces, for undo. */
const called = (pieces: Piece[]) => (pieces.length === 1 ? pieces[0]!.name : `${pieces.length} pieces`);

/** New members of one of the scene's lists, by their names until the server has named them. */
function additions(list: "pieces" | "performers", things: object[]): { ops: Op[]; names: string[] } {
  const names = things.map(() => token(newId()));
  const ops = things.map((thing, i): Op => {
    return { op: "add", path: `/${list}/${names[i]}`, value: plain({ ...thing, id: 0 }) };
  });
  return { ops, names };
}

/** Everything that can be done to the set and the cast. */
export function useEdits(document: Document) {
  const scene = `/scenes/${document.scene.id}`;
  const now = () => documentNow()?.scene ?? document.scene;
  const some = (ids: number[]) => now().pieces.filter((p) => ids.includes(p.id));
  const nextGroup = () => Math.max(0, ...now().pieces.map((p) => p.group)) + 1;

  const add = async (list: Piece[], label = `add ${called(list)}`) => {
    const { ops, names } = additions("pieces", list);
    const made = await edit(label, ops);
    const ids = names.map((name) => made.get(name)).filter((id) => id !== undefined);
    // The hand may hold another tool by now.
    if (ids.length > 0) setSet({ picked: ids, performer: null });
  };
  /** Each piece as it was seen, and as it is to be. */
  const become = (pairs: [Piece, Piece][], label: string, gesture?: string) =>
    void edit(
      label,
      pairs.flatMap(([before, next]) => diff(`/pieces/${before.id}`, before, next)),
      gesture,
    );
  const each = (
    ids: number[],
    next: (p: Piece) => Piece,
    label: (list: Piece[]) => string,
    gesture?: string,
  ) => {
    const list = some(ids);
    if (list.length > 0)
      become(
        list.map((p) => [p, next(p)]),
        label(list),
        gesture,
      );
  };

  return {
    add: (list: Piece[], label?: string) => void add(list, label),
    change: (before: Piece, next: Piece, label: string, gesture?: string) =>
      become([[before, next]], label, gesture),
    /** Moves pieces; a piece that moves in a performance takes its path along. */
    move: (ids: number[], by: [number, number, number], gesture?: string) => {
      const along = (p: Piece["position"]) => p.map((v, i) => v + by[i]!) as Piece["position"];
      const moved = (p: Piece): Piece => ({
        ...p,
        position: along(p.position),
        ...(p.routes && {
          routes: p.routes.map(({ performance, route }) => ({
            performance,
            route: { waypoints: route.waypoints.map((w) => ({ ...w, position: along(w.position) })) },
          })),
        }),
      });
      each(ids, moved, (list) => `move ${called(list)}`, gesture);
    },
    /** Several as they are to be. */
    put: (next: Piece[], label: string, gesture?: string) =>
      each(
        next.map((p) => p.id),
        (p) => next.find((n) => n.id === p.id) ?? p,
        () => label,
        gesture,
      ),
    turn: (ids: number[], by: number) => {
      const angle = (by * Math.PI) / 180;
      const list = some(ids);
      // Several turn about their common middle.
      const [mx, mz] = [0, 2].map((k) => list.reduce((sum, p) => sum + p.position[k]!, 0) / list.length);
      const turned = (p: Piece): Piece => {
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
      };
      each(ids, turned, (l) => `turn ${called(l)}`);
    },
    remove: (ids: number[]) => {
      const gone = some(ids);
      if (gone.length === 0) return;
      void edit(
        `remove ${called(gone)}`,
        gone.map((p): Op => ({ op: "remove", path: `/pieces/${p.id}` })),
      );
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
            group: groups.get(p.group) ?? 0,
            form: p.form.kind === "mark" ? { ...p.form, number: p.form.number + i + 1 } : p.form,
            position: [p.position[0] + x * (i + 1), p.position[1], p.position[2] + z * (i + 1)],
          };
        });
      }).flat();
      if (copies.length > 0)
        void add(copies, times > 1 ? `repeat ${called(list)}` : `duplicate ${called(list)}`);
    },
    /** Together, or apart again when they are. */
    group: (ids: number[]) => {
      const list = some(ids);
      const together = list.length > 1 && list.every((p) => p.group > 0 && p.group === list[0]!.group);
      const group = together ? 0 : nextGroup();
      each(
        ids,
        (p) => ({ ...p, group }),
        (l) => (together ? `ungroup ${called(l)}` : `group ${called(l)}`),
      );
    },
    flag: (ids: number[], key: "locked" | "hidden") => {
      const on = !some(ids).every((p) => p[key]);
      const word = { locked: on ? "lock" : "unlock", hidden: on ? "hide" : "show" }[key];
      each(
        ids,
        (p) => ({ ...p, [key]: on }),
        (list) => `${word} ${called(list)}`,
      );
    },
    /** Taken out for a setup, or there again when all of them are. */
    takeOut: (ids: number[], { id, letter }: { id: number; letter: string }) => {
      const back = some(ids).every((p) => p.wild?.includes(id));
      each(
        ids,
        (p) => ({ ...p, wild: [...(p.wild ?? []).filter((s) => s !== id), ...(back ? [] : [id])] }),
        (list) => `${back ? "put back" : "take out"} ${called(list)} for ${letter}`,
      );
    },
    stage: (before: Stage, stage: Stage, gesture?: string) =>
      void change("size the stage", `${scene}/stage`, before, stage, gesture),
    length: (length_s: number, gesture?: string) =>
      void change("change the length of the scene", `${scene}/length_s`, null, length_s, gesture),
    addPerformer: async (performer: Performer, then: (id: number) => void) => {
      const { ops, names } = additions("performers", [performer]);
      const id = (await edit(`add ${performer.name}`, ops)).get(names[0]!);
      if (id !== undefined) then(id);
    },
    changePerformer: (before: Performer, next: Performer, label: string, gesture?: string) =>
      void change(label, `/performers/${before.id}`, before, next, gesture),
    removePerformer: (performer: Performer) =>
      void edit(`remove ${performer.name}`, [{ op: "remove", path: `/performers/${performer.id}` }]),
  };
}

export type Edits = ReturnType<typeof useEdits>;

/** All of a group is picked with one of it. */
export function withGroups(pieces: Piece[], ids: number[]): number[] {
  const groups = new Set(pieces.filter((p) => ids.includes(p.id) && p.group > 0).map((p) => p.group));
  return pieces.filter((p) => ids.includes(p.id) || groups.has(p.group)).map((p) => p.id);
}
