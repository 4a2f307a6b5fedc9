import { Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useEffect, useLayoutEffect, useRef, type ReactNode } from "react";
import { kindOfFile, titleOf, useBringIn, useImportKinds } from "../api";
import { SetupCamera } from "../camera/SetupCamera";
import { Divided } from "../form/Divided";
import { SetupList } from "../camera/SetupList";
import type { Camera, Document, MoverView, Setup } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { keyHandler } from "../state/keyHandler";
import { Cast } from "../set/Cast";
import { useEdits, type Edits } from "../set/edits";
import { Elevation } from "../set/Elevation";
import { Inspector } from "../set/Inspector";
import { kinds } from "../set/kinds";
import { PieceList } from "../set/PieceList";
import { SetPlan } from "../set/SetPlan";
import { SetPicture } from "../set/SetPicture";
import { pick, setPanels, setSet, useSetState, type SetPanel, type Tool, take } from "../state/set";
import { ink } from "../theme";

interface Props {
  document: Document;
  set: SetView;
  figures: MoverView[];
  camera: Camera;
  setup: Setup;
}

/** Share of the screen for the plan, and for the room beside it. */
const WIDE = 0.7;
const PLAN = 0.77;
const ROOM = 0.33;

/** The paper plan is the main view; beside it the room, and what is there in exact numbers. */
export function SetStation({ document, set, figures, camera, setup }: Props) {
  const edits = useEdits(document);
  const panel = useSetState((s) => s.panel);
  const through = useSetState((s) => s.through);
  useSetKeys(document, edits);
  const looked = document.setups.find((s) => s.id === through && !s.binned) ?? null;
  const listed = (label: string, parts: ReactNode) => (
    <section className="panel scroll" aria-label={label} style={{ height: "100%" }}>
      {parts}
    </section>
  );
  // A panel is one line here, and its label in `setPanels`.
  const panels: Record<SetPanel, ReactNode> = {
    pieces: listed(
      "Pieces and numbers",
      <>
        <Inspector document={document} edits={edits} />
        <PieceList document={document} edits={edits} />
      </>,
    ),
    cast: listed("Cast", <Cast document={document} edits={edits} />),
    setups: <SetupList document={document} />,
    camera: (
      <SetupCamera
        key={(looked ?? setup).id}
        document={document}
        figures={figures}
        setup={looked ?? setup}
        onFloor={(looked ?? setup).id === setup.id}
      />
    ),
  };
  return (
    <main
      style={{
        display: "grid",
        padding: 8,
        gridTemplate: "minmax(0, 1fr) / 112px minmax(0, 1fr)",
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <Palette />
      <Divided
        upright
        name="set"
        usual={WIDE}
        label="Between plan and room"
        least={320}
        parts={[
          <Divided
            name="set plan"
            usual={PLAN}
            label="Between plan and elevation"
            parts={[
              <SetPlan document={document} set={set} figures={figures} edits={edits} />,
              <Elevation document={document} set={set} figures={figures} edits={edits} />,
            ]}
          />,
          <Divided
            name="set room"
            usual={ROOM}
            label="Between room and panel"
            parts={[
              <SetPicture
                document={document}
                setup={looked}
                camera={looked?.camera ?? camera}
                floor={setup}
              />,
              <div
                style={{
                  display: "grid",
                  gridTemplate: "auto minmax(0, 1fr) / minmax(0, 1fr)",
                  minHeight: 0,
                }}
              >
                <ToggleButtonGroup
                  exclusive
                  size="small"
                  value={panel}
                  onChange={(_, v: typeof panel | null) => v && setSet({ panel: v })}
                  aria-label="Panel"
                  sx={{
                    "& .MuiToggleButton-root": {
                      flex: 1,
                      py: "1px",
                      textTransform: "none",
                      borderColor: ink.slate3,
                      color: ink.chalkDim,
                    },
                    "& .Mui-selected": {
                      color: `${ink.slate0} !important`,
                      background: `${ink.chalk} !important`,
                    },
                  }}
                >
                  {setPanels.map(([name, label]) => (
                    <ToggleButton key={name} value={name}>
                      {label}
                    </ToggleButton>
                  ))}
                </ToggleButtonGroup>
                <div className="grows" style={{ minHeight: 0, marginTop: 6 }}>
                  {panels[panel]}
                </div>
              </div>,
            ]}
          />,
        ]}
      />
    </main>
  );
}

const steps: [Tool, string, string | null][] = [
  ["pick", "pick, move", "Esc"],
  ["room", "room", "X"],
  ...kinds.map((k): [Tool, string, string | null] => [k.usual.kind, k.word, k.drawing.key]),
  ["path", "person", "P"],
];

/** Palette of tools, each with its key. */
function Palette() {
  const tool = useSetState((s) => s.tool);
  const bring = useBringIn(true);
  const file = useRef<HTMLInputElement>(null);
  const kinds = useImportKinds("set").data ?? [];
  const bringIn = async (chosen: File) => {
    try {
      const { name: kind } = await kindOfFile("set", chosen);
      const made = await bring.mutateAsync({ kind, name: titleOf(chosen) || "piece", file: chosen });
      if (made.performers.length) setSet({ performer: made.performers[0]!, picked: [], panel: "cast" });
      else {
        pick(made.pieces);
        setSet({ panel: "pieces" });
      }
    } catch (error) {
      const sentence = `${chosen.name}: ${(error as Error).message}`;
      enqueueSnackbar(sentence, { variant: "error", autoHideDuration: 12_000 });
    }
  };
  return (
    <section
      className="panel scroll"
      aria-label="Palette"
      style={{ padding: "4px 0", display: "flex", flexDirection: "column", marginRight: 8 }}
    >
      {steps.map(([name, word, key]) => (
        <button
          key={name}
          className="plain"
          aria-pressed={tool === name}
          onClick={() => take(name)}
          style={{
            display: "flex",
            justifyContent: "space-between",
            padding: "0 8px",
            fontSize: 12.5,
            lineHeight: "19.5px",
            ...(tool === name ? { background: ink.chalk, color: ink.slate0 } : { color: ink.chalk }),
          }}
        >
          {word}
          {key && (
            <span style={{ color: tool === name ? ink.slate0 : ink.chalkDim, fontSize: 11 }}>{key}</span>
          )}
        </button>
      ))}
      <div style={{ marginTop: "auto", padding: "6px 6px 2px", display: "grid", gap: 4 }}>
        <Button onClick={() => file.current!.click()} title={kinds.map((kind) => kind.hint).join(" ")}>
          Bring in
        </Button>
        <Button component="a" href="/api/scene/set.glb" download="set.glb">
          Export set
        </Button>
        <input
          ref={file}
          type="file"
          aria-label="Bring in a file"
          accept={kinds.flatMap((kind) => kind.endings).join()}
          hidden
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (chosen) void bringIn(chosen);
            e.target.value = "";
          }}
        />
      </div>
    </section>
  );
}

