/** The modules of the front end that only compute, bundled for Node, where their answers are tested. */

import { defineConfig } from "vite";

const MODULES = {
  playhead: "src/watching/playhead.ts",
  moments: "src/watching/moments.ts",
  lines: "src/watching/lines.ts",
  game: "src/playing/game.ts",
  order: "src/screens/round/order.ts",
  rows: "src/screens/workshop/rows.ts",
  moment: "src/scene/moment.ts",
  layout: "src/strip/layout.ts",
  steps: "src/strip/steps.ts",
  values: "src/values.ts",
  liveTrial: "src/playing/liveTrial.ts",
  beginning: "src/desk/beginning.ts",
  saying: "src/desk/saying.ts",
  sheet: "src/script/sheet.ts",
};

export default defineConfig({
  build: {
    ssr: true,
    emptyOutDir: true,
    rollupOptions: { input: MODULES, output: { entryFileNames: "[name].mjs" } },
  },
  ssr: { noExternal: true },
  logLevel: "warn",
});
