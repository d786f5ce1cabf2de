/** Whether the server and its records can be reached, and what is done until they can be again. */

import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import { create } from "zustand";

import { ServerError } from "../api/client";
import { meQuery } from "../api/people";

const AGAIN = 1500; // milliseconds between looks while they cannot be reached

interface Away {
  /** What to say of it; nothing while all is well. */
  words: string | null;
  /** Whether the session has ended while somebody was at work. */
  out: boolean;
}

export const useAway = create<Away>(() => ({ words: null, out: false }));

const heard = (error: Error) => {
  if (!(error instanceof ServerError)) return;
  if (error.status === 401) useAway.setState({ out: true });
  if (!error.away || useAway.getState().words !== null) return;
  useAway.setState({ words: error.message });
  const look = () =>
    void queries.query({ ...meQuery, staleTime: 0 }).then(
      () => {
        useAway.setState({ words: null });
        void queries.invalidateQueries();
      },
      () => setTimeout(look, AGAIN),
    );
  setTimeout(look, AGAIN);
};

/** Everything that the screens know of the server. */
export const queries = new QueryClient({
  queryCache: new QueryCache({ onError: heard }),
  mutationCache: new MutationCache({ onError: heard }),
  defaultOptions: {
    // without a network, too, it is asked, so that it is said what is wrong
    queries: { retry: false, refetchOnWindowFocus: false, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
