/** Values that this browser keeps, by name; none in tests without a browser. */

const store = () => (typeof localStorage === "undefined" ? null : localStorage);

export function kept<T>(name: string, otherwise: T): T {
  const text = store()?.getItem(name);
  return text ? (JSON.parse(text) as T) : otherwise;
}

export const keep = (name: string, value: unknown) => store()?.setItem(name, JSON.stringify(value));

/** Content of a canvas as a PNG; null where the browser cannot. */
export const pngOf = (canvas: HTMLCanvasElement) =>
  new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));

/** Hands a file to whoever sits before the browser. */
export function saveAs(blob: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
