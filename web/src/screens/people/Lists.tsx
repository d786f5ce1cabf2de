import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";

import type { ListedClass, ListRead } from "../../api/client";
import { classesQuery, readList } from "../../api/people";
import { queries } from "../../shell/away";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { count } from "../../values";
import { Refused } from "./SignInForms";

const WORDS = {
  new: "new",
  same: "as before",
  linked: "is in the class already",
  renamed: "has another name",
  back: "is back",
} as const;

/** A school's list: which classes are taken over, and under which names. Nothing changes before it is said. */
export function Lists() {
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [classes, setClasses] = useState<readonly string[]>([]);
  const [names, setNames] = useState<Readonly<Record<string, string>>>({});
  const reading = useMutation({
    mutationFn: (said: {
      file: File;
      classes: readonly string[];
      names: Readonly<Record<string, string>>;
      take: boolean;
    }) => readList(said.file, said),
    onSuccess: (found) => found.done && queries.invalidateQueries({ queryKey: classesQuery.queryKey }),
  });
  const ask = (
    say: Partial<{ classes: readonly string[]; names: Readonly<Record<string, string>>; take: boolean }>,
  ) => {
    if (file) reading.mutate({ file, classes, names, take: false, ...say });
  };
  const found = reading.data;
  return (
    <Shell title="A school's list" path="Classes / a school's list" headed keys={[]}>
      <div className="mx-auto max-w-3xl px-6 py-8">
        <h1 className="mb-2 text-2xl font-bold">A school&rsquo;s list</h1>
        <p className="mb-4">
          A zip of CSV files as OneRoster 1.2 writes them: users, classes, enrolments. Given names are taken and nothing
          else of anybody&rsquo;s record. You see what would change before anything does.
        </p>
        <Button onClick={() => input.current?.click()}>{file ? "Another list" : "Choose the zip"}</Button>
        <input
          ref={input}
          type="file"
          accept=".zip"
          className="hidden"
          aria-label="A list as a zip"
          data-list
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            event.target.value = "";
            if (!chosen) return;
            setFile(chosen);
            setClasses([]);
            setNames({});
            reading.mutate({ file: chosen, classes: [], names: {}, take: false });
          }}
        />
        {reading.isPending ? (
          <p role="status" className="mt-3 text-neutral">
            Reading …
          </p>
        ) : null}
        <Refused error={reading.error} />
        {found?.done ? (
          <Taken found={found} />
        ) : found ? (
          <form
            className="mt-4"
            onSubmit={(event) => {
              event.preventDefault();
              ask({ take: true });
            }}
          >
            <h2 className="font-bold">Which of these classes are yours?</h2>
            {found.classes.map((each) => (
              <Listed
                key={each.source_id}
                listed={each}
                names={names}
                onChosen={(chosen) => {
                  const next = chosen
                    ? [...classes, each.source_id]
                    : classes.filter((other) => other !== each.source_id);
                  setClasses(next);
                  ask({ classes: next });
                }}
                onName={(student, name) => setNames({ ...names, [student]: name })}
                onNamed={() => ask({})}
              />
            ))}
            <Button type="submit" className="mt-4" disabled={classes.length === 0 || reading.isPending}>
              Take over {count(classes.length, "class", "classes")}
            </Button>
            {found.classes.some((each) => each.chosen && each.students.some((student) => student.clash)) ? (
              <p role="status" className="mt-2">
                Some names cannot be used yet; they are marked above.
              </p>
            ) : null}
          </form>
        ) : null}
      </div>
    </Shell>
  );
}

function Taken({ found }: { found: ListRead }) {
  return (
    <p role="status" className="mt-4">
      {found.classes
        .filter((each) => each.chosen)
        .map((each) => `${each.title}: ${count(each.students.length, "student")}`)
        .join("; ")}
      . <Link to="/classes">To your classes</Link>
    </p>
  );
}

interface ListedProps {
  listed: ListedClass;
  names: Readonly<Record<string, string>>;
  onChosen: (chosen: boolean) => void;
  onName: (student: string, name: string) => void;
  onNamed: () => void;
}

function Listed({ listed, names, onChosen, onName, onNamed }: ListedProps) {
  return (
    <section aria-label={listed.title} className="border-t border-base-300 py-2">
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={listed.chosen}
          onChange={(event) => onChosen(event.target.checked)}
        />
        <span className="font-semibold">{listed.title}</span>
        <span className="text-neutral">
          {count(listed.students.length, "student")}
          {listed.class_id === null ? "" : ", here already"}
        </span>
      </label>
      {listed.chosen ? (
        <ul className="mt-1 ml-7 grid grid-cols-2 gap-x-6">
          {listed.students.map((student) => (
            <li key={student.source_id} className="flex items-baseline gap-2 py-0.5">
              <input
                className="input input-sm w-36 bg-transparent"
                aria-label={`Name of ${student.before ?? student.name}`}
                value={names[student.source_id] ?? student.name}
                maxLength={60}
                onChange={(event) => onName(student.source_id, event.target.value)}
                onBlur={onNamed}
              />
              <span className={student.clash ? "text-error" : "text-neutral"}>
                {student.clash ?? WORDS[student.what]}
                {student.what === "renamed" && student.before !== null ? `, was ${student.before}` : ""}
              </span>
            </li>
          ))}
          {listed.leaving.map((name) => (
            <li key={`leaving ${name}`} className="py-0.5 text-neutral">
              {name} leaves; all tries stay
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}
