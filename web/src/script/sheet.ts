/** The script on one sheet, taken apart: words to be looked up and to be offered while writing. */

export interface Word {
  text: string;
  does: string;
}

export interface Part {
  title: string;
  rows: { words: readonly string[]; does: string }[];
}

export interface Sheet {
  example: string;
  parts: readonly Part[];
}

/** Reads the sheet's Markdown: one example, then tables of two columns whose first heading is the title. */
export function readSheet(text: string): Sheet {
  const example = /```python\n([\s\S]*?)```/.exec(text)?.[1] ?? "";
  const parts: Part[] = [];
  for (const table of text.split(/\n\s*\n/).filter((block) => block.startsWith("|"))) {
    const [head, , ...rows] = table.split("\n").map(cells);
    parts.push({
      title: head?.[0] ?? "",
      rows: rows
        .map(([first = "", does = ""]) => ({ words: codes(first), does }))
        .filter((row) => row.words.length > 0),
    });
  }
  return { example, parts };
}

/** The words of the sheet, each with what it does: where a row has as many meanings as words, its own. */
export function wordsOf(sheet: Sheet): Word[] {
  return sheet.parts.flatMap((part) =>
    part.rows.flatMap((row) => {
      const meanings = row.does.split(" · ");
      const own = meanings.length === row.words.length;
      return row.words.map((text, index) => ({ text, does: plain((own ? meanings[index] : row.does) ?? "") }));
    }),
  );
}

/** The parts of the sheet that a script needs; `used` are the words of the language that it uses. */
export function neededOf(sheet: Sheet, used: readonly string[]): { title: string; words: Word[] }[] {
  const needed = new Set(used);
  return sheet.parts
    .map(({ title, rows }) => ({
      title,
      words: wordsOf({ ...sheet, parts: [{ title, rows }] }).filter((word) => needed.has(keyOf(word.text))),
    }))
    .filter((part) => part.words.length > 0);
}

/** What a word of the sheet goes by: `hob.x = 5` by `x`, `pressed("space")` by `pressed`, `f"…"` by `f`. */
function keyOf(word: string): string {
  return /\.(\w+)/.exec(word)?.[1] ?? /^[A-Za-z_]\w*/.exec(word)?.[0] ?? word;
}

function cells(line: string): string[] {
  return line
    .split("|")
    .slice(1, -1)
    .map((cell) => cell.trim());
}

function codes(cell: string): string[] {
  return [...cell.matchAll(/`([^`]+)`/g)].map((found) => found[1] ?? "");
}

function plain(words: string): string {
  return words.replaceAll("`", "");
}
