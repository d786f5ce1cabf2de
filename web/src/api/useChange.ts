/** A change on the server, after which what it touches is asked for again. */

import { useMutation, useQueryClient } from "@tanstack/react-query";

interface Touched {
  queryKey: readonly unknown[];
}

/** `touches` are the queries whose answers are others afterwards. */
export function useChange<Given, Data>(change: (given: Given) => Promise<Data>, ...touches: readonly Touched[]) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all(touches.map(({ queryKey }) => queries.invalidateQueries({ queryKey }))),
  });
}
