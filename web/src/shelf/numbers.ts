/** A scene by its number on the slate. */
interface Numbered {
  number: string;
  binned: boolean;
}

/** A number for another scene: the next whole one. */
export function nextNumber(scenes: readonly Numbered[]): string {
  const known = scenes.filter((s) => !s.binned).map((s) => Number.parseInt(s.number, 10));
  return String(Math.max(0, ...known.filter(Number.isFinite)) + 1);
}

/** A number for a scene like another one: the same with the first letter that is free. */
export function numberLike(scenes: readonly Numbered[], like: string): string {
  const taken = (number: string) => scenes.some((s) => !s.binned && s.number === number);
  const letters = [..."ABCDEFGHJKLMNPQRSTUVWXYZ"].map((letter) => `${like}${letter}`);
  return letters.find((number) => !taken(number)) ?? nextNumber(scenes);
}
