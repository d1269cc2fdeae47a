import { type Mixture, strengthOf, volumeOf } from "../contents/index.ts";

/** Contents by colour and by pattern, so that they read without colour. */
export type Ink = "empty" | "water" | "weak" | "antifreeze";

// Less than this is a trace that no eye sees.
const TRACE = 0.01;
// From here on a mixture is drawn as antifreeze proper: 24 % by volume bursts below −18 °C (manufacturer's guide, from memory).
const PROPER = 0.24;

export const inkOf = (liquid: Mixture): Ink => {
  if (volumeOf(liquid) <= 0) return "empty";
  const strength = strengthOf(liquid);
  return strength < TRACE ? "water" : strength < PROPER ? "weak" : "antifreeze";
};

export const INK_WORDS: Record<Ink, string> = {
  empty: "empty",
  water: "water",
  weak: "weak antifreeze",
  antifreeze: "antifreeze",
};
