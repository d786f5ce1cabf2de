/** Rows of an `exercise.toml` as plain values, and the changes that the workshop makes of them. */

import type { Change } from "../../api/client";

export type Row = Readonly<Record<string, unknown>>;
export type Settings = Readonly<Record<string, unknown>>;
export type TableName = Extract<Change, { do: "add" }>["table"];

/** A thing of the draft that is chosen: a row of a table. */
export interface Chosen {
  table: TableName;
  index: number;
}

export function rowsOf(settings: Settings | null, table: TableName, scenario: number | null = null): readonly Row[] {
  if (!settings) return [];
  const scene = isRow(settings["scene"]) ? settings["scene"] : {};
  const inside = scenario === null ? undefined : listed(settings["scenario"])[scenario];
  switch (table) {
    case "piece":
    case "spawner":
      return listed(scene[table]);
    case "fact":
      return listed(settings["fact"]);
    case "task":
      return listed(settings["tasks"]);
    case "case":
      return listed(inside?.["cases"]);
    case "input":
    case "check":
      return listed(inside?.[table]);
    default:
      return listed(settings[table]);
  }
}

export function sceneOf(settings: Settings | null): Row {
  return settings && isRow(settings["scene"]) ? settings["scene"] : {};
}

function listed(value: unknown): readonly Row[] {
  return Array.isArray(value) ? value.filter(isRow) : [];
}

export function isRow(value: unknown): value is Row {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

export function text(row: Row | undefined, key: string, otherwise = ""): string {
  const value = row?.[key];
  return typeof value === "string" ? value : otherwise;
}

export function number(row: Row | undefined, key: string, otherwise: number): number {
  const value = row?.[key];
  return typeof value === "number" ? value : otherwise;
}

export function pair(row: Row | undefined, key: string, otherwise: readonly [number, number]): [number, number] {
  const value: unknown = row?.[key];
  const [a, b] = Array.isArray(value) ? (value as unknown[]) : [];
  return typeof a === "number" && typeof b === "number" ? [a, b] : [...otherwise];
}

/** A name that no row has yet: the name itself, or with the next number. */
export function freeName(rows: readonly Row[], name: string, key = "name"): string {
  const taken = new Set(rows.map((row) => text(row, key)));
  if (!taken.has(name)) return name;
  let number = 2;
  while (taken.has(`${name}_${number}`)) number += 1;
  return `${name}_${number}`;
}

/** The same for names that people read: "To the bun", "To the bun 2". */
export function freeTitle(rows: readonly Row[], name: string): string {
  const taken = new Set(rows.map((row) => text(row, "name")));
  if (!taken.has(name)) return name;
  let number = 2;
  while (taken.has(`${name} ${number}`)) number += 1;
  return `${name} ${number}`;
}

/** A number with at most three digits behind its point. */
export function tidy(value: number): number {
  return Math.round(value * 1000) / 1000;
}

/** A value as an author types it: numbers and True or False are what they are, all else is a text. */
export function typed(words: string): string | number | boolean {
  const plain = words.trim();
  if (/^(true|false)$/i.test(plain)) return plain.toLowerCase() === "true";
  const value = Number(plain);
  return plain !== "" && Number.isFinite(value) ? value : plain;
}

/** A value as an author would type it. */
export function words(value: unknown): string {
  if (typeof value === "string") return value;
  if (typeof value === "number" || typeof value === "boolean") return String(value);
  if (Array.isArray(value)) return (value as unknown[]).map(words).join(", ");
  return value === undefined || value === null ? "" : JSON.stringify(value);
}
