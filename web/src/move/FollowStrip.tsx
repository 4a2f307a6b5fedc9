import type { FollowView } from "../generated/types";
import { seek } from "../state/transport";
import { ink } from "../theme";

const [WIDE, HIGH] = [300, 46];

/**
 * Over the time of the move: how far the machine is short, from below, and how fast its base goes,
 * as a line. In words: which frames.
 */
export function FollowStrip({ view }: { view: FollowView }) {
  const count = Math.max(view.short_m.length, 2);
  const x = (frame: number) => (frame / (count - 1)) * WIDE;
  const most = Math.max(0.1, ...view.short_m);
  const fastest = Math.max(0.5, ...view.base_m_s);
  const line = (values: number[], top: number) =>
    values
      .map((v, i) => `${i ? "L" : "M"}${x(i).toFixed(1)} ${(HIGH - (v / top) * (HIGH - 4)).toFixed(1)}`)
      .join("");
  const { gaps } = view;
  return (
    <div>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        role="img"
        aria-label="Shortfall and speed of the base over time"
        onPointerDown={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          seek(((e.clientX - box.left) / box.width) * view.length_s);
        }}
        style={{
          width: "100%",
          height: HIGH,
          background: ink.slate0,
          cursor: "col-resize",
          display: "block",
        }}
      >
        <path
          d={`M0 ${HIGH}${line(view.short_m, most).replace("M", "L")}L${WIDE} ${HIGH}Z`}
          fill={ink.beyond}
          opacity={0.75}
        />
        <path d={line(view.base_m_s, fastest)} fill="none" stroke={ink.pick} strokeWidth={1.5} />
      </svg>
      <div style={{ display: "flex", justifyContent: "space-between", fontSize: 11.5, color: ink.chalkDim }}>
        <span>
          <b style={{ color: ink.beyond, fontWeight: 500 }}>▮</b>{" "}
          {gaps.length === 0
            ? "nothing short"
            : `up to ${Math.max(...gaps.map((g) => g.most)).toFixed(2)} m short`}
        </span>
        <span>
          <b style={{ color: ink.pick, fontWeight: 500 }}>━</b> base, up to {fastest.toFixed(2)} m/s
        </span>
      </div>
      <p
        role="status"
        style={{ margin: "2px 0", fontSize: 12.5, color: gaps.length ? ink.beyond : ink.within }}
      >
        {gaps.length === 0
          ? "The whole move is within reach."
          : gaps
              .map((g) => `▲ frames ${g.from_frame}–${g.to_frame}: ${g.most.toFixed(2)} m short`)
              .join("; ")}
      </p>
    </div>
  );
}
