import { Fragment } from "react";

/** A sentence of the product: what stands between backticks is script. */
export function InCode({ text }: { text: string }) {
  return (
    <>
      {text
        .split("`")
        .map((part, index) => (index % 2 ? <code key={index}>{part}</code> : <Fragment key={index}>{part}</Fragment>))}
    </>
  );
}
