import { ink } from "../theme";

/** What is drawn with it is taken out for the setup that looks: a wild wall. */
export function Hatch({ id, size }: { id: string; size: number }) {
  return (
    <pattern id={id} width={size} height={size} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d={`M0 0V${size}`} stroke={ink.paperBeyond} strokeWidth={size / 4} />
    </pattern>
  );
}
