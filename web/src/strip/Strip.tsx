import { memo, type PointerEvent, useMemo, useRef, useState } from "react";

import { clock, type Unit } from "../values";
import { Lanes } from "./Lanes";
import { type Layout, layoutOf, pinsOf } from "./layout";
import { Pins } from "./Pins";
import { useRem, useWidth } from "./size";
import type { ShownTrial } from "./steps";

/** What can be done on a strip: the cursor moved, a pin chosen or pointed at. */
export interface StripHands {
  onSeek: (frame: number) => void;
  onCheck: (check: number, frame: number) => void;
  /** Hears which pin is pointed at, and that none is any more. */
  onPin: (check: number | null) => void;
  /** Hears at which frame of which lane was clicked, or along which frames of it was dragged. */
  onLane?: (lane: string, first: number, last: number) => void;
  /** Hears that an input was given another beginning and end, in frames. */
  onInput?: ((input: number, frame: number, up: number) => void) | undefined;
}

interface StripProps {
  trial: ShownTrial;
  frame: number;
  chosen?: number | null;
  /** Frames that are pointed at elsewhere, and the checks that go with them. */
  tied?: readonly number[];
  about?: readonly number[];
  /** Without hands a strip is only read: nothing on it takes the focus. */
  hands?: StripHands;
}

const NONE: readonly number[] = [];

/** A trial as a chart recorder would have drawn it: time to the right, a lane for each thing. */
export function Strip({ trial, frame, chosen = null, tied = NONE, about = NONE, hands }: StripProps) {
  const box = useRef<HTMLDivElement>(null);
  const dragging = useRef(false);
  const [along, setAlong] = useState<{ lane: string; first: number; last: number } | null>(null);
  const width = useWidth(box);
  const rem = useRem();
  const layout = useMemo(() => layoutOf(trial, width, rem), [trial, width, rem]);
  const pins = useMemo(() => pinsOf(trial, layout, rem), [trial, layout, rem]);

  const seek = (event: PointerEvent<SVGSVGElement>) => {
    const at = event.clientX - event.currentTarget.getBoundingClientRect().left;
    if (at >= layout.left - 12) hands?.onSeek(layout.frameAt(at));
  };
  const placeOf = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const lane = layout.lanes.find(
      ({ top, height }) => event.clientY - box.top >= top && event.clientY - box.top < top + height,
    );
    const frame = Math.min(Math.max(layout.frameAt(event.clientX - box.left), 0), trial.last_frame);
    return lane && event.clientX - box.left >= layout.left - 12 ? { lane: lane.name, frame } : null;
  };
  return (
    <div ref={box} className="w-full">
      {width > 0 ? (
        <svg
          width={width}
          height={layout.height}
          className={hands ? "block touch-none select-none" : "block"}
          aria-label={`Strip of ${trial.scenario}`}
          role="group"
          data-strip
          onPointerDown={
            hands &&
            ((event) => {
              if ((event.target as Element).closest("[data-pin], [data-hold]")) return;
              const place = hands.onLane && placeOf(event);
              if (place) setAlong({ lane: place.lane, first: place.frame, last: place.frame });
              event.currentTarget.setPointerCapture(event.pointerId); // so that a drag may leave the strip
              dragging.current = true;
              seek(event);
            })
          }
          onPointerMove={
            hands &&
            ((event) => {
              dragging.current &&= event.buttons === 1;
              if (!dragging.current) return;
              const place = along && placeOf(event);
              if (place) setAlong({ ...along, last: place.frame });
              seek(event);
            })
          }
          onPointerUp={
            hands?.onLane &&
            (() => {
              if (along)
                hands.onLane?.(along.lane, Math.min(along.first, along.last), Math.max(along.first, along.last));
              setAlong(null);
            })
          }
        >
          <Drawing trial={trial} layout={layout} rem={rem} onInput={hands?.onInput} />
          {along && along.first !== along.last ? (
            <rect
              x={layout.x(Math.min(along.first, along.last))}
              y={layout.lanes.find(({ name }) => name === along.lane)?.top}
              width={Math.abs(layout.x(along.last) - layout.x(along.first))}
              height={layout.lanes.find(({ name }) => name === along.lane)?.height}
              fill="var(--plum-tint)"
              opacity={0.6}
              data-along
            />
          ) : null}
          {tied.map((each) => (
            <path
              key={each}
              data-tied={each}
              d={`M${layout.x(each)} ${layout.axis - 2}V${layout.height}`}
              stroke="var(--plum)"
              strokeDasharray="3 3"
            />
          ))}
          <Pins pins={pins} chosen={chosen} rem={rem} width={width} about={about} unit={trial.unit} hands={hands} />
          <Cursor layout={layout} frame={frame} last={trial.last_frame} unit={trial.unit} live={hands !== undefined} />
        </svg>
      ) : null}
    </div>
  );
}

