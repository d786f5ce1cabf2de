import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { addClass, classesQuery } from "../../api/people";
import { Button } from "../../shell/Button";
import { Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { count } from "../../values";
import { Refused } from "./SignInForms";

/** A teacher's classes. */
export function Classes() {
  const classes = useQuery(classesQuery);
  const now = classes.data?.filter((each) => each.put_away_at === null) ?? [];
  const away = classes.data?.filter((each) => each.put_away_at !== null) ?? [];
  return (
    <Shell title="Classes" path="Classes" headed keys={[{ keys: "Tab, Enter", does: "chooses a class" }]}>
      <div className="mx-auto max-w-3xl px-6 py-8">
        <h1 className="mb-4 text-2xl font-bold">Classes</h1>
        {classes.isPending ? (
          <Loading what="your classes" />
        ) : classes.isLoadingError ? (
          <Failed what="your classes" error={classes.error} retry={() => void classes.refetch()} />
        ) : now.length === 0 ? (
          <p className="mb-4">You have no class yet. Make one below, or take over your school&rsquo;s list.</p>
        ) : (
          <ul className="mb-6">
            {now.map((each) => (
              <li key={each.id} className="border-t border-base-300 last:border-b">
                <Link to={`/classes/${each.id}`} className="flex items-baseline justify-between py-3 hover:bg-base-200">
                  <span className="text-lg font-semibold">{each.name}</span>
                  <span className="text-neutral">
                    {count(each.students, "student")}, {count(each.rounds, "round")}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        )}
        <NewClass />
        <p className="mt-4">
          <Link to="/lists" className="link">
            Take over a school&rsquo;s list (OneRoster)
          </Link>
        </p>
        {away.length > 0 ? (
          <details className="mt-8">
            <summary className="cursor-pointer text-primary">{count(away.length, "class", "classes")} put away</summary>
            <ul className="mt-2">
              {away.map((each) => (
                <li key={each.id}>
                  <Link to={`/classes/${each.id}`} className="link">
                    {each.name}
                  </Link>{" "}
                  <span className="text-neutral">{count(each.students, "student")}</span>
                </li>
              ))}
            </ul>
          </details>
        ) : null}
      </div>
    </Shell>
  );
}

function NewClass() {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const making = useMutation({
    mutationFn: () => addClass(name),
    onSuccess: (made) => navigate(`/classes/${made.id}`),
  });
  return (
    <form
      aria-label="A new class"
      onSubmit={(event) => {
        event.preventDefault();
        making.mutate();
      }}
    >
      <Refused error={making.error} />
      <label className="mr-3 inline-flex items-baseline gap-2">
        <span className="text-neutral">A new class, called</span>
        <input
          className="input input-sm w-40 bg-transparent"
          value={name}
          maxLength={60}
          required
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={making.isPending}>
        Make it
      </Button>
    </form>
  );
}
