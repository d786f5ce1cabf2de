import { LOOKS } from "../../scene/looks";
import { Choice, Field, Flag, NumberField, Word } from "./Fields";
import type { Chosen, Row, Settings } from "./rows";
import { isRow, number, pair, rowsOf, text, typed, words } from "./rows";
import type { Hands } from "./useDraft";

interface DetailsProps {
  settings: Settings | null;
  chosen: Chosen;
  onChoose: (chosen: Chosen | null) => void;
  hands: Hands;
}

/** What is chosen, in a few lines: everything that it has can be typed. */
export function Details({ settings, chosen, onChoose, hands }: DetailsProps) {
  const row = rowsOf(settings, chosen.table)[chosen.index];
  if (!row) return null;
  const set = (keys: Record<string, unknown>) =>
    void hands.change({ do: "change", table: chosen.table, index: chosen.index, keys });
  const remove = () => {
    onChoose(null);
    void hands.change({ do: "remove", table: chosen.table, index: chosen.index });
  };
  return (
    <section aria-label="What is chosen" className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm" data-details>
      {chosen.table === "piece" ? (
        <PieceDetails row={row} settings={settings} index={chosen.index} set={set} hands={hands} />
      ) : chosen.table === "spawner" ? (
        <SpawnerDetails row={row} set={set} />
      ) : chosen.table === "fact" ? (
        <FactDetails row={row} set={set} />
      ) : chosen.table === "variable" ? (
        <VariableDetails row={row} set={set} />
      ) : chosen.table === "craft" ? (
        <CraftDetails row={row} set={set} />
      ) : null}
      <Word onClick={remove}>take it away</Word>
    </section>
  );
}

type Set = (keys: Record<string, unknown>) => void;

const MOTIONS = ["still", "steered", "drifting", "patrolling", "following", "falling", "attached"] as const;
type MotionName = (typeof MOTIONS)[number];

interface PieceDetailsProps {
  row: Row;
  settings: Settings | null;
  index: number;
  set: Set;
  hands: Hands;
}

function PieceDetails({ row, settings, index, set, hands }: PieceDetailsProps) {
  const [x, y] = pair(row, "at", [1, 1]);
  const [w, h] = pair(row, "size", [1, 1]);
  const looks = Array.isArray(row["looks"]) ? (row["looks"] as unknown[]).map(String).join(", ") : text(row, "look");
  return (
    <>
      <Field label="name" value={text(row, "name")} onSay={(name) => set({ name })} />
      <Field
        label="one of"
        value={text(row, "kind")}
        hint={text(row, "name")}
        onSay={(kind) => set({ kind: kind || null })}
        wide={7}
      />
      <NumberField label="x" value={x} onSay={(value) => set({ at: [value, y] })} />
      <NumberField label="y" value={y} onSay={(value) => set({ at: [x, value] })} />
      <NumberField label="wide" value={w} onSay={(value) => set({ size: [value, h] })} />
      <NumberField label="high" value={h} onSay={(value) => set({ size: [w, value] })} />
      <Field
        label="look"
        value={looks}
        hint={text(row, "kind", text(row, "name"))}
        list={Object.keys(LOOKS)}
        onSay={(said) => {
          const several = said
            .split(",")
            .map((each) => each.trim())
            .filter(Boolean);
          set(several.length > 1 ? { look: null, looks: several } : { look: several[0] ?? null, looks: null });
        }}
      />
      <MotionDetails row={row} settings={settings} set={set} />
      {(["solid", "pushed", "zone", "hidden", "frozen"] as const).map((flag) => (
        <Flag key={flag} label={flag} value={row[flag] === true} onSay={(value) => set({ [flag]: value || null })} />
      ))}
      <Field
        label="its variables"
        value={Object.entries(isRow(row["vars"]) ? row["vars"] : {})
          .map(([name, value]) => `${name} = ${String(value)}`)
          .join(", ")}
        hint="lives = 3"
        wide={14}
        onSay={(said) => set({ vars: varsOf(said) })}
      />
      <span className="inline-flex gap-3">
        <Word onClick={() => void hands.change({ do: "copy", index, times: 1, by: [Math.max(w, 1) * 2, 0] })}>
          one more
        </Word>
        <Word onClick={() => void hands.change({ do: "copy", index, times: 3, by: [Math.max(w, 1) * 2, 0] })}>
          three more in a row
        </Word>
      </span>
    </>
  );
}

