import { marks } from "../../values";

interface MarksProps {
  tried: { marks: number | null; own_marks: number | null };
  outOf: number;
}

/** What a try earned: the teacher's own marks where there are some. */
export function Marks({ tried, outOf }: MarksProps) {
  const counts = tried.own_marks ?? tried.marks;
  if (counts === null) return <span className="text-neutral">waits to be marked</span>;
  return (
    <span>
      <strong className="text-lg">{marks(counts)}</strong> <span className="text-neutral">of {marks(outOf)}</span>
    </span>
  );
}
