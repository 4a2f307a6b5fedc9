import { Button, IconButton } from "@mui/material";
import { useState } from "react";
import type { Document, SceneLine } from "../generated/types";
import { change } from "../document/edit";
import { TextField } from "../form/fields";
import { Icon } from "../form/icons";
import { usePictures } from "../takes/pictures";
import { setView } from "../state/view";
import { ink } from "../theme";
import { Card, Cards, Drawer } from "./Drawer";
import { nextNumber, numberLike } from "./numbers";
import { addScene, binScene, moveScene, openScene } from "./shelf";

/** The scenes of the production that is open. */
export function ScenesDrawer({ document }: { document: Document }) {
  const { scenes, scene: on } = document;
  const there = scenes.filter((s) => !s.binned);
  const binned = scenes.filter((s) => s.binned);
  return (
    <Drawer
      title={`Scenes of ${document.production}`}
      actions={
        <Button
          onClick={() => setView({ drawer: "carry" })}
          title="Setups, pieces and performers of another scene"
        >
          Carry over …
        </Button>
      }
    >
      <Cards label="Scenes">
        {there.map((s, i) => (
          <Scene
            key={s.id}
            one={s}
            open={s.id === on.id}
            scenes={scenes}
            first={i === 0}
            last={i === there.length - 1}
          />
        ))}
        <New scenes={scenes} />
      </Cards>
      {binned.length > 0 && (
        <>
          <h3 className="label" style={{ margin: "14px 0 8px" }}>
            Bin
          </h3>
          <Cards label="Bin">
            {binned.map((s) => (
              <Scene key={s.id} one={s} open={false} scenes={scenes} first last />
            ))}
          </Cards>
        </>
      )}
    </Drawer>
  );
}

function New({ scenes }: { scenes: SceneLine[] }) {
  const [number, setNumber] = useState<string | null>(null);
  const [name, setName] = useState("");
  const shown = number ?? nextNumber(scenes);
  return (
    <Card name="New scene" picture={null} none="an empty stage">
      <form
        style={{ display: "contents" }}
        onSubmit={(e) => {
          e.preventDefault();
          void addScene(shown.trim(), name.trim() || "Scene");
        }}
      >
        <div style={{ display: "flex", gap: 6, fontSize: 16, fontWeight: 500 }}>
          <input
            className="inplace"
            aria-label="Number of the new scene"
            value={shown}
            maxLength={20}
            onChange={(e) => setNumber(e.target.value)}
            style={{ width: 46 }}
          />
          <input
            className="inplace"
            aria-label="Name of the new scene"
            placeholder="name of a new scene"
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
          />
        </div>
        <span style={{ flex: 1 }} />
        <div>
          <Button type="submit" disabled={!shown.trim()}>
            Add
          </Button>
        </div>
      </form>
    </Card>
  );
}

function Scene(props: { one: SceneLine; open: boolean; scenes: SceneLine[]; first: boolean; last: boolean }) {
  const { one, open, scenes, first, last } = props;
  const { id, number, name, setups, takes, length_s, rate, binned } = one;
  const picture = usePictures().data?.find((p) => p.of === "scene" && p.id === id);
  const like = (withTakes: boolean) =>
    void addScene(numberLike(scenes, number), name, { id, takes: withTakes });
  return (
    <Card
      name={`Scene ${number}`}
      here={open}
      faint={binned}
      picture={picture ? `/api/pictures/scene/${id}/0?${picture.made_of}` : null}
      none="no picture yet"
    >
      <div style={{ display: "flex", gap: 6, fontSize: 16, fontWeight: 500 }}>
        <TextField
          label={`Number of scene ${number}`}
          value={number}
          onKeep={(to) => void change("number a scene", `/scenes/${id}/number`, number, to)}
        />
        <TextField
          label={`Name of scene ${number}`}
          width="100%"
          value={name}
          onKeep={(to) => void change("name a scene", `/scenes/${id}/name`, name, to)}
        />
      </div>
      <span style={{ fontSize: 13 }}>
        {setups} setup{setups === 1 ? "" : "s"} · {takes} take{takes === 1 ? "" : "s"} · {length_s.toFixed(0)}{" "}
        s at {Number((rate.num / rate.den).toFixed(3))}
      </span>
      {open && <span style={{ fontSize: 13, color: ink.paperPeople }}>open now</span>}
      <span style={{ flex: 1 }} />
      <div style={{ display: "flex", gap: 6, flexWrap: "wrap", alignItems: "center" }}>
        {binned ? (
          <Button onClick={() => void binScene(one, false)}>Take back</Button>
        ) : (
          <>
            {!open && <Button onClick={() => void openScene(id)}>Open</Button>}
            <Button onClick={() => like(false)} title="All of it but its takes">
              Duplicate
            </Button>
            {takes > 0 && (
              <Button onClick={() => like(true)} title="All of it, its takes as well">
                with takes
              </Button>
            )}
            <span style={{ flex: 1 }} />
            <IconButton
              aria-label={`Scene ${number} earlier`}
              disabled={first}
              onClick={() => moveScene(one, -1)}
            >
              <Icon name="earlier" size={16} />
            </IconButton>
            <IconButton
              aria-label={`Scene ${number} later`}
              disabled={last}
              onClick={() => moveScene(one, 1)}
            >
              <Icon name="later" size={16} />
            </IconButton>
            {!open && (
              <IconButton aria-label={`Bin scene ${number}`} onClick={() => void binScene(one, true)}>
                <Icon name="bin" size={16} />
              </IconButton>
            )}
          </>
        )}
      </div>
    </Card>
  );
}
