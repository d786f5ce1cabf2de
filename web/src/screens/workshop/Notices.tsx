import type { NoticeView } from "../../api/client";
import { Word } from "./Fields";
import type { Chosen, Settings, TableName } from "./rows";
import { rowsOf, text } from "./rows";

interface NoticesProps {
  notices: readonly NoticeView[];
  settings: Settings | null;
  onChoose: (chosen: Chosen) => void;
  onScenario: (scenario: number) => void;
}

const IN_SCENE: readonly string[] = ["piece", "spawner", "fact", "variable", "craft"];

/** What is said of the draft after every change, each with a way to the thing that it is about. */
export function Notices({ notices, settings, onChoose, onScenario }: NoticesProps) {
  if (notices.length === 0) return null;
  return (
    <section aria-label="What is said of it" className="border-t border-base-300 pt-2 text-sm">
      <h2 className="text-neutral">Worth a look</h2>
      <ul data-notices>
        {notices.map((notice, number) => (
          <li
            key={number}
            className={`border-t border-base-300 py-1 first:border-t-0 ${notice.kind !== "odd" ? "text-error" : ""}`}
          >
            {notice.text} <Where notice={notice} settings={settings} onChoose={onChoose} onScenario={onScenario} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Where({ notice, settings, onChoose, onScenario }: Omit<NoticesProps, "notices"> & { notice: NoticeView }) {
  const { table, index, scenario } = notice;
  if (table && index !== null && IN_SCENE.includes(table)) {
    const row = rowsOf(settings, table as TableName)[index];
    return <Word onClick={() => onChoose({ table: table as TableName, index })}>{text(row, "name", table)}</Word>;
  }
  const at = scenario ?? (table === "scenario" ? index : null);
  if (at === null) return null;
  return <Word onClick={() => onScenario(at)}>{text(rowsOf(settings, "scenario")[at], "name", "the scenario")}</Word>;
}
