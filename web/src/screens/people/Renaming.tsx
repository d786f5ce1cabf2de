import { useState } from "react";

/** A name that can be changed; the word that does it stands there once it is another one. */
export function Renaming({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [draft, setDraft] = useState(name);
  return (
    <form
      className="inline-flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onName(draft);
      }}
    >
      <label className="inline-flex items-baseline gap-2">
        <span className="text-neutral">name</span>
        <input
          className="input input-sm w-36 bg-transparent"
          value={draft}
          maxLength={60}
          required
          onChange={(event) => setDraft(event.target.value)}
        />
      </label>
      {draft === name ? null : (
        <button type="submit" className="link">
          rename
        </button>
      )}
    </form>
  );
}
