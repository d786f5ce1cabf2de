import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { deskQuery } from "../../api/desk";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { DESK } from "../../words/desk";
import { Marks } from "./Marks";

/** A student's own page: the exercises that are set, and their tries. */
export function Desk() {
  const desk = useQuery(deskQuery);
  return (
    <Shell title="Your desk" path="Your desk" headed keys={[{ keys: "Tab, Enter", does: "chooses an exercise" }]}>
      <div className="mx-auto max-w-3xl px-6 py-8">
        <h1 className="mb-4 text-2xl font-bold">Set for you</h1>
        {desk.isPending ? (
          <Loading what="your exercises" />
        ) : desk.isLoadingError ? (
          <Failed what="your exercises" error={desk.error} retry={() => void desk.refetch()} />
        ) : desk.data.rounds.length === 0 ? (
          <p>Nothing is set for you yet. Your teacher will set an exercise.</p>
        ) : (
          <ul>
            {desk.data.rounds.map((round) => {
              const last = round.tries[round.tries.length - 1];
              return (
                <li key={round.id} className="border-t border-base-300 last:border-b">
                  <Link
                    to={`/set/${round.id}`}
                    className="flex items-baseline justify-between gap-6 py-3 hover:bg-base-200"
                  >
                    <span>
                      <span className="block text-lg font-semibold">{round.title}</span>
                      <span className="text-neutral">
                        {new Date(round.opened_at).toLocaleDateString("en-GB", { day: "numeric", month: "long" })},{" "}
                        {round.excused
                          ? DESK.excused
                          : round.tries.length === 0
                            ? DESK.notHandedIn
                            : count(round.tries.length, "try", "tries")}
                        {round.due_at && round.tries.length === 0 ? `, ${DESK.until(round.due_at)}` : ""}
                      </span>
                    </span>
                    {!last ? null : round.given_back_at ? (
                      <Marks tried={last} outOf={round.out_of} />
                    ) : (
                      <span className="text-neutral">{DESK.notGivenBack}</span>
                    )}
                  </Link>
                </li>
              );
            })}
          </ul>
        )}
      </div>
    </Shell>
  );
}
