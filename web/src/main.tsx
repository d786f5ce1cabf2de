import "@fontsource/source-code-pro/latin-400.css";
import "@fontsource/source-code-pro/latin-600.css";
import "@fontsource/source-sans-3/latin-400.css";
import "@fontsource/source-sans-3/latin-600.css";
import "@fontsource/source-sans-3/latin-700.css";
import "@fontsource/source-sans-3/latin-ext-400.css";
import "./index.css";

import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, useState } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import type { Me } from "./api/client";
import { Bench } from "./screens/bench/Bench";
import { Paper } from "./screens/bench/Paper";
import { Desk } from "./screens/desk/Desk";
import { DeskRound } from "./screens/desk/DeskRound";
import { DeskTry } from "./screens/desk/DeskTry";
import { Account } from "./screens/people/Account";
import { ClassPage } from "./screens/people/ClassPage";
import { Classes } from "./screens/people/Classes";
import { Ledger } from "./screens/people/Ledger";
import { Lists } from "./screens/people/Lists";
import { Marking } from "./screens/people/Marking";
import { Teachers } from "./screens/people/Teachers";
import { Kept } from "./screens/trial/Kept";
import { Play } from "./screens/play/Play";
import { Round } from "./screens/round/Round";
import { Closer } from "./screens/round/Closer";
import { Sheet } from "./screens/round/Sheet";
import { Sheets } from "./screens/round/Sheets";
import { Work } from "./screens/round/Work";
import { Workshop } from "./screens/workshop/Workshop";
import { Trial } from "./screens/trial/Trial";
import { applyAppearance } from "./shell/appearance";
import { queries } from "./shell/away";
import { Gate } from "./shell/Gate";
import { NotFound } from "./shell/NotFound";

applyAppearance();

const TEACHERS = [
  { path: "/", element: <Bench /> },
  { path: "/classes", element: <Classes /> },
  { path: "/classes/:class", element: <ClassPage /> },
  { path: "/lists", element: <Lists /> },
  { path: "/teachers", element: <Teachers /> },
  { path: "/marking", element: <Marking /> },
  { path: "/me", element: <Account /> },
  { path: "/sign-in", element: <Navigate to="/" replace /> },
  { path: "/rounds/:round", element: <Round /> },
  { path: "/rounds/:round/sheet", element: <Sheet /> },
  { path: "/rounds/:round/sheets", element: <Sheets /> },
  { path: "/rounds/:round/work", element: <Work /> },
  { path: "/rounds/:round/closer", element: <Closer /> },
  { path: "/classes/:class/ledger", element: <Ledger /> },
  { path: "/tries/:try/scenarios/:scenario", element: <Trial /> },
  { path: "/exercises/:version/play", element: <Play /> },
  { path: "/exercises/:version/paper", element: <Paper /> },
  { path: "/plays/:play", element: <Kept /> },
  { path: "/drafts/:draft", element: <Workshop /> },
  { path: "*", element: <NotFound /> },
];

const STUDENTS = [
  { path: "/", element: <Desk /> },
  { path: "/set/:round", element: <DeskRound /> },
  { path: "/own/:try", element: <DeskTry /> },
  { path: "/me", element: <Account /> },
  { path: "/sign-in", element: <Navigate to="/" replace /> },
  { path: "*", element: <NotFound /> },
];

/** The screens of whoever is signed in; another person gets a page that is loaded afresh. */
function Screens({ me }: { me: Me }) {
  const [router] = useState(() => createBrowserRouter(me.role === "student" ? STUDENTS : TEACHERS));
  return <RouterProvider router={router} />;
}

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Gate>{(me) => <Screens me={me} />}</Gate>
      </QueryClientProvider>
    </StrictMode>,
  );
}
