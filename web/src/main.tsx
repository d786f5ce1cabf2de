import "@fontsource/source-code-pro/latin-400.css";
import "@fontsource/source-code-pro/latin-600.css";
import "@fontsource/source-sans-3/latin-400.css";
import "@fontsource/source-sans-3/latin-600.css";
import "@fontsource/source-sans-3/latin-700.css";
import "@fontsource/source-sans-3/latin-ext-400.css";
import "./index.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";

import { Bench } from "./screens/bench/Bench";
import { Kept } from "./screens/trial/Kept";
import { Play } from "./screens/play/Play";
import { Round } from "./screens/round/Round";
import { Sheet } from "./screens/round/Sheet";
import { Workshop } from "./screens/workshop/Workshop";
import { Trial } from "./screens/trial/Trial";
import { applyAppearance } from "./shell/appearance";
import { NotFound } from "./shell/NotFound";

applyAppearance();

const router = createBrowserRouter([
  { path: "/", element: <Bench /> },
  { path: "/rounds/:round", element: <Round /> },
  { path: "/rounds/:round/sheet", element: <Sheet /> },
  { path: "/tries/:try/scenarios/:scenario", element: <Trial /> },
  { path: "/exercises/:version/play", element: <Play /> },
  { path: "/plays/:play", element: <Kept /> },
  { path: "/drafts/:draft", element: <Workshop /> },
  { path: "*", element: <NotFound /> },
]);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
