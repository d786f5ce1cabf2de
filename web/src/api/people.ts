/** What the pages of people ask for: signing in, classes, students, teachers, and a student's own page. */

import { queryOptions } from "@tanstack/react-query";

import { ask, asForm, type Me, ServerError } from "./client";

/** A script on disk that is played by hand: there is nobody to sign in. */
const ALONE: Me = { role: "teacher", name: "", class_name: null, demo: false, first: false };

export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    try {
      return await ask("get", "/api/me", {});
    } catch (error) {
      if (error instanceof ServerError && error.status === 404) return ALONE;
      throw error;
    }
  },
  staleTime: Infinity,
});

export const signInTeacher = (name: string, password: string) =>
  ask("post", "/api/sign-in/teacher", { body: { name, password } });

export const signInStudent = (classWord: string, card: string) =>
  ask("post", "/api/sign-in/student", { body: { class_word: classWord, card } });

export const signInFirst = (token: string, name: string, password: string) =>
  ask("post", "/api/sign-in/first", { body: { token, name, password } });

export const signInDemo = (token: string) => ask("post", "/api/sign-in/demo", { body: { token } });

export const signOut = () => ask("post", "/api/sign-out", {});

export const changePassword = (old: string, next: string) =>
  ask("put", "/api/me/password", { body: { old, new: next } });

export const teachersQuery = queryOptions({ queryKey: ["teachers"], queryFn: () => ask("get", "/api/teachers", {}) });

export const addTeacher = (name: string, password: string) =>
  ask("post", "/api/teachers", { body: { name, password } });

export const removeTeacher = (id: number) =>
  ask("delete", "/api/teachers/{teacher_id}", { params: { path: { teacher_id: id } } });

export const givePassword = (id: number, password: string) =>
  ask("put", "/api/teachers/{teacher_id}/password", { params: { path: { teacher_id: id } }, body: { new: password } });

export const classesQuery = queryOptions({ queryKey: ["classes"], queryFn: () => ask("get", "/api/classes", {}) });

export const addClass = (name: string) => ask("post", "/api/classes", { body: { name } });

export const classQuery = (id: number) =>
  queryOptions({
    queryKey: ["class", id],
    queryFn: () => ask("get", "/api/classes/{class_id}", { params: { path: { class_id: id } } }),
  });

export const changeClass = (id: number, change: { name?: string; put_away?: boolean }) =>
  ask("put", "/api/classes/{class_id}", { params: { path: { class_id: id } }, body: change });

export const removeClass = (id: number) =>
  ask("delete", "/api/classes/{class_id}", { params: { path: { class_id: id } } });

export const shareClass = (id: number, teacher: number) =>
  ask("put", "/api/classes/{class_id}/teachers/{teacher_id}", {
    params: { path: { class_id: id, teacher_id: teacher } },
  });

export const unshareClass = (id: number, teacher: number) =>
  ask("delete", "/api/classes/{class_id}/teachers/{teacher_id}", {
    params: { path: { class_id: id, teacher_id: teacher } },
  });

/** New cards; for everybody who has none where nobody is named. They are shown this once. */
export const makeCards = (id: number, students: readonly number[] | null) =>
  ask("post", "/api/classes/{class_id}/cards", {
    params: { path: { class_id: id } },
    body: { student_ids: students === null ? null : [...students] },
  });

export const addNames = (id: number, names: readonly string[]) =>
  ask("post", "/api/classes/{class_id}/students", { params: { path: { class_id: id } }, body: { names: [...names] } });

export const addNamesFromFile = (id: number, file: File) =>
  ask("post", "/api/classes/{class_id}/students/file", { params: { path: { class_id: id } }, ...asForm({ file }) });

export interface StudentChange {
  name?: string;
  left?: boolean;
  class_id?: number;
  level?: "supported" | "core" | "stretch" | "";
}

export const changeStudent = (id: number, change: StudentChange) =>
  ask("put", "/api/students/{student_id}", { params: { path: { student_id: id } }, body: change });

export const removeStudent = (id: number) =>
  ask("delete", "/api/students/{student_id}", { params: { path: { student_id: id } } });

const MARKERS_EVERY = 2000; // milliseconds

export const markersQuery = queryOptions({
  queryKey: ["markers"],
  queryFn: () => ask("get", "/api/markers", {}),
  refetchInterval: MARKERS_EVERY,
});

export const stopMarker = (id: number, stopped: boolean) =>
  ask("put", "/api/markers/{marker_id}", { params: { path: { marker_id: id } }, body: { stopped } });

/** Reads a school's list, and takes it over where that is said. */
export const readList = (
  file: File,
  said: { classes: readonly string[]; names: Readonly<Record<string, string>>; take: boolean },
) => ask("post", "/api/lists", asForm({ file, said: JSON.stringify(said) }));
