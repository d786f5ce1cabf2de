import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";

import type { DraftView, NoticeView } from "../../api/client";
import { NO_MARKS } from "../../script/lineMarks";
import { Word } from "./Fields";
import type { Hands } from "./useDraft";

const ScriptEditor = lazy(() => import("../../script/ScriptEditor"));

const FILES = [
  { file: "reference.py", words: "Reference" },
  { file: "starter.py", words: "Starter" },
  { file: "brief.md", words: "Brief" },
] as const;
/** Only where it cannot be read, so that nothing else on the page can mend it. */
const SETTINGS = { file: "exercise.toml", words: "Settings" } as const;
type FileName = (typeof FILES)[number]["file"] | typeof SETTINGS.file;

/** The files whose notices stand below their text, and not in the list of the others. */
export const WRITTEN: readonly string[] = FILES.map((each) => each.file);

const REST = 500; // milliseconds without a letter after which a text is kept

interface TextsProps {
  draft: DraftView;
  notices: readonly NoticeView[];
  hands: Hands;
}

/** The reference, the starter and the brief, each kept a moment after it was written. */
export function Texts({ draft, notices, hands }: TextsProps) {
  const [file, setFile] = useState<FileName>("reference.py");
  const about = notices.filter((notice) => notice.file === file);
  const unreadable = draft.rehearsal !== null && draft.rehearsal.settings === null;
  return (
    <section aria-label="Texts" className="flex min-h-0 flex-col border-r border-base-300 px-3 pt-2">
      <div className="flex items-baseline gap-3 pb-1 text-sm" role="group" aria-label="Which text">
        {[...FILES, ...(unreadable || file === SETTINGS.file ? [SETTINGS] : [])].map((each) => (
          <Word key={each.file} pressed={each.file === file} onClick={() => setFile(each.file)}>
            {each.words}
          </Word>
        ))}
        <span className="ml-auto text-neutral" role="status">
          {hands.busy ? "being kept …" : standing(draft)}
        </span>
      </div>
      <div className="min-h-0 flex-1">
        <Written
          key={file}
          file={file}
          text={draft.texts[file] ?? ""}
          wrong={about.map((notice) => notice.line)}
          hands={hands}
        />
      </div>
      <ul className="max-h-1/3 overflow-auto text-sm" data-text-notices>
        {about.map((notice) => (
          <li key={notice.text} className="border-t border-base-300 py-1 text-error">
            {notice.line ? `Line ${notice.line}: ` : ""}
            {notice.text}
          </li>
        ))}
      </ul>
    </section>
  );
}

function standing(draft: DraftView): string {
  const found = draft.rehearsal;
  if (!found) return "not played";
  if (!found.playable) return "cannot be played yet";
  return found.marks < found.out_of
    ? `earns ${found.marks} of ${found.out_of}`
    : found.out_of
      ? "runs, every check holds"
      : "runs, nothing is checked yet";
}

interface WrittenProps {
  file: FileName;
  text: string;
  wrong: readonly number[];
  hands: Hands;
}

/** One text. What is being written stays as it is typed, whatever comes from the server meanwhile. */
function Written({ file, text, wrong, hands }: WrittenProps) {
  const [own, setOwn] = useState<string | null>(null);
  /** What could not be kept, since another window wrote meanwhile: it stays here until it is written on. */
  const [refused, setRefused] = useState<string | null>(null);
  const latest = useRef<string | null>(null);
  const { change } = hands;
  useEffect(() => {
    latest.current = own;
    if (own === null || own === refused) return;
    const keep = async () => {
      if (await change({ do: "write", file, text: own })) setOwn((now) => (now === own ? null : now));
      else setRefused(own);
    };
    const timer = window.setTimeout(() => void keep(), REST);
    return () => window.clearTimeout(timer);
  }, [own, refused, file, change]);
  useEffect(
    () => () => {
      if (latest.current !== null) void change({ do: "write", file, text: latest.current });
    },
    [file, change],
  );
  const lines = wrong.join(" ");
  const marks = useMemo(() => ({ ...NO_MARKS, suspect: lines ? lines.split(" ").map(Number) : [] }), [lines]);
  return (
    <>
      {own !== null && own === refused ? (
        <p role="alert" className="text-sm text-error">
          What you wrote is not kept yet. Go on writing to put it in the place of the other text, or{" "}
          <Word onClick={() => setOwn(null)}>take the other text</Word>.
        </p>
      ) : null}
      <Suspense fallback={<p className="text-neutral">Fetching the editor …</p>}>
        <ScriptEditor text={own ?? text} onChange={setOwn} marks={marks} reveal={wrong[0] ?? null} />
      </Suspense>
    </>
  );
}
