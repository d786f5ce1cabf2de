import { type ReactNode, useState } from "react";

import { Button } from "./Button";

interface AskProps {
  /** The word that begins it. */
  word: string;
  /** Which one it is about, for whoever hears the page. */
  label?: string;
  /** What will happen. */
  question: ReactNode;
  /** The word that does it. */
  yes: string;
  onYes: () => void;
}

/** Something that cannot be undone: it is said what happens, and asked once. */
export function Ask({ word, label, question, yes, onYes }: AskProps) {
  const [asking, setAsking] = useState(false);
  if (!asking) {
    return (
      <button type="button" className="link min-h-6" aria-label={label} onClick={() => setAsking(true)}>
        {word}
      </button>
    );
  }
  return (
    <span role="alertdialog" aria-label={word} className="inline-flex flex-wrap items-center gap-2">
      <span>{question}</span>
      <Button
        size="xs"
        onClick={() => {
          setAsking(false);
          onYes();
        }}
      >
        {yes}
      </Button>
      <Button size="xs" look="quiet" onClick={() => setAsking(false)}>
        no
      </Button>
    </span>
  );
}
