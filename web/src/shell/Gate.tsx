import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef } from "react";

import type { Me } from "../api/client";
import { meQuery } from "../api/people";
import { SignIn } from "../screens/people/SignIn";
import { SignInForms } from "../screens/people/SignInForms";
import { queries, useAway } from "./away";
import { Failed, Loading } from "./Waiting";

/** Whether somebody comes by a link that lets them in, perhaps as another one than they are. */
function comesByLink(): boolean {
  return location.pathname === "/sign-in" && location.hash.startsWith("#demo=");
}

/** Nobody comes further who is not signed in. Whoever's session ends at work signs in again over their work. */
export function Gate({ children }: { children: (me: Me) => ReactNode }) {
  const me = useQuery(meQuery);
  const words = useAway((state) => state.words);
  return (
    <>
      {words !== null ? (
        <p role="alert" className="sticky top-0 z-50 border-b border-error bg-base-100 px-5 py-2 text-error" data-away>
          {words}
        </p>
      ) : null}
      {me.data ? (
        me.data.role === "nobody" || comesByLink() ? (
          <SignIn me={me.data} />
        ) : (
          <>
            {children(me.data)}
            <Again me={me.data} />
          </>
        )
      ) : me.isPending ? (
        <Loading what="who you are" />
      ) : (
        <Failed what="this page" error={me.error} retry={() => void me.refetch()} />
      )}
    </>
  );
}

/** Signing in again, over what somebody was at: nothing of it goes away. */
function Again({ me }: { me: Me }) {
  const out = useAway((state) => state.out);
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (out) dialog.current?.showModal();
    else dialog.current?.close();
  }, [out]);
  if (!out) return null;
  const back = async () => {
    const now = await queries.query({ ...meQuery, staleTime: 0 });
    if (now.role !== me.role || now.name !== me.name) location.assign("/");
    useAway.setState({ out: false });
    await queries.invalidateQueries();
  };
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-labelledby="again-title"
      onCancel={(event) => event.preventDefault()}
      data-sign-in-again
    >
      <div className="modal-box max-w-2xl border border-base-300 bg-base-100">
        <h2 id="again-title" className="text-lg font-bold">
          You are signed out
        </h2>
        <p className="mb-4">Sign in once more as {me.name}, and go on where you are. Nothing that you typed is lost.</p>
        <SignInForms only={me.role === "student" ? "student" : "teacher"} name={me.name} onDone={() => void back()} />
      </div>
    </dialog>
  );
}
