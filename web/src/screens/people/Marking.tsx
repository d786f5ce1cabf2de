import { useQuery } from "@tanstack/react-query";

import type { MarkerLine } from "../../api/client";
import { markersQuery, stopMarker } from "../../api/people";
import { useChange } from "../../api/useChange";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { MARKING } from "../../words/marking";

const SILENT_SECONDS = 10;

/** What marks, for whoever looks after the server: what each does, what waits, and a way to stop one. */
export function Marking() {
  const found = useQuery(markersQuery);
  return (
    <Shell title={MARKING.title} path={MARKING.title} headed keys={[]}>
      <div className="mx-auto max-w-3xl px-6 py-8">
        <h1 className="mb-4 text-2xl font-bold">{MARKING.title}</h1>
        {found.isPending ? (
          <Loading what="what marks" />
        ) : found.isLoadingError ? (
          <Failed what="what marks" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <>
            <p className="mb-4 flex flex-wrap gap-x-5" data-waiting>
              <span className="font-semibold">{MARKING.rate(found.data.a_minute)}</span>
              <span className="text-neutral">
                {MARKING.waiting}: {MARKING.desks(found.data.waiting.desks)},{" "}
                {MARKING.handedIn(found.data.waiting.handed_in)}, {MARKING.again(found.data.waiting.again)}
              </span>
            </p>
            {found.data.markers.length === 0 ? <p>{MARKING.none}</p> : null}
            <ul>
              {found.data.markers.map((each) => (
                <One key={each.id} marker={each} />
              ))}
            </ul>
          </>
        )}
      </div>
    </Shell>
  );
}

function One({ marker }: { marker: MarkerLine }) {
  const changing = useChange((stopped: boolean) => stopMarker(marker.id, stopped), markersQuery);
  const since = new Date(marker.begun_at).toLocaleString("en-GB", {
    weekday: "long",
    hour: "2-digit",
    minute: "2-digit",
  });
  return (
    <li className="border-t border-base-300 py-3 last:border-b" data-marker={marker.id}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <span className="text-lg font-semibold">{marker.name}</span>
        <span className="text-neutral">{MARKING.processes(marker.processes)}</span>
        <span className={marker.stopped ? "text-error" : ""}>
          {marker.stopped ? MARKING.stopped : MARKING.doing(marker.doing)}
        </span>
        <span className="text-neutral">{MARKING.done(marker.done, since)}</span>
        <button type="button" className="link ml-auto min-h-6" onClick={() => changing.mutate(!marker.stopped)}>
          {marker.stopped ? MARKING.goOn : MARKING.stop}
        </button>
      </div>
      {marker.quiet > SILENT_SECONDS ? <p className="text-error">{MARKING.silent(marker.quiet)}</p> : null}
      {marker.last_error ? (
        <p className="text-sm">
          <span className="text-neutral">{MARKING.lastError}:</span> {marker.last_error}
        </p>
      ) : null}
      {changing.isError ? <p role="alert">{changing.error.message}</p> : null}
    </li>
  );
}
