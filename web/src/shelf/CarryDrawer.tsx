import { Button, Checkbox } from "@mui/material";
import { useState } from "react";
import type { CarryChoice, CarryMissing, CarryOffer, CarryThing, Document } from "../generated/types";
import { useDocuments } from "../document/edit";
import { Choice } from "../form/rows";
import { setView } from "../state/view";
import { ink } from "../theme";
import { Drawer } from "./Drawer";
import { carryOver, useMissing, useOffers, useScenesOf, useShelf } from "./shelf";

const same = (a: CarryThing, b: CarryThing) => a.kind === b.kind && a.id === b.id;
const words: Partial<Record<CarryThing["kind"], string>> = {
  setup: "Setups",
  performer: "Performers",
  piece: "Pieces",
  performance: "Performances",
  take: "Takes",
  move: "Moves",
};

/** Setups, performers, pieces and groups of another scene, carried into the one on the floor. */
export function CarryDrawer({ document }: { document: Document }) {
  const here = useDocuments((s) => s.onShelf);
  const shelf = useShelf().data;
  const [production, setProduction] = useState(here);
  const scenes = (useScenesOf(production).data ?? []).filter((s) => !s.binned);
  const others = scenes.filter((s) => production !== here || s.id !== document.scene.id);
  const [chosen, setScene] = useState(0);
  const scene = others.some((s) => s.id === chosen) ? chosen : (others[0]?.id ?? 0);
  const offers = useOffers(production, scene).data ?? [];
  const [things, setThings] = useState<CarryThing[]>([]);
  const [takes, setTakes] = useState(false);
  const [choices, setChoices] = useState<[CarryThing, CarryChoice][]>([]);
  const wanted = { things, takes, choices };
  const asked = useMissing(production, wanted).data ?? [];
  const missing = things.length > 0 ? asked : [];
  const along = choices.filter(([, does]) => does.does === "along").map(([of]) => of);
  const open = missing.filter((m) => !choices.some(([of]) => same(of, m)));
  const begin = () => {
    setThings([]);
    setChoices([]);
  };
  const turn = (offer: CarryOffer) => {
    const on = things.some((t) => same(t, offer));
    // A group goes together.
    const all = offer.group > 0 ? offers.filter((o) => o.group === offer.group) : [offer];
    const rest = things.filter((t) => !all.some((o) => same(t, o)));
    setThings(on ? rest : [...rest, ...all.map(({ kind, id }) => ({ kind, id }))]);
    setChoices([]);
  };
  const turnAll = (list: CarryOffer[]) => {
    const rest = things.filter((t) => !list.some((o) => same(t, o)));
    const every = list.map(({ kind, id }) => ({ kind, id }));
    setThings(things.length - rest.length === list.length ? rest : [...rest, ...every]);
    setChoices([]);
  };
  const choose = (of: CarryThing, does: CarryChoice) =>
    setChoices([...choices.filter(([other]) => !same(other, of)), [{ kind: of.kind, id: of.id }, does]]);
  return (
    <Drawer
      title={`Carry over into scene ${document.scene.number}`}
      actions={<Button onClick={() => setView({ drawer: "scenes" })}>Scenes</Button>}
    >
      <div style={{ display: "flex", gap: 18, alignItems: "center", flexWrap: "wrap", marginBottom: 10 }}>
        <span>out of</span>
        <Choice
          label="Production to carry out of"
          value={production}
          options={(shelf?.productions ?? []).filter((p) => !p.trouble).map((p) => [p.id, p.name] as const)}
          onChange={(id) => (setProduction(id), begin())}
        />
        <Choice
          label="Scene to carry out of"
          value={scene}
          options={others.map((s) => [s.id, `scene ${s.number}, ${s.name}`] as const)}
          onChange={(id) => (setScene(id), begin())}
        />
        {others.length === 0 && (
          <span style={{ color: ink.chalkDim }}>This production has no other scene; choose another one.</span>
        )}
      </div>
      <div
        style={{ display: "grid", gridTemplateColumns: "minmax(260px, 1fr) minmax(320px, 1.3fr)", gap: 18 }}
      >
        <div className="scroll" style={{ maxHeight: 330 }}>
          {(["setup", "performer", "piece"] as const).map((kind) => {
            const list = offers.filter((o) => o.kind === kind);
            if (list.length === 0) return null;
            return (
              <fieldset key={kind} style={{ border: 0, margin: "0 0 8px", padding: 0 }}>
                <legend className="label" style={{ padding: 0, marginBottom: 2 }}>
                  {words[kind]}{" "}
                  <Button
                    aria-label={`All ${words[kind]!.toLowerCase()}`}
                    onClick={() => turnAll(list)}
                    sx={{ p: "0 6px", fontSize: 12, ml: 1 }}
                  >
                    all
                  </Button>
                </legend>
                {list.map((o) => (
                  <label
                    key={o.id}
                    style={{ display: "flex", alignItems: "center", gap: 6, padding: "1px 0" }}
                  >
                    <Checkbox
                      size="small"
                      sx={{ p: 0.5 }}
                      checked={things.some((t) => same(t, o))}
                      onChange={() => turn(o)}
                    />
                    {o.name}
                    {o.takes > 0 && (
                      <span style={{ color: ink.chalkDim }}>
                        {o.takes === 1 ? "1 take" : `${o.takes} takes`}
                      </span>
                    )}
                    {o.group > 0 && <span style={{ color: ink.chalkDim }}>group {o.group}</span>}
                  </label>
                ))}
              </fieldset>
            );
          })}
        </div>
        <div style={{ display: "flex", flexDirection: "column", gap: 8 }}>
          <label style={{ display: "flex", alignItems: "center", gap: 6 }}>
            <Checkbox
              size="small"
              sx={{ p: 0.5 }}
              checked={takes}
              onChange={(e) => setTakes(e.target.checked)}
            />
            setups bring their takes
          </label>
          {missing.map((m) => (
            <Missing
              key={`${m.kind} ${m.id}`}
              one={m}
              does={choices.find(([of]) => same(of, m))?.[1]}
              onChange={(does) => choose(m, does)}
            />
          ))}
          {along.length > 0 && (
            <div>
              {along.length} more come{along.length === 1 ? "s" : ""} along.{" "}
              <Button onClick={() => setChoices(choices.filter(([, does]) => does.does !== "along"))}>
                Choose again
              </Button>
            </div>
          )}
          {things.length === 0 && (
            <span style={{ color: ink.chalkDim }}>
              Tick what is to come. What it refers to and this scene has not is named here.
            </span>
          )}
          <div>
            <Button
              color="primary"
              variant="contained"
              disabled={things.length === 0 || open.length > 0}
              onClick={() => void carryOver(production, wanted)}
            >
              Carry over
            </Button>
            {open.length > 0 && (
              <span style={{ marginLeft: 10, color: ink.near }}>
                Say first what becomes of {open.map((m) => m.name).join(", ")}.
              </span>
            )}
          </div>
        </div>
      </div>
    </Drawer>
  );
}

function Missing(props: {
  one: CarryMissing;
  does: CarryChoice | undefined;
  onChange: (does: CarryChoice) => void;
}) {
  const { one, does, onChange } = props;
  const value = does ? (does.does === "instead" ? `${does.with}` : does.does) : "choose";
  return (
    <div style={{ display: "flex", alignItems: "center", gap: 8, flexWrap: "wrap" }}>
      <span>
        {one.by.join(", ")} needs <strong>{one.name}</strong>
      </span>
      <Choice
        label={`What becomes of ${one.name}`}
        value={value}
        options={[
          ["choose", "choose"],
          ["along", "carry it along"],
          ...one.instead.map(([id, name]) => [`${id}`, `here: ${name}`] as const),
          ...(one.out ? ([["out", "leave it out"]] as const) : []),
        ]}
        onChange={(to) => {
          if (to === "along" || to === "out") onChange({ does: to });
          else if (to !== "choose") onChange({ does: "instead", with: Number(to) });
        }}
      />
    </div>
  );
}
