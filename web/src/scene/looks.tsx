import type { ReactNode } from "react";

/** How kinds look: drawn in a box from (0, 0) to (1, 1), y down, in ink on paper. A kind without a
look is a plain box with its name. */
export const LOOKS: Record<string, () => ReactNode> = {
  hob: () => (
    <>
      <path d="M0.12 1C0.1 0.62 0.26 0.42 0.5 0.42S0.9 0.62 0.88 1Z" fill="var(--plum)" stroke="var(--ink)" strokeWidth={0.05} />
      <circle cx={0.5} cy={0.25} r={0.21} fill="var(--clay)" stroke="var(--ink)" strokeWidth={0.05} />
      <path d="M0.42 0.22v0.05M0.58 0.22v0.05" stroke="var(--ink)" strokeWidth={0.05} />
    </>
  ),
  bun: () => (
    <>
      <path d="M0.04 0.92C-0.02 0.4 0.2 0.1 0.5 0.1S1.02 0.4 0.96 0.92Z" fill="var(--bread)" stroke="var(--ink)" strokeWidth={0.06} />
      <path d="M0.3 0.36l0.12 0.12M0.5 0.3l0.12 0.14M0.68 0.42l0.1 0.12" stroke="var(--ink)" strokeWidth={0.05} fill="none" />
    </>
  ),
  soot: () => (
    <path d="M0.1 0.45L0.32 0.08 0.7 0.04 0.96 0.4 0.86 0.82 0.48 0.98 0.12 0.8Z" fill="var(--coal)" stroke="var(--ink)" strokeWidth={0.05} />
  ),
  oven: () => (
    <>
      <rect x={0.01} y={0.01} width={0.98} height={0.98} fill="var(--clay)" stroke="var(--ink)" strokeWidth={0.02} />
      <path d="M0.12 0.78A0.38 0.46 0 0 1 0.88 0.78Z" fill="var(--coal)" stroke="var(--ink)" strokeWidth={0.02} />
    </>
  ),
  floor: () => <rect x={0} y={0} width={1} height={1} fill="var(--clay)" />,
};
