/** The orders of a round's students. */

import type { StudentRow } from "../../api/client";

export type Order = "worst" | "name";

/** Students worst first (what waits is last), or by name. */
export function sorted(students: readonly StudentRow[], order: Order): StudentRow[] {
  const byName = (a: StudentRow, b: StudentRow) => a.student.localeCompare(b.student);
  const rank = (row: StudentRow) => row.marks ?? Infinity;
  return [...students].sort((a, b) => (order === "name" ? 0 : rank(a) - rank(b)) || byName(a, b));
}
