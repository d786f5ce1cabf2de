import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { ClassView, StudentLine } from "../../api/client";
import { changeStudent, type StudentChange, classesQuery, classQuery, removeStudent } from "../../api/people";
import { useChange } from "../../api/useChange";
import { Ask } from "../../shell/Ask";
import { count } from "../../values";
import { LESSON } from "../../words/lesson";
import { Renaming } from "./Renaming";
import { Refused } from "./SignInForms";

interface StudentsProps {
  data: ClassView;
  onCard: (student: number) => void;
}

/** The students of a class, a line each; one opens to show what can be done about them. */
export function Students({ data, onCard }: StudentsProps) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <table className="mt-3 w-full">
      <thead>
        <tr className="border-b border-base-300 text-left text-neutral">
          <th scope="col" className="py-1 font-normal">
            Name
          </th>
          <th scope="col" className="font-normal">
            Card
          </th>
          <th scope="col" className="text-right font-normal">
            Tries
          </th>
          <th scope="col" className="w-24">
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {data.students.map((each) => (
          <Student
            key={each.id}
            student={each}
            data={data}
            open={open === each.id}
            onOpen={() => setOpen(open === each.id ? null : each.id)}
            onCard={() => onCard(each.id)}
          />
        ))}
      </tbody>
    </table>
  );
}

interface StudentProps {
  student: StudentLine;
  data: ClassView;
  open: boolean;
  onOpen: () => void;
  onCard: () => void;
}

function Student({ student, data, open, onOpen, onCard }: StudentProps) {
  const left = student.left_at !== null;
  return (
    <>
      <tr className="border-b border-base-300" data-student={student.name}>
        <th scope="row" className={`py-1 text-left ${left ? "font-normal text-neutral" : "font-semibold"}`}>
          {student.name}
          {left ? " (left)" : ""}
          {student.level ? <span className="font-normal text-neutral"> {student.level}</span> : null}
        </th>
        <td className="text-neutral">
          {left ? "" : student.has_card ? `since ${day(student.card_made_at)}` : "none yet"}
        </td>
        <td className="text-right">{student.tries}</td>
        <td className="text-right">
          <button
            type="button"
            className="link min-h-6"
            aria-expanded={open}
            aria-label={`more about ${student.name}`}
            onClick={onOpen}
          >
            {open ? "less" : "more"}
          </button>
        </td>
      </tr>
      {open ? (
        <tr className="border-b border-base-300 bg-base-200">
          <td colSpan={4} className="px-3 py-2">
            <Doings student={student} data={data} onCard={onCard} />
          </td>
        </tr>
      ) : null}
    </>
  );
}

/** What can be done about one student. */
function Doings({ student, data, onCard }: Pick<StudentProps, "student" | "data" | "onCard">) {
  const here = classQuery(data.id);
  const classes = useQuery(classesQuery).data ?? [];
  const changing = useChange((change: StudentChange) => changeStudent(student.id, change), here, classesQuery);
  const removing = useChange(() => removeStudent(student.id), here, classesQuery);
  const others = classes.filter((each) => each.id !== data.id && each.put_away_at === null);
  const left = student.left_at !== null;
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <Renaming name={student.name} onName={(name) => changing.mutate({ name })} />
      {left ? (
        <button type="button" className="link" onClick={() => changing.mutate({ left: false })}>
          is back
        </button>
      ) : (
        <>
          {student.has_card ? (
            <Ask word="a new card" question="The old card ends at once." yes="make it" onYes={onCard} />
          ) : (
            <button type="button" className="link" onClick={onCard}>
              a card
            </button>
          )}
          <Ask
            word="has left"
            question={`${student.name} cannot sign in any more; all tries stay.`}
            yes="has left"
            onYes={() => changing.mutate({ left: true })}
          />
          <label className="inline-flex items-baseline gap-2">
            <span className="text-neutral">{LESSON.level}</span>
            <select
              className="select select-sm w-auto bg-transparent"
              value={student.level ?? ""}
              onChange={(event) => changing.mutate({ level: event.target.value as StudentChange["level"] & string })}
            >
              <option value="">{LESSON.noLevel}</option>
              <option value="supported">supported</option>
              <option value="stretch">stretch</option>
            </select>
          </label>
          {others.length > 0 ? (
            <label className="inline-flex items-baseline gap-2">
              <span className="text-neutral">moves to</span>
              <select
                className="select select-sm w-auto bg-transparent"
                value=""
                onChange={(event) => changing.mutate({ class_id: Number(event.target.value) })}
              >
                <option value="" disabled>
                  another class
                </option>
                {others.map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.name}
                  </option>
                ))}
              </select>
            </label>
          ) : null}
        </>
      )}
      <a className="link" href={`/api/students/${student.id}/data.zip`} download>
        all of their data
      </a>
      <Ask
        word="delete"
        label={`delete ${student.name}`}
        question={`This deletes ${student.name} and ${count(student.tries, "try", "tries")}, with all marks and comments, for good.`}
        yes="delete everything"
        onYes={() => removing.mutate(undefined)}
      />
      <Refused error={changing.error ?? removing.error} />
    </div>
  );
}

function day(when: string | null): string {
  return when === null ? "" : new Date(when).toLocaleDateString("en-GB", { day: "numeric", month: "long" });
}
