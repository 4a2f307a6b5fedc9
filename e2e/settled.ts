/** Where a picture of the manual is kept. */
export const place = (name: string) => `../docs/screenshots/${name}.png`;
/** The picture is drawn sharp once it stands still. */
export const settle = () => {
  const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="finder"] canvas');
  if (!canvas || canvas.width < canvas.clientWidth) return false;
  // The set's light is worked out in the background: a dark picture waits for it.
  const small = document.createElement("canvas");
  small.width = small.height = 16;
  const context = small.getContext("2d")!;
  context.drawImage(canvas, 0, 0, 16, 16);
  const { data } = context.getImageData(0, 0, 16, 16);
  return data.reduce((sum, v) => sum + v, 0) / data.length > 85;
};
