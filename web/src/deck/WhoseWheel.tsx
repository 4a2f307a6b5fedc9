import type { Wheel } from "../generated/types";
import { useFloor, wheels } from "../live/link";
import { cutOff } from "../form/cutOff";
import { nameOfPage } from "../live/names";
import { ink } from "../theme";

/** Whose hands are on a wheel, where that is not whoever has all of them. */
export function WhoseWheel({ wheel }: { wheel: Wheel }) {
  const status = useFloor((s) => s.status);
  const page = useFloor((s) => s.page);
  const by = status?.hands[wheels.indexOf(wheel)] ?? null;
  if (!status || by === null || by === status.holder) return null;
  return (
    <span
      data-testid={`at-${wheel}`}
      style={{ ...cutOff, fontSize: 12, color: by === page ? ink.within : ink.near }}
    >
      {by === page ? "yours" : nameOfPage(status, by)}
    </span>
  );
}
