import { useRef, useState } from "react";

import { addNames, addNamesFromFile, classesQuery, classQuery } from "../../api/people";
import { useChange } from "../../api/useChange";
import { Button } from "../../shell/Button";
import { count } from "../../values";
import { Refused } from "./SignInForms";

/** Names to add, one a line or from a list. */
export function AddStudents({ id }: { id: number }) {
  const file = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const here = classQuery(id);
  const adding = useChange((names: readonly string[]) => addNames(id, names), here, classesQuery);
  const reading = useChange((list: File) => addNamesFromFile(id, list), here, classesQuery);
  const names = text
    .split("\n")
    .map((name) => name.trim())
    .filter((name) => name !== "");
  const added = adding.data ?? reading.data;
  return (
    <form
      aria-labelledby="add-students"
      className="mt-6 max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        if (names.length > 0) adding.mutate(names, { onSuccess: () => setText("") });
      }}
    >
      <h2 id="add-students" className="mb-1 text-lg font-bold">
        More students
      </h2>
      <label className="block">
        <span className="text-neutral">
          A name each line. Choose names that everybody in the class knows; no surname is needed.
        </span>
        <textarea
          className="textarea mt-1 w-full bg-transparent"
          rows={3}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <Refused error={adding.error ?? reading.error} />
      <div className="mt-2 flex items-baseline gap-4">
        <Button type="submit" disabled={names.length === 0 || adding.isPending}>
          {names.length > 0 ? `Add ${count(names.length, "student")}` : "Add them"}
        </Button>
        <button type="button" className="link" onClick={() => file.current?.click()}>
          from a CSV list
        </button>
        <input
          ref={file}
          type="file"
          accept=".csv"
          className="hidden"
          aria-label="A list of names as CSV"
          data-names
          onChange={(event) => {
            const list = event.target.files?.[0];
            if (list) reading.mutate(list);
            event.target.value = "";
          }}
        />
        {added ? <span role="status">{count(added.added, "student")} added.</span> : null}
      </div>
    </form>
  );
}
