import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import type { DeskSubmission, HandedInFinding, HandedInScenario } from "../../api/client";
import { deskTryQuery } from "../../api/desk";
import { InCode } from "../../shell/InCode";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { Mark } from "../../strip/Mark";
import { marks } from "../../values";
import { Marks } from "./Marks";

/** One's own try: what it earned, and what to look at. */
export function DeskTry() {
  const found = useQuery(deskTryQuery(Number(useParams()["try"])));
  return (
    <Shell
      title={found.data ? `${found.data.title}, try ${found.data.number}` : "Try"}
      path={
        found.data ? (
          <>
            <Link to="/">Your desk</Link> / <Link to={`/set/${found.data.round_id}`}>{found.data.title}</Link> /{" "}
            <strong className="text-base-content">try {found.data.number}</strong>
          </>
        ) : (
          "Your desk"
        )
      }
      keys={[]}
    >
      <div className="mx-auto max-w-5xl px-6 py-6">
        {found.isPending ? (
          <Loading what="this try" />
        ) : found.isLoadingError ? (
          <Failed what="this try" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <Whole tried={found.data} />
        )}
      </div>
    </Shell>
  );
}

function Whole({ tried }: { tried: DeskSubmission }) {
  return (
    <div className="grid gap-8 md:grid-cols-2">
      <div>
        <p className="mb-4">
          <Marks tried={tried} outOf={tried.out_of} />
        </p>
        {tried.comment ? (
          <section className="mb-6">
            <h2 className="text-lg font-bold">From your teacher</h2>
            <p className="whitespace-pre-line">{tried.comment}</p>
          </section>
        ) : null}
        <h2 className="mb-2 text-lg font-bold">What to look at</h2>
        {tried.findings.length > 0 ? (
          tried.findings.map((finding, index) => <Finding key={index} finding={finding} />)
        ) : (
          <p>
            {tried.unmarked
              ? `This script could not be marked. That is not your script's fault. ${tried.unmarked}`
              : tried.marks === null
                ? "This script waits to be marked."
                : "Read and run. Nothing to report."}
          </p>
        )}
        {tried.advice.map((each) => (
          <p key={each} className="mt-2 text-neutral">
            <InCode text={each} />
          </p>
        ))}
        {tried.scenarios.length > 0 ? <Scenarios scenarios={tried.scenarios} /> : null}
      </div>
      <ol className="mono overflow-auto border border-base-300 bg-(--sheet) py-3 pr-3" aria-label="Your script">
        {tried.source.split("\n").map((line, index) => (
          <li key={index} className="grid grid-cols-[3rem_1fr] gap-3">
            <span className="text-right text-neutral select-none" aria-hidden>
              {index + 1}
            </span>
            <span className="whitespace-pre">{line || " "}</span>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Finding({ finding }: { finding: HandedInFinding }) {
  return (
    <section className="border-t border-base-300 py-3">
      {finding.title ? (
        <p className="font-semibold">
          <InCode text={finding.title} />
        </p>
      ) : null}
      {finding.happened.map((sentence) => (
        <p key={sentence}>
          <InCode text={sentence} />
        </p>
      ))}
      <p>
        <InCode text={finding.nudge} />
      </p>
      {finding.pointer ? (
        <p>
          <InCode text={finding.pointer} />
        </p>
      ) : null}
      {finding.fix?.map((line) => (
        <p key={line.line} className="mono">
          <span className="text-neutral">{line.line} </span>
          <del className="text-neutral">{line.before}</del> <ins>{line.after}</ins>
        </p>
      ))}
      <p className="text-sm text-neutral">
        {marks(finding.marks_lost)} marks, in {finding.scenarios.join(", ")}
        {finding.certain ? "" : "; this is likely, not certain"}
      </p>
    </section>
  );
}

function Scenarios({ scenarios }: { scenarios: readonly HandedInScenario[] }) {
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-lg font-bold">Your marks</h2>
      <ul>
        {scenarios.map((each, index) => (
          <li key={index} className="border-t border-base-300 py-1">
            <span className="flex justify-between">
              <span>{each.name}</span>
              <span>
                {marks(each.marks)} <span className="text-neutral">of {marks(each.out_of)}</span>
              </span>
            </span>
            {each.checks.map((check, place) => (
              <span key={place} className="flex items-baseline gap-2 text-sm">
                <Mark answer={check.verdict} /> {check.because}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
