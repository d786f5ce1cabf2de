import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import type { CloserView } from "../../api/client";
import { closerQuery } from "../../api/lesson";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { LESSON } from "../../words/lesson";

/** A round more closely: what each check tells, and scripts to ask about. */
export function Closer() {
  const round = Number(useParams()["round"]);
  const found = useQuery(closerQuery(round));
  return (
    <Shell
      title={found.data ? `${found.data.title}, ${LESSON.closer}` : LESSON.closer}
      path={
        <>
          <Link to={`/rounds/${round}`} className="link-hover">
            {found.data?.title ?? "Round"}
          </Link>{" "}
          / <strong className="text-base-content">{LESSON.closer}</strong>
        </>
      }
      keys={[]}
    >
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard */}
      <section aria-label={LESSON.closer} tabIndex={0} className="mx-auto h-full max-w-5xl overflow-auto px-6 py-6">
        {found.isPending ? (
          <Loading what="this round" />
        ) : found.isLoadingError ? (
          <Failed what="this round" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <>
            <Alike view={found.data} />
            <Items view={found.data} />
          </>
        )}
      </section>
    </Shell>
  );
}

function Alike({ view }: { view: CloserView }) {
  return (
    <section className="mb-8" data-alike={view.alike.length}>
      <h2 className="text-lg font-bold">{LESSON.alike}</h2>
      <p className="mb-2 text-neutral">{view.alike.length > 0 ? LESSON.alikeHelp : LESSON.noneAlike}</p>
      {view.alike.map((pair) => (
        <div key={`${pair.first} ${pair.second}`} className="border-t border-base-300 py-2">
          <p>
            <strong>{pair.first}</strong> and <strong>{pair.second}</strong>{" "}
            <span className="text-neutral">{LESSON.share(pair.share)}</span>
          </p>
          <div className="grid grid-cols-2 gap-4">
            {[pair.first_lines, pair.second_lines].map((lines, side) => (
              <ol key={side} className="mono overflow-auto border border-base-300 bg-(--sheet) py-1 text-sm">
                {lines.map((line) => (
                  <li key={line.number} className="grid grid-cols-[2.5rem_1fr] gap-2">
                    <span className="text-right text-neutral">{line.number}</span>
                    <span className="whitespace-pre">{line.text}</span>
                  </li>
                ))}
              </ol>
            ))}
          </div>
        </div>
      ))}
    </section>
  );
}

function Items({ view }: { view: CloserView }) {
  return (
    <section>
      <h2 className="text-lg font-bold">{LESSON.items}</h2>
      <p className="mb-2 text-neutral">{LESSON.itemsHelp}</p>
      <table className="w-full border-collapse">
        <thead className="text-left text-sm text-neutral">
          <tr>
            <th scope="col" className="font-normal">
              Scenario
            </th>
            <th scope="col" className="font-normal">
              Check
            </th>
            <th scope="col" className="text-right font-normal">
              {LESSON.held}
            </th>
            <th scope="col" className="text-right font-normal">
              {LESSON.apart}
            </th>
            <th scope="col" />
          </tr>
        </thead>
        <tbody>
          {view.items.map((each, index) => (
            <tr key={index} className="border-t border-base-300">
              <td>{view.items[index - 1]?.scenario === each.scenario ? "" : each.scenario}</td>
              <td>
                <code>{each.expect}</code>
              </td>
              <td className="text-right">{Math.round(100 * each.held)} %</td>
              <td className="text-right">{each.apart === null ? "–" : each.apart.toFixed(2)}</td>
              <td className="pl-4 text-error">{each.tells_nothing ? LESSON.tellsNothing : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
