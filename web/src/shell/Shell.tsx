import { useQuery } from "@tanstack/react-query";
import { Keyboard, Moon, Projector, Sun } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { Link } from "react-router";

import { meQuery } from "../api/people";

import { useAppearance } from "./appearance";
import { Button } from "./Button";

export interface KeyHelp {
  keys: string;
  does: string;
}

interface ShellProps {
  title: string;
  /** Where this screen stands: parts of a path, after the product's name. */
  path: ReactNode;
  /** What belongs to this screen at the right of the header. */
  aside?: ReactNode;
  keys: readonly KeyHelp[];
  /** The screen has a heading of its own that people see. */
  headed?: boolean;
  children: ReactNode;
}

const EVERYWHERE: readonly KeyHelp[] = [{ keys: "?", does: "shows the keys of this screen" }];

/** The frame of every screen: the header, the keys on `?`, theme and size. */
export function Shell({ title, path, aside, keys, headed = false, children }: ShellProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    document.title = `${title} · Hob Trial`;
  }, [title]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "?" || isTyping(event)) return;
      event.preventDefault();
      if (dialog.current?.open) dialog.current.close();
      else dialog.current?.showModal();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="flex h-screen min-h-[40rem] flex-col">
      <header className="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-base-300 px-5 py-1">
        <Link to="/" className="font-bold no-underline">
          Hob Trial
        </Link>
        <nav aria-label="Where you are" className="text-neutral">
          {path}
        </nav>
        <div className="ml-auto flex items-center gap-3">
          {aside}
          <Whose />
          <Looks onKeys={() => dialog.current?.showModal()} />
        </div>
      </header>
      <main className="min-h-0 flex-1">
        {headed ? null : <h1 className="sr-only">{title}</h1>}
        {children}
      </main>
      <dialog ref={dialog} className="modal" aria-labelledby="keys-title">
        <div className="modal-box max-w-md border border-base-300 bg-base-100">
          <h2 id="keys-title" className="mb-3 text-lg font-bold">
            Keys
          </h2>
          <dl className="grid grid-cols-[8rem_1fr] gap-y-1">
            {[...keys, ...EVERYWHERE].map((key) => (
              <div key={key.keys} className="contents">
                <dt className="mono">{key.keys}</dt>
                <dd>{key.does}</dd>
              </div>
            ))}
          </dl>
          <form method="dialog" className="mt-4 text-right">
            <Button type="submit">Close</Button>
          </form>
        </div>
      </dialog>
    </div>
  );
}

/** Who is signed in, and where their other pages are. */
function Whose() {
  const me = useQuery(meQuery).data;
  if (!me?.name) return null;
  return (
    <span className="flex items-baseline gap-3">
      {me.role === "student" ? null : (
        <Link to="/classes" className="text-neutral hover:underline">
          Classes
        </Link>
      )}
      <Link to="/me" className="text-neutral hover:underline" title="Your password, and signing out">
        {me.name}
      </Link>
    </span>
  );
}

function Looks({ onKeys }: { onKeys: () => void }) {
  const { theme, size, set } = useAppearance();
  const dark = theme === "slate";
  const large = size === "large";
  return (
    <div className="flex">
      <IconButton label="Keys of this screen" onClick={onKeys} icon={<Keyboard size="1.1em" aria-hidden />} />
      <IconButton
        label="Large, for the projector"
        pressed={large}
        onClick={() => set({ size: large ? "usual" : "large" })}
        icon={<Projector size="1.1em" aria-hidden />}
      />
      <IconButton
        label={dark ? "Light theme" : "Dark theme"}
        onClick={() => set({ theme: dark ? "paper" : "slate" })}
        icon={dark ? <Sun size="1.1em" aria-hidden /> : <Moon size="1.1em" aria-hidden />}
      />
    </div>
  );
}

interface IconButtonProps {
  label: string;
  pressed?: boolean;
  onClick: () => void;
  icon: ReactNode;
}

function IconButton({ label, pressed, onClick, icon }: IconButtonProps) {
  return (
    <Button
      look="icon"
      className="text-neutral aria-pressed:text-primary"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      onClick={onClick}
    >
      {icon}
    </Button>
  );
}

/** Whether a key is meant for a field that is being written in. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return !!target && (/^(input|textarea|select)$/i.test(target.tagName) || target.isContentEditable);
}
