import Markdown from "react-markdown";

/** What the exercise asks for, as its teacher wrote it. */
export function Brief({ text }: { text: string }) {
  if (!text.trim()) return null;
  return (
    <div className="brief">
      <Markdown disallowedElements={["img"]} unwrapDisallowed>
        {text}
      </Markdown>
    </div>
  );
}
