import { Button } from "./Button";

/** Something is being fetched. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-neutral">
      Fetching {what} …
    </p>
  );
}

/** Something could not be fetched: what, why, and what now. */
export function Failed({ what, error, retry }: { what: string; error: Error; retry: () => void }) {
  return (
    <div role="alert" className="p-8">
      <p className="mb-1 font-bold">Could not show {what}.</p>
      <p className="mb-4">{error.message}</p>
      <Button className="mr-3" onClick={retry}>
        Try again
      </Button>
      <a href="/" className="link">
        To the first page
      </a>
    </div>
  );
}
