import sheet from "../../../docs/script-sheet.md?raw";
import { readSheet } from "../script/sheet";

export const SHEET = readSheet(sheet);

/** The whole language on one sheet. */
export function Language() {
  return (
    <div>
      <pre className="mono overflow-x-auto border-b border-base-300 pb-2">{SHEET.example}</pre>
      {SHEET.parts.map((part) => (
        <section key={part.title} className="border-b border-base-300 py-2 last:border-0">
          <h3 className="text-neutral">{part.title}</h3>
          <dl>
            {part.rows.map((row) => (
              <div key={row.words.join(" ")} className="py-0.5">
                <dt className="flex flex-wrap gap-1">
                  {row.words.map((word) => (
                    <code key={word}>{word}</code>
                  ))}
                </dt>
                <dd className="text-sm text-neutral">{row.does.replaceAll("`", "")}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
}
