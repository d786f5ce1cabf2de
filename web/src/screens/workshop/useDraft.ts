/** A draft as its page holds it: what is shown, and how changes go to the server, one after the other. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";

import type { Change, DraftView } from "../../api/client";
import { changeDraft, draftKey, draftQuery, stepDraft } from "../../api/queries";

export interface Hands {
  /** Makes a change; several at once are undone with one step. */
  change: (...changes: Exclude<Change, { do: "several" }>[]) => Promise<boolean>;
  step: (by: -1 | 1) => Promise<boolean>;
  /** What the server said of the last change that was not made. */
  trouble: string;
  /** Whether a change is on its way. */
  busy: boolean;
}

export function useDraft(id: number, scenario: number): [ReturnType<typeof useQuery<DraftView>>, Hands] {
  const queries = useQueryClient();
  const draft = useQuery(draftQuery(id, scenario));
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(0);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const send = useCallback(
    (make: (at: number) => Promise<DraftView>): Promise<boolean> => {
      const sent = last.current.then(async () => {
        setBusy((before) => before + 1);
        const shown = queries.getQueryData<DraftView>(draftQuery(id, scenario).queryKey);
        try {
          const now = await make(shown?.at ?? 0);
          queries.removeQueries({ queryKey: draftKey(id), predicate: ({ queryKey }) => queryKey[2] !== scenario });
          queries.setQueryData(draftQuery(id, scenario).queryKey, now);
          setTrouble("");
          return true;
        } catch (error) {
          setTrouble(error instanceof Error ? error.message : String(error));
          await queries.refetchQueries({ queryKey: draftQuery(id, scenario).queryKey });
          return false;
        } finally {
          setBusy((before) => before - 1);
        }
      });
      last.current = sent;
      return sent;
    },
    [queries, id, scenario],
  );
  const change = useCallback<Hands["change"]>(
    (...changes) => {
      const [first] = changes;
      if (!first) return Promise.resolve(true);
      const whole: Change = changes.length === 1 ? first : { do: "several", changes };
      return send((at) => changeDraft(id, at, whole, scenario));
    },
    [send, id, scenario],
  );
  const step = useCallback<Hands["step"]>((by) => send((at) => stepDraft(id, at, by, scenario)), [send, id, scenario]);
  return [draft, { change, step, trouble, busy: busy > 0 }];
}
