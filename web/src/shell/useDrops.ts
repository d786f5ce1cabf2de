import { type DragEvent, useEffect, useRef } from "react";

/** Files dropped anywhere on the page; a folder gives what is in it, each file with its way there as its name. */
export function useDrops(onOver: (over: boolean) => void, onDrop: (files: readonly File[]) => void): void {
  const drop = useRef(onDrop);
  useEffect(() => {
    drop.current = onDrop;
  });
  useEffect(() => {
    const over = (event: Event) => {
      event.preventDefault();
      onOver(true);
    };
    const out = () => onOver(false);
    const dropped = (event: Event) => {
      event.preventDefault();
      onOver(false);
      void filesOf((event as unknown as DragEvent).dataTransfer).then((files) => drop.current(files));
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", out);
    window.addEventListener("drop", dropped);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", out);
      window.removeEventListener("drop", dropped);
    };
  }, [onOver]);
}

const MOST = 500; // files of one drop: more is a mistake

async function filesOf(data: DataTransfer): Promise<readonly File[]> {
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (!entries.some((entry) => entry.isDirectory)) return [...data.files];
  const found: File[] = [];
  for (const entry of entries) await collect(entry, "", found);
  return found;
}

async function collect(entry: FileSystemEntry, path: string, found: File[]): Promise<void> {
  if (found.length >= MOST) return;
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed));
    found.push(new File([file], `${path}${entry.name}`, { type: file.type }));
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (some.length === 0) return;
    for (const each of some) await collect(each, `${path}${entry.name}/`, found);
  }
}
