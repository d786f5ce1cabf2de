import type { RoundView } from "../../api/client";
import { type Level, setLevel } from "../../api/lesson";
import { roundQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { LESSON } from "../../words/lesson";

const isLevel = (text: string): text is Level => ["supported", "core", "stretch"].includes(text);

/** The level of each student in this round, where its exercise has levels. */
export function Levels({ round }: { round: RoundView }) {
  const changing = useChange(
    (wanted: { student: number; level: Level | null }) => setLevel(round.id, wanted.student, wanted.level),
    roundQuery(round.id),
  );
  if (round.levels.length === 0) return null;
  return (
    <section aria-label={LESSON.levels} className="py-2" data-levels>
      <h3 className="text-neutral">{LESSON.levels}</h3>
      <p className="text-neutral">{LESSON.atLevels(round.levels)}</p>
      {changing.isError ? <p role="alert">{changing.error.message}</p> : null}
      <ul className="columns-2 gap-12">
        {round.at_level.map((each) => (
          <li key={each.student_id} className="flex items-baseline justify-between gap-2 break-inside-avoid py-0.5">
            <span className={(each.level ?? each.in_class) ? "font-semibold" : ""}>{each.student}</span>
            <select
              className="select select-xs w-48 bg-transparent"
              aria-label={LESSON.levelOf(each.student)}
              value={each.level ?? ""}
              onChange={({ target: { value } }) =>
                changing.mutate({ student: each.student_id, level: isLevel(value) ? value : null })
              }
            >
              <option value="">{LESSON.asInClass(each.in_class)}</option>
              {round.levels.map((level) => (
                <option key={level} value={level}>
                  {level}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
    </section>
  );
}
