import { useRef, useState } from "react";
import { Link } from "react-router";

import type { HandedIn, RoundView } from "../../api/client";
import { handIn, roundQuery } from "../../api/queries";
import { useChange } from "../../api/useChange";
import { count } from "../../values";
import { Button } from "../../shell/Button";
import { useDrops } from "../../shell/useDrops";

/** Scripts are dropped on the round, as files or a zip; whose they are is asked where it is not sure. */
export function HandIn({ round }: { round: RoundView }) {
  const input = useRef<HTMLInputElement>(null);
  const [files, setFiles] = useState<readonly File[]>([]);
  const [over, setOver] = useState(false);
  const sending = useChange(
    (what: { files: readonly File[]; answers: Record<string, string> }) => handIn(round.id, what.files, what.answers),
    roundQuery(round.id),
  );
  const send = (chosen: readonly File[]) => {
    if (chosen.length === 0) return;
    setFiles(chosen);
    sending.mutate({ files: chosen, answers: {} });
  };
  useDrops(setOver, send);

  const doubtful = sending.data?.doubtful ?? [];
  return (
    <section aria-label="Hand in" className="pt-2">
      <div
        className={`flex flex-wrap items-center gap-x-4 text-sm text-neutral ${over ? "outline-2 outline-dashed outline-primary" : ""}`}
      >
        <button type="button" className="link" onClick={() => input.current?.click()}>
          Hand in scripts
        </button>
        <span>{over ? "Let go to hand them in." : "or drop .py files or a zip on this page."}</span>
        <Link className="link" to={`/classes/${round.class_id}`}>
          The class
        </Link>
        <input
          ref={input}
          type="file"
          multiple
          accept=".py,.zip"
          className="hidden"
          aria-label="Scripts to hand in"
          data-hand-in
          onChange={(event) => {
            send([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
        {sending.isPending ? <span role="status">Handing in …</span> : null}
        {sending.data ? <span role="status">{count(sending.data.handed_in, "script")} handed in.</span> : null}
      </div>
      {sending.error ? (
        <p role="alert" className="text-error">
          {sending.error.message}
        </p>
      ) : null}
      {sending.data?.left_out.map((each) => (
        <p key={each.file} role="status" className="text-sm" data-left-out>
          <span className="mono">{each.file}</span> was left out: {each.why}.
        </p>
      ))}
      {doubtful.length > 0 && sending.data ? (
        <Doubtful
          key={doubtful.map((each) => each.file).join()}
          found={sending.data}
          onAnswer={(answers) => sending.mutate({ files, answers })}
        />
      ) : null}
    </section>
  );
}

const LEAVE_OUT = "";

/** The files whose student is not sure, each with a question. */
function Doubtful({ found, onAnswer }: { found: HandedIn; onAnswer: (answers: Record<string, string>) => void }) {
  const [answers, setAnswers] = useState<Record<string, string>>(() =>
    Object.fromEntries(found.doubtful.map((each) => [each.file, each.candidates[0] ?? LEAVE_OUT])),
  );
  return (
    <form
      className="mt-2 border-y border-base-300 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        onAnswer(answers);
      }}
    >
      <h2 className="font-semibold">Whose are these?</h2>
      <ul>
        {found.doubtful.map((each) => (
          <li key={each.file} className="grid grid-cols-[minmax(0,1fr)_14rem] items-center gap-4 py-0.5">
            <label htmlFor={`whose ${each.file}`}>
              <span className="mono">{each.file}</span> <span className="text-sm text-neutral">{each.why}</span>
            </label>
            <select
              id={`whose ${each.file}`}
              className="select select-sm"
              value={answers[each.file] ?? LEAVE_OUT}
              onChange={(event) => setAnswers({ ...answers, [each.file]: event.target.value })}
            >
              <option value={LEAVE_OUT}>leave it out</option>
              {found.students.map((student) => (
                <option key={student} value={student}>
                  {student}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      <Button type="submit" className="mt-2">
        Hand these in
      </Button>
    </form>
  );
}
