import { stills } from "../render/still";
import { finderView } from "../render/view";
import { eyeOf, pictureOf } from "../state/picture";
import { everyFrame, moment } from "../state/now";
import { seenThrough, tell } from "./seen";
import { pixelsOf } from "./size";

/** The finder over the whole screen, or back. */
export function turnFullScreen() {
  if (document.fullscreenElement) return void document.exitFullscreen();
  const finder = finderView.canvas.closest("section");
  if (!finder) return tell("No picture is shown; open Operate or Shape first.");
  finder.requestFullscreen().catch(() => tell("The browser does not give the whole screen to this page."));
}

/** How often the clean picture is drawn at most, a second: film's rate. */
const OFTEN = 24;

let shown: Window | null = null;

/** The frame alone, in a window of its own that only shows: for whoever watches. Again, it comes to the front. */
export function openClean() {
  if (shown && !shown.closed) return shown.focus();
  const other = window.open("", "", "popup,width=960,height=540");
  if (!other) return tell("The browser did not open a window; allow this page to open one.");
  shown = other;
  const page = other.document;
  page.title = "Rovnek · picture";
  const canvas = page.createElement("canvas");
  canvas.style.cssText = "position:fixed;inset:0;width:100%;height:100%;object-fit:contain";
  page.body.style.cssText = "margin:0;background:#000";
  page.body.append(canvas);
  canvas.ondblclick = () =>
    void (page.fullscreenElement ? page.exitFullscreen() : page.documentElement.requestFullscreen());
  const paper = canvas.getContext("2d", { alpha: false })!;
  let drawn = "";
  const end = everyFrame(() => {
    if (other.closed) return end();
    const at = moment("now");
    const through = seenThrough()?.camera;
    if (!at || !through) return;
    const density = Math.min(other.devicePixelRatio, 2);
    const long = Math.max(other.innerWidth, other.innerHeight) * density;
    const size = pixelsOf(through, Math.min(long, 2560));
    const now = [...at.position, ...at.rotation, at.focal, at.sceneTime, ...size].join();
    if (now === drawn) return;
    drawn = now;
    if (canvas.width !== size[0] || canvas.height !== size[1]) [canvas.width, canvas.height] = size;
    paper.drawImage(stills.draw({ ...eyeOf(at, through), subject: pictureOf(at), size }), 0, 0);
  }, OFTEN);
  // Without the page nothing would be drawn in it any more.
  window.addEventListener("pagehide", () => other.close(), { once: true });
}
