/** Where a game by hand begins, and what is put in place there. */

import type { LiveHeard, TrialView } from "../api/client";

export interface Wish {
  /** The scenario at whose beginning, or in whose middle, it begins. */
  scenario: number | null;
  /** The frame after which the player takes over; -1 for the very beginning. */
  frame: number;
  /** Whether it is the game before in whose middle it begins. */
  again: boolean;
}

export interface ByHand {
  /** A value for each listed variable, as it is written; nothing leaves it as it is. */
  values: Readonly<Record<string, string>>;
  /** Further lines, such as `hob.x = 5`. */
  more: string;
  luck: "" | "lowest" | "highest";
  seed: string;
}

export const FROM_START: Wish = { scenario: null, frame: -1, again: false };
export const AS_IT_IS: ByHand = { values: {}, more: "", luck: "", seed: "" };

/** The lines that are put in place: `lives = 1`, one for each value that was written, and the further ones. */
export function linesOf(hand: ByHand): string[] {
  const values = Object.entries(hand.values).filter(([, value]) => value.trim());
  const further = hand.more
    .split(/[\n;]/)
    .map((line) => line.trim())
    .filter(Boolean);
  return [...values.map(([name, value]) => `${name} = ${value.trim()}`), ...further];
}

export function beginMessage(source: string, wish: Wish, hand: ByHand): LiveHeard {
  const seed = /^\d{1,9}$/.test(hand.seed.trim()) ? Number(hand.seed.trim()) : null;
  return { say: "begin", source, ...wish, put: linesOf(hand), luck: hand.luck || null, seed };
}

/** Whether anything is put in place by hand. */
export function isByHand(hand: ByHand): boolean {
  return linesOf(hand).length > 0 || hand.luck !== "" || hand.seed.trim() !== "";
}

/** What may be put on show besides the listed variables: the script's own, pieces' places, how many of a kind. */
export function showable(scene: TrialView["scene"], names: readonly string[], listed: readonly string[]): string[] {
  const pieces = scene.pieces.filter((piece) => !piece.zone).flatMap(({ name }) => [`${name}.x`, `${name}.y`]);
  const kinds = scene.kinds.map(({ kind }) => `count(${kind})`);
  return [...names, ...pieces, ...kinds, "clock"].filter((name) => !listed.includes(name));
}
