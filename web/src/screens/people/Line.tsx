interface LineProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  complete?: string;
  secret?: boolean;
  /** Words that a phone must not correct. */
  plain?: boolean;
  most?: number;
}

/** A line of a form, with its label above it. */
export function Line({ label, value, onChange, complete, secret = false, plain = false, most = 200 }: LineProps) {
  return (
    <label className="mb-3 block">
      <span className="block text-neutral">{label}</span>
      <input
        className={`input w-full bg-transparent ${plain ? "mono" : ""}`}
        type={secret ? "password" : "text"}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        autoComplete={complete}
        autoCapitalize={plain ? "none" : undefined}
        autoCorrect={plain ? "off" : undefined}
        spellCheck={plain ? false : undefined}
        maxLength={most}
        required
      />
    </label>
  );
}
