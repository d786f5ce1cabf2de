import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import { deskRoundQuery } from "../../api/people";
import { Brief } from "../../shell/Brief";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { Marks } from "./Marks";

/** One exercise that is set: what to do, and one's own tries. */
export function DeskRound() {
  const found = useQuery(deskRoundQuery(Number(useParams()["round"])));
  return (
    <Shell
      title={found.data?.title ?? "Exercise"}
      path={
        <>
          <Link to="/">Your desk</Link> / <strong className="text-base-content">{found.data?.title ?? ""}</strong>
        </>
      }
      keys={[]}
    >
      <div className="mx-auto max-w-3xl px-6 py-6">
        {found.isPending ? (
          <Loading what="this exercise" />
        ) : found.isLoadingError ? (
          <Failed what="this exercise" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <>
            <Brief text={found.data.brief} />
            <h2 className="mt-8 mb-2 text-lg font-bold">Your tries</h2>
            {found.data.tries.length === 0 ? (
              <p>You have not handed in anything yet. Give your script to your teacher as a file.</p>
            ) : (
              <ul>
                {[...found.data.tries].reverse().map((each) => (
                  <li key={each.id} className="border-t border-base-300 last:border-b">
                    <Link to={`/own/${each.id}`} className="flex items-baseline justify-between py-2 hover:bg-base-200">
                      <span>
                        Try {each.number},{" "}
                        <span className="text-neutral">
                          {new Date(each.handed_in_at).toLocaleString("en-GB", {
                            day: "numeric",
                            month: "long",
                            hour: "2-digit",
                            minute: "2-digit",
                          })}
                        </span>
                      </span>
                      <Marks tried={each} outOf={found.data.out_of} />
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
      </div>
    </Shell>
  );
}
