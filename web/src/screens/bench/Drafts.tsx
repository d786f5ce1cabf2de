import { useMutation, useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import { beginDraft, bringDraft, draftsQuery } from "../../api/queries";
import { useDrops } from "../../shell/useDrops";
import { Failed } from "../../shell/Waiting";
import { BENCH } from "../../words/bench";

const WHEN = { day: "numeric", month: "long", hour: "2-digit", minute: "2-digit" } as const;

/** What is being made, the draft that was changed last first. */
export function Drafts() {
  const drafts = useQuery(draftsQuery);
  return (
    <section aria-labelledby="drafts">
      <div className="mt-10 mb-4 flex items-baseline justify-between">
        <h2 id="drafts" className="text-2xl font-bold">
          {BENCH.workshop}
        </h2>
        <span className="flex items-baseline gap-5">
          <Begin version={null} words={BENCH.fresh} label={BENCH.fresh} />
          <Bring />
        </span>
      </div>
      {drafts.isLoadingError ? (
        <Failed what="the drafts" error={drafts.error} retry={() => void drafts.refetch()} />
      ) : null}
      {drafts.data?.length === 0 ? (
        <p className="text-neutral">{BENCH.noDrafts}</p>
      ) : (
        <ul>
          {drafts.data?.map((draft) => (
            <li
              key={draft.id}
              className="flex items-baseline justify-between border-t border-base-300 py-3 last:border-b"
            >
              <Link to={`/drafts/${draft.id}`} className="text-lg font-semibold hover:underline">
                {draft.title}
              </Link>
              <span className="ml-4 flex-1 text-sm text-neutral" data-unfit>
                {draft.unfit ? BENCH.unfit(draft.unfit) : draft.unfit === "" ? BENCH.fit : null}
              </span>
              <span className="text-neutral">
                {BENCH.changed(new Date(draft.changed_at).toLocaleString("en-GB", WHEN))}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** An exercise that was made elsewhere: a zip that is chosen, or a folder or zip dropped on the page. */
function Bring() {
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const bringing = useMutation({
    mutationFn: (files: readonly File[]) => bringDraft(files),
    onSuccess: (made) => navigate(`/drafts/${made.id}`),
  });
  const { mutate } = bringing;
  const take = useCallback((files: readonly File[]) => files.length > 0 && mutate(files), [mutate]);
  useDrops(setOver, take);
  return (
    <span className={over ? "outline-2 outline-dashed outline-primary" : ""}>
      <button type="button" className="link min-h-6" onClick={() => input.current?.click()}>
        {over ? BENCH.letGo : BENCH.bring}
      </button>
      <input
        ref={input}
        type="file"
        multiple
        accept=".zip,.toml,.py,.md,.svg"
        className="hidden"
        aria-label={BENCH.bringing}
        data-bring
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      {bringing.isError ? (
        <span role="alert" className="text-error">
          {" "}
          {bringing.error.message}
        </span>
      ) : null}
    </span>
  );
}

/** Begins a draft, with a version of an exercise or with nothing, and goes there. */
export function Begin({ version, words, label }: { version: number | null; words: string; label: string }) {
  const navigate = useNavigate();
  const beginning = useMutation({
    mutationFn: () => beginDraft(version),
    onSuccess: (made) => navigate(`/drafts/${made.id}`),
  });
  return (
    <>
      <button type="button" className="link min-h-6" aria-label={label} onClick={() => beginning.mutate()}>
        {words}
      </button>
      {beginning.isError ? (
        <span role="alert" className="text-error">
          {beginning.error.message}
        </span>
      ) : null}
    </>
  );
}
