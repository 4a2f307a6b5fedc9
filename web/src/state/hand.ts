/** While a hand drags on paper, pictures of the room wait: the hand comes first. */
export const hand = { busy: false };
export function holdPictures(busy: boolean) {
  hand.busy = busy;
}
