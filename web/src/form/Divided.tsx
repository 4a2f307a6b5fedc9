import type { ReactNode } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { keep, kept } from "../state/browser";
import { ink } from "../theme";

/** Shares before dividers by the names of the dividers, 0 to 1; kept in this browser. */
const shares = kept<Record<string, number>>("dividers", {});

function keepShare(name: string, share: number) {
  shares[name] = share;
  keep("dividers", shares);
}

/** Least share of a part. */
const LEAST = 20;

interface Props {
  /** Name under which the share is kept. */
  name: string;
  /** Share of the first part until it is divided otherwise, 0 to 1. */
  usual: number;
  /** Name of the divider. */
  label: string;
  /** One part beside the other; otherwise one over the other. */
  upright?: boolean;
  /** Least width or height of the second part, pixels or percent. */
  least?: number | string;
  /** The two parts; one that is missing leaves its room to the other. */
  parts: [ReactNode, ReactNode];
}

/** Two parts of a screen and the line between them: dragged, moved by arrows, reset by a double click. */
export function Divided({ name, usual, label, upright = false, least = `${LEAST}%`, parts }: Props) {
  const share = 100 * (shares[name] ?? usual);
  const [first, second] = parts;
  const both = !!first && !!second;
  const panel = (id: "first" | "second", part: ReactNode, size: number, minSize: number | string) => (
    <Panel id={id} defaultSize={`${size}%`} minSize={minSize} style={{ display: "grid", overflow: "hidden" }}>
      {part}
    </Panel>
  );
  return (
    <Group
      orientation={upright ? "horizontal" : "vertical"}
      {...(both && { defaultLayout: { first: share, second: 100 - share } })}
      onLayoutChanged={({ first }, { isUserInteraction }) => {
        if (isUserInteraction && both && first !== undefined) keepShare(name, first / 100);
      }}
    >
      {first && panel("first", first, 100 * usual, `${LEAST}%`)}
      {both && (
        <Separator
          aria-label={label}
          title="Drag to divide the screen otherwise; a double click resets it"
          style={{ display: "grid", placeItems: "center", ...(upright ? { width: 10 } : { height: 10 }) }}
        >
          <div
            style={{
              ...(upright ? { width: 2, height: 44 } : { width: 44, height: 2 }),
              background: ink.slate3,
            }}
          />
        </Separator>
      )}
      {second && panel("second", second, 100 * (1 - usual), least)}
    </Group>
  );
}
