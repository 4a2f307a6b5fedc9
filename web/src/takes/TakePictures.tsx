import type { Take } from "../generated/types";
import { ink } from "../theme";
import { usePictures } from "./pictures";

const words = ["First", "Middle", "Last"] as const;

/** First, middle and last frame of a take; nothing before they are drawn. */
export function TakePictures({ take, height = 34 }: { take: Take; height?: number }) {
  const pictures = usePictures().data ?? [];
  return (
    <span style={{ display: "inline-flex", gap: 3, minHeight: height }}>
      {words.map((word, part) => {
        const line = pictures.find((p) => p.of === "take" && p.id === take.id && p.part === part);
        return line ? (
          <img
            key={word}
            src={`/api/pictures/take/${take.id}/${part}?${line.made_of}`}
            alt={`${word} frame of take ${take.number}`}
            height={height}
            style={{ display: "block", borderRadius: 2, border: `1px solid ${ink.slate3}` }}
          />
        ) : null;
      })}
    </span>
  );
}
