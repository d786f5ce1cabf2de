import type { ReactNode } from "react";

const INK = { stroke: "var(--ink)", strokeWidth: 0.05, strokeLinejoin: "round", strokeLinecap: "round" } as const;

/** How pieces look: drawn in a box from (0, 0) to (1, 1), y down, facing right, in ink on paper. What has
no look of that name is a plain box with the name. */
export const LOOKS: Record<string, () => ReactNode> = {
  hob: () => (
    <g {...INK}>
      <path d="M0.12 1C0.1 0.62 0.26 0.42 0.5 0.42S0.9 0.62 0.88 1Z" fill="var(--plum)" />
      <circle cx={0.5} cy={0.25} r={0.21} fill="var(--clay)" />
      <path d="M0.46 0.22v0.05M0.6 0.22v0.05" />
    </g>
  ),
  hob_busy: () => (
    <g {...INK}>
      <path d="M0.12 1C0.1 0.62 0.26 0.42 0.5 0.42S0.9 0.62 0.88 1Z" fill="var(--plum)" />
      <path d="M0.2 0.68L0.04 0.38M0.8 0.68L0.96 0.38" fill="none" strokeWidth={0.08} />
      <circle cx={0.5} cy={0.25} r={0.21} fill="var(--clay)" />
      <path d="M0.46 0.22v0.05M0.6 0.22v0.05M0.46 0.36h0.12" />
    </g>
  ),
  hob_sooty: () => (
    <g {...INK}>
      <path d="M0.12 1C0.1 0.62 0.26 0.42 0.5 0.42S0.9 0.62 0.88 1Z" fill="var(--plum)" />
      <circle cx={0.5} cy={0.25} r={0.21} fill="var(--clay)" />
      <path
        d="M0.36 0.16l0.1 0.02-0.02 0.1zM0.6 0.3l0.08 0.04-0.08 0.05zM0.3 0.7l0.14 0.03-0.06 0.12zM0.6 0.8l0.12-0.02-0.02 0.1z"
        fill="var(--coal)"
        strokeWidth={0.02}
      />
    </g>
  ),
  bun: () => (
    <g {...INK}>
      <path d="M0.04 0.92C-0.02 0.4 0.2 0.1 0.5 0.1S1.02 0.4 0.96 0.92Z" fill="var(--bread)" />
      <path d="M0.3 0.36l0.12 0.12M0.5 0.3l0.12 0.14M0.68 0.42l0.1 0.12" fill="none" />
    </g>
  ),
  bun_burnt: () => (
    <g {...INK}>
      <path d="M0.04 0.92C-0.02 0.4 0.2 0.1 0.5 0.1S1.02 0.4 0.96 0.92Z" fill="var(--coal)" />
      <path d="M0.25 0.05q0.06-0.04 0-0.08M0.55 0.02q0.06-0.04 0-0.08" fill="none" />
    </g>
  ),
  dough: () => (
    <path
      d="M0.03 0.95C0 0.65 0.16 0.62 0.24 0.44S0.62 0.28 0.74 0.46 1.02 0.7 0.97 0.95Z"
      fill="var(--clay)"
      {...INK}
    />
  ),
  loaf: () => (
    <g {...INK}>
      <path d="M0.05 0.9V0.5Q0.05 0.18 0.5 0.18T0.95 0.5V0.9Z" fill="var(--bread)" />
      <path d="M0.28 0.3l0.06 0.24M0.5 0.26l0.05 0.26M0.72 0.3l0.03 0.24" fill="none" />
    </g>
  ),
  sack: () => (
    <g {...INK}>
      <path d="M0.2 0.24Q0.02 0.6 0.1 0.97H0.9Q0.98 0.6 0.8 0.24Q0.5 0.34 0.2 0.24Z" fill="var(--clay)" />
      <path d="M0.2 0.24L0.1 0.06Q0.5 0.14 0.9 0.06L0.8 0.24M0.36 0.62h0.28M0.36 0.74h0.2" fill="none" />
    </g>
  ),
  soot: () => (
    <path d="M0.1 0.45L0.32 0.08 0.7 0.04 0.96 0.4 0.86 0.82 0.48 0.98 0.12 0.8Z" fill="var(--coal)" {...INK} />
  ),
  oven: () => (
    <g {...INK} strokeWidth={0.02}>
      <rect x={0.01} y={0.01} width={0.98} height={0.98} fill="var(--clay)" />
      <path d="M0.12 0.78A0.38 0.46 0 0 1 0.88 0.78Z" fill="var(--coal)" />
    </g>
  ),
  oven_lit: () => (
    <g {...INK} strokeWidth={0.02}>
      <rect x={0.01} y={0.01} width={0.98} height={0.98} fill="var(--clay)" />
      <path d="M0.12 0.78A0.38 0.46 0 0 1 0.88 0.78Z" fill="var(--coal)" />
      <path
        d="M0.3 0.78Q0.26 0.6 0.38 0.5Q0.4 0.6 0.46 0.6Q0.44 0.46 0.56 0.38Q0.56 0.54 0.64 0.56Q0.72 0.66 0.68 0.78Z"
        fill="var(--bread)"
      />
    </g>
  ),
  bell: () => (
    <g {...INK}>
      <path d="M0.18 0.76Q0.28 0.66 0.28 0.44Q0.28 0.16 0.5 0.16T0.72 0.44Q0.72 0.66 0.82 0.76Z" fill="var(--bread)" />
      <path d="M0.5 0.16V0.04M0.42 0.84q0.08 0.1 0.16 0" fill="none" />
    </g>
  ),
  bellows: () => (
    <g {...INK}>
      <path d="M0.04 0.3L0.66 0.12V0.88L0.04 0.7Z" fill="var(--clay)" />
      <path d="M0.2 0.26v0.48M0.36 0.21v0.58M0.52 0.16v0.68M0.66 0.42L0.98 0.48V0.54L0.66 0.58" fill="none" />
    </g>
  ),
  broom: () => (
    <g {...INK}>
      <path d="M0.5 0.02V0.6" strokeWidth={0.09} />
      <path d="M0.34 0.58H0.66L0.8 0.97H0.2Z" fill="var(--bread)" />
      <path d="M0.4 0.7L0.34 0.95M0.5 0.7V0.95M0.6 0.7L0.66 0.95" fill="none" strokeWidth={0.03} />
    </g>
  ),
  shelf: () => (
    <g {...INK} strokeWidth={0.03}>
      <rect x={0.01} y={0.1} width={0.98} height={0.42} fill="var(--clay)" />
      <path d="M0.14 0.52L0.14 0.98M0.86 0.52L0.86 0.98" fill="none" strokeWidth={0.06} />
    </g>
  ),
  tray: () => <path d="M0.01 0.45H0.99L0.9 0.85H0.1Z" fill="var(--color-base-300)" {...INK} />,
  bowl: () => (
    <g {...INK}>
      <path d="M0.04 0.4H0.96Q0.9 0.94 0.5 0.94T0.04 0.4Z" fill="var(--color-base-300)" />
      <path d="M0.2 0.4Q0.5 0.16 0.8 0.4" fill="var(--clay)" />
    </g>
  ),
  lamp: () => (
    <g {...INK}>
      <path d="M0.5 0.02V0.2M0.26 0.86H0.74M0.32 0.86L0.26 0.38H0.74L0.68 0.86" fill="none" />
      <path d="M0.3 0.38L0.5 0.18L0.7 0.38Z" fill="var(--clay)" />
    </g>
  ),
  lamp_lit: () => (
    <g {...INK}>
      <path d="M0.32 0.86L0.26 0.38H0.74L0.68 0.86Z" fill="var(--bread)" />
      <path d="M0.5 0.02V0.2M0.26 0.86H0.74M0.5 0.74Q0.4 0.62 0.5 0.48Q0.6 0.62 0.5 0.74" fill="none" />
      <path d="M0.3 0.38L0.5 0.18L0.7 0.38Z" fill="var(--clay)" />
    </g>
  ),
  crate: () => (
    <g {...INK} strokeWidth={0.04}>
      <rect x={0.03} y={0.03} width={0.94} height={0.94} fill="var(--clay)" />
      <path d="M0.03 0.28H0.97M0.03 0.72H0.97M0.06 0.94L0.94 0.06" fill="none" />
    </g>
  ),
  chimney: () => (
    <g {...INK} strokeWidth={0.03}>
      <path d="M0.16 1V0.18H0.84V1Z" fill="var(--clay)" />
      <path
        d="M0.08 0.04H0.92V0.18H0.08ZM0.16 0.45H0.84M0.16 0.72H0.84M0.5 0.18V0.45M0.34 0.45V0.72M0.66 0.45V0.72M0.5 0.72V1"
        fill="none"
      />
    </g>
  ),
  wall: () => (
    <g {...INK} strokeWidth={0.03}>
      <rect width={1} height={1} fill="var(--clay)" />
      <path d="M0 0.33H1M0 0.66H1M0.5 0V0.33M0.25 0.33V0.66M0.75 0.33V0.66M0.5 0.66V1" fill="none" />
    </g>
  ),
  hatch: () => (
    <g {...INK} strokeWidth={0.04}>
      <rect x={0.02} y={0.02} width={0.96} height={0.96} fill="var(--color-base-300)" />
      <path d="M0.02 0.5H0.98M0.4 0.62H0.6" fill="none" />
    </g>
  ),
  floor: () => <rect x={0} y={0} width={1} height={1} fill="var(--clay)" />,
};
