import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { signInFirst } from "../../api/people";
import { Button } from "../../shell/Button";
import { Line } from "./Line";
import { Refused } from "./SignInForms";

/** The first teacher, who looks after the server: a name and a password of their own. */
export function FirstTeacher({ token, onDone }: { token: string; onDone: () => void }) {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  const making = useMutation({ mutationFn: () => signInFirst(token, name, password), onSuccess: onDone });
  const other = again !== "" && again !== password;
  return (
    <form
      aria-label="The first teacher"
      className="mt-4 max-w-md border border-base-300 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        if (password === again) making.mutate();
      }}
    >
      <p className="mb-4">
        You are the first teacher here, so you look after this server: you can add other teachers afterwards.
      </p>
      <Line label="Name" value={name} onChange={setName} complete="username" most={60} />
      <Line
        label="Password, 10 letters or more"
        value={password}
        onChange={setPassword}
        complete="new-password"
        secret
      />
      <Line label="The same once more" value={again} onChange={setAgain} complete="new-password" secret />
      {other ? (
        <p role="alert" className="mb-3 text-error">
          The two passwords are not the same.
        </p>
      ) : null}
      <Refused error={making.error} />
      <Button type="submit" disabled={making.isPending || other}>
        Begin
      </Button>
    </form>
  );
}
