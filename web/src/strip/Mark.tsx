import type { Answer } from "../api/client";

const SIZE = 14;

/** The head of a check: an ink dot held, a madder cross broken, a hollow ring not reached. */
export function Mark({ answer }: { answer: Answer }) {
  const middle = SIZE / 2;
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className="inline-block size-[0.9em]" aria-hidden>
      <MarkShape answer={answer} x={middle} y={middle} />
    </svg>
  );
}

/** The same inside another drawing, about a point. */
export function MarkShape({ answer, x, y }: { answer: Answer; x: number; y: number }) {
  switch (answer) {
    case "held":
      return <circle cx={x} cy={y} r={4} fill="var(--ink)" />;
    case "broken":
      return (
        <path
          d={`M${x - 4.5} ${y - 4.5}l9 9M${x + 4.5} ${y - 4.5}l-9 9`}
          stroke="var(--madder)"
          strokeWidth={2.4}
          fill="none"
        />
      );
    case "not reached":
      return <circle cx={x} cy={y} r={3.8} fill="var(--color-base-100)" stroke="var(--pencil)" strokeWidth={1.5} />;
  }
}

/** What a list of verdicts says in words: `2 held, 1 broken`. */
export function inWords(answers: readonly Answer[]): string {
  const kinds: Answer[] = ["held", "broken", "not reached"];
  const parts = kinds
    .map((kind) => ({ kind, number: answers.filter((answer) => answer === kind).length }))
    .filter((part) => part.number > 0);
  return parts.map((part) => `${part.number} ${part.kind}`).join(", ") || "nothing ran";
}
