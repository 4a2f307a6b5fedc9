/**
 * What people type into number fields: plain numbers, arithmetic, units. `12ft+3` in a field of
 * metres is 6.6576; `1/48` is a shutter time. Feet and inches may be written `7'6"`.
 */

const EIGHTHS = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"];

type Kind = "length" | "angle" | "time" | "none";

const METRES: Record<string, number> = {
  m: 1,
  cm: 0.01,
  mm: 0.001,
  ft: 0.3048,
  in: 0.0254,
  "'": 0.3048,
  '"': 0.0254,
};
const DEGREES: Record<string, number> = { "°": 1, deg: 1, rad: 180 / Math.PI };
const SECONDS: Record<string, number> = { s: 1, ms: 0.001, min: 60 };

/** The units of a field, each as how many of the field's own unit. */
function unitsFor(unit: string): { kind: Kind; scale: Record<string, number> } {
  if (unit === "m") return { kind: "length", scale: METRES };
  if (unit === "mm") {
    return {
      kind: "length",
      scale: Object.fromEntries(Object.entries(METRES).map(([k, v]) => [k, v * 1000])),
    };
  }
  if (unit === "°") return { kind: "angle", scale: DEGREES };
  if (unit === "s") return { kind: "time", scale: SECONDS };
  return { kind: "none", scale: {} };
}

/**
 * The number meant by `text` in a field of `unit`, or null where it cannot be read. `plain` is how
 * much a number without a unit is worth: a field that shows feet takes plain numbers as feet.
 */
export function readQuantity(text: string, unit: string, plain = 1): number | null {
  const { scale } = unitsFor(unit);
  const words = text
    .trim()
    .replace(/,/g, ".")
    .replace(/(\d)?([⅛¼⅜½⅝¾⅞])/g, (_, digit: string | undefined, part: string) =>
      String(Number(digit ?? 0) + EIGHTHS.indexOf(part) / 8),
    )
    .match(/\d*\.?\d+(?:e[+-]?\d+)?|[a-z°]+|['"+\-*/()]|\S/gi);
  if (!words) return null;
  let at = 0;
  const peek = () => words[at];

  function factor(): number {
    const word = words![at++];
    if (word === "-") return -factor();
    if (word === "+") return factor();
    if (word === "(") {
      const inner = sum();
      if (words![at++] !== ")") throw new Error("bracket");
      return inner;
    }
    const number = Number(word);
    if (word === undefined || word === "" || Number.isNaN(number)) throw new Error("number");
    let value = withUnit(number);
    // Feet and inches side by side: 7'6"
    while (peek() && /^[\d.]/.test(peek()!) && /^['a-z]/i.test(words![at - 1]!))
      value += withUnit(Number(words![at++]));
    return value;
  }
  function withUnit(number: number): number {
    const name = peek()?.toLowerCase();
    if (name === undefined || /^[-+*/()\d.]/.test(name)) return number;
    const factor = scale[name];
    if (factor === undefined) throw new Error("unit");
    at++;
    return number * factor;
  }
  function product(): number {
    let value = factor();
    while (peek() === "*" || peek() === "/")
      value = words![at++] === "*" ? value * factor() : value / factor();
    return value;
  }
  function sum(): number {
    let value = product();
    while (peek() === "+" || peek() === "-")
      value = words![at++] === "+" ? value + product() : value - product();
    return value;
  }
  try {
    const value = sum() * (Object.keys(scale).some((name) => words.includes(name)) ? 1 : plain);
    return at === words.length && Number.isFinite(value) ? value : null;
  } catch {
    return null;
  }
}

/** A number with so many digits, never −0; a dash for what is none. */
export const decimals = (value: number, digits: number) =>
  Number.isFinite(value) ? value.toFixed(digits).replace(/^-(0\.?0*)$/, "$1") : "–";

/** A length as people on a stage say it: metres with decimals, or feet and inches to an eighth. */
export function lengthText(metres: number, feet: boolean, digits = 2): string {
  if (!feet) return decimals(metres, digits);
  const eighths = Math.round((Math.abs(metres) / 0.0254) * 8);
  const [whole, rest] = [Math.floor(eighths / 96), eighths % 96];
  const inches = Math.floor(rest / 8);
  const part = EIGHTHS[rest % 8]!;
  const sign = metres < 0 && eighths > 0 ? "-" : "";
  return `${sign}${whole}'${inches}${part}"`;
}
