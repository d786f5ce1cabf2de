import { memo, type PointerEvent, useMemo, useRef } from "react";

import type { TrialView } from "../api/client";
import { clock } from "../values";
import { Lanes } from "./Lanes";
import { type Layout, layoutOf, pinsOf } from "./layout";
import { Pins } from "./Pins";
import { useRem, useWidth } from "./size";

interface StripProps {
  trial: TrialView;
  frame: number;
  chosen: number | null;
  onSeek: (frame: number) => void;
  onCheck: (check: number, frame: number) => void;
  /** Frames that are pointed at elsewhere, and the checks that go with them. */
  tied?: readonly number[];
  about?: readonly number[];
  /** Hears which pin is pointed at, and that none is any more. */
  onPin?: (check: number | null) => void;
}

const NONE: readonly number[] = [];

/** A trial as a chart recorder would have drawn it: time to the right, a lane for each thing. */
export function Strip({ trial, frame, chosen, onSeek, onCheck, tied = NONE, about = NONE, onPin }: StripProps) {
  const box = useRef<HTMLDivElement>(null);
  const dragging = useRef(false);
  const width = useWidth(box);
  const rem = useRem();
  const layout = useMemo(() => layoutOf(trial, width, rem), [trial, width, rem]);
  const pins = useMemo(() => pinsOf(trial, layout, rem), [trial, layout, rem]);

  const seek = (event: PointerEvent<SVGSVGElement>) => {
    const at = event.clientX - event.currentTarget.getBoundingClientRect().left;
    if (at >= layout.left - 12) onSeek(layout.frameAt(at));
  };
  return (
    <div ref={box} className="w-full">
      {width > 0 ? (
        <svg
          width={width}
          height={layout.height}
          className="block touch-none select-none"
          aria-label={`Strip of ${trial.scenario}`}
          role="group"
          data-strip
          onPointerDown={(event) => {
            if ((event.target as Element).closest("[data-pin]")) return;
            event.currentTarget.setPointerCapture(event.pointerId); // so that a drag may leave the strip
            dragging.current = true;
            seek(event);
          }}
          onPointerMove={(event) => {
            dragging.current &&= event.buttons === 1;
            if (dragging.current) seek(event);
          }}
        >
          <Drawing trial={trial} layout={layout} rem={rem} />
          {tied.map((each) => (
            <path key={each} data-tied={each} d={`M${layout.x(each)} ${layout.axis - 2}V${layout.height}`} stroke="var(--plum)" strokeDasharray="3 3" />
          ))}
          <Pins pins={pins} chosen={chosen} rem={rem} width={width} onCheck={onCheck} about={about} onPin={onPin} />
          <Cursor layout={layout} frame={frame} last={trial.last_frame} />
        </svg>
      ) : null}
    </div>
  );
}

/** Everything that does not move with the cursor. */
const Drawing = memo(function Drawing({ trial, layout, rem }: { trial: TrialView; layout: Layout; rem: number }) {
  const bottom = (layout.lanes[layout.lanes.length - 1]?.top ?? 0) + (layout.lanes[layout.lanes.length - 1]?.height ?? 0);
  return (
    <>
      {layout.ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${layout.x(tick * 30)} ${layout.axis - 6}V${bottom}`} stroke="var(--line)" />
          <text className="pencil" x={layout.x(tick * 30)} y={layout.axis - 10} textAnchor="middle">
            {tick === 0 ? "0 s" : tick}
          </text>
        </g>
      ))}
      <Lanes trial={trial} layout={layout} rem={rem} />
      {trial.parting ? (
        <g data-parting={trial.parting.frame}>
          <path
            d={`M${layout.x(trial.parting.frame)} ${bottom}l${rem * 0.5} ${rem * 0.65}h${-rem}z`}
            fill="var(--madder)"
          />
          <PartingWords layout={layout} frame={trial.parting.frame} what={trial.parting.what} y={bottom + rem * 0.85} rem={rem} />
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

function Cursor({ layout, frame, last }: { layout: Layout; frame: number; last: number }) {
  const x = layout.x(frame);
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="Time"
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={frame}
      aria-valuetext={`${clock(frame)}, frame ${frame}`}
      data-cursor={frame}
      className="cursor-ew-resize"
    >
      <rect x={x - 8} y={0} width={16} height={layout.height} fill="transparent" />
      <path d={`M${x} ${layout.axis - 4}l7 -9h-14z`} fill="var(--plum)" />
      <path d={`M${x} ${layout.axis - 4}V${layout.height}`} stroke="var(--plum)" strokeWidth={1.6} />
    </g>
  );
}
