import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type SyntheticEvent, useState } from "react";
import { Link, useParams } from "react-router";

import type { FeedbackSheet } from "../../api/client";
import { deskTryQuery } from "../../api/desk";
import { sendReply } from "../../api/lesson";
import { Feedback } from "../../feedback/Feedback";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { DESK } from "../../words/desk";
import { LESSON } from "../../words/lesson";

/** One's own try: what it earned and what to look at, once it is given back. */
export function DeskTry() {
  const found = useQuery(deskTryQuery(Number(useParams()["try"])));
  return (
    <Shell
      title={found.data ? `${found.data.title}, try ${found.data.number}` : "Try"}
      path={
        found.data ? (
          <>
            <Link to="/">{DESK.title}</Link> / <Link to={`/set/${found.data.round_id}`}>{found.data.title}</Link> /{" "}
            <strong className="text-base-content">try {found.data.number}</strong>
          </>
        ) : (
          DESK.title
        )
      }
      keys={[]}
    >
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard */}
      <section aria-label="Your try" tabIndex={0} className="h-full overflow-auto">
        {found.isPending ? (
          <Loading what="this try" />
        ) : found.isLoadingError ? (
          <Failed what="this try" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <Feedback sheet={found.data} student>
            {found.data.given_back ? <Answer sheet={found.data} /> : null}
            <p className="mt-4 print:hidden">
              <Link to={`/set/${found.data.round_id}`} className="link">
                {LESSON.toDesk}
              </Link>
            </p>
            <h3 className="mt-6 mb-1 font-bold">{LESSON.theScript}</h3>
            <ol className="mono overflow-auto border border-base-300 bg-(--sheet) py-3 pr-3" aria-label="Your script">
              {found.data.source.split("\n").map((line, index) => (
                <li key={index} className="grid grid-cols-[3rem_1fr] gap-3">
                  <span className="text-right text-neutral select-none" aria-hidden>
                    {index + 1}
                  </span>
                  <span className="whitespace-pre">{line || " "}</span>
                </li>
              ))}
            </ol>
          </Feedback>
        )}
      </section>
    </Shell>
  );
}

/** One line to the teacher. */
function Answer({ sheet }: { sheet: FeedbackSheet }) {
  const queries = useQueryClient();
  const [words, setWords] = useState(sheet.reply);
  const [error, setError] = useState("");
  const send = async (event: SyntheticEvent) => {
    event.preventDefault();
    try {
      await sendReply(sheet.id, words);
      setError("");
      await queries.invalidateQueries({ queryKey: deskTryQuery(sheet.id).queryKey });
    } catch (failed) {
      setError((failed as Error).message);
    }
  };
  return (
    <form
      onSubmit={(event) => void send(event)}
      className="mt-4 flex flex-wrap items-end gap-2 print:hidden"
      data-reply
    >
      <label className="flex grow flex-col">
        <span className="font-bold">{LESSON.yourAnswer}</span>
        <input
          className="input input-sm w-full"
          value={words}
          maxLength={200}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <Button type="submit">{LESSON.send}</Button>
      {sheet.reply && sheet.reply === words ? <span role="status">{LESSON.sent}</span> : null}
      {error ? (
        <span role="alert" className="text-error">
          {error}
        </span>
      ) : null}
    </form>
  );
}