interface DrawingProps {
  trial: ShownTrial;
  layout: Layout;
  rem: number;
  onInput: StripHands["onInput"];
}

/** Everything that does not move with the cursor. */
const Drawing = memo(function Drawing({ trial, layout, rem, onInput }: DrawingProps) {
  const bottom =
    (layout.lanes[layout.lanes.length - 1]?.top ?? 0) + (layout.lanes[layout.lanes.length - 1]?.height ?? 0);
  return (
    <>
      {layout.ticks.map((tick) => (
        <g key={tick.frame}>
          <path d={`M${layout.x(tick.frame)} ${layout.axis - 6}V${bottom}`} stroke="var(--line)" />
          <text className="pencil" x={layout.x(tick.frame)} y={layout.axis - 10} textAnchor="middle">
            {tick.words}
          </text>
        </g>
      ))}
      <Lanes trial={trial} layout={layout} rem={rem} onInput={onInput} />
      {trial.parting ? (
        <g data-parting={trial.parting.frame}>
          <path
            d={`M${layout.x(trial.parting.frame)} ${bottom}l${rem * 0.5} ${rem * 0.65}h${-rem}z`}
            fill="var(--madder)"
          />
          <PartingWords
            layout={layout}
            frame={trial.parting.frame}
            what={trial.parting.what}
            y={bottom + rem * 0.85}
            rem={rem}
          />
        </g>
      ) : null}
    </>
  );
});

interface PartingWordsProps {
  layout: Layout;
  frame: number;
  what: string;
  y: number;
  rem: number;
}

function PartingWords({ layout, frame, what, y, rem }: PartingWordsProps) {
  const x = layout.x(frame);
  const atEnd = x > layout.width - rem * 16;
  return (
    <text className="madder" x={x + (atEnd ? -rem * 0.8 : rem * 0.8)} y={y} textAnchor={atEnd ? "end" : "start"}>
      here the run and the reference part: {what}
    </text>
  );
}

interface CursorProps {
  layout: Layout;
  frame: number;
  last: number;
  unit: Unit;
  live: boolean;
}

function Cursor({ layout, frame, last, unit, live }: CursorProps) {
  const x = layout.x(frame);
  const words = unit === "step" ? clock(frame, unit) : `${clock(frame)}, frame ${frame}`;
  const slider = {
    role: "slider",
    tabIndex: 0,
    "aria-label": unit === "step" ? "Step" : "Time",
    "aria-valuemin": 0,
    "aria-valuemax": last,
    "aria-valuenow": frame,
    "aria-valuetext": words,
    className: "cursor-ew-resize",
  };
  return (
    <g {...(live ? slider : { role: "img", "aria-label": words })} data-cursor={frame}>
      <rect x={x - 12} y={0} width={24} height={layout.height} fill="transparent" />
      <path d={`M${x} ${layout.axis - 4}l7 -9h-14z`} fill="var(--plum)" />
      <path d={`M${x} ${layout.axis - 4}V${layout.height}`} stroke="var(--plum)" strokeWidth={1.6} />
    </g>
  );
}
