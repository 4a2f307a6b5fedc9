import { useRef, useState } from "react";
import type { MachineView } from "../generated/types";
import { link } from "../live/link";
import { Choice } from "../form/rows";
import { axisInk, ink } from "../theme";

/** Degrees, or hundredths of a metre, for a whole turn in each gear. */
const gears = [6, 18, 54];

/** Hand wheels: turned with the mouse, the scroll wheel or the arrow keys, geared to an axis each. */
export function HandWheels({ machine }: { machine: MachineView }) {
  return (
    <div style={{ display: "flex", gap: 8, justifyContent: "space-between", padding: "4px 0 8px" }}>
      {["pan", "tilt", machine.axes[0]!.name].map((axis, i) => (
        <HandWheel key={i} machine={machine} first={axis} place={["left", "right", "third"][i]!} />
      ))}
    </div>
  );
}

function HandWheel({ machine, first, place }: { machine: MachineView; first: string; place: string }) {
  const driven = machine.axes.filter((a) => a.hand !== null);
  const [name, setName] = useState(first);
  const [gear, setGear] = useState(1);
  const [turned, setTurned] = useState(0);
  const grip = useRef<number | null>(null);
  const axis = driven.find((a) => a.name === name) ?? driven[0]!;
  const index = machine.axes.indexOf(axis);

  const turn = (degrees: number) => {
    setTurned((t) => t + degrees);
    const perTurn = gears[gear]! * (axis.unit === "m" ? 0.01 : 1) * (axis.name === "focus" ? 5 : 1);
    link.nudge(index, (degrees / 360) * perTurn);
  };
  const angle = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [
      event.clientX - box.left - box.width / 2,
      event.clientY - box.top - box.height / 2,
    ] as const;
    return (Math.atan2(y, x) * 180) / Math.PI;
  };
  const color = axisInk(axis.ink);
  return (
    <div style={{ display: "grid", justifyItems: "center", gap: 2, flex: 1 }}>
      <svg
        role="slider"
        tabIndex={0}
        aria-label={`${place} hand wheel, ${axis.name}`}
        aria-valuenow={Math.round(turned)}
        viewBox="-40 -40 80 80"
        style={{ width: 84, height: 84, cursor: "grab", touchAction: "none" }}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          grip.current = angle(e);
        }}
        onPointerMove={(e) => {
          if (grip.current === null) return;
          const now = angle(e);
          const by = ((((now - grip.current + 180) % 360) + 360) % 360) - 180;
          grip.current = now;
          turn(by);
        }}
        onPointerUp={() => (grip.current = null)}
        onWheel={(e) => turn(-Math.sign(e.deltaY) * 12)}
        onKeyDown={(e) => {
          const by = { ArrowRight: 12, ArrowUp: 12, ArrowLeft: -12, ArrowDown: -12 }[e.key];
          if (!by) return;
          e.stopPropagation();
          e.preventDefault();
          turn(by);
        }}
      >
        <circle r={36} fill={ink.slate2} stroke={color} strokeWidth={3} />
        <g transform={`rotate(${turned})`}>
          {[0, 120, 240].map((a) => (
            <path
              key={a}
              d="M0 -7V-33"
              stroke={ink.chalkDim}
              strokeWidth={4}
              transform={`rotate(${a})`}
              strokeLinecap="round"
            />
          ))}
          <circle cy={-29} r={5.5} fill={ink.chalk} />
        </g>
        <circle r={7} fill={ink.slate0} stroke={ink.chalkDim} strokeWidth={1.5} />
      </svg>
      <span style={{ display: "flex", gap: 6, alignItems: "baseline" }}>
        <Choice
          label={`Axis of the ${place} wheel`}
          value={axis.name}
          options={driven.map((a) => [a.name, a.name] as const)}
          onChange={setName}
        />
        <button
          className="plain"
          aria-label={`Gear of the ${place} wheel`}
          title="Gear: how far a whole turn goes"
          onClick={() => setGear((g) => (g + 1) % 3)}
          style={{ fontSize: 12, color: ink.chalkDim }}
        >
          gear {gear + 1}
        </button>
      </span>
    </div>
  );
}
