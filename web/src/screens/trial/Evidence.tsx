import type { FindingView } from "../../api/client";
import { clock } from "../../values";
import { momentsOf } from "../../watching/tie";
import { useWatched } from "./watched";

/** Where a finding can be seen: its lines and the moments in which they ran. Pointing at one, or reaching it by
keyboard, shows the same place in script and strip. */
export function Evidence({ finding }: { finding: FindingView }) {
  const { trace, trial, seek, tie } = useWatched();
  if (finding.lines.length === 0) return null;
  const tied = (lines: readonly number[], frames: readonly number[]) => ({
    onMouseEnter: () => tie({ lines, frames }),
    onMouseLeave: () => tie(null),
    onFocus: () => tie({ lines, frames }),
    onBlur: () => tie(null),
  });
  return (
    <p className="mt-1 flex flex-wrap gap-x-2 text-sm" aria-label="Where it is seen">
      {finding.lines.slice(0, 4).map((line) => {
        const frames = momentsOf(trace, line);
        return (
          <span key={line} className="flex flex-wrap gap-x-1">
            <button type="button" className="link" {...tied([line], frames)} onClick={() => seek(frames[0] ?? 0)}>
              line {line}
            </button>
            {frames.slice(0, 3).map((frame) => (
              <button
                key={frame}
                type="button"
                className="link text-neutral"
                {...tied([line], [frame])}
                onClick={() => seek(frame)}
              >
                {clock(frame, trial.unit)}
              </button>
            ))}
            {frames.length > 3 ? <span className="text-neutral">and {frames.length - 3} more</span> : null}
            {frames.length === 0 ? <span className="text-neutral">never ran here</span> : null}
          </span>
        );
      })}
    </p>
  );
}
