import { useLayoutEffect, useRef } from "react";
import { askReach } from "../api";
import { bringQuietly, byName } from "../machine/bring";
import { cutOff } from "../form/cutOff";
import { Typed } from "../form/Typed";
import { holdsWheels, link, useFloor } from "../live/link";
import { decimals, readQuantity } from "../quantity";
import { everyFrame, moment } from "../state/now";
import { useView } from "../state/view";
import { enqueueSnackbar } from "notistack";

type Six = [number, number, number, number, number, number];

/** The six numbers of a camera: what they are called, and what they are counted in. */
const names = ["x", "y", "z", "pan", "tilt", "roll"] as const;
const unitOf = (i: number) => (i < 3 ? "m" : "°");
const textOf = (i: number, value: number) => decimals(value, i < 3 ? 2 : 1);
/** Less than this is as good as there. */
const NEAR_M = 0.005;
const NEAR_DEG = 0.05;

/** Where the camera is, as six numbers; live each can be typed, and the machine goes there as far as it reaches. */
export function CameraNumbers({ tight }: { tight: boolean }) {
  const texts = useRef<(HTMLSpanElement | null)[]>([]);
  const live = useView((s) => s.live);
  const mine = useFloor(holdsWheels);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const at = moment();
        if (!at) return;
        [...at.position, ...at.angles].forEach((value, i) => {
          const text = textOf(i, value).padStart(tight ? 0 : 6);
          const span = texts.current[i];
          if (span && span.textContent !== text) span.textContent = text;
        });
      }),
    [tight],
  );
  return (
    <span
      className="num"
      data-testid="camera-numbers"
      // An ellipsis would take away whole buttons, though half a pixel is missing.
      style={{ ...cutOff, textOverflow: "clip", fontSize: 12.5, whiteSpace: "pre", flex: "0 1 auto" }}
    >
      {names.map((name, i) => (
        <span key={name}>
          {i > 0 && (i === 3 && !tight ? "  " : " ")}
          {!tight && name}
          <Typed
            label={`Camera ${name}, ${i < 3 ? "metres" : "degrees"}`}
            hint={`Type a number: the machine goes there. ${i < 3 ? "12ft+3 and 1.5m are numbers as well." : ""}`}
            read={() => texts.current[i]?.textContent?.trim() ?? ""}
            onKeep={(text) => send(i, text)}
            off={!live || !mine}
            wide={7}
          >
            <span ref={(span) => void (texts.current[i] = span)} />
          </Typed>
          {i === 2 && " m"}
          {i === 5 && " °"}
        </span>
      ))}
    </span>
  );
}

/** Brings the camera to where one of its numbers is another one; whether that is a number. */
async function send(index: number, text: string): Promise<boolean> {
  const { frame } = link;
  const value = readQuantity(text, unitOf(index));
  if (value === null || !frame) return false;
  const wanted = [...frame.position, ...frame.angles].map((v, i) => (i === index ? value : v)) as Six;
  const [x, y, z, ...angles] = wanted;
  const near = frame.axes.map((a) => a.value);
  try {
    const reach = await askReach(frame.setup, [x, y, z], near, angles);
    void bringQuietly(byName(reach.axes));
    const short = [
      ...(reach.shortfall_m > NEAR_M ? [`${decimals(reach.shortfall_m, 2)} m`] : []),
      ...(reach.shortfall_deg > NEAR_DEG ? [`${decimals(reach.shortfall_deg, 1)}°`] : []),
    ];
    if (short.length > 0) {
      const why = reach.limits.length > 0 ? ` (${reach.limits.join(", ")})` : "";
      const what = `${names[index]} ${textOf(index, value)} ${unitOf(index)}`;
      enqueueSnackbar(`The machine gets no nearer to ${what} than ${short.join(" and ")}${why}.`, {
        variant: "warning",
      });
    }
    return true;
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "error" });
    return false;
  }
}
