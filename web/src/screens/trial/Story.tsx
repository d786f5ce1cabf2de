import { Log } from "../../desk/Told";
import { clock } from "../../values";
import { useWatched } from "./watched";

/** What the player was told so far; each line leads to its moment. */
export function Story({ frame }: { frame: number }) {
  const { trace, trial, seek } = useWatched();
  const told = trace.story.filter((line) => line.frame <= frame);
  return (
    <div className="border-t border-base-300 pt-2">
      <h2 className="text-sm text-neutral">Story so far</h2>
      {told.length === 0 ? (
        <p className="text-sm text-neutral">Nothing was told yet.</p>
      ) : (
        <ol>
          {told.map((line, index) => (
            <li key={index}>
              <button
                type="button"
                className="grid w-full cursor-pointer grid-cols-[4rem_1fr] text-left hover:bg-base-200"
                onClick={() => seek(line.frame)}
              >
                <span className="text-neutral">{clock(line.frame, trial.unit)}</span>
                <span>
                  {line.who ? <span className="text-neutral">{line.who}: </span> : null}
                  {line.text}
                </span>
              </button>
            </li>
          ))}
        </ol>
      )}
      <Log log={trace.log} until={frame} unit={trial.unit} />
    </div>
  );
}
