import { useEffect } from "react";

import type { CardSheet } from "../../api/client";
import { classQuery } from "../../api/people";
import { queries } from "../../shell/away";
import { Button } from "../../shell/Button";

/** Cards to print and cut up. They are on this page once, and nowhere else. */
export function Cards({ sheet, onDone }: { sheet: CardSheet; onDone: () => void }) {
  useEffect(() => {
    document.title = `Cards of ${sheet.class_name} · Hob Trial`;
    const before = document.body.className;
    const stay = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", stay);
    return () => {
      document.body.className = before;
      window.removeEventListener("beforeunload", stay);
      void queries.invalidateQueries({ queryKey: classQuery(0).queryKey.slice(0, 1) });
    };
  }, [sheet]);
  return (
    <main className="cards mx-auto max-w-4xl px-6 py-6">
      <div className="mb-4 print:hidden">
        <h1 className="text-2xl font-bold">Cards of {sheet.class_name}</h1>
        <p className="mb-3 max-w-2xl">
          Print them now and cut them up: nobody can see them again, not even you. Whoever loses a card gets a new one,
          and the lost one ends.
        </p>
        <div className="flex gap-3">
          <Button onClick={() => window.print()}>Print</Button>
          <Button look="quiet" onClick={onDone}>
            They are printed
          </Button>
        </div>
      </div>
      <ul className="grid grid-cols-2 print:grid-cols-2">
        {sheet.cards.map((card) => (
          <li key={card.student_id} className="break-inside-avoid border border-dashed border-neutral p-4" data-card>
            <p className="mb-1 flex justify-between">
              <strong className="text-lg">{card.name}</strong>
              <span className="text-neutral">Hob Trial</span>
            </p>
            <p className="text-sm text-neutral">the word of your class</p>
            <p className="mono mb-1 text-lg">{sheet.word}</p>
            <p className="text-sm text-neutral">your own words and digits</p>
            <p className="mono text-lg font-semibold">{card.card}</p>
            <p className="mt-1 text-sm text-neutral">{location.host}</p>
          </li>
        ))}
      </ul>
    </main>
  );
}
