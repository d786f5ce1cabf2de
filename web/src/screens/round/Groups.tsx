import { Link } from "react-router";

import type { GroupView, RoundView } from "../../api/client";
import { InCode } from "../../shell/InCode";
import { count } from "../../values";

interface GroupsProps {
  round: RoundView;
  chosen: GroupView | null;
  onChoose: (key: string | null) => void;
}

/** What to teach next: the findings that many share, by the marks at stake. */
export function Groups({ round, chosen, onChoose }: GroupsProps) {
  return (
    <section aria-labelledby="groups-title" className="flex min-h-0 flex-col border-l border-base-300">
      <div className="flex justify-between border-b border-base-300 px-5 py-2 text-sm text-neutral">
        <h2 id="groups-title">What to teach next</h2>
        <span>by marks lost</span>
      </div>
      {round.groups.length === 0 ? (
        <p className="px-5 py-4">
          {round.done < round.students.length ? "Groups appear as scripts are marked." : "Read and run. Nothing to report."}
        </p>
      ) : (
        <ul className="relative min-h-0 flex-1 overflow-auto">
          {round.groups.map((group) => (
            <GroupLine key={group.key} group={group} chosen={group.key === chosen?.key} onChoose={onChoose} />
          ))}
        </ul>
      )}
      {chosen ? (
        <div className="flex gap-3 border-t border-base-300 px-5 py-3">
          {chosen.typical ? (
            <Link
              className="btn btn-outline btn-primary btn-sm"
              to={`/tries/${chosen.typical.try_id}/scenarios/${chosen.typical.scenario}`}
            >
              Open a typical trial
            </Link>
          ) : null}
          <button type="button" className="btn btn-outline btn-primary btn-sm" onClick={() => onChoose(null)}>
            Show all {round.students.length}
          </button>
        </div>
      ) : null}
    </section>
  );
}

interface GroupLineProps {
  group: GroupView;
  chosen: boolean;
  onChoose: (key: string | null) => void;
}

function GroupLine({ group, chosen, onChoose }: GroupLineProps) {
  return (
    <li className="border-b border-base-300">
      <button
        type="button"
        aria-pressed={chosen}
        className={`grid w-full cursor-pointer grid-cols-[2rem_1fr] gap-x-2 border-l-[3px] px-4 py-2 text-left ${
          chosen ? "border-primary bg-(--plum-tint)" : "border-transparent hover:bg-base-200"
        }`}
        onClick={() => onChoose(chosen ? null : group.key)}
      >
        <span className="text-right text-xl leading-6 font-bold">
          {group.tries.length}
          <span className="sr-only"> {group.tries.length === 1 ? "script" : "scripts"}:</span>
        </span>
        <span>
          <span className="block font-semibold">
            <InCode text={group.title} />
          </span>
          <span className="block text-sm text-neutral">
            {group.excerpt ? (
              <>
                <code className="text-base-content">{group.excerpt}</code>{" "}
              </>
            ) : null}
            {count(group.marks_lost, "mark")}
            {group.confidence === "open" ? ", why is open" : ""}
          </span>
        </span>
      </button>
    </li>
  );
}
