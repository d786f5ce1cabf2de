import type { DraftScenario, DraftView } from "../../api/client";
import { count, marks } from "../../values";
import { Field, Flag, NumberField, Word } from "./Fields";
import { Many, Ways } from "./ManyWays";
import type { Row, Settings } from "./rows";
import { freeTitle, number, rowsOf, text, typed, words } from "./rows";
import type { Hands } from "./useDraft";

interface ScenariosProps {
  draft: DraftView;
  settings: Settings | null;
  scenario: number;
  onScenario: (scenario: number) => void;
  hands: Hands;
}

/** The scenarios: each with its first variable as a small line, and how many checks it has. */
export function Scenarios({ draft, settings, scenario, onScenario, hands }: ScenariosProps) {
  const rows = rowsOf(settings, "scenario");
  const played = draft.rehearsal?.scenarios ?? [];
  const row = rows[scenario];
  const add = (made: Record<string, unknown>) =>
    void hands.change({ do: "add", table: "scenario", row: made }).then((done) => done && onScenario(rows.length));
  return (
    <section aria-label="Scenarios">
      <div className="flex items-baseline justify-between text-sm text-neutral">
        <h2>Scenarios</h2>
        <span>
          {marks(draft.rehearsal?.out_of ?? 0)} marks{concepts(draft)}
        </span>
      </div>
      <ul>
        {rows.map((each, index) => (
          <li key={`${index} ${text(each, "name")}`} className="border-b border-base-300">
            <button
              type="button"
              aria-pressed={index === scenario}
              className="grid w-full grid-cols-[1fr_5rem_4.5rem] items-center gap-2 border-l-4 border-transparent px-2 py-1 text-left aria-pressed:border-primary aria-pressed:bg-(--plum-tint) aria-pressed:font-bold"
              onClick={() => onScenario(index)}
            >
              <span>
                {text(each, "name", "without a name")}
                {each["visible"] === false ? <em className="font-normal text-neutral"> hidden</em> : null}
              </span>
              <Small scenario={played[index]} />
              <span className="text-sm font-normal text-neutral">
                {count(played[index]?.checks.length ?? rowsOf(settings, "check", index).length, "check")}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-x-4 py-1 text-sm">
        <Word onClick={() => add({ name: freeTitle(rows, "What happens next") })}>a scenario</Word>
        {row ? (
          <Word onClick={() => add({ ...row, name: freeTitle(rows, text(row, "name")) })}>a copy of this one</Word>
        ) : null}
        {row && rows.length > 1 ? (
          <Word
            onClick={() => {
              onScenario(0);
              void hands.change({ do: "remove", table: "scenario", index: scenario });
            }}
          >
            take it away
          </Word>
        ) : null}
      </div>
      {row ? (
        <One
          key={scenario}
          id={draft.id}
          row={row}
          settings={settings}
          scenario={scenario}
          hands={hands}
          onScenario={onScenario}
        />
      ) : null}
    </section>
  );
}

function concepts(draft: DraftView): string {
  const parts = Object.entries(draft.rehearsal?.concepts ?? {});
  return parts.length > 0 ? `: ${parts.map(([name, worth]) => `${name} ${marks(worth)}`).join(", ")}` : "";
}

/** A scenario's first variable as a small stepped line. */
function Small({ scenario }: { scenario: DraftScenario | undefined }) {
  if (!scenario) return <span />;
  if (scenario.way) return <span className="text-sm font-normal text-neutral">{count(scenario.trials, "run")}</span>;
  const values = scenario.line.map(([, value]) => value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const last = scenario.seconds * 30;
  const y = (value: number) => (high === low ? 10 : 17 - ((value - low) / (high - low)) * 14);
  const path = scenario.line
    .map(([frame, value], index) => {
      const x = (Math.max(frame, 0) / Math.max(last, 1)) * 80;
      return `${index ? `H${x}V` : `M${x} `}${y(value)}`;
    })
    .join("");
  return (
    <svg viewBox="0 0 80 20" aria-hidden>
      <path d={path ? `${path}H80` : ""} stroke="var(--ink)" strokeWidth={1.5} fill="none" />
    </svg>
  );
}

interface OneProps {
  id: number;
  onScenario: (scenario: number) => void;
  row: Row;
  settings: Settings | null;
  scenario: number;
  hands: Hands;
}

/** The chosen scenario: its name, how long it is, what is put in place before it, and what the player does. */
function One({ id, row, settings, scenario, hands, onScenario }: OneProps) {
  const set = (keys: Record<string, unknown>) =>
    void hands.change({ do: "change", table: "scenario", index: scenario, keys });
  const arranged = Array.isArray(row["arrange"]) ? (row["arrange"] as unknown[]).map(String) : [];
  const inputs = rowsOf(settings, "input", scenario);
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 pb-2 text-sm" data-scenario>
      <Field label="name" value={text(row, "name")} wide={22} onSay={(name) => set({ name })} />
      <NumberField
        label="seconds"
        value={number(row, "seconds", number(settings ?? undefined, "seconds", 10))}
        onSay={(seconds) => set({ seconds })}
      />
      <Flag
        label="hidden"
        value={row["visible"] === false}
        onSay={(hidden) => set({ visible: hidden ? false : null })}
      />
      <Field
        label="begins with"
        value={arranged.join("; ")}
        hint="score = 3; hob.x = 12"
        wide={26}
        onSay={(said) => {
          const lines = said
            .split(";")
            .map((each) => each.trim())
            .filter(Boolean);
          set({ arrange: lines.length > 0 ? lines : null });
        }}
      />
      <Many row={row} settings={settings} scenario={scenario} hands={hands} />
      <div className="w-full" role="group" aria-label="What the player does">
        <span className="text-neutral">The player</span>
        <ul>
          {inputs.map((input, index) => (
            <li key={index} className="flex flex-wrap items-baseline gap-x-3" data-input-row={index}>
              <InputLine input={input} index={index} scenario={scenario} hands={hands} />
            </li>
          ))}
        </ul>
        <span className="flex gap-4">
          <Word
            onClick={() =>
              void hands.change({ do: "add", table: "input", scenario, row: { at: 0.5, hold: "right", for: 1 } })
            }
          >
            holds a key
          </Word>
          <Word
            onClick={() => void hands.change({ do: "add", table: "input", scenario, row: { at: 0.5, press: "space" } })}
          >
            presses a key
          </Word>
          <Word
            onClick={() => void hands.change({ do: "add", table: "input", scenario, row: { at: 0.5, click: [4, 2] } })}
          >
            clicks
          </Word>
          <Word
            onClick={() => {
              const answers = inputs.filter((input) => "answer" in input).length;
              const at = settings?.["style"] === "straight" && answers > 0 ? `answer ${answers}` : answers;
              void hands.change({ do: "add", table: "input", scenario, row: { at, answer: "yes" } });
            }}
          >
            answers
          </Word>
        </span>
      </div>
      <Ways id={id} settings={settings} scenario={scenario} hands={hands} onScenario={onScenario} />
    </div>
  );
}

const DEEDS = ["hold", "press", "click", "pick", "answer", "type", "set"] as const;

function InputLine({ input, index, scenario, hands }: { input: Row; index: number; scenario: number; hands: Hands }) {
  const deed = DEEDS.find((each) => each in input) ?? "press";
  const said = input[deed];
  const what = words(said);
  const set = (keys: Record<string, unknown>) =>
    void hands.change({ do: "change", table: "input", index, scenario, keys });
  return (
    <>
      <Field label="at" value={words(input["at"])} wide={5} onSay={(at) => set({ at: typed(at) })} />
      <Field
        label={deed}
        value={what}
        wide={8}
        onSay={(line) => {
          const spot = line.split(",").map(Number);
          set({ [deed]: deed === "click" && spot.length === 2 && spot.every(Number.isFinite) ? spot : line });
        }}
      />
      {deed === "hold" ? (
        <>
          <Field
            label="for"
            value={words(input["for"])}
            wide={4}
            onSay={(line) => set({ for: line.trim() === "" ? null : typed(line) })}
          />
          <Field
            label="until"
            value={text(input, "until")}
            wide={16}
            hint="meets(hob, soot)"
            onSay={(until) => set({ until: until || null })}
          />
        </>
      ) : null}
      <Word
        label={`take away what is done at ${words(input["at"])}`}
        onClick={() => void hands.change({ do: "remove", table: "input", index, scenario })}
      >
        take away
      </Word>
    </>
  );
}
