/** A text that is checked: verdicts first, then what was found, as it comes. A newer check takes the place of an older. */

import { useCallback, useEffect, useRef, useState } from "react";

import type { DeskChecked } from "../api/client";
import type { Seat } from "./seat";

const LOOK = 250; // milliseconds between looks at what was found

export interface Checking {
  checked: DeskChecked | null;
  busy: boolean;
  error: string;
  check: (source: string) => Promise<DeskChecked | null>;
  /** Looks again, or takes what another call gave. */
  renew: (found?: DeskChecked) => Promise<void>;
}

export function useChecked(seat: Seat): Checking {
  const [checked, setChecked] = useState<DeskChecked | null>(null);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState("");
  const turn = useRef(0);
  const check = useCallback(
    async (source: string) => {
      const mine = ++turn.current;
      setBusy(true);
      setError("");
      try {
        const found = await seat.check(source);
        if (mine !== turn.current) return null;
        setChecked(found);
        return found;
      } catch (failed) {
        if (mine === turn.current) setError((failed as Error).message);
        return null;
      } finally {
        if (mine === turn.current) setBusy(false);
      }
    },
    [seat],
  );
  const renew = useCallback(
    async (found?: DeskChecked) => {
      const mine = turn.current;
      if (!checked) return;
      try {
        const next = found ?? (await seat.again(checked));
        if (mine === turn.current) setChecked(next);
      } catch (failed) {
        if (mine === turn.current) setError((failed as Error).message);
      }
    },
    [checked, seat],
  );
  useEffect(() => {
    if (!checked || checked.findings !== null || checked.unmarked || error) return;
    const timer = window.setTimeout(() => void renew(), LOOK);
    return () => window.clearTimeout(timer);
  }, [checked, error, renew]);
  return { checked, busy, error, check, renew };
}
