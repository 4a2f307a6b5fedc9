import { enqueueSnackbar } from "notistack";
import { useDocuments } from "../document/edit";
import { setSet } from "../state/set";
import { clock, setView } from "../state/view";

/** The scene that this page asked for. */
export const asked = { scene: 0 };

/** Under which it is kept what is to be said once the page has begun anew. */
const SAID = "told after opening";

/**
 * Follows what is on the floor: with another scene, nothing of the one before is looked at or picked any
 * more; with another production the page begins anew.
 */
export function followFloor() {
  return useDocuments.subscribe((now, before) => {
    if (!before.known || !now.known) return;
    if (now.onShelf !== before.onShelf) {
      sessionStorage.setItem(SAID, `${now.known.production} is on the floor now.`);
      history.replaceState(null, "", location.pathname);
      location.reload();
      return;
    }
    const { scene } = now.known;
    if (scene.id === before.known.scene.id) return;
    clock.time = 0;
    setView({
      live: true,
      moveId: null,
      otherId: null,
      stage: "now",
      playing: 0,
      inS: null,
      outS: null,
      window: null,
      fromFloor: false,
      drawing: false,
      drawer: null,
    });
    setSet({ tool: "pick", sketch: [], picked: [], performer: null, waypoint: 0, through: null });
    // Whoever asked for it knows.
    if (asked.scene !== scene.id) enqueueSnackbar(`Scene ${scene.number}, ${scene.name}, is on the floor.`);
    asked.scene = 0;
  });
}

/** Says what came onto the floor, once the page has begun anew with it. */
export function tellWhatOpened() {
  const said = sessionStorage.getItem(SAID);
  if (!said) return;
  sessionStorage.removeItem(SAID);
  enqueueSnackbar(said);
}
