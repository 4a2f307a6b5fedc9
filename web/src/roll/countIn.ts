import { useEffect } from "react";
import { link } from "../live/link";
import { flag } from "../live/wire";
import { everyFrame } from "../state/now";
import { useView } from "../state/view";

const words = ["", "one", "two", "three", "four", "five"];
let sound: AudioContext | null = null;

/** A short tone: the last of a count is higher. */
function pip(last: boolean) {
  sound ??= new AudioContext();
  const [tone, loud] = [sound.createOscillator(), sound.createGain()];
  tone.frequency.value = last ? 1320 : 880;
  loud.gain.setValueAtTime(0.12, sound.currentTime);
  loud.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + (last ? 0.35 : 0.12));
  tone.connect(loud).connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + 0.4);
}

/** Says a word, where the browser has a voice. */
function say(word: string) {
  if (!("speechSynthesis" in window) || window.speechSynthesis.getVoices().length === 0) return;
  const utterance = new SpeechSynthesisUtterance(word);
  utterance.rate = 1.4;
  window.speechSynthesis.speak(utterance);
}

/** What a count in says aloud. */
export const spoken = (left: number) => (left > 0 ? (words[left] ?? String(left)) : "action");

/** Counts aloud with the floor: a tone and a word for every second, and one more when it rolls. */
export function useCountAloud() {
  useEffect(() => {
    let before = 0;
    return everyFrame(() => {
      const frame = link.frame;
      if (!frame) return;
      const counting = frame.flags & flag.counting;
      const left = counting ? Math.ceil(frame.rollTime) : 0;
      if (left === before) return;
      const begins = before > 0 && left === 0 && frame.flags & (flag.rolling | flag.preRoll);
      before = left;
      if (!useView.getState().slate.sound || (!begins && left === 0)) return;
      pip(left === 0);
      say(spoken(left));
    });
  }, []);
}
