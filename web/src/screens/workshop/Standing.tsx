import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import type { DraftView } from "../../api/client";
import { setForClass } from "../../api/queries";
import { Button } from "../../shell/Button";
import type { Hands } from "./useDraft";

/** Undo and redo, out as a zip, and set for a class. */
export function Standing({ draft, hands }: { draft: DraftView; hands: Hands }) {
  return (
    <div className="flex items-baseline gap-4 text-sm">
      {hands.trouble ? (
        <span role="alert" className="max-w-md text-error">
          {hands.trouble}
        </span>
      ) : null}
      <button
        type="button"
        className="link min-h-6 disabled:text-neutral disabled:no-underline"
        disabled={draft.at === 0}
        title={draft.words ?? undefined}
        onClick={() => void hands.step(-1)}
      >
        undo
      </button>
      <button
        type="button"
        className="link min-h-6 disabled:text-neutral disabled:no-underline"
        disabled={draft.at >= draft.last}
        title={draft.next_words ?? undefined}
        onClick={() => void hands.step(1)}
      >
        redo
      </button>
      <a className="link" href={`/api/drafts/${draft.id}/zip`} download>
        as a zip
      </a>
      <SetForClass draft={draft} />
    </div>
  );
}

function SetForClass({ draft }: { draft: DraftView }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const [name, setName] = useState("");
  const setting = useMutation({
    mutationFn: () => setForClass(draft.id, name),
    onSuccess: (made) => navigate(`/rounds/${made.id}`),
  });
  if (!asking) {
    return (
      <Button size="xs" onClick={() => setAsking(true)}>
        Set for a class
      </Button>
    );
  }
  return (
    <form
      className="flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        setting.mutate();
      }}
    >
      <label className="flex items-baseline gap-2">
        Class
        <input
          className="input input-xs w-28"
          value={name}
          maxLength={60}
          required
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Button type="submit" size="xs">
        Set
      </Button>
      {setting.isError ? (
        <span role="alert" className="max-w-sm text-error">
          {setting.error.message}
        </span>
      ) : null}
    </form>
  );
}
