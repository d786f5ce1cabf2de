import { useEffect, useState } from "react";

import type { Me } from "../../api/client";
import { signInDemo } from "../../api/people";
import { FirstTeacher } from "./FirstTeacher";
import { SignInForms } from "./SignInForms";

/** The end of a link that let one in: `#demo=…` or `#first=…`. */
function linkOf(kind: "demo" | "first"): string | null {
  return new URLSearchParams(location.hash.slice(1)).get(kind);
}

/** The page goes on where it was asked for; the page for signing in goes on to the first one. */
function go() {
  if (location.pathname.startsWith("/sign-in")) location.replace("/");
  else location.reload();
}

/** The door: students with their card, teachers with their name. */
export function SignIn({ me }: { me: Me }) {
  const demo = linkOf("demo");
  const first = linkOf("first");
  const [refused, setRefused] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Sign in · Hob Trial";
  }, []);
  useEffect(() => {
    if (demo !== null)
      signInDemo(demo).then(go, (error: unknown) => setRefused(error instanceof Error ? error.message : String(error)));
  }, [demo]);
  return (
    <main className="mx-auto flex min-h-screen max-w-3xl flex-col px-5 py-8 sm:py-16">
      <h1 className="mb-1 text-3xl font-bold">Hob Trial</h1>
      {first !== null && me.first ? (
        <FirstTeacher token={first} onDone={go} />
      ) : (
        <>
          <p className="mb-6 text-neutral">
            {me.demo
              ? "This is the demo. It printed two links when it began; each of them lets you in."
              : me.first
                ? "Nobody can sign in yet. The server printed a link for the first teacher when it began."
                : "Sign in with your card, or with your name if you teach."}
          </p>
          {refused !== null ? (
            <p role="alert" className="mb-4 text-error">
              {refused}
            </p>
          ) : demo !== null ? (
            <p role="status" className="mb-4">
              Letting you in …
            </p>
          ) : null}
          <SignInForms onDone={go} />
        </>
      )}
    </main>
  );
}
