import { useEffect, useLayoutEffect, useRef } from "react";
import type { Document, SetupId } from "../generated/types";
import { Choice } from "../form/rows";
import { link } from "../live/link";
import { pictureView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { mount, secondView } from "../render/view";
import { pictureOf } from "../state/picture";
import { placesOf } from "../moves";
import { everyFrame, moment, scene } from "../state/now";
import { setView, useView } from "../state/view";
import { ink } from "../theme";
import { FrameLines } from "./FrameLines";

/** Through the lens of another setup, as its machine stands or runs just now. */
export function SecondCamera({ document }: { document: Document }) {
  const host = useRef<HTMLDivElement>(null);
  const chosen = useView((s) => s.second);
  const overlays = useView((s) => s.overlays);
  const seen = scene.setupId;
  const others = document.setups.filter((s) => !s.binned && s.id !== seen);
  const setup = others.find((s) => s.id === chosen) ?? others[0];
  const { id, camera } = setup ?? {};
  useEffect(() => mount(secondView, host.current!), [id]);
  useLayoutEffect(
    () =>
      everyFrame((elapsed) => {
        const at = moment();
        if (!at || id === undefined || !camera) return;
        const there = link.frame?.others.find((o) => o.setup === id) ?? standing(id);
        if (!there) return;
        const picture = [
          there.position,
          there.rotation,
          there.focal,
          at.position,
          at.sceneTime,
          placesOf(at.movers),
          useView.getState().overlays.machines,
        ].join();
        const shown = pictureOf(at);
        if (!secondView.wants(shown, picture, elapsed)) return;
        secondView.draw(shown, { through: there, camera, setup: id });
      }),
    [id, camera],
  );
  return (
    <section
      className="panel"
      aria-label="Second camera"
      style={{ display: "flex", flexDirection: "column", height: "100%" }}
    >
      <div
        className="grows"
        style={{ display: "flex", alignItems: "center", gap: 8, height: 24, padding: "0 8px" }}
      >
        {setup ? (
          <Choice
            label="Setup of the second camera"
            value={setup.id}
            options={others.map((s) => [s.id, `${s.letter} · ${s.name}`] as const)}
            onChange={(second) => setView({ second })}
          />
        ) : (
          <span style={{ color: ink.chalkDim, fontSize: 13 }}>
            This scene has one setup. Add another under camera, setups (F8).
          </span>
        )}
        <span className="label" style={{ marginLeft: "auto" }}>
          second camera
        </span>
      </div>
      <div
        style={{ position: "relative", flex: 1, minHeight: 0, margin: "0 8px 8px", background: ink.slate0 }}
      >
        <div
          ref={host}
          role="img"
          aria-label={setup ? `Through the lens of setup ${setup.letter}` : "No second camera"}
          style={{ position: "absolute", inset: 0 }}
        />
        {overlays.handles && <MachineHandles view={grasp} on="picture" />}
        {camera && <FrameLines camera={camera} overlays={{ ...overlays, horizon: false, centre: false }} />}
      </div>
    </section>
  );
}

const grasp = pictureView(secondView);

/** Where a camera stands that is on the floor itself while a move of another setup is looked at. */
function standing(setup: SetupId) {
  const { frame } = link;
  if (frame?.setup === setup)
    return { position: frame.position, rotation: frame.rotation, focal: frame.focal };
  const view = scene.played.views.find((v) => v.id === setup);
  return view && { position: view.position, rotation: view.rotation, focal: view.focal_mm };
}
