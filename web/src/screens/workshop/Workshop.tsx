import { useEffect, useState } from "react";
import { useParams, useSearchParams } from "react-router";

import type { DraftView } from "../../api/client";
import { Button } from "../../shell/Button";
import { isTyping, type KeyHelp, Shell } from "../../shell/Shell";
import { Failed, Loading } from "../../shell/Waiting";
import { Adding } from "./Adding";
import { Details } from "./Details";
import { Choice, Field, NumberField, Word } from "./Fields";
import { Notices } from "./Notices";
import { Proof } from "./Proof";
import { Recording } from "./Recording";
import type { Chosen } from "./rows";
import { number, rowsOf, text, words } from "./rows";
import { SceneDesk } from "./SceneDesk";
import { Scenarios } from "./Scenarios";
import { SCENE } from "../../words/workshop";
import { Standing } from "./Standing";
import { Texts, WRITTEN } from "./Texts";
import { type Hands, useDraft } from "./useDraft";
import { WorkStrip } from "./WorkStrip";

const KEYS: readonly KeyHelp[] = [
  { keys: "ctrl Z, ctrl Y", does: "undo and redo, outside of what is being written" },
  { keys: "arrows", does: "move the piece that has the focus by half a square, with shift by a tenth" },
  { keys: "Delete", does: "takes the piece away that has the focus" },
  { keys: "Enter", does: "on the strip's time: what must be so there?" },
  { keys: "Esc", does: "closes a note" },
];

/** An exercise while it is made: texts, scene, scenarios, proof, and the strip of what the reference does. */
export function Workshop() {
  const id = Number(useParams()["draft"]);
  const [search, setSearch] = useSearchParams();
  const scenario = Number(search.get("scenario") ?? 0) || 0;
  const [draft, hands] = useDraft(id, scenario);
  const onScenario = (to: number) => setSearch(to ? { scenario: String(to) } : {}, { replace: true });
  if (!draft.data) {
    return (
      <Shell title="Workshop" path="Workshop" keys={KEYS}>
        {draft.isLoadingError ? (
          <Failed what="this draft" error={draft.error} retry={() => void draft.refetch()} />
        ) : (
          <Loading what="the draft" />
        )}
      </Shell>
    );
  }
  return (
    <Shell
      title={`Workshop: ${draft.data.title}`}
      path={
        <>
          Workshop / <span className="font-semibold text-base-content">{draft.data.title}</span>
        </>
      }
      aside={<Standing draft={draft.data} hands={hands} />}
      keys={KEYS}
    >
      <Bench draft={draft.data} hands={hands} scenario={scenario} onScenario={onScenario} />
    </Shell>
  );
}

interface BenchProps {
  draft: DraftView;
  hands: Hands;
  scenario: number;
  onScenario: (scenario: number) => void;
}

function Bench({ draft, hands, scenario, onScenario }: BenchProps) {
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [recording, setRecording] = useState<number | null>(null);
  const settings = draft.rehearsal?.settings ?? null;
  const notices = draft.rehearsal?.notices ?? [];
  const playable = draft.rehearsal?.playable ?? false;
  const looks = `/api/drafts/${draft.id}/looks`;
  const { step } = hands;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || isTyping(event)) return;
      const back = event.key.toLowerCase() === "z" && !event.shiftKey;
      if (!back && event.key.toLowerCase() !== "y" && event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      void step(back ? -1 : 1);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [step]);
  return (
    <div className="grid h-full grid-rows-[minmax(0,1fr)_fit-content(44%)]">
      <div className="grid min-h-0 grid-cols-[minmax(0,28fr)_minmax(0,38fr)_minmax(0,34fr)]">
        <Texts key={draft.id} draft={draft} notices={notices} hands={hands} />
        <section
          aria-label="Scene"
          className="flex min-h-0 flex-col gap-1 overflow-auto border-r border-base-300 px-4 pt-2"
        >
          {recording !== null && draft.trial ? (
            <Recording
              id={draft.id}
              source={draft.texts["reference.py"] ?? ""}
              scenario={scenario}
              from={recording}
              scene={draft.trial.scene}
              looks={looks}
              hands={hands}
              onDone={() => setRecording(null)}
            />
          ) : (
            <>
              <div className="flex items-baseline justify-between gap-3">
                <Adding settings={settings} onChoose={setChosen} hands={hands} />
                <Button size="xs" disabled={!playable} onClick={() => setRecording(-1)}>
                  Play and record
                </Button>
              </div>
              <div className="min-h-32 shrink-0">
                <SceneDesk
                  settings={settings}
                  looks={looks}
                  pictures={draft.pictures.map((name) => name.replace(/^looks\/|\.svg$/g, ""))}
                  chosen={chosen}
                  onChoose={setChosen}
                  hands={hands}
                />
              </div>
              <Things settings={settings} chosen={chosen} onChoose={setChosen} />
              {chosen ? (
                <Details settings={settings} chosen={chosen} onChoose={setChosen} hands={hands} />
              ) : (
                <Exercise draft={draft} hands={hands} />
              )}
            </>
          )}
        </section>
        <div className="min-h-0 overflow-auto px-4 pt-2">
          <Scenarios draft={draft} settings={settings} scenario={scenario} onScenario={onScenario} hands={hands} />
          <Notices
            notices={notices.filter((each) => !WRITTEN.includes(each.file))}
            settings={settings}
            onChoose={setChosen}
            onScenario={onScenario}
          />
          <Proof id={draft.id} at={draft.at} playable={playable} settings={settings} hands={hands} />
        </div>
      </div>
      {draft.trial?.trace ? (
        <WorkStrip
          key={scenario}
          id={draft.id}
          at={draft.at}
          trial={draft.trial}
          scenario={scenario}
          settings={settings}
          notices={notices}
          hands={hands}
          onScenario={onScenario}
          onRecord={setRecording}
        />
      ) : (
        <p className="border-t border-base-300 p-4 text-neutral">
          {draft.unplayed ?? "The strip is drawn once the reference can be played."}
        </p>
      )}
    </div>
  );
}

