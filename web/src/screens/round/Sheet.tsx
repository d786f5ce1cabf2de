import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";

import type { SheetView } from "../../api/client";
import { sheetQuery, trialQuery } from "../../api/queries";
import { InCode } from "../../shell/InCode";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { shown } from "../../strip/steps";
import { Strip } from "../../strip/Strip";
import { count } from "../../values";
import { Button } from "../../shell/Button";

/** One group of findings for the projector or the printer: the question, the lines, the strip; nobody's name. */
export function Sheet() {
  const round = Number(useParams()["round"]);
  const [search] = useSearchParams();
  const key = search.get("key") ?? "";
  const work = search.has("work");
  const sheet = useQuery(sheetQuery(round, key, work));
  const path = (
    <>
      <Link
        to={work ? `/rounds/${round}/work` : `/rounds/${round}?group=${encodeURIComponent(key)}`}
        className="link-hover"
      >
        Round
      </Link>{" "}
      / <strong className="text-base-content">sheet for the class</strong>
    </>
  );
  return (
    <Shell
      title="Sheet for the class"
      headed={sheet.isSuccess}
      path={path}
      aside={<PrintButton ready={sheet.isSuccess} />}
      keys={[]}
    >
      <div className="h-full overflow-auto print:overflow-visible">
        {sheet.isPending ? <Loading what="the sheet" /> : null}
        {sheet.isLoadingError ? (
          <Failed what="this sheet" error={sheet.error} retry={() => void sheet.refetch()} />
        ) : null}
        {sheet.data ? <Page sheet={sheet.data} /> : null}
      </div>
    </Shell>
  );
}

function PrintButton({ ready }: { ready: boolean }) {
  return (
    <Button disabled={!ready} onClick={() => window.print()}>
      Print
    </Button>
  );
}

function Page({ sheet }: { sheet: SheetView }) {
  return (
    <article className="mx-auto max-w-5xl px-8 py-6 text-lg" data-sheet>
      <p className="text-base text-neutral">
        {sheet.exercise}: {sheet.scripts} of {count(sheet.of, "script")}, {count(sheet.marks_lost, "mark")} in all
      </p>
      <h1 className="text-3xl font-bold">
        <InCode text={sheet.title} />
      </h1>
      <p className="mt-5 border-l-[3px] border-primary pl-4 text-2xl">
        <InCode text={sheet.question} />
      </p>
      {sheet.lines.length ? (
        <ol className="mono mt-6 border-y border-base-300 py-2" aria-label="Lines of one script">
          {sheet.lines.map((line) => (
            <li key={line.number} className={`flex gap-4 whitespace-pre ${line.about ? "font-bold" : "text-neutral"}`}>
              <span className="w-8 text-right text-neutral" aria-hidden>
                {line.about ? "›" : ""} {line.number}
              </span>
              <span>{line.text}</span>
            </li>
          ))}
        </ol>
      ) : null}
      {sheet.happened.map((sentence) => (
        <p key={sentence} className="mt-3">
          <InCode text={sentence} />
        </p>
      ))}
      {sheet.typical ? <TypicalStrip typical={sheet.typical} /> : null}
      <details className="mt-6 text-base print:hidden">
        <summary className="cursor-pointer text-neutral">Once the class has answered</summary>
        <p className="mt-2">
          <InCode text={sheet.pointer} /> <InCode text={sheet.note} />
        </p>
      </details>
    </article>
  );
}

/** The strip of a typical trial, at the moment that matters. */
function TypicalStrip({ typical }: { typical: NonNullable<SheetView["typical"]> }) {
  const trial = useQuery(trialQuery(typical.submission_id, typical.scenario, typical.trial));
  const drawn = useMemo(() => (trial.data ? shown(trial.data) : null), [trial.data]);
  if (trial.isError) return <p className="text-neutral">The strip cannot be shown: {trial.error.message}</p>;
  if (!drawn) return <Loading what="the strip" />;
  if (!drawn.trace) return null;
  const frame = drawn.unit === "step" ? (drawn.parting?.frame ?? 0) : Math.max(typical.frame ?? 0, 0);
  return (
    <figure className="mt-6 text-base">
      <figcaption className="pb-1 text-neutral">
        {drawn.scenario}
        {drawn.trials[drawn.trial] ? ` (${drawn.trials[drawn.trial]})` : ""}: the run in ink, the reference in pencil
      </figcaption>
      <Strip trial={drawn} frame={frame} />
    </figure>
  );
}
