import { LOOKS } from "./looks";
import type { Stand } from "./moment";

interface PieceProps {
  stand: Stand;
  /** Width and height of its box, before `size`. */
  size: readonly [number, number];
  zone: boolean;
  height: number;
  /** The size of letters, in squares. */
  letters: number;
  /** The address of the exercise's own picture for this look. */
  picture: string | undefined;
}

/** One piece in its box; a zone is only a dashed outline with its name. */
export function Piece({ stand, size, zone, height, letters, picture }: PieceProps) {
  const [w, h] = [size[0] * stand.size, size[1] * stand.size];
  const [left, top] = [stand.x - w / 2, height - stand.y - h / 2];
  const opacity = Math.min(stand.opacity, 1);
  if (zone) {
    return (
      <g opacity={opacity} data-piece={stand.name}>
        <rect
          x={left}
          y={top}
          width={w}
          height={h}
          fill="none"
          stroke="var(--pencil)"
          strokeWidth={0.09}
          strokeDasharray="0.4 0.3"
        />
        <text x={left + 0.25} y={top + letters * 1.05} className="pencil" style={{ fontSize: `${letters * 0.95}px` }}>
          {stand.name}
        </text>
      </g>
    );
  }
  const look = LOOKS[stand.look];
  const mirrored = Math.cos((stand.facing * Math.PI) / 180) < -1e-6;
  return (
    <g opacity={opacity} data-piece={stand.name} data-look={stand.look}>
      <g transform={`translate(${left + (mirrored ? w : 0)} ${top}) scale(${mirrored ? -w : w} ${h})`}>
        {picture ? (
          <image href={picture} width={1} height={1} preserveAspectRatio="none" />
        ) : look ? (
          look()
        ) : (
          <rect width={1} height={1} fill="var(--color-base-200)" stroke="var(--ink)" strokeWidth={0.04} />
        )}
      </g>
      {look || picture ? null : (
        <text x={stand.x} y={height - stand.y + 0.25} textAnchor="middle" style={{ fontSize: `${letters * 0.9}px` }}>
          {stand.look}
        </text>
      )}
      {stand.facing % 360 ? <Facing stand={stand} w={w} h={h} height={height} /> : null}
    </g>
  );
}

/** A short stroke at the rim of a piece that has been turned: where it faces. */
function Facing({ stand, w, h, height }: { stand: Stand; w: number; h: number; height: number }) {
  const angle = (stand.facing * Math.PI) / 180;
  const reach = Math.max(w, h) / 2 + 0.1;
  const [dx, dy] = [Math.cos(angle), -Math.sin(angle)];
  const [x, y] = [stand.x + dx * reach, height - stand.y + dy * reach];
  return (
    <path d={`M${x} ${y}l${dx * 0.5} ${dy * 0.5}`} stroke="var(--ink)" strokeWidth={0.14} data-facing={stand.facing} />
  );
}