const LISTED = ["piece", "spawner", "fact", "variable", "craft"] as const;

/** Everything that the exercise has beside its scenarios, in words: what is chosen is shown below. */
function Things({
  settings,
  chosen,
  onChoose,
}: {
  settings: Parameters<typeof rowsOf>[0];
  chosen: Chosen | null;
  onChoose: (chosen: Chosen | null) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-3 border-b border-base-300 pb-1 text-sm" data-things>
      {LISTED.map((table) => {
        const rows = rowsOf(settings, table);
        if (rows.length === 0) return null;
        return (
          <span key={table} className="inline-flex flex-wrap gap-x-2">
            <span className="text-neutral">{table === "craft" ? "craft" : `${table}s`}</span>
            {rows.map((row, index) => (
              <Word
                key={index}
                pressed={chosen?.table === table && chosen.index === index}
                onClick={() => onChoose(chosen?.table === table && chosen.index === index ? null : { table, index })}
              >
                {text(row, "name", text(row, "expect", "without a name"))}
              </Word>
            ))}
          </span>
        );
      })}
    </div>
  );
}

/** The exercise itself, while nothing else is chosen. */
function Exercise({ draft, hands }: { draft: DraftView; hands: Hands }) {
  const settings = draft.rehearsal?.settings ?? null;
  const scene = settings?.["scene"] as Record<string, unknown> | undefined;
  return (
    <section aria-label="The exercise" className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm">
      <Field
        label="title"
        value={text(settings ?? undefined, "title")}
        wide={28}
        onSay={(title) => void hands.change({ do: "set", of: "exercise", keys: { title } })}
      />
      <NumberField
        label="a trial has seconds"
        value={number(settings ?? undefined, "seconds", 10)}
        onSay={(seconds) => void hands.change({ do: "set", of: "exercise", keys: { seconds } })}
      />
      <Choice
        label="the script"
        value={text(settings ?? undefined, "style", "handlers")}
        options={[
          { value: "handlers", words: "waits for events" },
          { value: "straight", words: "runs from top to bottom" },
        ]}
        onSay={(style) =>
          void hands.change({ do: "set", of: "exercise", keys: { style: style === "straight" ? style : null } })
        }
      />
      <NumberField
        label="squares wide"
        value={number(scene, "width", 32)}
        onSay={(width) => void hands.change({ do: "set", of: "scene", keys: { width } })}
      />
      <NumberField
        label="high"
        value={number(scene, "height", 18)}
        onSay={(height) => void hands.change({ do: "set", of: "scene", keys: { height } })}
      />
      <Field
        label="background"
        value={text(scene, "background")}
        list={["bakehouse", "yard"]}
        onSay={(background) => void hands.change({ do: "set", of: "scene", keys: { background: background || null } })}
      />
      <Field
        label={SCENE.places}
        value={words(scene?.["places"])}
        hint={SCENE.placesHint}
        wide={18}
        onSay={(line) => {
          const places = line
            .split(",")
            .map((each) => each.trim())
            .filter(Boolean);
          void hands.change({ do: "set", of: "scene", keys: { places: places.length > 0 ? places : null } });
        }}
      />
    </section>
  );
}
