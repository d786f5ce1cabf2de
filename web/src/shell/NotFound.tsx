import { Link } from "react-router";

import { Shell } from "./Shell";

/** An address that is not a screen. */
export function NotFound() {
  return (
    <Shell title="Nothing here" path="" keys={[]}>
      <div className="p-8">
        <p className="mb-3">There is nothing at this address.</p>
        <Link to="/" className="link link-primary">
          To the first page
        </Link>
      </div>
    </Shell>
  );
}
