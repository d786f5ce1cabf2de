import { useEffect, useRef } from "react";

import type { StoryView } from "../api/client";
import { clock, type Unit } from "../values";
import { DESK } from "../words/desk";

interface ToldProps {
  story: readonly StoryView[];
  /** Up to which frame. */
  until: number;
  /** Where there is no scene, the story has its room. */
  tall: boolean;
  unit: Unit;
}

/** What the player was told so far. */
export function Told({ story, until, tall, unit }: ToldProps) {
  const box = useRef<HTMLOListElement>(null);
  const told = story.filter((line) => line.frame <= until);
  useEffect(() => {
    box.current?.scrollTo({ top: box.current.scrollHeight });
  }, [told.length]);
  if (told.length === 0 && !tall) return null;
  return (
    <div className="flex min-h-12 flex-col border-t border-base-300 pt-1">
      <h3 className="text-sm text-neutral">{DESK.story}</h3>
      {told.length === 0 ? <p className="text-sm text-neutral">{DESK.noLine}</p> : null}
      <ol
        ref={box}
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard
        tabIndex={0}
        className={`overflow-auto ${tall ? "max-h-80" : "max-h-24"}`}
        aria-live="polite"
        aria-label={DESK.story}
      >
        {told.map((line, index) => (
          <li key={index} className="grid grid-cols-[4rem_1fr]">
            <span className="text-neutral">{clock(line.frame, unit)}</span>
            <span>
              {line.who ? <span className="text-neutral">{line.who}: </span> : null}
              {line.text}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

interface LogProps {
  log: readonly { frame: number; line: number; text: string }[];
  until: number;
  unit: Unit;
}

/** What `print` wrote, where the exercise keeps it out of the story: for whoever looks for a mistake. */
export function Log({ log, until, unit }: LogProps) {
  const printed = log.filter((line) => line.frame <= until);
  if (printed.length === 0) return null;
  return (
    <section aria-label={DESK.log} className="border-t border-base-300 pt-1">
      <h3 className="text-sm text-neutral">{DESK.log}</h3>
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it can be scrolled by keyboard */}
      <ol tabIndex={0} className="max-h-24 overflow-auto font-mono text-sm" aria-label={DESK.log}>
        {printed.map((line, index) => (
          <li key={index} className="grid grid-cols-[4rem_1fr]">
            <span className="text-neutral">{clock(line.frame, unit)}</span>
            <span>{line.text}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
