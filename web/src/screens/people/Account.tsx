import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { MARKING } from "../../words/marking";
import { Link } from "react-router";

import { changePassword, meQuery, signOut } from "../../api/people";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Line } from "./Line";
import { Refused } from "./SignInForms";

/** Who one is: signing out, and for teachers their password. */
export function Account() {
  const me = useQuery(meQuery).data;
  const leaving = useMutation({ mutationFn: signOut, onSuccess: () => location.assign("/") });
  if (!me) return null;
  const teaches = me.role !== "student";
  return (
    <Shell title="You" path="You" headed keys={[]}>
      <div className="mx-auto max-w-xl px-6 py-8">
        <h1 className="mb-1 text-2xl font-bold">{me.name}</h1>
        <p className="mb-4 text-neutral">
          {me.role === "student"
            ? `Class ${me.class_name ?? ""}`
            : me.role === "owner"
              ? "A teacher, who looks after this server"
              : "A teacher"}
        </p>
        <Refused error={leaving.error} />
        <Button onClick={() => leaving.mutate()}>Sign out</Button>
        {me.role === "owner" ? (
          <p className="mt-6">
            <Link to="/teachers" className="link">
              Teachers of this school
            </Link>
            <Link to="/marking" className="link ml-6">
              {MARKING.title}
            </Link>
          </p>
        ) : null}
        {teaches ? <Password /> : null}
      </div>
    </Shell>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const changing = useMutation({
    mutationFn: () => changePassword(old, next),
    onSuccess: () => {
      setOld("");
      setNext("");
    },
  });
  return (
    <form
      aria-labelledby="password"
      className="mt-8 max-w-sm"
      onSubmit={(event) => {
        event.preventDefault();
        changing.mutate();
      }}
    >
      <h2 id="password" className="mb-3 text-lg font-bold">
        Another password
      </h2>
      <Line label="The old one" value={old} onChange={setOld} complete="current-password" secret />
      <Line label="The new one, 10 letters or more" value={next} onChange={setNext} complete="new-password" secret />
      <Refused error={changing.error} />
      {changing.isSuccess ? (
        <p role="status" className="mb-3">
          Changed. Everywhere else you are signed out.
        </p>
      ) : null}
      <Button type="submit" disabled={changing.isPending}>
        Change it
      </Button>
    </form>
  );
}
