import { create } from "zustand";
import { keep, kept } from "../state/browser";
import { ink } from "../theme";

/** Shares at which screens are divided, by the names of their dividers; kept in this browser. */
const useShares = create<Record<string, number>>(() => kept("dividers", {}));

/** Share of a screen before a divider. */
export const useShare = (name: string, usual: number) => useShares((s) => s[name] ?? usual);

function put(name: string, share: number | null) {
  const others = Object.entries(useShares.getState()).filter(([other]) => other !== name);
  const next = Object.fromEntries(share === null ? others : [...others, [name, share]]);
  useShares.setState(next, true);
  keep("dividers", next);
}

const LEAST = 0.2;
const within = (share: number) => Math.min(1 - LEAST, Math.max(LEAST, share));

/**
 * A line between two parts of a screen, one over the other, or `upright` between one beside the other:
 * dragged, moved by arrows, reset by a double click.
 */
export function Divider(props: { name: string; usual: number; label: string; upright?: boolean }) {
  const { name, usual, label, upright = false } = props;
  const share = useShare(name, usual);
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={upright ? "vertical" : "horizontal"}
      aria-valuenow={Math.round(100 * share)}
      aria-valuemin={100 * LEAST}
      aria-valuemax={100 - 100 * LEAST}
      title="Drag to divide the screen otherwise; a double click resets it"
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (!(e.buttons & 1)) return;
        const box = e.currentTarget.parentElement!.getBoundingClientRect();
        const at = upright ? (e.clientX - box.left) / box.width : (e.clientY - box.top) / box.height;
        put(name, within(at));
      }}
      onDoubleClick={() => put(name, null)}
      onKeyDown={(e) => {
        const keys = upright ? ["ArrowLeft", "ArrowRight"] : ["ArrowUp", "ArrowDown"];
        const by = [-0.02, 0.02][keys.indexOf(e.key)];
        if (by === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        put(name, within(share + by));
      }}
      style={{
        cursor: upright ? "col-resize" : "row-resize",
        touchAction: "none",
        display: "grid",
        placeItems: "center",
      }}
    >
      <div
        style={{ ...(upright ? { width: 2, height: 44 } : { width: 44, height: 2 }), background: ink.slate3 }}
      />
    </div>
  );
}
