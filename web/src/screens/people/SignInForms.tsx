import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { signInStudent, signInTeacher } from "../../api/people";
import { Button } from "../../shell/Button";
import { Line } from "./Line";

interface SignInFormsProps {
  /** One of the two, where it is known who signs in again. */
  only?: "student" | "teacher";
  name?: string;
  onDone: () => void;
}

/** The two ways in. */
export function SignInForms({ only, name, onDone }: SignInFormsProps) {
  return (
    <div className={only ? "" : "grid gap-8 sm:grid-cols-2"}>
      {only === "teacher" ? null : <ByCard onDone={onDone} />}
      {only === "student" ? null : <ByName name={name ?? ""} onDone={onDone} />}
    </div>
  );
}

/** A student types what stands on their card; the form looks like one. */
function ByCard({ onDone }: { onDone: () => void }) {
  const [word, setWord] = useState("");
  const [card, setCard] = useState("");
  const signing = useMutation({ mutationFn: () => signInStudent(word, card), onSuccess: onDone });
  return (
    <form
      aria-labelledby="by-card"
      className="border border-dashed border-neutral bg-(--sheet) p-5"
      onSubmit={(event) => {
        event.preventDefault();
        signing.mutate();
      }}
    >
      <h2 id="by-card" className="mb-3 text-lg font-bold">
        With your card
      </h2>
      <Line label="The word of your class" value={word} onChange={setWord} complete="off" plain />
      <Line label="Your own words and digits" value={card} onChange={setCard} complete="off" plain />
      <Refused error={signing.error} />
      <Button type="submit" disabled={signing.isPending}>
        Come in
      </Button>
    </form>
  );
}

function ByName({ name: known, onDone }: { name: string; onDone: () => void }) {
  const [name, setName] = useState(known);
  const [password, setPassword] = useState("");
  const signing = useMutation({ mutationFn: () => signInTeacher(name, password), onSuccess: onDone });
  return (
    <form
      aria-labelledby="by-name"
      className="border border-base-300 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        signing.mutate();
      }}
    >
      <h2 id="by-name" className="mb-3 text-lg font-bold">
        For teachers
      </h2>
      <Line label="Name" value={name} onChange={setName} complete="username" />
      <Line label="Password" value={password} onChange={setPassword} complete="current-password" secret />
      <Refused error={signing.error} />
      <Button type="submit" disabled={signing.isPending}>
        Sign in
      </Button>
    </form>
  );
}

/** Why somebody was not let in. */
export function Refused({ error }: { error: Error | null }) {
  return error ? (
    <p role="alert" className="mb-3 text-error">
      {error.message}
    </p>
  ) : null;
}
