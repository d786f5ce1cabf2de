/** What the Bench says of looking for something. */

export const BENCH = {
  find: "look for",
  findHint: "a title or a class",
  class_: "class",
  every: "every class",
  none: (words: string) => `Nothing here has "${words}" in it.`,
  for_: (concepts: readonly string[]) => `for ${concepts.join(", ")}`,
  lastRound: "its last round",
  paper: "on paper",
  fit: "can be set for a class",
  unfit: (why: string) => `not yet fit to be set. ${why}`,
} as const;
