import { type ReactNode, useId, useState } from "react";

interface FieldProps {
  label: string;
  value: string;
  onSay: (value: string) => void;
  /** Roughly how many letters it has room for. */
  wide?: number;
  list?: readonly string[];
  hint?: string;
}

/** A line that is written and said when it is left, or with Enter. */
export function Field({ label, value, onSay, wide = 10, list, hint }: FieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const known = useId();
  const say = () => {
    if (draft !== null && draft !== value) onSay(draft);
    setDraft(null);
  };
  return (
    <label className="inline-flex items-baseline gap-1.5">
      <span className="text-neutral">{label}</span>
      <input
        className="input input-xs bg-transparent"
        style={{ width: `calc(${wide}ch + 1.5rem)` }}
        value={draft ?? value}
        placeholder={hint}
        maxLength={500}
        list={list ? known : undefined}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={say}
        onKeyDown={(event) => {
          if (event.key === "Enter") say();
          if (event.key === "Escape") setDraft(null);
        }}
      />
      {list ? (
        <datalist id={known}>
          {list.map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
      ) : null}
    </label>
  );
}

interface NumberFieldProps {
  label: string;
  value: number;
  onSay: (value: number) => void;
  wide?: number;
}

/** A number that can be typed exactly; what is no number changes nothing. */
export function NumberField({ label, value, onSay, wide = 4 }: NumberFieldProps) {
  const say = (words: string) => {
    const said = Number(words.replace(",", "."));
    if (words.trim() !== "" && Number.isFinite(said)) onSay(said);
  };
  return <Field label={label} value={String(value)} onSay={say} wide={wide} />;
}

interface FlagProps {
  label: string;
  value: boolean;
  onSay: (value: boolean) => void;
}

/** Yes or no. */
export function Flag({ label, value, onSay }: FlagProps) {
  return (
    <label className="inline-flex items-center gap-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={value}
        onChange={(event) => onSay(event.target.checked)}
      />
      <span>{label}</span>
    </label>
  );
}

interface ChoiceProps<Value extends string> {
  label: string;
  value: Value;
  options: readonly { value: Value; words: string }[];
  onSay: (value: Value) => void;
}

/** One of a few. */
export function Choice<Value extends string>({ label, value, options, onSay }: ChoiceProps<Value>) {
  return (
    <label className="inline-flex items-baseline gap-1.5">
      <span className="text-neutral">{label}</span>
      <select
        className="select select-xs w-auto bg-transparent"
        value={value}
        onChange={(event) => onSay(event.target.value as Value)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A word that does something. */
export function Word({
  onClick,
  children,
  label,
  pressed,
}: {
  onClick: () => void;
  children: ReactNode;
  label?: string;
  pressed?: boolean;
}) {
  return (
    <button
      type="button"
      className="min-h-6 text-left text-primary underline underline-offset-4 aria-pressed:font-bold"
      aria-label={label}
      aria-pressed={pressed}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
