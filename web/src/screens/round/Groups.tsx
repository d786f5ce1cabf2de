import { Link } from "react-router";

import type { GroupView, RoundView } from "../../api/client";
import { makeFollowUp } from "../../api/lesson";
import { roundQuery, setWithdrawn } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { InCode } from "../../shell/InCode";
import { count } from "../../values";
import { Button } from "../../shell/Button";
import { LESSON } from "../../words/lesson";

interface GroupsProps {
  round: RoundView;
  chosen: GroupView | null;
  onChoose: (key: string | null) => void;
}

/** What to teach next: the ideas that went wrong for many, and what each of them costs. */
export function Groups({ round, chosen, onChoose }: GroupsProps) {
  return (
    <section aria-labelledby="groups-title" className="flex min-h-0 flex-col border-l border-base-300">
      <div className="flex justify-between border-b border-base-300 px-5 py-2 text-sm text-neutral">
        <h2 id="groups-title">What to teach next</h2>
        <span>by how many have it</span>
      </div>
      {round.groups.length === 0 ? (
        <p className="px-5 py-4">
          {round.done < round.students.length
            ? "Groups appear as scripts are marked."
            : round.students.some((student) => student.fault)
              ? "Some scripts could not be looked at; there is nothing to report of the others."
              : "Read and run. Nothing to report."}
        </p>
      ) : (
        <ul className="relative min-h-0 flex-1 overflow-auto">
          {round.groups
            .filter((group) => !group.withdrawn)
            .map((group) => (
              <GroupLine key={group.key} group={group} chosen={group.key === chosen?.key} onChoose={onChoose} />
            ))}
          <Withdrawn round={round} />
        </ul>
      )}
      {chosen ? <Chosen round={round} group={chosen} onChoose={onChoose} /> : null}
    </section>
  );
}

/** What can be done with a group: look at it, show it to the class, or withdraw it. */
function Chosen({
  round,
  group,
  onChoose,
}: {
  round: RoundView;
  group: GroupView;
  onChoose: (key: string | null) => void;
}) {
  const withdrawing = useWithdrawing(round.id);
  const following = useChange(() => makeFollowUp(round.id, group.key), roundQuery(round.id));
  return (
    <div className="flex flex-wrap gap-2 border-t border-base-300 px-5 py-3">
      {group.typical ? (
        <Link
          className="btn btn-outline btn-primary btn-sm"
          to={`/tries/${group.typical.submission_id}/scenarios/${group.typical.scenario}${group.typical.trial > 0 ? `?trial=${group.typical.trial}` : ""}`}
        >
          Open a typical trial
        </Link>
      ) : null}
      <Link
        className="btn btn-outline btn-primary btn-sm"
        to={`/rounds/${round.id}/sheet?key=${encodeURIComponent(group.key)}`}
      >
        Sheet for the class
      </Link>
      {group.follow_up ? (
        <Link
          className="link inline-flex min-h-6 w-full items-center text-sm"
          to={`/rounds/${group.follow_up.round_id}`}
          data-follow-up={group.follow_up.students}
        >
          {LESSON.followed(group.follow_up.handed_in, group.follow_up.students, group.follow_up.helped)}
        </Link>
      ) : (
        <Button
          title={LESSON.followUpHelp}
          disabled={following.isPending}
          onClick={() => following.mutate(undefined)}
          data-make-follow-up
        >
          {LESSON.followUp(group.submission_ids.length)}
        </Button>
      )}
      {following.isError ? (
        <p role="alert" className="text-error">
          {following.error.message}
        </p>
      ) : null}
      <Button onClick={() => onChoose(null)}>Show all {round.students.length}</Button>
      <Button
        look="quiet"
        disabled={withdrawing.isPending}
        onClick={() => withdrawing.mutate({ key: group.key, withdrawn: true }, { onSuccess: () => onChoose(null) })}
      >
        Withdraw this finding
      </Button>
      {withdrawing.isError ? (
        <p role="alert" className="text-error">
          {withdrawing.error.message}
        </p>
      ) : null}
    </div>
  );
}

/** Findings that were withdrawn for everybody; marks are as they were. */
function Withdrawn({ round }: { round: RoundView }) {
  const withdrawing = useWithdrawing(round.id);
  const taken = round.groups.filter((group) => group.withdrawn);
  if (taken.length === 0) return null;
  return (
    <li className="px-5 py-3 text-sm text-neutral">
      <h3>Withdrawn; students are not shown these</h3>
      <ul>
        {taken.map((group) => (
          <li key={group.key} className="flex items-baseline gap-2 py-1">
            <span className="line-through">
              <InCode text={group.title} />
            </span>
            <Button size="xs" onClick={() => withdrawing.mutate({ key: group.key, withdrawn: false })}>
              Put back
            </Button>
          </li>
        ))}
      </ul>
    </li>
  );
}

function useWithdrawing(round: number) {
  return useChange(
    ({ key, withdrawn }: { key: string; withdrawn: boolean }) => setWithdrawn(round, key, null, withdrawn),
    roundQuery(round),
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
          {group.submission_ids.length}
          <span className="sr-only"> {group.submission_ids.length === 1 ? "script" : "scripts"}:</span>
        </span>
        <span>
          <span className="block font-semibold">
            <InCode text={group.title} />
          </span>
          <span className="block text-sm text-neutral">
            <Ways group={group} />
            {count(group.marks_lost, "mark")}
            {group.confidence === "open" ? ", why is open" : ""}
          </span>
        </span>
      </button>
    </li>
  );
}

/** The lines in which an idea went wrong; of several the commonest, each with how many scripts have it. */
function Ways({ group }: { group: GroupView }) {
  if (group.variants.length < 2) {
    return group.excerpt ? (
      <>
        <code className="text-base-content">{group.excerpt}</code>{" "}
      </>
    ) : null;
  }
  const rest = group.variants.length - SHOWN;
  return (
    <ul>
      {group.variants.slice(0, SHOWN).map((way) => (
        <li key={way.excerpt}>
          <code className="text-base-content">{way.excerpt}</code>
          {way.scripts > 1 ? ` ${way.scripts} scripts` : ""}
        </li>
      ))}
      {rest > 0 ? <li>and {count(rest, "line")} more</li> : null}
    </ul>
  );
}

/** Lines of a group that are listed before the rest is only counted. */
const SHOWN = 3;
