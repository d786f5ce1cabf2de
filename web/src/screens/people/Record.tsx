import type { LedgerView } from "../../api/client";
import { Button } from "../../shell/Button";
import { marks } from "../../values";
import { LESSON } from "../../words/lesson";

interface RecordProps {
  view: LedgerView;
  student: LedgerView["students"][number];
  onClose: () => void;
}

/** One student's whole record of the term, to be looked at together or printed. */
export function Record({ view, student, onClose }: RecordProps) {
  const concepts = view.concepts.map(({ concept }) => {
    const parts = student.cells.flatMap((cell) => cell.by_concept[concept] ?? []);
    const of = parts.reduce((sum, part) => sum + part.out_of, 0);
    return { concept, share: of > 0 ? parts.reduce((sum, part) => sum + part.marks, 0) / of : null };
  });
  return (
    <article className="mx-auto max-w-3xl py-6" data-record={student.name}>
      <div className="mb-3 flex items-baseline justify-between gap-4">
        <h2 className="text-2xl font-bold">{LESSON.recordOf(student.name, view.class_name)}</h2>
        <span className="flex gap-2 print:hidden">
          <Button onClick={() => window.print()}>{LESSON.print}</Button>
          <Button look="quiet" onClick={onClose}>
            {LESSON.backToAll}
          </Button>
        </span>
      </div>
      <p className="flex flex-wrap gap-x-6 pb-3">
        {concepts.map(({ concept, share }) =>
          share === null ? null : (
            <span key={concept}>
              <span className="text-neutral">{concept}</span> <strong>{Math.round(100 * share)} %</strong>
            </span>
          ),
        )}
      </p>
      <table className="w-full border-collapse">
        <tbody>
          {view.rounds.map((round, index) => {
            const cell = student.cells[index];
            const counts = cell?.own_marks ?? cell?.marks ?? null;
            return (
              <tr key={round.id} className="border-t border-base-300">
                <td className="py-1 pr-4 text-neutral">
                  {new Date(round.opened_at).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}
                </td>
                <td className="pr-4">{round.title}</td>
                <td className="pr-4 text-right font-semibold">
                  {counts === null ? (cell?.excused ? LESSON.excused : "–") : marks(counts)}
                </td>
                <td className="pr-4 text-neutral">of {marks(round.out_of)}</td>
                <td className="text-sm">
                  {[
                    cell && cell.own_marks !== null && cell.marks !== null ? LESSON.computed(cell.marks) : "",
                    cell?.late ? LESSON.late : "",
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </article>
  );
}
