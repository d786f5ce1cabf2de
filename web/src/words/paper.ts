/** What the brief on paper says. */
export const PAPER = {
  here: "the brief on paper",
  what: "this exercise",
  print: "Print",
  needed: "Words that you can use",
  begins: "How it begins",
  name: "Name",
};
