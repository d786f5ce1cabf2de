/** What the workshop says of scenarios that are played in many ways. */

export const WAYS = {
  group: "The same in many ways",
  boundary: "one below, at it, one above",
  orders: "every order of what is done",
  wild: "whatever is played",
  rows: "Table of cases",
  row: "a row",
  arrange: "begins with",
  arrangeHint: "score = 4; hob.x = 12",
  expect: "must be so",
  marks: "marks",
  because: "because",
  takeAway: "take away",
  takeRowAway: (number: number) => `take away row ${number}`,
  answers: "answers",
  answersHint: "rye; 2",
  caseAt: "looked at after seconds",
  atTheEnd: "the end",
  runs: "runs",
  keys: "keys",
  clicks: "clicks on",
  picks: "choices",
  steps: (names: readonly string[]) => `In every order: ${names.join(", ")}`,
} as const;

export const STRIP = {
  hint: "Click a line, or drag along it: what must be so there?",
  about: (moment: string) => `At ${moment}, about`,
  aboutEnd: "At the end, about",
  along: "along from here",
  notAlong: (moment: string) => `not along from ${moment}`,
  ask: "what must be so?",
  fromHere: (moment: string) => `From ${moment} on`,
  beginsHere: "a scenario that begins here",
};

export const RECORD = {
  over: "record over from here",
} as const;

export const SCENE = {
  places: "places",
  placesHint: "bakehouse, cellar",
} as const;

export const PROOF = {
  companions: (well: number, all: number) =>
    `${well} of ${all} companions ${all === 1 ? "comes out as it must" : "come out as they must"}.`,
} as const;