/** `lives = 3, mood = glad` as values by name; nothing where there are none. */
function varsOf(said: string): Record<string, unknown> | null {
  const found = said
    .split(",")
    .map((each) => each.split("="))
    .filter((parts): parts is [string, string] => parts.length === 2 && parts[0]?.trim() !== "")
    .map(([name, value]) => [name.trim(), typed(value)] as const);
  return found.length > 0 ? Object.fromEntries(found) : null;
}

function MotionDetails({ row, settings, set }: { row: Row; settings: Settings | null; set: Set }) {
  const motion = isRow(row["motion"]) ? row["motion"] : {};
  const name =
    MOTIONS.find((each) => each in motion && each !== "falling") ?? ("falling" in motion ? "falling" : "still");
  const spec = isRow(motion[name]) ? motion[name] : {};
  const [x, y] = pair(row, "at", [1, 1]);
  const others = rowsOf(settings, "piece")
    .map((piece) => text(piece, "name"))
    .filter((each) => each && each !== text(row, "name"));
  const begin: Record<MotionName, Record<string, unknown>> = {
    still: {},
    steered: { speed: 6, axes: "x" },
    drifting: { velocity: [2, 0], edge: "bounce" },
    patrolling: { to: [x + 4, y], speed: 2 },
    following: { who: others[0] ?? "", speed: 2 },
    falling: { gravity: 10 },
    attached: { to: others[0] ?? "", offset: [1, 0] },
  };
  const say = (keys: Record<string, unknown>) => set({ motion: { ...motion, [name]: { ...spec, ...keys } } });
  const [vx, vy] = pair(spec, "velocity", [0, 0]);
  const [tx, ty] = pair(spec, "to", [x, y]);
  const [ox, oy] = pair(spec, "offset", [0, 0]);
  return (
    <>
      <Choice
        label="motion"
        value={name}
        options={MOTIONS.map((value) => ({ value, words: value }))}
        onSay={(value) => set({ motion: value === "still" ? null : { [value]: begin[value] } })}
      />
      {name === "steered" ? (
        <>
          <NumberField label="speed" value={number(spec, "speed", 6)} onSay={(speed) => say({ speed })} />
          <Choice
            label="along"
            value={text(spec, "axes", "both")}
            options={["x", "y", "both"].map((value) => ({ value, words: value }))}
            onSay={(axes) => say({ axes })}
          />
          <NumberField label="jump" value={number(spec, "jump", 0)} onSay={(jump) => say({ jump })} />
        </>
      ) : name === "drifting" ? (
        <>
          <NumberField label="across" value={vx} onSay={(value) => say({ velocity: [value, vy] })} />
          <NumberField label="up" value={vy} onSay={(value) => say({ velocity: [vx, value] })} />
          <Choice
            label="at the edge"
            value={text(spec, "edge", "stop")}
            options={["bounce", "wrap", "stop", "leave"].map((value) => ({ value, words: value }))}
            onSay={(edge) => say({ edge })}
          />
        </>
      ) : name === "patrolling" ? (
        <>
          <NumberField label="to x" value={tx} onSay={(value) => say({ to: [value, ty] })} />
          <NumberField label="to y" value={ty} onSay={(value) => say({ to: [tx, value] })} />
          <NumberField label="speed" value={number(spec, "speed", 2)} onSay={(speed) => say({ speed })} />
        </>
      ) : name === "following" ? (
        <>
          <Field label="whom" value={text(spec, "who")} list={others} onSay={(who) => say({ who })} />
          <NumberField label="speed" value={number(spec, "speed", 2)} onSay={(speed) => say({ speed })} />
        </>
      ) : name === "falling" ? (
        <NumberField label="gravity" value={number(spec, "gravity", 10)} onSay={(gravity) => say({ gravity })} />
      ) : name === "attached" ? (
        <>
          <Field label="to" value={text(spec, "to")} list={others} onSay={(to) => say({ to })} />
          <NumberField label="across" value={ox} onSay={(value) => say({ offset: [value, oy] })} />
          <NumberField label="up" value={oy} onSay={(value) => say({ offset: [ox, value] })} />
        </>
      ) : null}
    </>
  );
}

