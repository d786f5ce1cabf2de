/** Keys of the keyboard by the names that scripts use. */

const NAMED: Readonly<Record<string, string>> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "up",
  ArrowDown: "down",
  " ": "space",
  Enter: "enter",
};

/** The script's name of a key, or nothing where scripts have none for it. */
export function keyName(key: string): string | null {
  const named = NAMED[key];
  if (named) return named;
  const small = key.toLowerCase();
  return /^[a-z0-9]$/.test(small) ? small : null;
}
