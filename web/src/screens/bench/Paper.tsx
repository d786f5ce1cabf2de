import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import type { PlayView } from "../../api/client";
import { playQuery } from "../../api/queries";
import { SHEET } from "../../desk/Language";
import { opening } from "../../scene/moment";
import { Scene } from "../../scene/Scene";
import { neededOf } from "../../script/sheet";
import { Brief } from "../../shell/Brief";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { PAPER } from "../../words/paper";

/** The part of the sheet whose words need no explanation here. */
const PYTHON = "Python";

/** The brief on one page: the scene as it begins, what is asked for, and the words of the language that are needed. */
export function Paper() {
  const version = Number(useParams()["version"]);
  const play = useQuery(playQuery(version, null));
  const path = (
    <>
      <Link to="/" className="link-hover">
        {play.data?.title ?? ""}
      </Link>{" "}
      / <strong className="text-base-content">{PAPER.here}</strong>
    </>
  );
  return (
    <Shell
      title={PAPER.here}
      headed={play.isSuccess}
      path={path}
      aside={
        play.data ? (
          <Button size="sm" onClick={() => window.print()}>
            {PAPER.print}
          </Button>
        ) : null
      }
      keys={[]}
    >
      <div
        className="h-full overflow-auto print:overflow-visible"
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard
        tabIndex={0}
        role="region"
        aria-label={PAPER.here}
      >
        {play.isPending ? <Loading what={PAPER.what} /> : null}
        {play.isLoadingError ? <Failed what={PAPER.what} error={play.error} retry={() => void play.refetch()} /> : null}
        {play.data ? <Page play={play.data} version={version} /> : null}
      </div>
    </Shell>
  );
}

function Page({ play, version }: { play: PlayView; version: number }) {
  return (
    <article className="mx-auto max-w-3xl px-6 py-5 print:max-w-none print:p-0 print:text-[10.5pt]" data-paper>
      <header className="mb-3 flex items-baseline justify-between border-b border-base-content pb-1">
        <h1 className="text-2xl font-bold">{play.title}</h1>
        <span className="text-neutral">
          {PAPER.name} <span className="inline-block w-48 border-b border-neutral" />
        </span>
      </header>
      {play.straight ? null : (
        <figure className="mx-auto mb-3 w-3/5">
          <Scene scene={play.scene} moment={opening(play.scene)} looks={`/api/exercises/${version}/looks`} />
          <figcaption className="text-sm text-neutral">{PAPER.begins}</figcaption>
        </figure>
      )}
      <Brief text={play.brief.replace(/^# .*\n/, "")} />
      <section aria-label={PAPER.needed} className="mt-4 border-t border-base-content pt-2">
        <h2 className="mb-1 font-bold">{PAPER.needed}</h2>
        <div className="columns-2 gap-6 text-sm">
          {neededOf(SHEET, play.words).map((part) =>
            part.title === PYTHON ? (
              <p key={part.title} className="flex flex-wrap gap-2">
                {part.words.map((word) => (
                  <code key={word.text}>{word.text}</code>
                ))}
              </p>
            ) : (
              <dl key={part.title} className="mb-2">
                {part.words.map((word) => (
                  <div key={word.text} className="flex flex-wrap gap-x-2 py-0.5">
                    <dt>
                      <code>{word.text}</code>
                    </dt>
                    <dd className="text-neutral">{word.does}</dd>
                  </div>
                ))}
              </dl>
            ),
          )}
        </div>
      </section>
    </article>
  );
}