function SpawnerDetails({ row, set }: { row: Row; set: Set }) {
  const places: unknown[] = Array.isArray(row["at"]) ? (row["at"] as unknown[]) : [];
  const first = Array.isArray(places[0]) ? (places[0] as unknown[]).map(Number) : [16, 16];
  const [x, y] = [first[0] ?? 16, first[1] ?? 16];
  const at = (spot: readonly number[]) => set({ at: [spot, ...places.slice(1)] });
  return (
    <>
      <Field label="spawner" value={text(row, "name")} onSay={(name) => set({ name })} />
      <Field
        label="adds a"
        value={text(row, "kind")}
        list={Object.keys(LOOKS)}
        onSay={(kind) => set({ kind })}
        wide={7}
      />
      <NumberField
        label="every so many seconds"
        value={number(row, "every", 2)}
        onSay={(every) => set({ every, times: null })}
      />
      <NumberField label="x" value={x} onSay={(value) => at([value, y])} />
      <NumberField label="y" value={y} onSay={(value) => at([x, value])} />
      <NumberField label="at most" value={number(row, "most", 100)} onSay={(most) => set({ most })} />
    </>
  );
}

function FactDetails({ row, set }: { row: Row; set: Set }) {
  const [low, high] = pair(row, "range", [0, 9]);
  const choices = Array.isArray(row["choices"]) ? (row["choices"] as unknown[]).map(String).join(", ") : "";
  return (
    <>
      <Field label="fact" value={text(row, "name")} onSay={(name) => set({ name })} />
      <Field label="begins as" value={words(row["start"])} onSay={(start) => set({ start: typed(start) })} wide={6} />
      <NumberField label="from" value={low} onSay={(value) => set({ range: [value, high], choices: null })} />
      <NumberField label="to" value={high} onSay={(value) => set({ range: [low, value], choices: null })} />
      <Field
        label="or one of"
        value={choices}
        hint="none, much"
        onSay={(said) => set({ choices: said ? said.split(",").map(typed) : null, range: said ? null : [low, high] })}
      />
    </>
  );
}

function VariableDetails({ row, set }: { row: Row; set: Set }) {
  return (
    <>
      <Field label="variable" value={text(row, "name")} onSay={(name) => set({ name })} />
      <Field label="begins as" value={words(row["start"])} onSay={(start) => set({ start: typed(start) })} wide={6} />
      <Field label="on the scoreboard" value={text(row, "label")} onSay={(label) => set({ label: label || null })} />
      <Field
        label="means"
        value={text(row, "meaning")}
        wide={24}
        onSay={(meaning) => set({ meaning: meaning || null })}
      />
    </>
  );
}

function CraftDetails({ row, set }: { row: Row; set: Set }) {
  return (
    <>
      <Field label="the script" value={text(row, "expect")} wide={26} onSay={(expect) => set({ expect })} />
      <NumberField label="marks" value={number(row, "marks", 1)} onSay={(marks) => set({ marks })} />
      <Field
        label="because"
        value={text(row, "because")}
        wide={30}
        onSay={(because) => set({ because: because || null })}
      />
    </>
  );
}
