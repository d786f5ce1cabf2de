import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import type { CardSheet, ClassView } from "../../api/client";
import {
  changeClass,
  classesQuery,
  classQuery,
  makeCards,
  removeClass,
  shareClass,
  unshareClass,
} from "../../api/people";
import { useChange } from "../../api/useChange";
import { Ask } from "../../shell/Ask";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { AddStudents } from "./AddStudents";
import { Cards } from "./Cards";
import { Renaming } from "./Renaming";
import { Refused } from "./SignInForms";
import { Students } from "./Students";

const KEYS = [{ keys: "Tab, Enter", does: "goes along the students and what can be done" }] as const;

/** A class: its students and their cards, who has it, and what becomes of it. */
export function ClassPage() {
  const id = Number(useParams()["class"]);
  const found = useQuery(classQuery(id));
  const [sheet, setSheet] = useState<CardSheet | null>(null);
  if (sheet !== null) return <Cards sheet={sheet} onDone={() => setSheet(null)} />;
  const title = found.data?.name ?? "Class";
  return (
    <Shell
      title={title}
      path={
        <>
          Classes / <strong className="text-base-content">{title}</strong>
        </>
      }
      headed
      keys={KEYS}
    >
      <div className="mx-auto max-w-5xl px-6 py-6">
        {found.isPending ? (
          <Loading what="this class" />
        ) : found.isLoadingError ? (
          <Failed what="this class" error={found.error} retry={() => void found.refetch()} />
        ) : (
          <Whole data={found.data} onCards={setSheet} />
        )}
      </div>
    </Shell>
  );
}

function Whole({ data, onCards }: { data: ClassView; onCards: (sheet: CardSheet) => void }) {
  const here = classQuery(data.id);
  const changing = useChange(
    (change: { name?: string; put_away?: boolean }) => changeClass(data.id, change),
    here,
    classesQuery,
  );
  const cards = useMutation({
    mutationFn: (students: readonly number[] | null) => makeCards(data.id, students),
    onSuccess: (sheet) => {
      onCards(sheet);
    },
  });
  const now = data.students.filter((each) => each.left_at === null);
  const without = now.filter((each) => !each.has_card).length;
  return (
    <>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-2xl font-bold">{data.name}</h1>
        {data.put_away_at !== null ? (
          <strong>put away</strong>
        ) : data.word !== null ? (
          <span>
            The word of the class is <strong className="mono">{data.word}</strong>
          </span>
        ) : null}
        <span className="ml-auto flex items-baseline gap-3">
          {without > 0 && data.put_away_at === null ? (
            <Button disabled={cards.isPending} onClick={() => cards.mutate(null)}>
              Make {count(without, "card")}
            </Button>
          ) : null}
        </span>
      </div>
      {cards.isPending ? <p role="status">Making the cards …</p> : null}
      <Refused error={changing.error ?? cards.error} />
      {data.students.length === 0 ? (
        <p className="my-4">Nobody is in this class yet. Write the names below, or take them from a list.</p>
      ) : (
        <Students data={data} onCard={(student) => cards.mutate([student])} />
      )}
      {data.put_away_at === null ? <AddStudents id={data.id} /> : null}
      <Shared data={data} />
      <section aria-labelledby="class-itself" className="mt-8">
        <h2 id="class-itself" className="mb-2 text-lg font-bold">
          The class itself
        </h2>
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
          <Renaming name={data.name} onName={(name) => changing.mutate({ name })} />
          <Link className="link" to={`/classes/${data.id}/ledger`}>
            the ledger
          </Link>
          <a className="link" href={`/api/classes/${data.id}/students.csv`} download>
            the names as CSV
          </a>
          <a className="link" href={`/api/classes/${data.id}/results.zip`} download>
            the marks as OneRoster results
          </a>
          {data.put_away_at === null ? (
            <Ask
              word="put it away"
              question="It leaves the bench, and its students cannot sign in. It can come back whole."
              yes="put it away"
              onYes={() => changing.mutate({ put_away: true })}
            />
          ) : (
            <button type="button" className="link" onClick={() => changing.mutate({ put_away: false })}>
              bring it back
            </button>
          )}
          <Removing data={data} />
        </div>
      </section>
    </>
  );
}

function Removing({ data }: { data: ClassView }) {
  const navigate = useNavigate();
  const removing = useMutation({ mutationFn: () => removeClass(data.id), onSuccess: () => navigate("/classes") });
  const tries = data.students.reduce((sum, each) => sum + each.tries, 0);
  return (
    <span>
      <Ask
        word="delete it"
        question={`This deletes ${count(data.students.length, "student")} and ${count(tries, "try", "tries")}, with all marks and comments, for good.`}
        yes="delete everything"
        onYes={() => removing.mutate()}
      />
      <Refused error={removing.error} />
    </span>
  );
}

/** Who has the class. */
function Shared({ data }: { data: ClassView }) {
  const here = classQuery(data.id);
  const sharing = useChange((teacher: number) => shareClass(data.id, teacher), here);
  const taking = useChange((teacher: number) => unshareClass(data.id, teacher), here, classesQuery);
  return (
    <section aria-labelledby="shared" className="mt-8">
      <h2 id="shared" className="mb-2 text-lg font-bold">
        Teachers who have this class
      </h2>
      <Refused error={sharing.error ?? taking.error} />
      <ul className="flex flex-wrap gap-x-6">
        {data.teachers.map((each) => (
          <li key={each.id}>
            {each.name}{" "}
            {data.teachers.length > 1 ? (
              <Ask
                word="take it away"
                label={`take the class away from ${each.name}`}
                question={`${each.name} does not see this class any more.`}
                yes="take it away"
                onYes={() => taking.mutate(each.id)}
              />
            ) : null}
          </li>
        ))}
      </ul>
      {data.others.length > 0 ? (
        <label className="mt-2 inline-flex items-baseline gap-2">
          <span className="text-neutral">share it with</span>
          <select
            className="select select-sm w-auto bg-transparent"
            value=""
            onChange={(event) => sharing.mutate(Number(event.target.value))}
          >
            <option value="" disabled>
              a teacher
            </option>
            {data.others.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
        </label>
      ) : null}
    </section>
  );
}
