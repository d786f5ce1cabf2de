import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";

import { sheetsQuery } from "../../api/lesson";
import { Feedback } from "../../feedback/Feedback";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { LESSON } from "../../words/lesson";

/** The feedback sheets of a round, one student a page, all of them in one print. */
export function Sheets() {
  const round = Number(useParams()["round"]);
  const [search, setSearch] = useSearchParams();
  const only = search.get("student");
  const sheets = useQuery(sheetsQuery(round));
  const all = sheets.data ?? [];
  return (
    <Shell
      title={all[0] ? LESSON.sheetTitle(all[0].title) : LESSON.sheets}
      path={
        <>
          <Link to={`/rounds/${round}`} className="link-hover">
            Round
          </Link>{" "}
          / <strong className="text-base-content">{LESSON.sheets}</strong>
        </>
      }
      aside={
        <>
          <select
            className="select select-sm w-auto bg-transparent"
            aria-label={LESSON.onlyOne}
            value={only ?? ""}
            onChange={(event) =>
              setSearch(event.target.value ? { student: event.target.value } : {}, { replace: true })
            }
          >
            <option value="">{LESSON.all}</option>
            {all.map((each) => (
              <option key={each.id}>{each.student}</option>
            ))}
          </select>
          <Button disabled={!sheets.isSuccess} onClick={() => window.print()}>
            {LESSON.print}
          </Button>
        </>
      }
      keys={[]}
    >
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard */}
      <section aria-label={LESSON.sheets} tabIndex={0} className="h-full overflow-auto print:overflow-visible">
        {sheets.isPending ? <Loading what="the sheets" /> : null}
        {sheets.isLoadingError ? (
          <Failed what="the sheets" error={sheets.error} retry={() => void sheets.refetch()} />
        ) : null}
        {sheets.isSuccess && all.length === 0 ? <p className="p-6">{LESSON.nothing}</p> : null}
        {all
          .filter((each) => only === null || each.student === only)
          .map((each) => (
            <Feedback key={each.id} sheet={each} student={false}>
              {each.reply ? (
                <p className="mt-3">
                  <span className="text-neutral">{LESSON.yourAnswerIs}:</span> {each.reply}
                </p>
              ) : null}
            </Feedback>
          ))}
      </section>
    </Shell>
  );
}
