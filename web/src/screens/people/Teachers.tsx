import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { TeacherLine } from "../../api/client";
import { addTeacher, givePassword, meQuery, removeTeacher, teachersQuery } from "../../api/people";
import { useChange } from "../../api/useChange";
import { Ask } from "../../shell/Ask";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { Line } from "./Line";
import { Refused } from "./SignInForms";

/** The teachers of the school; the one who looks after the server adds and removes them. */
export function Teachers() {
  const teachers = useQuery(teachersQuery);
  const owner = useQuery(meQuery).data?.role === "owner";
  return (
    <Shell title="Teachers" path="Teachers" headed keys={[]}>
      <div className="mx-auto max-w-3xl px-6 py-8">
        <h1 className="mb-4 text-2xl font-bold">Teachers</h1>
        {teachers.isPending ? (
          <Loading what="the teachers" />
        ) : teachers.isLoadingError ? (
          <Failed what="the teachers" error={teachers.error} retry={() => void teachers.refetch()} />
        ) : (
          <ul>
            {teachers.data.map((each) => (
              <One key={each.id} teacher={each} owner={owner} />
            ))}
          </ul>
        )}
        {owner ? <Add /> : null}
      </div>
    </Shell>
  );
}

function One({ teacher, owner }: { teacher: TeacherLine; owner: boolean }) {
  const [password, setPassword] = useState<string | null>(null);
  const removing = useChange(() => removeTeacher(teacher.id), teachersQuery);
  const giving = useChange((given: string) => givePassword(teacher.id, given), teachersQuery);
  return (
    <li className="border-t border-base-300 py-3 last:border-b" data-teacher={teacher.name}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <span className="text-lg font-semibold">{teacher.name}</span>
        <span className="text-neutral">
          {teacher.owner ? "looks after this server" : ""}
          {teacher.owner && teacher.classes !== null ? ", " : ""}
          {teacher.classes === null ? "" : count(teacher.classes, "class", "classes")}
          {teacher.you ? ", you" : ""}
        </span>
        {owner && !teacher.you ? (
          <span className="ml-auto flex flex-wrap gap-5">
            <button type="button" className="link" onClick={() => setPassword(password === null ? "" : null)}>
              another password
            </button>
            <Ask
              word="remove"
              label={`remove ${teacher.name}`}
              question="Drafts, and classes that nobody else has, come to you."
              yes="remove"
              onYes={() => removing.mutate(undefined)}
            />
          </span>
        ) : null}
      </div>
      <Refused error={removing.error} />
      {password !== null ? (
        <form
          className="mt-2 max-w-sm"
          onSubmit={(event) => {
            event.preventDefault();
            giving.mutate(password, { onSuccess: () => setPassword(null) });
          }}
        >
          <Line
            label={`A password for ${teacher.name}`}
            value={password}
            onChange={setPassword}
            complete="off"
            secret
          />
          <Refused error={giving.error} />
          <Button type="submit">Give it</Button>
        </form>
      ) : null}
    </li>
  );
}

function Add() {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const adding = useChange(() => addTeacher(name, password), teachersQuery);
  return (
    <form
      aria-labelledby="add-teacher"
      className="mt-8 max-w-sm"
      onSubmit={(event) => {
        event.preventDefault();
        adding.mutate(undefined, {
          onSuccess: () => {
            setName("");
            setPassword("");
          },
        });
      }}
    >
      <h2 id="add-teacher" className="mb-2 text-lg font-bold">
        Another teacher
      </h2>
      <Line label="Name" value={name} onChange={setName} complete="off" most={60} />
      <Line
        label="A password to begin with, 10 letters or more"
        value={password}
        onChange={setPassword}
        complete="new-password"
        secret
      />
      <Refused error={adding.error} />
      <Button type="submit" disabled={adding.isPending}>
        Add
      </Button>
    </form>
  );
}
