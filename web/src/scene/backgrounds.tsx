import type { ReactNode } from "react";

/** What can lie behind a scene, for its width and height in squares. Pale, so that pieces stand out. */
export const BACKGROUNDS: Record<string, (width: number, height: number) => ReactNode> = {
  bakehouse: (width, height) => (
    <g aria-hidden opacity={0.55}>
      <rect width={width} height={height} fill="var(--clay)" opacity={0.35} />
      <path d={beams(width, height)} stroke="var(--clay)" strokeWidth={0.5} fill="none" />
      <rect y={height - 1} width={width} height={1} fill="var(--clay)" />
    </g>
  ),
  yard: (width, height) => (
    <g aria-hidden opacity={0.5}>
      <path
        d={`M0 ${height * 0.62}Q${width * 0.25} ${height * 0.5} ${width * 0.5} ${height * 0.6}T${width} ${height * 0.56}V${height}H0Z`}
        fill="var(--clay)"
      />
      <path
        d={`M${width * 0.8} ${height * 0.2}m-1.6 0a1.6 1.6 0 1 0 3.2 0a1.6 1.6 0 1 0 -3.2 0`}
        fill="none"
        stroke="var(--clay)"
        strokeWidth={0.3}
      />
    </g>
  ),
};

/** A beam along the top and a post every eight squares. */
function beams(width: number, height: number): string {
  const posts = Array.from({ length: Math.floor(width / 8) }, (_, index) => `M${index * 8 + 4} 1V${height - 1}`);
  return `M0 1H${width}${posts.join("")}`;
}
