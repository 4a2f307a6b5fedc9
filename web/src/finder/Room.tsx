import { useLayoutEffect, useRef } from "react";
import { link } from "../live/link";
import { everyFrame, scene } from "../state/now";
import { useView } from "../state/view";
import { ink } from "../theme";
import { pushText, roomText } from "./roomText";

/** How much room the machine has, and how fast its base is pushed; while live. */
export function Room() {
  const room = useRef<HTMLSpanElement>(null);
  const push = useRef<HTMLSpanElement>(null);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const frame = useView.getState().live ? link.frame : null;
        write(room.current, roomText(frame?.clearance ?? null, nameOf));
        write(push.current, pushText(frame?.base ?? null, scene.machine?.pushed_m_s ?? null));
      }, 10),
    [],
  );
  return (
    <>
      <span ref={push} className="num" data-testid="push" style={style} />
      <span ref={room} className="num" data-testid="clearance" style={style} />
    </>
  );
}

const style = { fontSize: 12.5, whiteSpace: "nowrap", flex: "none" } as const;
const tones = { far: ink.chalkDim, near: ink.near, hit: ink.beyond } as const;

function write(span: HTMLElement | null, { text, tone }: { text: string; tone: keyof typeof tones }) {
  if (!span) return;
  if (span.textContent !== text) span.textContent = text;
  span.style.color = tones[tone];
}

function nameOf(kind: "performer" | "piece", id: number): string {
  const { performers = [], pieces = [] } = scene.document?.scene ?? {};
  return (kind === "performer" ? performers : pieces).find((one) => one.id === id)?.name ?? kind;
}
