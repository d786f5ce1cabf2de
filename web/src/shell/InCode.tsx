import { Fragment } from "react";

/** A sentence of the product: what stands between backticks is script. */
export function InCode({ text }: { text: string }) {
  return (
    <>
      {text
        .split("`")
        .map((part, place) => (place % 2 ? <code key={place}>{part}</code> : <Fragment key={place}>{part}</Fragment>))}
    </>
  );
}