/** Keys that change what is picked. */
function useSetKeys(document: Document, edits: Edits) {
  const now = useRef({ document, edits });
  useLayoutEffect(() => {
    now.current = { document, edits };
  });
  useEffect(() => {
    keyHandler.current = (event, key) => {
      const { document, edits } = now.current;
      const { picked, grid } = useSetState.getState();
      const free = picked.filter((id) => !document.scene.pieces.find((p) => p.id === id)?.locked);
      if (event.ctrlKey || event.metaKey) {
        if (key === "D" && picked.length) edits.repeat(picked, 1, [0.5, 0.5]);
        else if (key === "G" && picked.length) edits.group(picked);
        else if (key === "A")
          pick(document.scene.pieces.filter((p) => !p.locked && !p.hidden).map((p) => p.id));
        else return false;
        return true;
      }
      if (
        event.target instanceof HTMLElement &&
        event.target.closest("[role=slider], [role=combobox], [role=menu]")
      )
        return false;
      const step = event.shiftKey ? 0.01 : grid || 0.05;
      const arrow = {
        ArrowLeft: [-step, 0, 0],
        ArrowRight: [step, 0, 0],
        ArrowUp: [0, 0, -step],
        ArrowDown: [0, 0, step],
      }[event.key] as [number, number, number] | undefined;
      if (arrow && free.length) edits.move(free, arrow, `nudge ${free.join()}`);
      else if ((key === "Delete" || key === "Backspace") && free.length) edits.remove(free);
      else if ([",", "<"].includes(event.key) && free.length) edits.turn(free, event.shiftKey ? -1 : -15);
      else if ([".", ">"].includes(event.key) && free.length) edits.turn(free, event.shiftKey ? 1 : 15);
      else return false;
      return true;
    };
    return () => {
      keyHandler.current = null;
    };
  }, []);
}
